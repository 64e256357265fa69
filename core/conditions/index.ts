import type { Condition } from '../model/parts.ts';
import type { ConditionKind, ConditionSeen } from './kind.ts';
import { QUANTITY } from './quantity.ts';
import { WORD } from './word.ts';
import { YES_NO } from './yes-no.ts';

export { type ConditionSeen, isSameWord } from './kind.ts';

/** Every kind of condition, the widest first. */
export const CONDITION_KINDS: readonly ConditionKind[] = [QUANTITY, WORD, YES_NO];

/** How a condition is read and said. */
export const conditionKind = ({ kind }: Pick<Condition, 'kind'>): ConditionKind =>
  CONDITION_KINDS.find(({ name }) => name === kind) ?? QUANTITY;

/** What a column of a table holds: the narrowest kind that its cells are. */
export const kindOfColumn = (cells: readonly string[], isNumber: (cell: string) => boolean): ConditionKind =>
  CONDITION_KINDS.findLast(({ fits }) => fits(cells, isNumber)) ?? QUANTITY;

/** Conditions that are quantities: what is reckoned with. */
export const quantitiesOf = <Some extends Pick<Condition, 'kind'>>(conditions: readonly Some[]): Some[] =>
  conditions.filter((condition) => conditionKind(condition).isQuantity);

/** What a condition was, by name: “Air temperature 21.3 °C”, “Lawn: damp”. */
export function conditionWords(condition: Condition, seen: ConditionSeen): string {
  const kind = conditionKind(condition);
  return `${condition.quantity}${kind.isQuantity ? '' : ':'} ${kind.shown(seen, condition)}`;
}
