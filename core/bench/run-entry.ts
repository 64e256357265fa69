import type { PartTexts } from '../forms/form.ts';
import { readingForm } from '../forms/index.ts';
import { recordOf } from '../record/record.ts';
import type { Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { formatReading, withUnit } from '../quantity/format.ts';
import { settingKey } from '../plan/grid.ts';
import type { Run } from './queue.ts';
import { runOfReading } from './run-records.ts';

/** What an instrument sends is no longer than this; the schema of a reading says the same. */
const LONGEST_TEXT = 60;

/** Parts that the last reading fills in, where the form says so: what one item recovered is what the next one is fed. */
export function filledIn(queue: readonly Run[], run: Run): Record<string, string> {
  const { form, settings, unit } = run.measurand;
  const filled = readingForm(form)?.filledFrom?.(settings);
  if (!filled || unit === '') return {};
  const before = queue
    .slice(0, run.place)
    .findLast((earlier) => earlier.measurandId === run.measurandId && earlier.state === 'done');
  const found = before?.reading?.reading.parts.find(({ name }) => name === filled.before);
  return found && found.number !== null ? { [filled.part]: found.text } : {};
}

/**
 * What was typed in words, where it is more than the number as it stands: another unit, a fraction, a yield.
 * @param texts what was typed, part by part
 * @returns undefined where it is the number as it stands, or nothing that is understood yet
 */
export function understoodWords(measurand: Measurand, texts: PartTexts): string | undefined {
  const form = readingForm(measurand.form);
  if (!form || Object.values(texts).every((text) => (text ?? '').trim() === '')) return undefined;
  const read = form.read(texts, measurand);
  if ('problem' in read) return undefined;
  const value = form.value(read.parts, measurand);
  if (value === null) return undefined;
  const [only] = read.parts;
  const asTyped = read.parts.length === 1 && only?.number === value;
  if (asTyped && (form.ranksOnly || Number(only.text.trim().replace(',', '.')) === value)) return undefined;
  const also = form.also?.(read.parts, measurand);
  return [
    withUnit(formatReading(value), measurand.unit),
    ...(also ? [`(${withUnit(formatReading(also.number), also.unit)})`] : []),
  ].join(' ');
}

/**
 * What an instrument sent, put into the first part that is still empty, or into the first one where none is.
 * @returns the texts with it, and whether all that the form asks for is there now
 */
export function withInstrumentText(
  measurand: Measurand,
  texts: PartTexts,
  sent: string,
): { texts: Record<string, string>; complete: boolean } {
  const asked = (readingForm(measurand.form)?.parts(measurand) ?? []).filter(({ made }) => !made);
  const isEmpty = (given: PartTexts, name: string) => (given[name] ?? '').trim() === '';
  const part = asked.find(({ name }) => isEmpty(texts, name)) ?? asked[0];
  const filled: Record<string, string> = {};
  for (const [name, value] of Object.entries(texts)) if (value !== undefined) filled[name] = value;
  if (part) filled[part.name] = sent.slice(0, LONGEST_TEXT);
  return {
    texts: filled,
    complete: part !== undefined && asked.every(({ name, optional }) => optional || !isEmpty(filled, name)),
  };
}

/**
 * The readings that a new one of a run is held against: of the same measurand at the same setting, and counting.
 * @returns values in the measurand's unit, in the order recorded: the item's own, and those of all items
 */
export function yardstick(document: StudyDocument, run: Run): { ofItem: number[]; all: number[] } {
  // Readings at another setting are no yardstick for this one.
  const here = settingKey(run.levelIds);
  const [ofItem, all]: [number[], number[]] = [[], []];
  for (const { standing, value, reading } of recordOf(document).ofMeasurand(run.measurandId)) {
    if (standing.is !== 'kept' || value === null) continue;
    // Most studies have no levels, and a key for each of many readings takes a while to make.
    const key = reading.levels.length === 0 ? '' : settingKey(runOfReading(reading).levelIds);
    if (key !== here) continue;
    all.push(value);
    if (reading.itemId === run.itemId) ofItem.push(value);
  }
  return { ofItem, all };
}
