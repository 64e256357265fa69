import type { VerdictWord } from '../compare/verdict.ts';

/** Verdict about the items with these indices. */
export interface PairVerdict {
  a: number;
  b: number;
  verdict: VerdictWord;
}

/** What there is about two items, whichever of them is named first. */
export const pairBetween = <Pair extends { a: number; b: number }>(
  pairs: readonly Pair[],
  x: number,
  y: number,
): Pair | undefined => pairs.find(({ a, b }) => (a === x && b === y) || (a === y && b === x));

/** Whether all of these items are practically the same, each as each other. */
export const allSame = (pairs: readonly PairVerdict[], items: readonly number[]): boolean =>
  items.every((x, i) => items.slice(i + 1).every((y) => pairBetween(pairs, x, y)?.verdict === 'same'));

export interface Place {
  /** By mean; equal means share a place. */
  place: number;
  placeLow: number;
  placeHigh: number;
}

/** Place or place range as printed: “2” or “2–4”. */
export const placeRange = ({ placeLow, placeHigh }: Pick<Place, 'placeLow' | 'placeHigh'>): string =>
  placeLow === placeHigh ? String(placeLow) : `${String(placeLow)}–${String(placeHigh)}`;

/**
 * Places by merit, with the range that the verdicts allow: 1 + the number of items ahead of it, to k − the number
 * that it is ahead of. A place by merit that lies outside its range is taken into it.
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
  return merits.map((merit, item) => {
    const placeLow = 1 + (ahead[item] as number);
    const placeHigh = k - (behind[item] as number);
    const byMerit = 1 + merits.filter((other) => other > merit).length;
    // Pairs within incomplete rounds may see it another way than the means of all rounds; the verdicts hold.
    return { place: Math.min(placeHigh, Math.max(placeLow, byMerit)), placeLow, placeHigh };
  });
}
