import type { VerdictWord } from '../compare/verdict.ts';

/** Verdict about the items with these indices. */
export interface PairVerdict {
  a: number;
  b: number;
  verdict: VerdictWord;
}

export interface Place {
  /** By mean; equal means share a place. */
  place: number;
  placeLow: number;
  placeHigh: number;
}

/**
 * Places by merit, with the range that the verdicts allow: 1 + the number of items ahead of it, to k − the number
 * that it is ahead of.
 * @param merits one per item, more is better
 * @source simultaneous intervals for ranks: Mohamad, Goeman and van Zwet (2019); Klein, Wright and Wieczorek (2020)
 */
export function places(merits: readonly number[], verdicts: readonly PairVerdict[]): Place[] {
  const k = merits.length;
  const ahead = new Int32Array(k);
  const behind = new Int32Array(k);
  const count = (tally: Int32Array, item: number) => {
    tally[item] = (tally[item] as number) + 1;
  };
  for (const { a, b, verdict } of verdicts) {
    if (verdict !== 'a ahead' && verdict !== 'b ahead') continue;
    const [winner, loser] = verdict === 'a ahead' ? [a, b] : [b, a];
    count(ahead, loser);
    count(behind, winner);
  }
  return merits.map((own, item) => ({
    place: 1 + merits.filter((other) => other > own).length,
    placeLow: 1 + (ahead[item] as number),
    placeHigh: k - (behind[item] as number),
  }));
}
