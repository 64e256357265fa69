import { readingForm } from '../forms/index.ts';
import { NO_CORRECTIONS } from '../model/new-study.ts';
import type { Corrections, FormSettings, Measurand } from '../model/parts.ts';
import { convert } from '../quantity/units.ts';
import { newMeasurand, usualDirection } from './new-parts.ts';

type Meaning = Pick<Measurand, 'direction' | 'margin' | 'limits' | 'spec' | 'controls' | 'corrections'>;

const NONE: Omit<Meaning, 'direction'> = {
  margin: { kind: 'absolute', value: 0 },
  limits: { low: null, high: null },
  spec: null,
  controls: [],
  corrections: NO_CORRECTIONS,
};

/** What a number of the old unit is in the new one; undefined where the units measure different things. */
function turned(value: number, from: string, to: string): number | undefined {
  const number = convert(value, from, to);
  return number === undefined ? undefined : Number(number.toPrecision(12));
}

/**
 * What goes with another unit of a measurand: margin, limits, spec and target turned into it where one can be turned into
 * the other, and nothing of them, nor the direction, where they meant something else. A unit that is said for the first
 * time is that of the numbers which are there.
 */
export function withUnit(measurand: Measurand, unit: string): Partial<Measurand> {
  if (unit === measurand.unit) return {};
  if (measurand.unit === '') return { unit };
  const { margin, limits, spec, controls, direction } = measurand;
  const [zero, unity] = [turned(0, measurand.unit, unit), turned(1, measurand.unit, unit)];
  if (zero === undefined || unity === undefined) {
    return { unit, ...NONE, direction: usualDirection(measurand.form, measurand.settings) };
  }
  const turn = (value: number | null) =>
    value === null ? null : (turned(value, measurand.unit, unit) ?? null);
  // A margin and an error are differences: the zero of a scale has no part in them.
  const turnDifference = (value: number) => Number(((unity - zero) * value).toPrecision(12));
  const isError = measurand.expression === null && readingForm(measurand.form)?.rankedBySize === true;
  const turnSpec = (value: number | null) =>
    value !== null && isError ? turnDifference(value) : turn(value);
  return {
    unit,
    margin: margin.kind === 'percent' ? margin : { ...margin, value: Math.abs(turnDifference(margin.value)) },
    limits: { low: turn(limits.low), high: turn(limits.high) },
    spec: spec && {
      ...spec,
      ...(spec.kind === 'percent' ? {} : { low: turnSpec(spec.low), high: turnSpec(spec.high) }),
      below: spec.below && {
        split: turn(spec.below.split) ?? spec.below.split,
        within: Math.abs(turnDifference(spec.below.within)),
      },
    },
    controls: controls.map(({ itemId, low, high }) => ({
      itemId,
      low: turnSpec(low),
      high: turnSpec(high),
    })),
    // What sets readings right is in the unit before, and would have to be looked at again.
    corrections: NO_CORRECTIONS,
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

/** The corrections that readings of a form allow for. */
function correctionsFor(form: string, corrections: Corrections): Corrections {
  const allowed = readingForm(form)?.corrects ?? [];
  const { unit, calibrations, tare, ambient } = corrections;
  const kept: Corrections = {
    unit: allowed.includes('unit') ? unit : null,
    calibrations: allowed.includes('calibrations') ? calibrations : [],
    tare: allowed.includes('tare') ? tare : null,
    ambient: allowed.includes('ambient') ? ambient : null,
  };
  return correctionCount(kept) === correctionCount(corrections) ? corrections : kept;
}

/**
 * What goes with another reading form: its settings and what it takes; its unit and direction, where the tester had not
 * chosen another direction than the form before brought along for the same quantity.
 */
export function withForm(measurand: Measurand, name: string): Partial<Measurand> {
  const { form, settings, unit, direction, readingS } = newMeasurand(measurand.name, 1, name);
  const told = readingForm(name)?.valueUnit?.(settings) ?? (measurand.unit || unit);
  const before = usualDirection(measurand.form, measurand.settings);
  const chosen = before.kind !== measurand.direction.kind || before.target !== measurand.direction.target;
  const sameQuantity = measurand.unit === '' || turned(1, measurand.unit, told) !== undefined;
  const kept = correctionsFor(form, measurand.corrections);
  return {
    ...(kept === measurand.corrections ? {} : { corrections: kept }),
    ...withUnit(measurand, told),
    form,
    settings,
    readingS,
    ...(chosen && sameQuantity ? {} : { direction }),
  };
}

/** How many corrections there are, in force or not. */
const correctionCount = ({ unit, calibrations, tare, ambient }: Corrections): number =>
  calibrations.length + [unit, tare, ambient].filter((correction) => correction !== null).length;

/** What a tester had said of a measurand and other meanings leave no place for, in words. */
export function letGo(before: Measurand, changes: Partial<Measurand>): string[] {
  const after = { ...before, ...changes };
  const said = ({ low, high }: Measurand['limits']) => low !== null || high !== null;
  return [
    ...(before.margin.value > 0 && after.margin.value === 0 ? ['the margin'] : []),
    ...(said(before.limits) && !said(after.limits) ? ['the plausible limits'] : []),
    ...(before.spec && !after.spec ? ['the spec'] : []),
    ...(before.controls.length > 0 && after.controls.length === 0 ? ['what controls should read'] : []),
    ...(correctionCount(before.corrections) > correctionCount(after.corrections) ? ['the corrections'] : []),
    ...(before.direction.kind !== after.direction.kind ? ['the direction'] : []),
    ...(before.direction.kind === 'nearest' &&
    after.direction.kind === 'nearest' &&
    after.direction.target !== before.direction.target &&
    after.unit !== before.unit &&
    after.margin.value === 0
      ? ['the target']
      : []),
  ];
}
