import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { levelOfEach } from '../distributions/several.ts';
import { seededRandom } from '../random/seeded.ts';
import { extremeDeviateLimit } from './extreme-deviates.ts';
import { screeningRule } from './index.ts';
import type { RuleName } from './rule.ts';
import { type SampleToScreen, type ScreenOptions, screenSamples } from './screen.ts';
import { ruleWords } from './words.ts';

const options = (rule: RuleName, change: Partial<ScreenOptions> = {}): ScreenOptions => ({
  rule: screeningRule(rule),
  parameter: null,
  alpha: 0.05,
  level: 'study',
  judges: 'distance',
  step: 0,
  ...change,
});
const sample = (values: number[], change: Partial<SampleToScreen> = {}): SampleToScreen => ({
  values,
  setting: '',
  compared: true,
  ...change,
});
const left = (samples: SampleToScreen[], given: ScreenOptions) =>
  screenSamples(samples, given).map(({ leftOut }) => leftOut.map(({ index }) => index));

describe('a level that the study shares', () => {
  const odd = [3.01, 3.02, 2.99, 3, 3.01, 2.98, 3.0, 3.075];
  it('is that of Šidák over the samples that are compared', () => {
    const samples = [odd, odd, odd, odd].map((values) => sample(values));
    const [judged] = screenSamples(samples, options('grubbs', { level: 'sample' }));
    expect(judged?.leftOut[0]?.limit).toBeCloseTo(extremeDeviateLimit(8, 0.05), 12);
    const shared = screenSamples([...samples, sample([9, 9, 9], { compared: false })], options('grubbs'));
    const far = screenSamples([sample([...odd.slice(0, 7), 30]), ...samples.slice(1)], options('grubbs'));
    expect(shared[0]?.leftOut).toEqual([]);
    expect(far[0]?.leftOut[0]?.limit).toBeCloseTo(extremeDeviateLimit(8, levelOfEach(0.05, 4)), 12);
  });
  it('costs a clean study of six items a reading in about one case of fifteen', () => {
    const random = seededRandom(5);
    let hurt = 0;
    for (let study = 0; study < 1500; study += 1) {
      const samples = Array.from({ length: 6 }, () =>
        sample(Array.from({ length: 8 }, () => random.normal())),
      );
      if (left(samples, options('generalized-esd')).some((out) => out.length > 0)) hurt += 1;
    }
    // Rosner’s limits are a little short at 8 readings: 0.05 becomes about 0.07 (our simulation, ± 0.02).
    expect(hurt / 1500).toBeLessThan(0.095);
    expect(hurt / 1500).toBeGreaterThan(0.03);
  });
});

describe('readings in rounds', () => {
  const rounds = [1, 2, 3, 4, 5, 6, 7, 8];
  const drift = [0, 9, -7, 4, 12, -3, 6, -11];
  const items = [0, 1, 2].map((item) =>
    drift.map((shift, round) => 50 + shift + item + 0.1 * ((round * (item + 3)) % 5)),
  );
  it('are judged by their distance from the round’s median, so that a misread shows through a drift', () => {
    const misread = items.map((values, item) =>
      values.map((value, i) => (item === 1 && i === 4 ? value + 8 : value)),
    );
    const samples = misread.map((values) => sample(values, { rounds }));
    expect(left(samples, options('generalized-esd', { judges: 'reading' }))).toEqual([[], [], []]);
    const judged = screenSamples(samples, options('generalized-esd'));
    expect(judged.map(({ leftOut }) => leftOut.map(({ index }) => index))).toEqual([[], [4], []]);
    expect(judged[1]?.judged).toBe('distance');
  });
  it('that nobody shares are not judged by a distance', () => {
    const alone = sample([...(items[0] as number[]), 900], { rounds: [...rounds, Number.NaN] });
    const samples = [alone, ...items.slice(1).map((values) => sample(values, { rounds }))];
    expect(left(samples, options('generalized-esd'))).toEqual([[], [], []]);
  });
  it('are judged by themselves where they share none', () => {
    const samples = items.map((values, item) =>
      sample(values, { rounds: rounds.map((round) => round + 100 * item) }),
    );
    expect(screenSamples(samples, options('grubbs')).map(({ judged }) => judged)).toEqual([
      'reading',
      'reading',
      'reading',
    ]);
  });
  it('of each setting have medians of their own', () => {
    const other = items.map((values) => values.map((value) => value + 1000));
    const samples = [
      ...items.map((values) => sample(values, { rounds })),
      ...other.map((values) => sample(values, { rounds, setting: 'b' })),
    ];
    expect(left(samples, options('modified-z')).slice(0, 3)).toEqual(
      left(samples, options('modified-z')).slice(3),
    );
  });
  it('lose nothing to the habits that judge no distance', () => {
    const [dropped] = screenSamples(
      items.map((values) => sample(values, { rounds })),
      options('drop-extremes'),
    );
    expect(dropped?.judged).toBe('reading');
    expect(dropped?.leftOut.map(({ index }) => index).sort()).toEqual([4, 7]);
  });
});

describe('the step of the readings', () => {
  it('keeps a clean reading that lies a step from equal ones', () => {
    const coarse = [10.1, 10.1, 10.1, 10.1, 10.2, 10.1, 10.1, 10.1];
    expect(left([sample(coarse)], options('generalized-esd'))).toEqual([[4]]);
    expect(left([sample(coarse)], options('generalized-esd', { step: 0.1 }))).toEqual([[]]);
    expect(left([sample([...coarse.slice(0, 7), 1.01])], options('generalized-esd', { step: 0.1 }))).toEqual([
      [7],
    ]);
  });
  it('lets no statistical rule leave out a reading within two steps of the median of what it keeps', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 3, maxLength: 15 }),
        fc.constantFrom<RuleName>('grubbs', 'generalized-esd', 'modified-z'),
        (values, rule) => {
          const [out] = left([sample(values)], options(rule, { step: 1, level: 'sample' }));
          const kept = values.filter((_, i) => !out?.includes(i)).sort((a, b) => a - b);
          const centre =
            ((kept[Math.floor((kept.length - 1) / 2)] as number) +
              (kept[Math.ceil((kept.length - 1) / 2)] as number)) /
            2;
          for (const index of out ?? [])
            expect(Math.abs((values[index] as number) - centre)).toBeGreaterThan(2);
        },
      ),
    );
  });
});

describe('a reading that the tester keeps', () => {
  it('stays whatever a test says, and goes with a habit that always cuts', () => {
    const values = [3, 3.1, 2.9, 3.05, 3, 9];
    const insisted = new Set([5]);
    expect(left([sample(values, { insisted })], options('grubbs'))).toEqual([[]]);
    expect(left([sample(values, { insisted })], options('drop-extremes'))[0]).toContain(5);
  });
});

describe('a rule in words', () => {
  it('says how it is applied', () => {
    expect(ruleWords({ name: 'generalized-esd', parameter: null, level: 'study', judges: 'distance' })).toBe(
      'Generalized ESD, per study',
    );
    expect(ruleWords({ name: 'modified-z', parameter: 3, level: 'sample', judges: 'reading' })).toBe(
      'Modified z, limit 3, readings by themselves',
    );
    expect(ruleWords({ name: 'none', parameter: null, level: 'study', judges: 'distance' })).toBe('None');
  });
});
