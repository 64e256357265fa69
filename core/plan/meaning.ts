import { readingForm } from '../forms/index.ts';
import type { FormSettings, Measurand } from '../model/parts.ts';
import { convert } from '../quantity/units.ts';
import { newMeasurand, usualDirection } from './new-parts.ts';

type Meaning = Pick<Measurand, 'direction' | 'margin' | 'limits'>;

const NONE: Pick<Meaning, 'margin' | 'limits'> = {
  margin: { kind: 'absolute', value: 0 },
  limits: { low: null, high: null },
};

/** What a number of the old unit is in the new one; undefined where the units measure different things. */
function turned(value: number, from: string, to: string): number | undefined {
  const number = convert(value, from, to);
  return number === undefined ? undefined : Number(number.toPrecision(12));
}

/**
 * What goes with another unit of a measurand: margin, limits and target told in it where one can be turned into the
 * other, and nothing of them where they meant something else.
 */
export function withUnit(measurand: Measurand, unit: string): Partial<Measurand> {
  if (unit === measurand.unit) return {};
  const { margin, limits, direction } = measurand;
  const [zero, one] = [turned(0, measurand.unit, unit), turned(1, measurand.unit, unit)];
  if (zero === undefined || one === undefined) {
    return {
      unit,
      ...NONE,
      ...(direction.kind === 'nearest' ? { direction: { kind: 'nearest', target: 0 } } : {}),
    };
  }
  const turn = (value: number | null) =>
    value === null ? null : (turned(value, measurand.unit, unit) ?? null);
  return {
    unit,
    // A margin is a difference: the zero of a scale has no part in it.
    margin: margin.kind === 'percent' ? margin : { ...margin, value: Math.abs((one - zero) * margin.value) },
    limits: { low: turn(limits.low), high: turn(limits.high) },
    direction: { ...direction, target: turn(direction.target) },
  };
}

/**
 * What goes with other settings of a form: where they make another quantity of the reading, its unit and direction, and
 * neither margin nor limits that were meant for the one before.
 */
export function withSettings(measurand: Measurand, settings: FormSettings): Partial<Measurand> {
  const form = readingForm(measurand.form);
  const unit = form?.valueUnit?.(settings) ?? measurand.unit;
  const another = form?.settings.some(
    ({ name, changesMeaning }) => changesMeaning && settings[name] !== measurand.settings[name],
  );
  if (!another) return { settings, ...withUnit(measurand, unit) };
  return { settings, unit, ...NONE, direction: usualDirection(measurand.form, settings) };
}

/**
 * What goes with another reading form: its settings and what it takes; its unit and direction, where the tester had not
 * chosen another direction than the form before brought along.
 */
export function withForm(measurand: Measurand, name: string): Partial<Measurand> {
  const { form, settings, unit, direction, readingS } = newMeasurand(measurand.name, 1, name);
  const fixed = readingForm(name)?.valueUnit?.(settings);
  const before = usualDirection(measurand.form, measurand.settings);
  const chosen = before.kind !== measurand.direction.kind || before.target !== measurand.direction.target;
  return {
    ...withUnit(measurand, fixed ?? (measurand.unit || unit)),
    form,
    settings,
    readingS,
    ...(chosen ? {} : { direction }),
  };
}
