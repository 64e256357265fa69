import type { Item, Measurand } from '../model/parts.ts';
import { DEFAULT_RULE } from '../screening/rule.ts';
import { proposeCode, proposeMark } from './code.ts';

type Stamps = 'id' | 'studyId' | 'version' | 'createdAt' | 'updatedAt';

/** A measurand of the form “value” with everything still open. */
export const newMeasurand = (name: string, position: number): Omit<Measurand, Stamps> => ({
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
});

/** An item with code and mark chosen so that they differ from those there are. */
export const newItem = (
  name: string,
  items: readonly Pick<Item, 'code' | 'mark' | 'position'>[],
): Omit<Item, Stamps> => ({
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
});
