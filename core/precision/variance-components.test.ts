import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random/seeded.ts';
import { varianceComponents } from './variance-components.ts';

// Yield of dyestuff from six batches, five preparations each: Davies and Goldsmith (1972), Statistical Methods in
// Research and Production, table 6.3; the figures from memory.
const DYESTUFF = [
  [1545, 1440, 1440, 1520, 1580],
  [1540, 1555, 1490, 1560, 1495],
  [1595, 1550, 1605, 1510, 1560],
  [1445, 1440, 1595, 1465, 1545],
  [1595, 1630, 1515, 1635, 1625],
  [1520, 1455, 1450, 1480, 1445],
];

const grouping = (groups: readonly number[]) => ({ groups, count: Math.max(...groups) + 1 });

describe('variance components', () => {
  it('of a balanced design are those of the mean squares', () => {
    const groups = DYESTUFF.flatMap((batch, i) => batch.map(() => i));
    const found = varianceComponents(
      DYESTUFF.flat(),
      groups.map(() => 0),
      [grouping(groups)],
    );
    // Mean squares 11271.5 between and 2451.25 within: (11271.5 − 2451.25)/5 = 1764.05.
    expect(found?.residual).toBeCloseTo(2451.25, 1);
    expect(found?.between[0]).toBeCloseTo(1764.05, 1);
    expect(found?.df).toBe(29);
  });
  it('of what is crossed and unbalanced are those of lme4 1.1-31 in R', () => {
    // Four items, three operators, six sessions, five readings missing; made in R with set.seed(4).
    // prettier-ignore
    const values = [
      10.587, 10.383, 13.238, 11.154, 10.876, 11.688, 12.915, 10.059, 12.611, 11.527, 13.906, 9.453, 11.882, 11.314,
      13.968, 13.36, 14.087, 12.316, 11.866, 13.923, 14.715, 10.737, 12.987, 13.002, 15.464, 10.129, 13.596, 12.561,
      15.521, 9.398, 9.207, 11.744, 12.038, 9.609, 10.174, 11.214, 11.173, 11.017, 12.425, 8.172, 10.755, 10.54, 12.95,
    ];
    const digits = (text: string) => [...text].map(Number);
    const operators = digits('0000000000000001111111111111122222222222222');
    const sessions = digits('0130123454545452301234545454501230125454545');
    const items = digits('0130123012301232301230123012301230121230123');
    // y ~ factor(item) + (1 | operator) + (1 | session) + (1 | item:operator)
    const found = varianceComponents(values, items, [
      grouping(operators),
      grouping(sessions),
      grouping(items.map((item, i) => 4 * (operators[i] as number) + item)),
    ]);
    const expected = [1.36394343475, 0.48460683313, 0.01662923064];
    expected.forEach((variance, i) => {
      expect((found?.between[i] ?? 0) / variance).toBeCloseTo(1, 3);
    });
    expect((found?.residual ?? 0) / 0.11604962282).toBeCloseTo(1, 4);
  });
  it('is 0 for groups that differ by less than their readings explain', () => {
    // Both groups have the same mean.
    const found = varianceComponents([1, 3, 1, 3, 2, 2], [0, 0, 0, 0, 0, 0], [grouping([0, 0, 1, 1, 0, 1])]);
    expect(found?.between[0]).toBe(0);
    expect(found?.residual).toBeCloseTo(4 / 5, 9);
  });
  it('takes the means of cells off, and no notice of how large they are', () => {
    const random = seededRandom(3);
    const groups = Array.from({ length: 24 }, (_, i) => i % 4);
    const cells = groups.map((_, i) => Math.floor(i / 8));
    const noise = groups.map((group) => 2 * group + random.normal());
    const plain = varianceComponents(noise, cells, [grouping(groups)]);
    const moved = varianceComponents(
      noise.map((value, i) => value + 1e6 * (cells[i] as number)),
      cells,
      [grouping(groups)],
    );
    expect(moved?.residual).toBeCloseTo(plain?.residual ?? 0, 6);
    expect(moved?.between[0]).toBeCloseTo(plain?.between[0] ?? 0, 5);
  });
  it('grows with the square of the unit', () => {
    const groups = DYESTUFF.flatMap((batch, i) => batch.map(() => i));
    const found = varianceComponents(
      DYESTUFF.flat().map((value) => value / 1000),
      groups.map(() => 0),
      [grouping(groups)],
    );
    expect(found?.between[0]).toBeCloseTo(1764.05e-6, 8);
  });
  it('says nothing without repeats, or of equal readings', () => {
    expect(varianceComponents([1, 2, 3], [0, 1, 2], [grouping([0, 1, 0])])).toBeUndefined();
    expect(varianceComponents([2, 2, 2, 2], [0, 0, 0, 0], [grouping([0, 1, 0, 1])])).toBeUndefined();
  });
});
