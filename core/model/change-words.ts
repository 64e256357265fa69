import { counted, formatPlain, withUnit } from '../quantity/format.ts';
import { screeningRule } from '../screening/index.ts';
import type { Change, Direction, Margin, Measurand, RuleInForce } from './parts.ts';

function spoken(field: Change['field'], json: string, unit: string): string {
  const value: unknown = JSON.parse(json);
  if (field === 'margin') {
    const { kind, value: size } = value as Margin;
    return kind === 'percent' ? withUnit(formatPlain(size), '%') : withUnit(formatPlain(size), unit);
  }
  if (field === 'rule') return screeningRule((value as RuleInForce).name).label;
  const { kind, target } = value as Direction;
  return kind === 'nearest' ? `nearest to ${withUnit(formatPlain(target ?? 0), unit)}` : kind;
}

/** One change after the first reading, in words: “margin from 0.1 m/s to 0.05 m/s”. */
export const changeWords = ({ field, before, after }: Change, { unit }: Pick<Measurand, 'unit'>): string =>
  `${field} from ${spoken(field, before, unit)} to ${spoken(field, after, unit)}`;

/** How many changes came after the first reading; for a title. */
export const changesTitle = (count: number): string => `${counted(count, 'change')} after the first reading`;
