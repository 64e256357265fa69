import { normalQuantileUpper } from '../distributions/normal.ts';
import { counted, formatReading, listed, withUnit } from '../quantity/format.ts';
import { moments } from '../summary/moments.ts';
import type { InspectedMeasurand, Inspection } from './inspection.ts';

/** So many readings at the same end are looked at, and an item with fewer readings says too little. */
const [FEWEST, FEWEST_OF_ITEM] = [4, 5];

/** The readings of one item at one setting, and how many of them are at the end of all. */
interface AtEnd {
  itemId: string;
  values: readonly number[];
  ids: readonly string[];
}

/**
 * The chance that the outermost readings of one item are equal to the step. Their distances are exponential, the k-th from
 * the end with the mean s/(k·z), where z is how far out the end of so many lies.
 * @source Rényi (1953), Acta Mathematica Hungarica 4, with the normal distribution’s hazard at its end
 */
export function chanceOfTies(values: readonly number[], ties: number, step: number): number {
  const { n, sumOfSquares } = moments(values);
  const sd = Math.sqrt(sumOfSquares / (n - 1));
  // Readings that are all equal say nothing of their spread: what is stuck is another finding.
  if (sd === 0) return 1;
  const hazard = normalQuantileUpper(1 / (n + 1)) / sd;
  const width = Math.max(step, 0.02 * sd);
  let chance = 1;
  for (let k = 1; k < ties; k += 1) chance *= 1 - Math.exp(-k * hazard * width);
  return chance;
}

function endOf({ cells, step }: InspectedMeasurand, sign: 1 | -1) {
  const values = cells.flatMap(({ kept }) => kept.map(({ value }) => sign * (value as number)));
  const end = values.reduce((most, value) => Math.max(most, value), -Infinity);
  const atEnd = cells.flatMap(({ itemId, kept }): AtEnd[] => {
    const ids = kept.filter(({ value }) => sign * (value as number) === end).map(({ id }) => id);
    return ids.length > 0 ? [{ itemId, ids, values: kept.map(({ value }) => value as number) }] : [];
  });
  const count = atEnd.reduce((sum, { ids }) => sum + ids.length, 0);
  const p = atEnd
    .filter(({ values: all }) => all.length >= FEWEST_OF_ITEM)
    .reduce((chance, { values: all, ids }) => chance * chanceOfTies(all, ids.length, step), 1);
  return { end: sign * end, atEnd, count, p };
}

/** Many readings at one value, and none beyond it: an instrument at the end of its range. */
export const capped: Inspection = ({ measurands, items }) =>
  measurands.flatMap((inspected) => {
    const { measurand, derived, untested } = inspected;
    if (derived || untested) return [];
    const names = (atEnd: readonly AtEnd[]) =>
      [...items.values()]
        .filter(({ id }) => atEnd.some(({ itemId }) => itemId === id))
        .map(({ name }) => name);
    return ([1, -1] as const).flatMap((sign) => {
      const { end, atEnd, count, p } = endOf(inspected, sign);
      if (count < FEWEST) return [];
      return [
        {
          p: Math.min(1, 2 * p),
          finding: () => ({
            id: `capped/${measurand.id}/${String(sign)}`,
            kind: 'readings at the end of a range',
            measurandId: measurand.id,
            message: `${counted(count, 'reading')} of ${measurand.name} are exactly ${withUnit(formatReading(end), measurand.unit)}, and none is ${sign === 1 ? 'higher' : 'lower'} (${listed(names(atEnd))}).`,
            why: 'That is more often than the spread and the step of the readings explain: an instrument at the end of its range shows its end, whatever there is.',
            todo: 'Check the range of the instrument; read again in a wider one, or enter such readings as “at least” or “at most”.',
            source: 'Rényi (1953): distances of the outermost readings; within the level of all findings',
            method: 'capped',
            readingIds: atEnd.flatMap(({ ids }) => ids),
          }),
        },
      ];
    });
  });
