import { isTemperature } from '../quantity/units.ts';
import type { ReadingForm } from './form.ts';
import { READ_UNIT, partNumber, readParts, readUnit, setting } from './read-parts.ts';

const AS = {
  kind: 'choice',
  name: 'as',
  label: 'Value',
  changesMeaning: true,
  fallback: 'change',
  options: [
    { value: 'change', label: 'The change' },
    { value: 'percent', label: 'The change in per cent of before' },
  ],
} as const;

/** The same thing before and after a treatment; the value is the change. */
export const beforeAfter: ReadingForm = {
  name: 'before-after',
  label: 'Before and after',
  help: 'two numbers with a treatment between them',
  entry: 'numbers',
  // A gain or a loss: only the tester knows which is wanted.
  direction: 'unranked',
  unit: '',
  settings: [AS, READ_UNIT],
  valueUnit: (settings) => (setting(AS, settings) === 'percent' ? '%' : undefined),
  typicalS: () => 60,
  parts({ unit, settings }) {
    const read = setting(AS, settings) === 'percent' ? readUnit({ settings }) : unit;
    return [
      { name: 'before', label: 'Before', unit: read },
      { name: 'after', label: 'After', unit: read },
    ];
  },
  read(texts, context) {
    const percent = setting(AS, context.settings) === 'percent';
    return readParts(this.parts(context), texts, (name, number) =>
      percent && name === 'before' && number === 0 ? 'nothing can be told in per cent of 0.' : undefined,
    );
  },
  value(parts, { settings }) {
    const [before, after] = [partNumber(parts, 'before'), partNumber(parts, 'after')];
    if (before === null || after === null) return null;
    const change = after - before;
    return setting(AS, settings) === 'percent' ? (100 * change) / Math.abs(before) : change;
  },
  also(parts, { unit, settings }) {
    const [before, after] = [partNumber(parts, 'before'), partNumber(parts, 'after')];
    if (before === null || after === null) return undefined;
    const difference = Number((after - before).toPrecision(12));
    if (setting(AS, settings) === 'percent') return { number: difference, unit: readUnit({ settings }) };
    // Per cent of a temperature in °C would depend on where its zero was put.
    return before === 0 || isTemperature(unit)
      ? undefined
      : { number: (100 * difference) / Math.abs(before), unit: '%' };
  },
};
