import { isTemperature } from '../quantity/units.ts';
import type { ReadingForm } from './form.ts';
import { READ_UNIT, partNumber, readParts, readUnit, setting } from './read-parts.ts';

const AS = {
  kind: 'choice',
  name: 'as',
  label: 'Value',
  changesMeaning: true,
  fallback: 'error',
  options: [
    { value: 'error', label: 'The error, indicated less reference' },
    { value: 'relative', label: 'The error in per cent of the reference' },
  ],
} as const;

/** What the item indicates beside what a reference says; the value is the error. */
export const againstReference: ReadingForm = {
  name: 'against-reference',
  label: 'Against a reference',
  help: 'the item’s own reading beside a trusted one',
  entry: 'numbers',
  direction: 'nearest',
  rankedBySize: true,
  unit: '',
  settings: [AS, READ_UNIT],
  valueUnit: (settings) => (setting(AS, settings) === 'relative' ? '%' : undefined),
  typicalS: () => 45,
  parts({ unit, settings }) {
    const read = setting(AS, settings) === 'relative' ? readUnit({ settings }) : unit;
    return [
      { name: 'reference', label: 'Reference', unit: read },
      { name: 'indicated', label: 'Indicated', unit: read },
    ];
  },
  read(texts, context) {
    const relative = setting(AS, context.settings) === 'relative';
    return readParts(this.parts(context), texts, (name, number) =>
      relative && name === 'reference' && number === 0 ? 'nothing can be told in per cent of 0.' : undefined,
    );
  },
  value(parts, { settings }) {
    const [reference, indicated] = [partNumber(parts, 'reference'), partNumber(parts, 'indicated')];
    if (reference === null || indicated === null) return null;
    const error = Number((indicated - reference).toPrecision(12));
    return setting(AS, settings) === 'relative' ? (100 * error) / Math.abs(reference) : error;
  },
  reference: (parts, settings) =>
    setting(AS, settings) === 'relative' ? null : partNumber(parts, 'reference'),
  also(parts, { unit, settings }) {
    const [reference, indicated] = [partNumber(parts, 'reference'), partNumber(parts, 'indicated')];
    if (reference === null || indicated === null) return undefined;
    const difference = Number((indicated - reference).toPrecision(12));
    if (setting(AS, settings) === 'relative') return { number: difference, unit: readUnit({ settings }) };
    // Per cent of a temperature in °C would depend on where its zero was put.
    return reference === 0 || isTemperature(unit)
      ? undefined
      : { number: (100 * difference) / Math.abs(reference), unit: '%' };
  },
};
