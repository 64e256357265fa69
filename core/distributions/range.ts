import { studentizedRangeQuantileUpper, studentizedRangeUpper, tQuantileUpper, tTwoSided } from './index.ts';

/** The library has no studentized range below two degrees of freedom, and two items need none. */
export const rangeUpper = (t: number, groups: number, df: number) =>
  groups === 2 ? tTwoSided(t, df) : studentizedRangeUpper(Math.abs(t) * Math.SQRT2, groups, df);

/** The difference over its standard error that the largest of all pairs exceeds with the given probability. */
export const rangeCritical = (alpha: number, groups: number, df: number): number =>
  groups === 2
    ? tQuantileUpper(alpha / 2, df)
    : studentizedRangeQuantileUpper(alpha, groups, df) / Math.SQRT2;
