import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import massSpectrometer from '../reference/mass-spectrometer.json' with { type: 'json' };
import newcomb from '../reference/newcomb.json' with { type: 'json' };
import rosner from '../reference/rosner.json' with { type: 'json' };
import { seededRandom } from '../random/seeded.ts';
import { CLOSE, expectRelative } from '../testing.ts';
import { extremeDeviateLimit, extremeDeviates } from './extreme-deviates.ts';
import { SCREENING_RULES, screeningRule } from './index.ts';
import type { RuleName } from './rule.ts';

const leftOut = (rule: RuleName, values: number[], parameter?: number) =>
  screeningRule(rule)
    .screen(values, { alpha: 0.05, ...(parameter === undefined ? {} : { parameter }) })
    .leftOut.map(({ index }) => values[index] as number)
    .sort((a, b) => a - b);

describe('Grubbs', () => {
  // Tietjen and Moore (1972); NIST/SEMATECH e-Handbook 1.3.5.17.1, with the two-sided limit from R.
  it('finds the far mass spectrometer reading with the published statistic', () => {
    const { values, expected } = massSpectrometer;
    const [first] = screeningRule('grubbs').screen(values, { alpha: 0.05 }).leftOut;
    expect(values[first?.index ?? -1]).toBe(expected.suspect);
    expectRelative(first?.statistic, expected.g, CLOSE);
    expectRelative(first?.limit, expected.criticalTwoSided05, CLOSE);
    // The published one-sided limit is the two-sided one at twice the level.
    expectRelative(extremeDeviateLimit(8, 0.1), expected.criticalOneSided05, CLOSE);
  });

  it('lets two bad readings on the same side hide each other', () => {
    const masked = [3.01, 3.02, 2.99, 3, 3.01, 2.98, 9.1, 9.2];
    expect(leftOut('grubbs', masked)).toEqual([]);
    expect(leftOut('generalized-esd', masked)).toEqual([9.1, 9.2]);
  });
});

describe('generalized ESD', () => {
  // Rosner (1983); NIST/SEMATECH e-Handbook 1.3.5.17.3.
  it('gives Rosner’s steps and his three outliers', () => {
    const { values, alpha, atMost, expected } = rosner;
    const steps = [...extremeDeviates(values)].slice(0, atMost);
    steps.forEach(({ index, deviate, remaining }, i) => {
      const step = expected.steps[i];
      expect(values[index()]).toBe(step?.removed);
      expectRelative(deviate, step?.r as number, CLOSE);
      expectRelative(extremeDeviateLimit(remaining, alpha), step?.lambda as number, CLOSE);
    });
    expect(leftOut('generalized-esd', values, atMost)).toEqual(expected.outliers);
  });

  it('leaves the judgement of four readings to the tester', () => {
    const { leftOut: out, notAvailable } = screeningRule('generalized-esd').screen([1, 1, 1, 90], {
      alpha: 0.05,
    });
    expect(out).toEqual([]);
    expect(notAvailable).toContain('5 readings');
  });

  it('costs about one clean sample of eight readings in fourteen', () => {
    // Share of clean normal samples that lose a reading at n = 8: 0.07 ± 0.01, own simulation.
    const random = seededRandom(8);
    let hurt = 0;
    for (let sample = 0; sample < 4000; sample += 1) {
      const values = Array.from({ length: 8 }, () => random.normal());
      if (leftOut('generalized-esd', values).length > 0) hurt += 1;
    }
    expect(hurt / 4000).toBeGreaterThan(0.055);
    expect(hurt / 4000).toBeLessThan(0.085);
  });

  it('keeps its digits beside one huge reading', () => {
    const values = [1.001, 1.002, 1.003, 1.004, 1.005, 1.006, 1.02, 1e9];
    const exact = [...extremeDeviates(values.slice(0, -1))];
    const after = [...extremeDeviates(values)].slice(1);
    expect(after.map(({ index }) => index())).toEqual(exact.map(({ index }) => index()));
    after.forEach(({ deviate }, i) => {
      expectRelative(deviate, exact[i]?.deviate as number, 1e-9);
    });
  });
});

describe('modified z', () => {
  it('leaves out Newcomb’s two known outliers', () => {
    expect(leftOut('modified-z', newcomb.values)).toEqual([-44, -2]);
  });
  it('uses the mean deviation where more than half are equal', () => {
    expect(leftOut('modified-z', [5, 5, 5, 5, 5, 5, 5, 9])).toEqual([9]);
  });
  it('leaves nothing out of equal readings', () => {
    expect(leftOut('modified-z', [5, 5, 5, 5])).toEqual([]);
  });
});

describe('drop highest and lowest', () => {
  it('always takes one at each end, from four readings on', () => {
    expect(leftOut('drop-extremes', [4, 1, 3, 2])).toEqual([1, 4]);
    expect(leftOut('drop-extremes', [4, 1, 3])).toEqual([]);
    expect(leftOut('drop-extremes', [7, 7, 7, 7])).toEqual([7, 7]);
  });
});

describe('every rule', () => {
  const readings = fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 0, maxLength: 25 });
  it.each(SCREENING_RULES.map(({ name }) => name))(
    '%s does not care for the order of the readings',
    (name) => {
      fc.assert(
        fc.property(readings, (values) => {
          const forwards = leftOut(name, values);
          const backwards = leftOut(name, [...values].reverse());
          expect(backwards).toEqual(forwards);
        }),
      );
    },
  );
  it.each(SCREENING_RULES.map(({ name }) => name))('%s judges alike in another unit', (name) => {
    fc.assert(
      fc.property(readings, (values) => {
        // A factor and a shift that are exact in binary.
        const other = leftOut(
          name,
          values.map((value) => 4 * value + 1024),
        );
        expect(other).toEqual(leftOut(name, values).map((value) => 4 * value + 1024));
      }),
    );
  });
  it.each(SCREENING_RULES.map(({ name }) => name))('%s names each reading once', (name) => {
    fc.assert(
      fc.property(readings, (values) => {
        const indices = screeningRule(name)
          .screen(values, { alpha: 0.05 })
          .leftOut.map(({ index }) => index);
        expect(new Set(indices).size).toBe(indices.length);
        expect(indices.every((index) => index >= 0 && index < values.length)).toBe(true);
      }),
    );
  });
});
