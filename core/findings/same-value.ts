import { formatReading, withUnit } from '../quantity/format.ts';
import type { Inspect } from './finding.ts';

/** This many equal readings in a row are questioned. */
export const SAME_IN_A_ROW = 5;

export const sameValue: Inspect = ({ items, unit }) =>
  items.flatMap(({ item, values }) => {
    let longest = 0;
    let run = 0;
    let value = Number.NaN;
    for (let i = 0; i < values.length; i += 1) {
      run = i > 0 && values[i] === values[i - 1] ? run + 1 : 1;
      if (run > longest) {
        longest = run;
        value = values[i] as number;
      }
    }
    if (longest < SAME_IN_A_ROW) return [];
    return [
      {
        kind: 'the same value again and again',
        item,
        message: `${item} read ${withUnit(formatReading(value), unit)} ${String(longest)} times in a row.`,
        why: 'An instrument that is stuck or at its limit repeats itself; so does one that is too coarse.',
        todo: 'Check the instrument and its range.',
      },
    ];
  });
