import type { FormSettings, Measurand, ReadingPart } from '../model/parts.ts';
import { againstReference } from './against-reference.ts';
import { beforeAfter } from './before-after.ts';
import { count } from './count.ts';
import { fedRecovered } from './fed-recovered.ts';
import type { CorrectionKind, FormContext, ReadingForm } from './form.ts';
import { grid } from './grid.ts';
import { level } from './level.ts';
import { ramp } from './ramp.ts';
import { recording } from './recording.ts';
import { score } from './score.ts';
import { timed } from './timed.ts';
import { trace } from './trace.ts';
import { value } from './value.ts';

/** Every reading form. */
export const READING_FORMS: readonly ReadingForm[] = [
  value,
  count,
  timed,
  ramp,
  grid,
  beforeAfter,
  fedRecovered,
  againstReference,
  level,
  trace,
  recording,
  score,
];

/** The form of what is worked out from other measurands. */
export const DERIVED_FORM = value.name;

export const readingForm = (name: string): ReadingForm | undefined =>
  READING_FORMS.find((form) => form.name === name);

/** The value of a reading, derived from its parts; null for a misfire without a number. */
export const readingValue = (
  reading: { parts: readonly ReadingPart[] },
  measurand: Pick<Measurand, 'form'> & FormContext,
): number | null => readingForm(measurand.form)?.value(reading.parts, measurand) ?? null;

type FormOf = Pick<Measurand, 'form' | 'settings' | 'expression'>;

/** Whether a reading says what a trusted instrument reads, in the unit of the value. */
export const hasReference = ({ form, settings, expression }: FormOf): boolean => {
  const found = readingForm(form);
  return expression === null && found?.reference !== undefined && found.valueUnit?.(settings) === undefined;
};

/** What a trusted instrument said with a reading, in the measurand's unit; null where none did. */
export const referenceOf = (measurand: FormOf, parts: readonly ReadingPart[]): number | null =>
  hasReference(measurand)
    ? (readingForm(measurand.form)?.reference?.(parts, measurand.settings) ?? null)
    : null;

/** The unit of what is read at the bench, which may not be that of the value. */
export const unitRead = (measurand: Pick<Measurand, 'form'> & FormContext): string =>
  readingForm(measurand.form)?.parts(measurand)[0]?.unit ?? measurand.unit;

/** The rows and columns of what is read cell by cell, and the unit of a cell; undefined where it is read otherwise. */
export function cellsRead(
  measurand: Pick<Measurand, 'form'> & FormContext,
): { rows: number; columns: number; unit: string } | undefined {
  const size = readingForm(measurand.form)?.cells?.(measurand.settings);
  return size && { ...size, unit: unitRead(measurand) };
}

/** The corrections that the values of a measurand allow for; none where they are worked out. */
export const correctionsOf = ({
  form,
  expression,
}: Pick<Measurand, 'form' | 'expression'>): readonly CorrectionKind[] =>
  expression === null ? (readingForm(form)?.corrects ?? []) : [];

/** Whether what is known from elsewhere can stand in for readings: not for marks, nor for errors ranked by their size. */
export const takesFigures = ({ form, expression }: Pick<Measurand, 'form' | 'expression'>): boolean => {
  const found = readingForm(form);
  return expression !== null || !(found?.ranksOnly || found?.rankedBySize);
};

/** What is wrong with the settings of a form: a field of the settings and a sentence each. */
export function settingProblems(
  form: ReadingForm,
  settings: FormSettings,
): { name: string; message: string }[] {
  const problems: { name: string; message: string }[] = [];
  for (const [name, said] of Object.entries(settings)) {
    const known = form.settings.find((setting) => setting.name === name);
    const wrong = (message: string) => problems.push({ name, message });
    if (!known) wrong(`The form “${form.label}” has no setting “${name}”.`);
    else if (known.kind === 'whole') {
      if (!Number.isInteger(said) || (said as number) < known.low || (said as number) > known.high) {
        wrong(`${known.label}: a whole number from ${String(known.low)} to ${String(known.high)}.`);
      }
    } else if (known.kind === 'number') {
      if (typeof said !== 'number') wrong(`${known.label}: a number.`);
    } else if (known.kind === 'choice') {
      if (!known.options.some((option) => option.value === said))
        wrong(`${known.label}: “${String(said)}” is no choice.`);
    } else if (known.kind === 'yes') {
      if (typeof said !== 'boolean') wrong(`${known.label}: yes or no.`);
    } else if (known.kind === 'unit') {
      if (typeof said !== 'string' || said.length > 24)
        wrong(`${known.label}: a unit of at most 24 characters.`);
    } else if (!Array.isArray(said) || said.length < known.fewest) {
      wrong(`${known.label}: at least ${String(known.fewest)}.`);
    }
  }
  const together = problems.length === 0 ? form.wrongSettings?.(settings) : undefined;
  return together ? [together] : problems;
}
