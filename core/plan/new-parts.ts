import { readingForm } from '../forms/index.ts';
import { allSettings } from '../forms/read-parts.ts';
import { NO_CORRECTIONS } from '../model/new-study.ts';
import type { Condition, Direction, FormSettings, Item, Measurand, Session } from '../model/parts.ts';
import { DEFAULT_RULE } from '../screening/rule.ts';
import { proposeCode, proposeMark } from './code.ts';

type Stamps = 'id' | 'studyId' | 'version' | 'createdAt' | 'updatedAt';

/** The direction that a form brings along: not ranked where it is not evident which way is better. */
export function usualDirection(formName: string, settings: FormSettings): Direction {
  const form = readingForm(formName);
  const kind = form?.directionOf?.(settings) ?? form?.direction ?? 'unranked';
  return { kind, target: kind === 'nearest' ? 0 : null };
}

/**
 * A measurand with everything still open but what its form brings along.
 * @throws RangeError for a form that does not exist
 */
export function newMeasurand(name: string, position: number, formName = 'value'): Omit<Measurand, Stamps> {
  const form = readingForm(formName);
  if (!form) throw new RangeError(`There is no reading form “${formName}”.`);
  const settings = allSettings(form);
  const unit = form.valueUnit?.(settings) ?? form.unit;
  return {
    name,
    unit,
    form: formName,
    settings,
    expression: null,
    onItems: null,
    readingS: form.typicalS({ unit, settings }),
    direction: usualDirection(formName, settings),
    margin: { kind: 'absolute', value: 0 },
    limits: { low: null, high: null },
    spec: null,
    controls: [],
    instrument: {
      name: '',
      resolution: null,
      accuracyPercent: null,
      accuracyConstant: null,
      calibratedOn: null,
    },
    corrections: NO_CORRECTIONS,
    rule: { ...DEFAULT_RULE },
    position,
  };
}

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

/** A quantity that has to be noted. */
export const newCondition = (quantity: string, unit: string, position: number): Omit<Condition, Stamps> => ({
  ...{ quantity, kind: 'number', unit, words: [] },
  ...{ required: true, tolerableDrift: null, limits: { low: null, high: null }, position },
});

/** A session at the bench that has just begun, with nothing asked or read yet. */
export const newSession = (startedAt: string): Omit<Session, Stamps> => ({
  kind: 'bench',
  startedAt,
  endedAt: null,
  operator: '',
  instrument: '',
  conditions: [],
  checked: [],
  acknowledged: [],
  pauses: [],
  continuesId: null,
  note: '',
});
