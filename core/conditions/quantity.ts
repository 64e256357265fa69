import type { Condition } from '../model/parts.ts';
import { formatPlain, withUnit } from '../quantity/format.ts';
import { parseQuantity } from '../quantity/parse.ts';
import type { ConditionKind } from './kind.ts';

const figure = (value: number, unit: string) => withUnit(formatPlain(Number(value.toPrecision(6))), unit);

function beyondLimits(number: number, { quantity, unit, limits }: Condition): string[] {
  const beyond =
    limits.high !== null && number > limits.high
      ? limits.high
      : limits.low !== null && number < limits.low
        ? limits.low
        : undefined;
  return beyond === undefined
    ? []
    : [
        `${quantity} ${figure(number, unit)}, your limit is ${figure(beyond, unit)}. The plan advises to wait.`,
      ];
}

export const QUANTITY: ConditionKind = {
  name: 'number',
  label: 'A quantity',
  isQuantity: true,
  takesWords: false,
  choices: () => [],
  // Whatever slipped in among numbers is pointed out.
  fits: () => true,
  read: (text, { unit }) => {
    const read = parseQuantity(text, unit);
    return 'problem' in read ? read : { text, number: read.number };
  },
  shown: ({ text, number }, { unit }) => (number === null ? text : withUnit(formatPlain(number), unit)),
  warnings: ({ number }, condition, start) => {
    if (number === null) return [];
    const { quantity, unit, tolerableDrift } = condition;
    const drift = Math.abs(number - (start?.number ?? number));
    // A hair of rounding is no drift: 21.3 − 20.3 is more than 1 by a bit.
    const moved = tolerableDrift !== null && drift > tolerableDrift * (1 + 1e-9) + 1e-12;
    return [
      ...beyondLimits(number, condition),
      ...(moved
        ? [
            `${quantity} has moved by ${figure(drift, unit)} since the start; ${figure(tolerableDrift, unit)} is tolerable.`,
          ]
        : []),
    ];
  },
};
