import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inspectStudy } from '../analysis/inspect-study.ts';
import { slipQuestion } from '../bench/slip.ts';
import { seededRandom } from '../random/seeded.ts';
import { testStudy } from '../testing-study.ts';
import { mayBeFar } from './digit-slip.ts';

const context = { unit: 'g', limits: { low: null, high: null }, resolution: null, itemName: 'Ama' };

describe('digit slips among many readings', () => {
  it('are asked about wherever a reading could be one', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.integer({ min: 0, max: 40 }), fc.integer({ min: -9000, max: 9000 })), {
          minLength: 50,
          maxLength: 90,
        }),
        fc.constantFrom(1, 0.1, 37),
        (whole, unit) => {
          const values = whole.map((value) => value * unit);
          const far = mayBeFar(values);
          values.forEach((value, place) => {
            const others = values.filter((_, other) => other !== place);
            const { kind } = slipQuestion(value, { ...context, ofItem: others, all: values }) ?? {};
            if (kind === 'decimal point' || kind === 'digits swapped') expect(far(value)).toBe(true);
          });
        },
      ),
      { numRuns: 150 },
    );
  });
  it('are found once each, and every one of several equal ones', () => {
    const { document, read } = testStudy(['Ama', 'Bel'], { rounds: 60 });
    const random = seededRandom(7);
    for (let round = 1; round <= 60; round += 1) {
      read(0, round, (35 + random.normal()).toFixed(1));
      read(1, round, round === 9 || round === 40 ? '3.5' : (35 + random.normal()).toFixed(1));
    }
    const found = inspectStudy(document).filter(({ kind }) => kind === 'digit slip');
    expect(found.map(({ message }) => message.replaceAll('\u202f', ' '))).toEqual([
      'Bel, round 9: 3.5 g may have its decimal point moved; 35 g would fit.',
      'Bel, round 40: 3.5 g may have its decimal point moved; 35 g would fit.',
    ]);
    expect(new Set(found.map(({ id }) => id)).size).toBe(2);
  });
  it('take no range of more readings than a call can hold', () => {
    const all = Array.from({ length: 200000 }, (_, i) => 30 + (i % 9));
    const slip = slipQuestion(350, { ...context, ofItem: all.slice(0, 40), all });
    expect(slip).toMatchObject({ kind: 'decimal point', suggestion: 35 });
  });
});
