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
 * One-way analysis of variance, equal spread assumed. Readings are centred on the grand mean first.
 * @param groups readings of each item, one unit; k ≥ 2 items, more readings than items
 * @returns sums of squares in the readings' unit squared; f and p are null where there is no spread within items;
 *   undefined where k or n do not allow it
 * @source Fisher (1925); checked against NIST StRD SiRstv
 */
export function anova(groups: readonly Float64Array[]): Anova | undefined {
  const filled = groups.filter((group) => group.length > 0);
  const n = filled.reduce((sum, group) => sum + group.length, 0);
  const df1 = filled.length - 1;
  const df2 = n - filled.length;
  if (df1 < 1 || df2 < 1) return undefined;
  const parts = filled.map(moments);
  const shift = (parts[0] as { mean: number }).mean;
  const grand = parts.reduce((sum, part) => sum + part.n * (part.mean - shift), 0) / n;
  const ssBetween = parts.reduce((sum, part) => sum + part.n * (part.mean - shift - grand) ** 2, 0);
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
