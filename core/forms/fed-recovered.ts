import type { ReadingForm } from './form.ts';
import { READ_UNIT, partNumber, readParts, readUnit, setting } from './read-parts.ts';

const COUNTED = {
  kind: 'yes',
  name: 'counted',
  label: 'Pieces are counted',
  help: 'then each yield has its own interval',
  fallback: false,
} as const;
const CHAINED = {
  kind: 'yes',
  name: 'chained',
  label: 'The next item is fed with what the last one recovered',
  fallback: false,
} as const;

/** How much of what was fed came back: a yield, of its own feed. */
export const fedRecovered: ReadingForm = {
  name: 'fed-recovered',
  label: 'Fed and recovered',
  help: 'a yield: what came back of what was put in',
  entry: 'numbers',
  direction: 'higher',
  unit: '%',
  settings: [READ_UNIT, COUNTED, CHAINED],
  valueUnit: () => '%',
  isYield: true,
  filledFrom: (settings) => (setting(CHAINED, settings) ? { part: 'fed', before: 'recovered' } : undefined),
  typicalS: () => 120,
  parts({ settings }) {
    const unit = readUnit({ settings });
    return [
      { name: 'fed', label: 'Fed', unit },
      { name: 'recovered', label: 'Recovered', unit },
    ];
  },
  read(texts, context) {
    const counted = setting(COUNTED, context.settings);
    return readParts(this.parts(context), texts, (name, number) => {
      if (counted && !Number.isSafeInteger(number)) return 'pieces are counted in whole numbers.';
      if (number < 0) return 'an amount is 0 or more.';
      return name === 'fed' && number === 0 ? 'a yield needs something fed.' : undefined;
    });
  },
  value(parts) {
    const [fed, recovered] = [partNumber(parts, 'fed'), partNumber(parts, 'recovered')];
    return fed === null || recovered === null || fed <= 0 ? null : (100 * recovered) / fed;
  },
  doubt(parts) {
    const [fed, recovered] = [partNumber(parts, 'fed'), partNumber(parts, 'recovered')];
    return fed !== null && recovered !== null && recovered > fed
      ? 'More came back than was fed: a yield over 100 %.'
      : undefined;
  },
  counted(readings, { settings }) {
    if (!setting(COUNTED, settings) || readings.length === 0) return undefined;
    const sum = (name: string) =>
      readings.reduce((all, parts) => all + (partNumber(parts, name) ?? Number.NaN), 0);
    const [fed, recovered] = [sum('fed'), sum('recovered')];
    // Not a number where a part is missing.
    return recovered <= fed ? { events: recovered, of: fed, worth: 100 } : undefined;
  },
};
