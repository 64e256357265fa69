import type { ReadingForm } from './form.ts';
import { partNumber, readParts } from './read-parts.ts';

const whole = (_name: string, number: number) =>
  Number.isSafeInteger(number) && number >= 0 ? undefined : 'A count is a whole number, 0 or more.';

/** How often something happened, or how many there were. */
export const count: ReadingForm = {
  name: 'count',
  label: 'Count',
  help: 'how many, or how often; tap along and it counts',
  entry: 'tally',
  direction: 'higher',
  unit: '',
  settings: [],
  typicalS: () => 60,
  parts: ({ unit }) => [{ name: 'count', label: 'Count', unit }],
  read(texts, context) {
    return readParts(this.parts(context), texts, whole);
  },
  value: (parts) => partNumber(parts, 'count'),
  counted(readings) {
    const numbers = readings.map((parts) => partNumber(parts, 'count')).filter((number) => number !== null);
    return numbers.length === 0
      ? undefined
      : { events: numbers.reduce((sum, number) => sum + number, 0), worth: 1 / numbers.length };
  },
};
