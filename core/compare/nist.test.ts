import { describe, expect, it } from 'vitest';
import { summarise } from '../summary/summary.ts';
import { anova } from './anova.ts';
import { welchAnova } from './welch-anova.ts';

/** Levels of the nine treatments of SmLs01 to SmLs09, and the pattern within each: one reading and pairs around it. */
const LEVELS = [1.4, 1.3, 1.5, 1.3, 1.5, 1.3, 1.5, 1.3, 1.5];

/**
 * NIST StRD, one-way analysis of variance, the generated sets of Simon and Lesage (1989): nine treatments, readings
 * at a level and 0.1 around it, behind no, seven or thirteen leading digits in common. The construction and the
 * certified values (SS between 1.68, 16.08, 160.08; within 1.8, 18, 180; F 21, 201, 2001) are from memory.
 */
const simonLesage = (replicates: number, leading: number): Float64Array[] =>
  LEVELS.map((level) =>
    Float64Array.from({ length: replicates }, (_, i) => {
      const tenths = Math.round(level * 10) + (i === 0 ? 0 : i % 2 === 1 ? -1 : 1);
      return (
        Number(`${String(leading)}.${String(tenths % 10)}`) + (leading === 0 ? Math.floor(tenths / 10) : 0)
      );
    }),
  );

const digits = (found: number, certified: number) =>
  found === certified ? 15 : -Math.log10(Math.abs(found - certified) / certified);

describe('analysis of variance on readings with many digits in common', () => {
  it.each([
    ['SmLs01', 21, 0, 21, 13],
    ['SmLs02', 201, 0, 201, 13],
    ['SmLs03', 2001, 0, 2001, 12],
    ['SmLs04', 21, 1000000, 21, 9.5],
    ['SmLs05', 201, 1000000, 201, 9.5],
    ['SmLs06', 2001, 1000000, 2001, 9.5],
    // Doubles hold 1000000000000.4 to 1.2e-4, so no way of computing can do better than this.
    ['SmLs07', 21, 1000000000000, 21, 3],
    ['SmLs08', 201, 1000000000000, 201, 3],
    ['SmLs09', 2001, 1000000000000, 2001, 3],
  ])('%s: F to the digits that doubles can hold', (_set, replicates, leading, f, atLeast) => {
    const groups = simonLesage(replicates, leading);
    const found = anova(groups);
    expect(found?.df1).toBe(8);
    expect(digits(found?.f as number, f)).toBeGreaterThan(atLeast);
  });
  it('Welch’s test keeps them too', () => {
    const test = (leading: number) =>
      welchAnova(
        simonLesage(21, leading).map((kept, i) => ({
          item: String(i),
          kept,
          summary: summarise(kept, 0.05),
        })),
      )?.f as number;
    expect(digits(test(1000000), test(0))).toBeGreaterThan(9);
  });
});

// NIST StRD AtmWtAg: atomic weight of silver by two instruments (Powell, Murphy and Gramlich 1982); readings and
// certified values from memory, which bear each other out.
describe('the atomic weight of silver', () => {
  const tail = (...digits: number[]) => Float64Array.from(digits, (end) => Number(`107.868${String(end)}`));
  const instruments = [
    tail(
      1568,
      1465,
      1572,
      1785,
      1446,
      1903,
      1526,
      1494,
      1616,
      1587,
      1519,
      1486,
      1419,
      1569,
      1508,
      1672,
      1385,
      1518,
      1662,
      1424,
      1360,
      1333,
      1610,
      1477,
    ),
    tail(
      1079,
      1344,
      1513,
      1197,
      1604,
      1385,
      1642,
      1365,
      1151,
      1082,
      1517,
      1448,
      1198,
      1482,
      1334,
      1609,
      1101,
      1512,
      1469,
      1360,
      1254,
      1261,
      1450,
      1368,
    ),
  ];
  it('has the certified analysis of variance', () => {
    const found = anova(instruments);
    expect([found?.df1, found?.df2]).toEqual([1, 46]);
    expect(digits(found?.ssBetween as number, 3.638341875e-9)).toBeGreaterThan(9);
    expect(digits(found?.ssWithin as number, 1.04951729166667e-8)).toBeGreaterThan(9);
    expect(digits(found?.f as number, 15.946733567793)).toBeGreaterThan(9);
  });
});
