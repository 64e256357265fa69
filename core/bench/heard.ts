import { SOUND_PARTS } from '../forms/recording.ts';
import { partText } from '../forms/worked-out.ts';
import { byText } from '../model/in-order.ts';
import type { Calibration, FilePart, Reading } from '../model/parts.ts';
import { USUAL_APART_S, USUAL_OVER, backgroundOf, findEvents } from '../sound/events.ts';
import { median, sorted } from '../summary/quantile.ts';
import { type SoundFilters, filtersText } from '../sound/filters.ts';
import type { TimeWindow } from '../trace/series.ts';

/** Something that was said of what sounds at a moment of a recording, s. */
interface Said {
  momentS: number;
}

/** What was chosen for a recording and not taken yet. */
export interface SoundChoices {
  /** From 1. */
  channel: number;
  /**
   * Above this level something sounds, dB relative to full scale, as it is heard through some filters; undefined for so
   * much over the background.
   */
  threshold?: { level: number; through: string };
  /** What stops for less than this is still the same, s. */
  apartS: number;
  /** How long after its onset the window of a sound begins, s. */
  afterS: number;
  /** How long the window is, s; undefined for all of the sound. */
  lengthS?: number;
  /** What is no reading, or is not to be taken. */
  extras: Said[];
  /** Runs of which nothing is heard before a sound. */
  missed: (Said & { count: number })[];
  /** Windows that were moved. */
  moved: (Said & TimeWindow)[];
  /** Windows that were added by hand. */
  added: TimeWindow[];
  /** Items that were chosen for sounds. */
  items: (Said & { itemId: string })[];
  /** The calibration to work levels out by; undefined for the one that is likely. */
  calibrationId?: string;
}

export const NOTHING_CHOSEN: SoundChoices = {
  ...{ channel: 1, apartS: USUAL_APART_S, afterS: 0 },
  ...{ extras: [], missed: [], moved: [], added: [], items: [] },
};

/** Something that sounds, and what was said of it. */
export interface Sound {
  key: string;
  /** From its onset to its end. */
  heard: TimeWindow;
  /** What its level is worked out from. */
  window: TimeWindow;
  /** The quiet stretch beside it. */
  quiet: TimeWindow | undefined;
  /** The calibrator’s, which is no reading. */
  tone: boolean;
  extra: boolean;
  missed: number;
  itemId: string | undefined;
  byHand: boolean;
}

/** The key of a window that was added by hand. */
export const handKey = ({ from }: TimeWindow): string => `h${from.toFixed(3)}`;

/** What was said of a sound last: of any moment of it. */
const saidOf = <T extends Said>(said: readonly T[], { from, to }: TimeWindow): T | undefined =>
  said.findLast(({ momentS }) => momentS >= from - 0.005 && momentS < to);

/** The same list with something else said of a sound; undefined takes back what was said. */
export const saying = <T extends Said>(said: readonly T[], heard: TimeWindow, entry: T | undefined): T[] => [
  ...said.filter(({ momentS }) => momentS < heard.from - 0.005 || momentS >= heard.to),
  ...(entry ? [entry] : []),
];

/** So many times shorter or longer than most sounds is hardly one of them. */
const ODD_TIMES = 3;
/** As many others there must be. */
const ENOUGH = 3;

/** What is to be said of a sound whose length is not that of the others, such as a dog among fans. */
export function oddLength(sounds: readonly Sound[], sound: Sound): string | undefined {
  const lengthOf = ({ heard: { from, to } }: Sound) => to - from;
  const others = sounds.filter((other) => other !== sound && !other.extra).map(lengthOf);
  if (others.length < ENOUGH) return undefined;
  const usual = median(sorted(others));
  const length = lengthOf(sound);
  if (length * ODD_TIMES < usual) return 'It is much shorter than the others: is it a reading?';
  return length > ODD_TIMES * usual ? 'It is much longer than the others: is it one sound?' : undefined;
}

/** Where the window of a sound begins and ends by what holds for all. */
function usualWindow({ from, to }: TimeWindow, lengthS: number, choices: SoundChoices): TimeWindow {
  const start = Math.max(0, from + choices.afterS);
  const end = choices.lengthS === undefined ? to : Math.min(lengthS, start + choices.lengthS);
  const rounded = (seconds: number) => Number(seconds.toFixed(3));
  return end > start ? { from: rounded(start), to: rounded(end) } : { from, to };
}

/**
 * Above this something sounds, dB relative to full scale. What was said of a sound that was heard through other filters
 * says nothing of this one.
 */
export const thresholdOf = (
  track: Float32Array,
  { threshold }: Pick<SoundChoices, 'threshold'>,
  filters: SoundFilters,
): number =>
  threshold?.through === filtersText(filters) ? threshold.level : backgroundOf(track) + USUAL_OVER;

/** What else is known of a recording. */
export interface KnownOf {
  /** How its track was heard. */
  filters: SoundFilters;
  lengthS: number;
  /** Where a calibrator sounds. */
  tones: readonly TimeWindow[];
  /** Windows that readings were taken of: these sound whatever the threshold is. */
  taken: readonly TimeWindow[];
}

const overlap = (a: TimeWindow, b: TimeWindow): boolean => a.from < b.to && b.from < a.to;

/** What sounds in a recording, in its order, with what was said of it. */
export function soundsOf(
  track: Float32Array,
  choices: SoundChoices,
  { filters, lengthS, tones, taken }: KnownOf,
): Sound[] {
  const found = findEvents(track, thresholdOf(track, choices, filters), choices.apartS);
  const isTone = (event: TimeWindow) => tones.some((tone) => overlap(tone, event));
  const added = choices.added.filter((window) => !taken.some((reading) => overlap(reading, window)));
  // Of readings that start together, one is enough to see what was taken.
  const starts = new Map(taken.map((window) => [window.from, window]));
  const known = [
    ...[...starts.values()].map((window) => ({ ...window, byHand: false, fixed: true })),
    ...added.map((window) => ({ ...window, byHand: true, fixed: false })),
  ].map((window) => ({ ...window, background: nearestOf(found, window) }));
  const heard = [
    ...found
      // Where a window is known, that is what sounds there.
      .filter((event) => !known.some((window) => overlap(window, event)))
      .map(({ from, to, background }) => ({ from, to, background, byHand: false, fixed: false })),
    ...known,
  ].sort((a, b) => a.from - b.from);
  return heard.map(({ background, byHand, fixed, from, to }) => {
    const event = { from, to };
    const moved = fixed ? undefined : saidOf(choices.moved, event);
    return {
      key: byHand ? handKey(event) : `s${from.toFixed(3)}`,
      heard: event,
      window: moved
        ? { from: moved.from, to: moved.to }
        : byHand || fixed
          ? event
          : usualWindow(event, lengthS, choices),
      quiet: background,
      tone: isTone(event),
      extra: isTone(event) || saidOf(choices.extras, event) !== undefined,
      missed: saidOf(choices.missed, event)?.count ?? 0,
      itemId: saidOf(choices.items, event)?.itemId,
      byHand,
    };
  });
}

/** The background of the sound that is nearest to a window. */
function nearestOf(
  found: readonly (TimeWindow & { background: TimeWindow | undefined })[],
  { from }: TimeWindow,
): TimeWindow | undefined {
  return [...found].sort((a, b) => Math.abs(a.from - from) - Math.abs(b.from - from))[0]?.background;
}

/** The calibration that levels of a file are worked out by: the chosen one, its own, or the last one before. */
export function calibrationFor(
  calibrations: readonly Calibration[],
  file: FilePart,
  { calibrationId }: Pick<SoundChoices, 'calibrationId'>,
): Calibration | undefined {
  if (calibrationId !== undefined) return calibrations.find(({ id }) => id === calibrationId);
  const inOrder = [...calibrations].sort((a, b) => byText(a.calibratedAt, b.calibratedAt));
  return inOrder.findLast(({ fileId }) => fileId === file.id) ?? inOrder.at(-1);
}

/** Where a calibrator sounds in a recording. */
export const tonesOf = (calibrations: readonly Calibration[], file: FilePart): TimeWindow[] =>
  calibrations.flatMap(({ fileId, toneFrom, toneTo }) =>
    fileId === file.id && toneFrom !== null && toneTo !== null ? [{ from: toneFrom, to: toneTo }] : [],
  );

/** The readings of a channel of a recording. */
export const readingsOfChannel = (
  readings: readonly Reading[],
  file: Pick<FilePart, 'id'>,
  channel: number,
): Reading[] =>
  readings.filter(
    (reading) =>
      partText(reading, SOUND_PARTS.file) === file.id &&
      Number(partText(reading, SOUND_PARTS.channel)) === channel,
  );
