import { ALPHA } from '../../../core/model/alpha.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import { formatPlain, withUnit } from '../../../core/quantity/format.ts';

/** Which direction is better, in words. */
export const better = ({ direction, unit }: Measurand): string => {
  if (direction.kind === 'nearest')
    return `nearest to ${withUnit(formatPlain(direction.target ?? 0), unit)} is best`;
  return direction.kind === 'unranked' ? 'not ranked' : `${direction.kind} is better`;
};

/** Confidence of the intervals: 95 %, and more at a planned look before the end. */
export const confidence = (alpha = ALPHA): string =>
  `${formatPlain(Number((100 * (1 - alpha)).toFixed(1)))}\u202f%`;

/** What the margin is, and what it does. */
export function marginSentence({ margin, direction, unit }: Measurand, ranksOnly: boolean): string {
  if (ranksOnly) return 'Marks in an order have no distances, so no margin applies.';
  if (margin.value === 0) return 'None is set: any lead that the readings support counts as one.';
  const text =
    margin.kind === 'percent'
      ? `${formatPlain(margin.value)}\u202f% of the ${direction.kind === 'nearest' ? 'target' : 'best mean'}`
      : withUnit(formatPlain(margin.value), unit);
  return `A difference under ${text} does not matter.`;
}
