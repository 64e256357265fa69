import { type Series, type TimeWindow, firstAtOrAfter } from './series.ts';

/** A point of a picture. */
export interface Point {
  x: number;
  y: number;
}

/**
 * What a picture of a window needs: of each of its columns the first, the lowest, the highest and the last value, in
 * the order of time, so that no peak is lost and lines meet as they would with all rows. With few rows they are all
 * there, with one row beyond either end so that lines run out of the picture.
 * @param columns of the picture, at least 1
 */
export function thinned({ times, values }: Series, { from, to }: TimeWindow, columns: number): Point[] {
  const start = Math.max(0, firstAtOrAfter(times, from) - 1);
  const end = Math.min(times.length, firstAtOrAfter(times, to) + 1);
  const point = (i: number): Point => ({ x: times[i] as number, y: values[i] as number });
  if (end - start <= 4 * columns) {
    return Array.from({ length: Math.max(0, end - start) }, (_, i) => point(start + i));
  }
  const points: Point[] = [];
  for (let column = 0, place = start; column < columns; column += 1) {
    const stop = column === columns - 1 ? end : start + Math.round(((end - start) * (column + 1)) / columns);
    let lowest = place;
    let highest = place;
    for (let i = place; i < stop; i += 1) {
      if ((values[i] as number) < (values[lowest] as number)) lowest = i;
      if ((values[i] as number) > (values[highest] as number)) highest = i;
    }
    const chosen = [...new Set([place, lowest, highest, stop - 1])].sort((a, b) => a - b);
    points.push(...chosen.map(point));
    place = stop;
  }
  return points;
}
