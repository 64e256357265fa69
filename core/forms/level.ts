import type { ReadingForm } from './form.ts';
import { partNumber, readParts } from './read-parts.ts';

/** A level in decibels; levels are averaged by energy. */
export const level: ReadingForm = {
  name: 'level',
  label: 'Level',
  help: 'decibels, averaged by energy',
  entry: 'number',
  direction: 'lower',
  unit: 'dB',
  corrects: ['calibrations'],
  settings: [],
  average: 'energy',
  typicalS: () => 30,
  parts: ({ unit }) => [{ name: 'level', label: 'Level', unit }],
  read(texts, context) {
    return readParts(this.parts(context), texts, (_name, number) =>
      Math.abs(number) > 300 ? 'a level lies between −300 and 300 dB.' : undefined,
    );
  },
  value: (parts) => partNumber(parts, 'level'),
};
