import { formatReading, withUnit } from '../quantity/format.ts';

/** What is known of an item from elsewhere, in place of readings: a summary of n readings, or a range. In the measurand’s unit. */
export type Typed =
  | {
      kind: 'summary';
      n: number;
      mean: number;
      /** null of a single reading. */
      sd: number | null;
      /** The smallest and the largest of the readings, where they are known. */
      low: number | null;
      high: number | null;
    }
  /** From low to high; open where an end is null: “more than 8”. Equal ends are one figure without a spread. */
  | { kind: 'range'; low: number | null; high: number | null };

/** Where a range stands among means: its middle, or its end where the other is open. */
export const middleOf = ({ low, high }: Pick<Typed, 'low' | 'high'>): number =>
  low !== null && high !== null ? low + (high - low) / 2 : (low ?? high ?? Number.NaN);

/**
 * A range in words, shortly: “> 8”, “1 to 1.6”.
 * @param figure how its ends are printed
 */
export function rangeWords(
  { low, high }: Pick<Typed, 'low' | 'high'>,
  unit = '',
  figure: (end: number) => string = (end) => formatReading(end),
): string {
  const [from, to] = [low, high].map((end) => (end === null ? undefined : figure(end)));
  if (from === undefined) return withUnit(`< ${to ?? ''}`, unit);
  if (to === undefined) return withUnit(`> ${from}`, unit);
  return withUnit(from === to ? from : `${from} to ${to}`, unit);
}
