import type { FormSettings } from '../model/parts.ts';
import type { ReadingForm } from './form.ts';
import { partNumber, readParts, setting } from './read-parts.ts';

const COUNTS = {
  kind: 'choice',
  name: 'counts',
  label: 'What counts',
  fallback: 'first-two',
  options: [
    { value: 'first-two', label: 'Mean of the first two', help: 'common practice, no source' },
    { value: 'first', label: 'The first release' },
    { value: 'nth', label: 'The last one written down' },
  ],
} as const;
const RELEASES = {
  kind: 'whole',
  name: 'releases',
  label: 'Releases written down',
  fallback: 2,
  low: 1,
  high: 20,
} as const;

const needed = (settings: FormSettings): number => {
  const counts = setting(COUNTS, settings);
  return counts === 'first-two' ? 2 : counts === 'first' ? 1 : setting(RELEASES, settings);
};

/** A value that climbs while things let go, one after the other: each release is written down. */
export const ramp: ReadingForm = {
  name: 'ramp',
  label: 'Ramp',
  help: 'the value climbs until the first one lets go, then the second',
  entry: 'numbers',
  direction: 'higher',
  unit: '',
  corrects: ['unit', 'calibrations', 'tare', 'ambient'],
  settings: [COUNTS, RELEASES],
  wrongSettings: (settings) =>
    setting(COUNTS, settings) === 'first-two' && setting(RELEASES, settings) < 2
      ? { name: 'releases', message: 'The mean of the first two needs two releases.' }
      : undefined,
  typicalS: () => 45,
  parts: ({ unit, settings }) =>
    Array.from({ length: setting(RELEASES, settings) }, (_, i) => ({
      name: `release${String(i + 1)}`,
      label: `Release ${String(i + 1)}`,
      unit,
      ...(i >= needed(settings) ? { optional: true as const } : {}),
    })),
  read(texts, context) {
    return readParts(this.parts(context), texts);
  },
  value(parts, { settings }) {
    const counts = setting(COUNTS, settings);
    if (counts === 'nth') return partNumber(parts, `release${String(setting(RELEASES, settings))}`);
    const first = partNumber(parts, 'release1');
    if (counts === 'first' || first === null) return first;
    const second = partNumber(parts, 'release2');
    return second === null ? null : (first + second) / 2;
  },
  doubt(parts) {
    const falling = parts.find(
      ({ number }, i) =>
        i > 0 && number !== null && number < ((parts[i - 1] as (typeof parts)[number]).number ?? number),
    );
    return falling && 'A later release is below an earlier one, though the value climbs.';
  },
};
