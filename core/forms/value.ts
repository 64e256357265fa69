import type { ReadingForm } from './form.ts';
import { partNumber, readParts } from './read-parts.ts';

/** One number, taken as it is. */
export const value: ReadingForm = {
  name: 'value',
  label: 'Value',
  help: 'one number off the instrument',
  entry: 'number',
  direction: 'higher',
  unit: '',
  corrects: ['unit', 'calibrations', 'tare', 'ambient'],
  settings: [],
  typicalS: () => 20,
  parts: ({ unit }) => [{ name: 'value', label: 'Reading', unit }],
  read(texts, context) {
    return readParts(this.parts(context), texts);
  },
  value: (parts) => partNumber(parts, 'value'),
};
