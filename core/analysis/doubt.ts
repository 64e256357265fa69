import type { Observation } from '../observations/observation.ts';

/** What a mean may be off by, source by source, each as a standard uncertainty in its unit. */
export type Doubts = ReadonlyMap<string, number>;

/** What corrections leave open about a mean, as standard uncertainties in its unit; 0 where nothing was set right. */
export interface Doubt {
  ofMean: number;
  /** What of it does not cancel between the items that are compared. */
  ofDifferences: number;
}

export const NO_DOUBT: Doubt = { ofMean: 0, ofDifferences: 0 };

/** What the mean of some observations may be off by: each source in proportion to how many share it. */
export function doubtsOf(observations: readonly Observation[]): Doubts | undefined {
  const sums = new Map<string, number>();
  for (const { doubts } of observations) {
    if (doubts === undefined) continue;
    for (const { source, u } of doubts) sums.set(source, (sums.get(source) ?? 0) + u);
  }
  if (sums.size === 0) return undefined;
  return new Map([...sums].map(([source, sum]) => [source, sum / observations.length]));
}

/**
 * What corrections leave open about the means of items. Between two items that share a source alike it cancels: of c_is,
 * what item i has of source s, only the distance from the mean over the items stays. Two such distances are taken as
 * independent and doubled, which is never less than the variance of any difference, since (x − y)² ≤ 2x² + 2y².
 * @param doubts of each item; undefined where nothing was set right
 * @param cancels not so where sums are compared, as for distances from a target
 * @source GUM, JCGM 100:2008, 5.2 (correlated inputs); the bound is ours
 */
export function doubtOfEach(doubts: readonly (Doubts | undefined)[], cancels: boolean): Doubt[] {
  if (doubts.every((ofItem) => ofItem === undefined)) return doubts.map(() => NO_DOUBT);
  const sources = [...new Set(doubts.flatMap((ofItem) => [...(ofItem?.keys() ?? [])]))];
  const shares = doubts.map((ofItem) => sources.map((source) => ofItem?.get(source) ?? 0));
  const middle = sources.map(
    (_, s) => shares.reduce((sum, share) => sum + (share[s] as number), 0) / shares.length,
  );
  return shares.map((share) => ({
    ofMean: Math.hypot(...share),
    ofDifferences: Math.SQRT2 * Math.hypot(...share.map((u, s) => (cancels ? u - (middle[s] as number) : u))),
  }));
}
