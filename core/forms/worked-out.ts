import type { FormSettings, Measurand, Reading, ReadingPart } from '../model/parts.ts';
import type { TimeWindow } from '../trace/series.ts';
import type { AskedPart, FormContext, PartTexts, ReadParts, ReadingForm } from './form.ts';
import { partNumber, readParts } from './read-parts.ts';

/** Names of the parts of every reading that is worked out from a window of a file. */
export const FILE_PARTS = { value: 'value', from: 'from', to: 'to', file: 'file', how: 'how' } as const;

/** A number that comes with the value from a file. */
export const made = (name: string, label: string, unit: string): AskedPart => ({
  ...{ name, label, unit, optional: true, made: true },
});
/** Words that come with it. */
export const words = (name: string, label: string): AskedPart => ({ ...made(name, label, ''), words: true });

/** Understands the parts of such a reading: the numbers, and the words where there are any. */
export function readMade(asked: readonly AskedPart[], texts: PartTexts): ReadParts {
  const read = readParts(
    asked.filter((part) => !part.words),
    texts,
  );
  if ('problem' in read) return read;
  const spoken = asked.flatMap(({ name, words: inWords }): ReadingPart[] => {
    const text = texts[name] ?? '';
    return inWords && text !== '' ? [{ name, text, number: null }] : [];
  });
  return { parts: [...read.parts, ...spoken] };
}

/** The value of such a reading; null while it waits to be worked out again, since it was asked otherwise. */
export function madeValue(
  how: (settings: FormSettings) => string,
  parts: readonly ReadingPart[],
  { settings }: FormContext,
): number | null {
  const said = parts.find(({ name }) => name === FILE_PARTS.how)?.text;
  return said === undefined || said === how(settings) ? partNumber(parts, FILE_PARTS.value) : null;
}

/** The words of a part of a reading. */
export const partText = ({ parts }: Pick<Reading, 'parts'>, name: string): string | undefined =>
  parts.find((part) => part.name === name)?.text;

/** Whether a reading was worked out from a file when something else was asked of it. */
export const waitsToBeWorkedOut = (
  { how }: Pick<ReadingForm, 'how'>,
  { settings }: Pick<Measurand, 'settings'>,
  reading: Pick<Reading, 'parts'>,
): boolean => {
  const said = partText(reading, FILE_PARTS.how);
  return how !== undefined && said !== undefined && said !== how(settings);
};

const numberIn = ({ parts }: Pick<Reading, 'parts'>, name: string): number =>
  partNumber(parts, name) ?? Number.NaN;

/** The window that a reading was worked out from; NaN where it was not. */
export const windowOf = (reading: Pick<Reading, 'parts'>): TimeWindow => ({
  from: numberIn(reading, FILE_PARTS.from),
  to: numberIn(reading, FILE_PARTS.to),
});
