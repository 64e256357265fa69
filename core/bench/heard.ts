import { USUAL_APART_S, USUAL_OVER, backgroundOf, findEvents } from '../sound/events.ts';
import { median, sorted } from '../summary/quantile.ts';
import type { TimeWindow } from '../trace/series.ts';

/** Something that was said of what sounds at a moment of a recording, s. */
interface Said {
  momentS: number;
}

/** What was chosen for a recording and not taken yet. */
export interface SoundChoices {
  /** From 1. */
  channel: number;
  /** Above this something sounds, dB relative to full scale; undefined for so much over the background. */
  threshold?: number;
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

/** Above this something sounds, dB relative to full scale. */
export const thresholdOf = (track: Float32Array, { threshold }: Pick<SoundChoices, 'threshold'>): number =>
  threshold ?? backgroundOf(track) + USUAL_OVER;

/**
 * What sounds in a recording, in its order, with what was said of it.
 * @param tones where a calibrator sounds
 */
export function soundsOf(
  track: Float32Array,
  lengthS: number,
  choices: SoundChoices,
  tones: readonly TimeWindow[] = [],
): Sound[] {
  const found = findEvents(track, thresholdOf(track, choices), choices.apartS);
  const overlaps = (a: TimeWindow, b: TimeWindow) => a.from < b.to && b.from < a.to;
  const isTone = (event: TimeWindow) => tones.some((tone) => overlaps(tone, event));
  const heard = [
    ...found
      // Where a window was drawn by hand, that is what sounds there.
      .filter((event) => !choices.added.some((window) => overlaps(window, event)))
      .map(({ from, to, background }) => ({ from, to, background, byHand: false })),
    ...choices.added.map((window) => ({
      ...window,
      background: nearestOf(found, window),
      byHand: true,
    })),
  ].sort((a, b) => a.from - b.from);
  return heard.map(({ background, byHand, ...event }) => {
    const moved = saidOf(choices.moved, event);
    return {
      key: byHand ? handKey(event) : `s${event.from.toFixed(2)}`,
      heard: event,
      window: moved
        ? { from: moved.from, to: moved.to }
        : byHand
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
