import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type AnalysisOptions, analyse } from '../analysis/analyse.ts';
import { seededRandom } from '../random/seeded.ts';
import { bare } from './method.ts';
import { verdictOf } from './verdict.ts';

const options: AnalysisOptions = {
  better: { kind: 'higher' },
  rule: { name: 'none' },
  alpha: 0.05,
  margin: { kind: 'absolute', value: 0 },
  resamples: 0,
  seed: 1,
};
const judged = (
  readings: Record<string, number[]>,
  change: Partial<AnalysisOptions> = {},
  inRounds = false,
) =>
  analyse(
    Object.entries(readings).map(([item, values]) => ({
      item,
      values,
      ...(inRounds ? { rounds: values.map((_, round) => round) } : {}),
    })),
    { ...options, ...change },
  );

describe('readings in steps', () => {
  const coarse = { a: [0.5, 0.5, 0.5], b: [0.6, 0.6, 0.6] };
  it.each([
    ['apart', false],
    ['in rounds', true],
  ])('of 0.1 do not settle 0.5, 0.5, 0.5 against 0.6, 0.6, 0.6 %s', (_how, inRounds) => {
    const analysis = judged(coarse, {}, inRounds);
    expect(analysis.step).toBeCloseTo(0.1, 12);
    expect(analysis.pairs[0]?.verdict).toBe('not settled');
    expect(analysis.items[0]?.summary.hidden).toBe(true);
    expect(judged(coarse, { resolution: 0.001 }, inRounds).pairs[0]?.verdict).toBe('b ahead');
  });
  it('carry the rounding of both means into what is the same', () => {
    const readings = {
      a: [10.1, 10.2, 10.1, 10.2, 10.1, 10.2, 10.1, 10.2],
      b: [10.2, 10.1, 10.2, 10.1, 10.2, 10.1, 10.2, 10.1],
    };
    const margin = { kind: 'absolute', value: 0.08 } as const;
    expect(judged(readings, { margin, resolution: 0.001 }).pairs[0]?.verdict).toBe('same');
    expect(judged(readings, { margin }).pairs[0]?.verdict).toBe('not settled');
    expect(judged(readings, { margin: { kind: 'absolute', value: 0.3 } }).pairs[0]?.verdict).toBe('same');
  });
  it('never give a standard error below that of the rounding', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 4, max: 6 }), { minLength: 2, maxLength: 12 }), (values) => {
        const { se, n } = judged({ a: values, b: values }).items[0]?.summary ?? { se: 0, n: 1 };
        expect(se ?? 0).toBeGreaterThanOrEqual(Math.sqrt(1 / 12 / n) - 1e-12);
      }),
    );
  });
});

describe('nearest to a target', () => {
  const pair = (d: [number, number], s: [number, number]) => ({
    ...bare(0, 1, (d[0] + d[1]) / 2),
    se: 1,
    df: 10,
    p: 0.01,
    low: d[0],
    high: d[1],
    critical: 2,
    sum: { estimate: (s[0] + s[1]) / 2, se: 1, low: s[0], high: s[1] },
  });
  const judge = (d: [number, number], s: [number, number], margin = 0) =>
    verdictOf({
      pair: pair(d, s),
      means: [0, 0],
      counts: [5, 5],
      better: { kind: 'nearest', target: 0 },
      margin,
      alpha: 0.05,
    });
  it('calls a nearer only if both the difference and the sum say so', () => {
    // b above a, and b farther above the target than a is below it.
    expect(judge([1, 3], [0.5, 2])).toMatchObject({ verdict: 'a ahead', lead: 1.25 });
    // b below a, farther below than a is above.
    expect(judge([-3, -1], [-2, -0.5]).verdict).toBe('a ahead');
    expect(judge([-3, -1], [0.5, 2]).verdict).toBe('b ahead');
    expect(judge([1, 3], [-1, 2]).verdict).toBe('not settled');
    expect(judge([-1, 3], [0.5, 2]).verdict).toBe('not settled');
  });
  it('is the same where either lies within the margin', () => {
    expect(judge([1, 3], [-0.2, 0.3], 0.5)).toMatchObject({ verdict: 'same', matters: 'no' });
    expect(judge([-0.2, 0.3], [10, 12], 0.5).verdict).toBe('same');
  });
  it('turns over when the items change places', () => {
    fc.assert(
      fc.property(
        fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: 0, max: 40 })),
        fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: 0, max: 40 })),
        ([d, dw], [s, sw]) => {
          const swap = {
            'a ahead': 'b ahead',
            'b ahead': 'a ahead',
            same: 'same',
            'not settled': 'not settled',
          };
          const forwards = judge([d - dw, d + dw], [s - sw, s + sw], 2).verdict;
          const backwards = judge([-d - dw, -d + dw], [s - sw, s + sw], 2).verdict;
          expect(backwards).toBe(swap[forwards as keyof typeof swap]);
        },
      ),
    );
  });
  it('names a false winner in no more than one study of twenty, drift or not', () => {
    // Two items at the same distance on either side of the target, in rounds with a strong drift.
    const random = seededRandom(24);
    let called = 0;
    for (let study = 0; study < 1200; study += 1) {
      const drift = Array.from({ length: 8 }, () => 3 * random.normal());
      const readings = {
        a: drift.map((shift) => 99 + shift + random.normal()),
        b: drift.map((shift) => 101 + shift + random.normal()),
      };
      const { pairs } = judged(readings, { better: { kind: 'nearest', target: 100 } }, true);
      if (pairs.some(({ verdict }) => verdict.endsWith('ahead'))) called += 1;
    }
    expect(called / 1200).toBeLessThan(0.065);
  });
});

describe('exact figures', () => {
  it('differ by what they differ by, without interval or chance', () => {
    const whole = { ...bare(0, 1, 0.5), se: 0, low: 0.5, high: 0.5, critical: 0 };
    const given = { pair: whole, means: [1, 1.5], counts: [1, 1], alpha: 0.05, exact: true } as const;
    expect(verdictOf({ ...given, better: { kind: 'higher' }, margin: 0 })).toMatchObject({
      verdict: 'b ahead',
      matters: 'yes',
    });
    expect(verdictOf({ ...given, better: { kind: 'lower' }, margin: 1 }).verdict).toBe('same');
  });
});
