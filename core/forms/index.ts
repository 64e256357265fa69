import type { Measurand, Reading, ReadingPart } from '../model/parts.ts';
import type { ReadingForm } from './form.ts';
import { value } from './value.ts';

/** Every reading form. */
export const READING_FORMS: readonly ReadingForm[] = [value];

export const readingForm = (name: string): ReadingForm | undefined =>
  READING_FORMS.find((form) => form.name === name);

/** The value of a reading, derived from its parts; null for a misfire without a number. */
export const readingValue = (
  reading: { parts: readonly ReadingPart[] } | Reading,
  measurand: Pick<Measurand, 'form'>,
): number | null => readingForm(measurand.form)?.value(reading.parts) ?? null;
