import type { Item } from '../../core/model/parts.ts';
import { proposeCode, proposeMark } from '../../core/plan/code.ts';
import { DEFAULT_RULE } from '../../core/screening/rule.ts';
import type { NewPart } from './api/studies.ts';

/** A measurand of the form “value” with everything still open. */
export function newMeasurand(name: string, position: number): NewPart<'measurands'> {
  return {
    name,
    unit: '',
    form: 'value',
    direction: { kind: 'higher', target: null },
    margin: { kind: 'absolute', value: 0 },
    limits: { low: null, high: null },
    instrument: {
      name: '',
      resolution: null,
      accuracyPercent: null,
      accuracyConstant: null,
      calibratedOn: null,
    },
    rule: { name: DEFAULT_RULE, parameter: null },
    position,
  };
}

/** An item with code and mark chosen so that they differ from those there are. */
export function newItem(
  name: string,
  items: readonly Pick<Item, 'code' | 'mark' | 'position'>[],
): NewPart<'items'> {
  return {
    name,
    code: proposeCode(
      name,
      items.map(({ code }) => code),
    ),
    mark: proposeMark(items.map(({ mark }) => mark)),
    role: 'candidate',
    class: '',
    attributes: [],
    position: Math.max(0, ...items.map(({ position }) => position)) + 1,
  };
}
