import type { FormSettings } from '../model/parts.ts';
import { BANDS, type Band } from '../sound/bands.ts';
import { counted } from '../quantity/format.ts';
import type { SoundFilters } from '../sound/filters.ts';
import type { ReadingForm } from './form.ts';
import { partNumber, setting } from './read-parts.ts';
import { FILE_PARTS, made, madeValue, readMade, words } from './worked-out.ts';

const QUANTITY = {
  kind: 'choice',
  name: 'quantity',
  label: 'Value',
  changesMeaning: true,
  fallback: 'equivalent',
  options: [
    { value: 'equivalent', label: 'Equivalent level', help: 'the mean of the energy' },
    { value: 'highestFast', label: 'Highest fast level' },
    { value: 'highestSlow', label: 'Highest slow level' },
    { value: 'exposure', label: 'Exposure level', help: 'all of the energy, as if in one second' },
    { value: 'l10', label: 'Level exceeded in 10 % of the time' },
    { value: 'l50', label: 'Level exceeded in half of the time' },
    { value: 'l90', label: 'Level exceeded in 90 % of the time' },
    { value: 'weightedPeak', label: 'Peak of the samples' },
    { value: 'truePeak', label: 'True peak', help: 'between samples too' },
  ],
} as const;
export type SoundQuantity = (typeof QUANTITY)['options'][number]['value'];

const quantityOf = (settings: FormSettings): SoundQuantity => setting(QUANTITY, settings);
const isBand = (name: string): name is Band => (BANDS as readonly string[]).includes(name);
const isTruePeak = (settings: FormSettings): boolean => quantityOf(settings) === 'truePeak';

const WEIGHTING = {
  kind: 'choice',
  name: 'weighting',
  label: 'Weighting',
  changesMeaning: true,
  fallback: 'A',
  options: [
    { value: 'A', label: 'A', help: 'as the ear hears' },
    { value: 'C', label: 'C', help: 'for loud and low sounds, and peaks' },
    { value: 'Z', label: 'None (Z)' },
  ],
  when: (settings: FormSettings) => !isTruePeak(settings),
} as const;
const BAND = {
  kind: 'choice',
  name: 'band',
  label: 'Band',
  changesMeaning: true,
  fallback: 'all',
  options: [
    { value: 'all', label: 'All of the sound' },
    ...BANDS.map((band) => ({ value: band, label: `Third of an octave at ${band} Hz` })),
  ],
  when: (settings: FormSettings) => !isTruePeak(settings),
} as const;
const SCALE = {
  kind: 'choice',
  name: 'scale',
  label: 'Levels in',
  changesMeaning: true,
  fallback: 'calibrated',
  options: [
    { value: 'calibrated', label: 'dB', help: 'by a calibration of the recorder' },
    { value: 'fullScale', label: 'dB relative to full scale', help: 'of recordings with the same gain' },
  ],
} as const;
const BACKGROUND = {
  kind: 'choice',
  name: 'background',
  label: 'Background',
  fallback: 'off',
  options: [
    { value: 'off', label: 'Taken off', help: 'as ISO 3744 has it' },
    { value: 'in', label: 'Left in' },
  ],
  when: (settings: FormSettings) => ['equivalent', 'exposure'].includes(quantityOf(settings)),
} as const;

/** Names of the parts of a reading from a recording. */
export const SOUND_PARTS = {
  ...FILE_PARTS,
  ...{ channel: 'channel', background: 'background', quietFrom: 'quietFrom', quietTo: 'quietTo' },
  ...{ clipped: 'clipped', fullScale: 'fullScale', calibration: 'calibration' },
} as const;

/** What is asked of a window of a recording. */
export interface SoundQuestion {
  quantity: SoundQuantity;
  filters: SoundFilters;
  /** Whether the level of the background is taken off. */
  lessBackground: boolean;
  /** Whether levels are in dB by a calibration; else they are relative to full scale. */
  calibrated: boolean;
}

/** What a measurand asks of its recordings. */
export function soundQuestion(settings: FormSettings): SoundQuestion {
  const band: string = setting(BAND, settings);
  return {
    quantity: quantityOf(settings),
    filters: isTruePeak(settings)
      ? { weighting: 'Z' }
      : { weighting: setting(WEIGHTING, settings), ...(isBand(band) ? { band } : {}) },
    lessBackground: BACKGROUND.when(settings) && setting(BACKGROUND, settings) === 'off',
    calibrated: setting(SCALE, settings) === 'calibrated',
  };
}

/** Quantities that a loudest moment decides. */
const OF_A_MOMENT: readonly string[] = ['weightedPeak', 'truePeak', 'highestFast', 'highestSlow'];
/** A background so close is worth a remark where it stays in, dB. */
const CLOSE = 10;

/** What is to be said of samples at full scale. */
export const clippedWords = (clipped: number, settings: FormSettings): string | undefined =>
  clipped > 0
    ? `${counted(clipped, 'sample')} clipped: ${OF_A_MOMENT.includes(quantityOf(settings)) ? 'the level is at least this' : 'the level may be higher'}.`
    : undefined;

/**
 * What is to be said of a background that is left in.
 * @param differs how much lower it lies, dB
 */
export const backgroundWords = (differs: number, settings: FormSettings): string | undefined =>
  differs < CLOSE && !OF_A_MOMENT.includes(quantityOf(settings))
    ? `The background lies only ${Math.max(0, differs).toFixed(1)} dB lower, and is left in.`
    : undefined;

/** The question in words: “equivalent level, A-weighted, 1000 Hz third of an octave”. */
export function soundQuestionText(settings: FormSettings): string {
  const { filters, quantity, lessBackground } = soundQuestion(settings);
  return [
    QUANTITY.options.find(({ value }) => value === quantity)?.label ?? '',
    ...(isTruePeak(settings)
      ? []
      : [filters.weighting === 'Z' ? 'not weighted' : `${filters.weighting}-weighted`]),
    ...(filters.band === undefined ? [] : [`third of an octave at ${filters.band} Hz`]),
    ...(lessBackground ? ['background taken off'] : []),
  ].join(', ');
}

/** The settings that a value was worked out with, as one text. */
export function soundHow(settings: FormSettings): string {
  const { quantity, filters, lessBackground, calibrated } = soundQuestion(settings);
  return [
    ...[quantity, filters.weighting, ...(filters.band === undefined ? [] : [filters.band])],
    ...(lessBackground ? ['less background'] : []),
    ...(calibrated ? [] : ['full scale']),
  ].join(' ');
}

/** A stretch of a recording: the level is worked out from the file, which is kept. */
export const recording: ReadingForm = {
  name: 'recording',
  label: 'Recording',
  help: 'a sound file; the level is worked out from a window of it',
  entry: 'recording',
  direction: 'lower',
  unit: 'dB',
  settings: [QUANTITY, WEIGHTING, BAND, SCALE, BACKGROUND],
  average: 'energy',
  valueUnit: (settings) => (soundQuestion(settings).calibrated ? 'dB' : 'dB FS'),
  typicalS: () => 30,
  how: soundHow,
  doubt(parts, { settings }) {
    const number = (name: string) => partNumber(parts, name);
    const [value, background] = [number(SOUND_PARTS.value), number(SOUND_PARTS.background)];
    // A level of another kind than the background’s says nothing of how far they lie apart.
    const comparable = value !== null && background !== null && quantityOf(settings) === 'equivalent';
    const close =
      comparable && !soundQuestion(settings).lessBackground
        ? backgroundWords(value - background, settings)
        : undefined;
    return (
      [clippedWords(number(SOUND_PARTS.clipped) ?? 0, settings), close].filter(Boolean).join(' ') || undefined
    );
  },
  parts: ({ unit }) => [
    { name: SOUND_PARTS.value, label: 'Level', unit },
    made(SOUND_PARTS.from, 'From', 's'),
    made(SOUND_PARTS.to, 'To', 's'),
    made(SOUND_PARTS.channel, 'Channel', ''),
    made(SOUND_PARTS.background, 'Background', unit),
    made(SOUND_PARTS.quietFrom, 'Background from', 's'),
    made(SOUND_PARTS.quietTo, 'Background to', 's'),
    made(SOUND_PARTS.clipped, 'Samples clipped', ''),
    made(SOUND_PARTS.fullScale, 'Full scale', 'dB'),
    words(SOUND_PARTS.calibration, 'Calibration'),
    words(SOUND_PARTS.file, 'File'),
    words(SOUND_PARTS.how, 'Worked out as'),
  ],
  read(texts, context) {
    const read = readMade(this.parts(context), texts);
    if ('problem' in read) return read;
    const level = read.parts.find(({ name }) => name === SOUND_PARTS.value)?.number as number;
    return Math.abs(level) > 300
      ? { problem: 'Level: a level lies between −300 and 300 dB.', part: SOUND_PARTS.value }
      : read;
  },
  value: (parts, context) => madeValue(soundHow, parts, context),
};
