import { fUpper } from '../distributions/index.ts';
import { moments } from '../summary/moments.ts';

export interface Anova {
  f: number | null;
  df1: number;
  df2: number;
  p: number | null;
  msBetween: number;
  msWithin: number;
  ssBetween: number;
  ssWithin: number;
}

/**
 * The groups with one reading's value taken off all of them. Numbers of nearly the same size are subtracted without
 * any rounding, so whatever digits the readings have stay.
 * @source Sterbenz (1974), Floating-Point Computation
 */
export function fromOneOrigin(groups: readonly Float64Array[]): Float64Array[] {
  const origin = groups.find((group) => group.length > 0)?.[0] as number;
  return groups.map((group) => group.map((value) => value - origin));
}

/**
 * One-way analysis of variance, equal spread assumed. Readings are measured from one exact origin first, so that leading
 * digits in common cost nothing.
 * @param groups readings of each item, one unit; k ≥ 2 items, more readings than items
 * @returns sums of squares in the readings' unit squared; f and p are null where there is no spread within items;
 *   undefined where k or n do not allow it
 * @source Fisher (1925); checked against NIST StRD SiRstv and SmLs01 to SmLs09
 */
export function anova(groups: readonly Float64Array[]): Anova | undefined {
  const filled = groups.filter((group) => group.length > 0);
  const n = filled.reduce((sum, group) => sum + group.length, 0);
  const df1 = filled.length - 1;
  const df2 = n - filled.length;
  if (df1 < 1 || df2 < 1) return undefined;
  const parts = fromOneOrigin(filled).map(moments);
  const grand = parts.reduce((sum, part) => sum + part.n * part.mean, 0) / n;
  const ssBetween = parts.reduce((sum, part) => sum + part.n * (part.mean - grand) ** 2, 0);
  const ssWithin = parts.reduce((sum, part) => sum + part.sumOfSquares, 0);
  const msBetween = ssBetween / df1;
  const msWithin = ssWithin / df2;
  const f = msWithin > 0 ? msBetween / msWithin : null;
  return {
    f,
    df1,
    df2,
    p: f === null ? null : fUpper(f, df1, df2),
    msBetween,
    msWithin,
    ssBetween,
    ssWithin,
  };
}
