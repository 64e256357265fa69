import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random/seeded.ts';
import type { TraceQuestion } from './quantities.ts';
import { type Series, cutTo, less, valueAt } from './series.ts';
import { thinned } from './thin.ts';
import { traceValue } from './values.ts';

const QUESTION: TraceQuestion = {
  quantity: 'mean',
  ...{ threshold: 0, low: 0, high: 0, afterS: 0, toZero: false },
};
const logged = (length: number, stepS: number, of: (t: number) => number): Series => {
  const times = Float64Array.from({ length }, (_, i) => i * stepS);
  return { times, values: times.map(of) };
};
const ask = (series: Series, question: Partial<TraceQuestion>, window = wholeOf(series)) =>
  traceValue(series, window, { ...QUESTION, ...question }, '°C');
const wholeOf = ({ times }: Series) => ({ from: times[0] as number, to: times[times.length - 1] as number });
const valueOf = (found: ReturnType<typeof traceValue>): number =>
  'problem' in found ? Number.NaN : found.value;

/** Water at 90 °C in a room of 20 °C with a time constant of 5 h, once a minute for 12 h: Newton's law of cooling. */
const TAU = 5 * 3600;
const COOLING = logged(721, 60, (t) => 20 + 70 * Math.exp(-t / TAU));

describe('the value of a window of a trace', () => {
  it('is what the closed form of a cooling curve says', () => {
    expect(valueOf(ask(COOLING, { quantity: 'timeConstant' }))).toBeCloseTo(TAU, 4);
    expect(valueOf(ask(COOLING, { quantity: 'halfLife' }))).toBeCloseTo(TAU * Math.LN2, 4);
    expect(valueOf(ask(COOLING, { quantity: 'timeTo', threshold: 60 }))).toBeCloseTo(
      TAU * Math.log(70 / 40),
      1,
    );
    expect(valueOf(ask(COOLING, { quantity: 'valueAt', afterS: 6 * 3600 }))).toBeCloseTo(
      20 + 70 * Math.exp(-1.2),
      10,
    );
    expect(valueOf(ask(COOLING, { quantity: 'peak' }))).toBe(90);
    expect(valueOf(ask(COOLING, { quantity: 'lowest' }))).toBeCloseTo(20 + 70 * Math.exp(-2.4), 10);
    const area = 20 * 43200 + 70 * TAU * (1 - Math.exp(-2.4));
    expect(valueOf(ask(COOLING, { quantity: 'area' })) / area).toBeCloseTo(1, 5);
    expect(valueOf(ask(COOLING, { quantity: 'mean' }))).toBeCloseTo(area / 43200, 4);
    expect(valueOf(ask(COOLING, { quantity: 'fastest' }))).toBeCloseTo(70 / TAU, 4);
    const between = { quantity: 'within', low: 50, high: 60 } as const;
    expect(valueOf(ask(COOLING, between))).toBeCloseTo(TAU * Math.log(40 / 30), 1);
  });
  it('fits to zero what had its rest taken off', () => {
    const room = logged(8, 7200, () => 20);
    const off = less(COOLING, room);
    expect(off.times.length).toBe(721);
    const early = { from: 0, to: 1800 };
    expect(valueOf(ask(off, { quantity: 'timeConstant', toZero: true }, early))).toBeCloseTo(TAU, 3);
  });
  it('counts from the start of its window', () => {
    const window = { from: 3600, to: 36000 };
    const left = 70 * Math.exp(-3600 / TAU);
    expect(valueOf(ask(COOLING, { quantity: 'timeTo', threshold: 60 }, window))).toBeCloseTo(
      TAU * Math.log(left / 40),
      1,
    );
    expect(valueOf(ask(COOLING, { quantity: 'timeConstant' }, window))).toBeCloseTo(TAU, 4);
  });
  it('works out the ends of a window between two rows', () => {
    const ramp = logged(11, 10, (t) => 2 * t);
    const window = { from: 5, to: 25 };
    expect(valueOf(ask(ramp, { quantity: 'mean' }, window))).toBeCloseTo(30, 12);
    expect(valueOf(ask(ramp, { quantity: 'area' }, window))).toBeCloseTo(600, 10);
    expect(valueOf(ask(ramp, { quantity: 'slope' }, { from: 5, to: 55 }))).toBeCloseTo(2, 12);
    expect(cutTo(ramp, window).times).toEqual(Float64Array.from([5, 10, 20, 25]));
  });
  it('recovers into a band when it comes back for good, and not before', () => {
    const values = [10, 4, 9.5, 12, 10.5, 9, 10, 10];
    const dip: Series = { times: Float64Array.from(values, (_, i) => i), values: Float64Array.from(values) };
    const band = { quantity: 'recovery', low: 9, high: 11 } as const;
    // From 12 at 3 s to 10.5 at 4 s the line is at 11 after two thirds.
    expect(valueOf(ask(dip, band))).toBeCloseTo(3 + 2 / 3, 12);
    expect(ask(dip, { ...band, low: 10.5, high: 11 })).toHaveProperty('problem');
    expect(ask(dip, { ...band, low: 0, high: 20 })).toMatchObject({ value: 0, moment: 0 });
  });
  it('recovers from below as from above', () => {
    const up: Series = { times: Float64Array.of(0, 1, 2, 3), values: Float64Array.of(10, 4, 9.5, 10) };
    // From 4 at 1 s to 9.5 at 2 s the line is at 9 after ten elevenths.
    expect(valueOf(ask(up, { quantity: 'recovery', low: 9, high: 11 }))).toBeCloseTo(1 + 10 / 11, 12);
  });
  it('meets a level where it begins, rising, falling, or at a row', () => {
    const saw: Series = { times: Float64Array.of(0, 2, 4, 6), values: Float64Array.of(5, 1, 9, 9) };
    const first = (threshold: number) => valueOf(ask(saw, { quantity: 'timeTo', threshold }));
    expect([first(5), first(1), first(9), first(3)]).toEqual([0, 2, 4, 1]);
    expect(first(7)).toBeCloseTo(2 + 2 * (6 / 8), 12);
    expect(first(9.1)).toBeNaN();
  });
  it('is in a band for as long as the lines between its rows are, level ones whole or not at all', () => {
    const steps: Series = { times: Float64Array.of(0, 1, 2, 4, 5), values: Float64Array.of(0, 0, 10, 10, 4) };
    const inBand = (low: number, high: number) => valueOf(ask(steps, { quantity: 'within', low, high }));
    expect(inBand(0, 0)).toBe(1);
    expect(inBand(10, 12)).toBe(2);
    expect(inBand(11, 12)).toBe(0);
    // By hand: 0.2 s of the way up, 0 s at 10, and a third of a second of the way down.
    expect(inBand(5, 7)).toBeCloseTo(0.2 + 2 / 6, 12);
    expect(inBand(-1, 20)).toBe(5);
  });
  it('needs rows enough, each time as many as it says', () => {
    const problem = (length: number, quantity: TraceQuestion['quantity']) => {
      const found = ask(
        logged(length, 1, (t) => t * t),
        { quantity },
      );
      return 'problem' in found ? found.problem : '';
    };
    expect(problem(2, 'slope')).toBe('A slope needs three rows in the window at least.');
    expect(problem(3, 'slope')).toBe('');
    expect(problem(4, 'fastest')).toMatch(/^The largest rate needs \d rows in the window at least\.$/);
    expect(problem(5, 'fastest')).toBe('');
    // Steepest in its very last rows.
    const late = logged(20, 1, (t) => (t < 15 ? 0 : 3 * (t - 15)));
    expect(ask(late, { quantity: 'fastest' })).toMatchObject({ value: 3, moment: 17 });
    const single: Series = { times: Float64Array.of(1), values: Float64Array.of(1) };
    expect(ask(single, {}, { from: 0, to: 1 })).toEqual({ problem: 'There are not two rows with a value.' });
    expect(ask(COOLING, {}, { from: 5, to: 5 })).toEqual({ problem: 'The window ends before it begins.' });
  });
  it('agrees with R on a slope and its interval where the residuals do not hang together', () => {
    const alternating = logged(12, 1, (t) => 2 * t + (t % 2 === 0 ? 0.5 : -0.5));
    const found = ask(alternating, { quantity: 'slope' });
    const half = 'interval' in found ? (found.interval.high - found.interval.low) / 2 : Number.NaN;
    // R 4.2: x <- 0:11; y <- 2*x + rep(c(.5,-.5), 6); diff(confint(lm(y ~ x))[2, ]) / 2
    expect(half).toBeCloseTo(0.100978952, 8);
  });
  it.each([
    ['that do not hang together', 0],
    ['that are like their neighbours', 0.9],
  ])('holds the true time constant in 95 intervals of 100, with errors %s', (_words, likeness) => {
    const random = seededRandom(7);
    const runs = 150;
    let held = 0;
    for (let run = 0; run < runs; run += 1) {
      let error = random.normal();
      const noisy = logged(721, 60, (t) => {
        error = likeness * error + Math.sqrt(1 - likeness ** 2) * random.normal();
        return 20 + 70 * Math.exp(-t / TAU) + 0.3 * error;
      });
      const found = ask(noisy, { quantity: 'timeConstant' });
      if ('interval' in found && found.interval.low <= TAU && found.interval.high >= TAU) held += 1;
    }
    // Three standard errors of a share of 150 about 0.95.
    expect(held / runs).toBeGreaterThan(0.896);
    expect(held / runs).toBeLessThan(1);
  });
  it('says why there is none', () => {
    const problem = (found: ReturnType<typeof traceValue>) => ('problem' in found ? found.problem : '');
    expect(problem(ask(COOLING, { quantity: 'timeTo', threshold: 95 }))).toContain('never is at 95');
    expect(problem(ask(COOLING, {}, { from: 10, to: 10 }))).toContain('ends before it begins');
    expect(problem(ask(COOLING, {}, { from: -1, to: 10 }))).toContain('before the first value');
    expect(problem(ask(COOLING, {}, { from: 0, to: 43201 }))).toContain('12:00:00');
    expect(problem(ask(COOLING, { quantity: 'slope' }, { from: 0, to: 61 }))).toContain('three rows');
    expect(problem(ask(COOLING, { quantity: 'valueAt', afterS: 50000 }))).toContain('13:53:20');
    const straight = logged(100, 1, (t) => 5 - 0.001 * t);
    expect(problem(ask(straight, { quantity: 'timeConstant' }))).toContain('too straight');
    expect(
      problem(
        ask(
          logged(100, 1, () => 5),
          { quantity: 'timeConstant' },
        ),
      ),
    ).toContain('does not change');
  });
  it('is where it was highest, lowest or steepest first', () => {
    const values = [3, 8, 1, 8, 1, 8, 1, 8, 1, 8];
    const saw: Series = {
      times: Float64Array.from(values, (_, i) => 2 * i),
      values: Float64Array.from(values),
    };
    const window = { from: 1, to: 18 };
    expect(ask(saw, { quantity: 'peak' }, window)).toMatchObject({ value: 8, moment: 1 });
    expect(ask(saw, { quantity: 'lowest' }, window)).toMatchObject({ value: 1, moment: 3 });
    const wave: Series = { times: saw.times, values: Float64Array.of(0, 1, 2, 3, 4, 4, 3, 2, 1, 0) };
    expect(ask(wave, { quantity: 'fastest' })).toMatchObject({ value: 0.5, moment: 4 });
  });
  it('has no interval where rows are few, and says so', () => {
    const few = ask(
      logged(7, 1, (t) => 2 * t + (t % 2)),
      { quantity: 'slope' },
    );
    expect(few).toMatchObject({ remarks: [expect.stringMatching(/too few/)] });
    expect('interval' in few).toBe(false);
    const rows = [1, 3, 2, 5, 4, 6, 5.5, 8, 7];
    // R 4.2: x <- 0:8; confint(lm(y ~ x))[2, ]
    const found = ask(
      { times: Float64Array.from(rows, (_, i) => i), values: Float64Array.from(rows) },
      { quantity: 'slope' },
    );
    expect(found).toMatchObject({
      value: expect.closeTo(0.783333333333, 9) as number,
      interval: {
        low: expect.closeTo(0.499010772144, 7) as number,
        high: expect.closeTo(1.06765589452, 7) as number,
      },
      remarks: [],
    });
  });
  it('never falls over, whatever was logged', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ noNaN: true, min: -1e6, max: 1e6 }), { minLength: 2, maxLength: 30 }),
        fc.double({ noNaN: true, min: -5, max: 40 }),
        fc.double({ noNaN: true, min: -5, max: 40 }),
        fc.constantFrom('timeConstant', 'slope', 'recovery', 'within', 'timeTo', 'fastest', 'mean' as const),
        (values, from, to, quantity) => {
          const series = { times: Float64Array.from(values, (_, i) => i), values: Float64Array.from(values) };
          const found = ask(series, { quantity, low: -10, high: 10, threshold: 1 }, { from, to });
          expect('problem' in found || Number.isFinite(found.value)).toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('a picture of a trace', () => {
  it('keeps every lowest and highest value, and the order of time', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ noNaN: true, min: -1e6, max: 1e6 }), { minLength: 2, maxLength: 400 }),
        fc.integer({ min: 1, max: 30 }),
        (values, columns) => {
          const series = { times: Float64Array.from(values, (_, i) => i), values: Float64Array.from(values) };
          const points = thinned(series, wholeOf(series), columns);
          expect(points.length).toBeLessThanOrEqual(Math.max(4 * columns, values.length));
          const ys = points.map(({ y }) => y);
          expect([Math.min(...ys), Math.max(...ys)]).toEqual([Math.min(...values), Math.max(...values)]);
          expect(points.every(({ x }, i) => i === 0 || x > (points[i - 1]?.x ?? 0))).toBe(true);
          expect(points.every(({ x, y }) => valueAt(series, x) === y)).toBe(true);
        },
      ),
    );
  });
});
