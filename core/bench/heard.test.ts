import { describe, expect, it } from 'vitest';
import recordedFile from '../../demo/recorded-fans.json' with { type: 'json' };
import type { Calibration, FilePart } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { TRACK_STEP_S } from '../sound/track.ts';
import {
  type KnownOf,
  type SoundChoices,
  handKey,
  oddLength,
  saying,
  soundsOf,
  thresholdOf,
  calibrationFor,
  readingsOfChannel,
  tonesOf,
} from './heard.ts';

const FANS = recordedFile as unknown as StudyDocument;
const LENGTH_S = 30;
/** Three fans of three seconds, and a dog between the last two. */
const track = Float32Array.from({ length: LENGTH_S / TRACK_STEP_S }, (_, i) => {
  const t = (i + 0.5) * TRACK_STEP_S;
  if ([5, 12, 22].some((from) => t >= from && t < from + 3)) return -50;
  return t >= 18 && t < 18.3 ? -30 : -75;
});
const NOTHING: SoundChoices = {
  ...{ channel: 1, apartS: 0.5, afterS: 0 },
  ...{ extras: [], missed: [], moved: [], added: [], items: [] },
};
const A = { weighting: 'A' } as const;
const sounds = (change: Partial<SoundChoices> = {}, known: Partial<KnownOf> = {}) =>
  soundsOf(
    track,
    { ...NOTHING, ...change },
    { filters: A, lengthS: LENGTH_S, tones: [], taken: [], ...known },
  );

describe('what sounds in a recording', () => {
  it('is found over the threshold, which lies over the background until it is moved', () => {
    const threshold = { level: -40, through: 'A' };
    expect(thresholdOf(track, {}, A)).toBe(-65);
    expect(thresholdOf(track, { threshold }, A)).toBe(-40);
    // Heard through other filters it is another sound.
    expect(thresholdOf(track, { threshold }, { weighting: 'Z' })).toBe(-65);
    expect(thresholdOf(track, { threshold }, { ...A, band: '1000' })).toBe(-65);
    expect(sounds().map(({ heard }) => [heard.from, heard.to])).toEqual([
      [5, 8],
      [12, 15],
      [18, 18.3],
      [22, 25],
    ]);
    expect(sounds({ threshold })).toHaveLength(1);
  });
  it('has a window after its onset, as long as is said, within the recording', () => {
    const [first, , dog] = sounds({ afterS: 0.5, lengthS: 2 });
    expect([first?.window, dog?.window]).toEqual([
      { from: 5.5, to: 7.5 },
      { from: 18.5, to: 20.5 },
    ]);
    expect(sounds({ afterS: -9, lengthS: 2 })[0]?.window).toEqual({ from: 0, to: 2 });
    // Where nothing is left of the sound, it is all of it.
    expect(sounds({ afterS: 1 })[2]?.window).toEqual({ from: 18, to: 18.3 });
    expect(sounds({ lengthS: 60 })[3]?.window).toEqual({ from: 22, to: LENGTH_S });
  });
  it('keeps what was said of it, though the threshold moves its onset a little', () => {
    const said = {
      extras: [{ momentS: 18.1 }],
      missed: [{ momentS: 12, count: 2 }],
      items: [{ momentS: 22, itemId: 'a' }],
      moved: [{ momentS: 5, from: 5.2, to: 6 }],
    };
    const [first, second, dog, last] = sounds(said);
    expect(first?.window).toEqual({ from: 5.2, to: 6 });
    expect([second?.missed, dog?.extra, last?.itemId]).toEqual([2, true, 'a']);
    expect([first?.extra, first?.missed, first?.itemId]).toEqual([false, 0, undefined]);
  });
  it('is the calibrator’s where that is said to sound, and no reading', () => {
    expect(sounds({}, { tones: [{ from: 5.3, to: 7.7 }] }).map(({ tone, extra }) => [tone, extra])).toEqual([
      [true, true],
      [false, false],
      [false, false],
      [false, false],
    ]);
  });
  it('is what a window by hand says in place of what was found there', () => {
    const [window] = [{ from: 4, to: 13 }];
    const found = sounds({ added: [window], afterS: 1 });
    expect(found.map(({ byHand, window: cut }) => [byHand, cut.from])).toEqual([
      [true, 4],
      [false, 18],
      [false, 23],
    ]);
    expect(found[0]?.key).toBe(handKey(window));
    expect(found[0]?.quiet).toBeDefined();
  });
  it('is there once where two readings start together', () => {
    const keys = sounds(
      {},
      {
        taken: [
          { from: 5.5, to: 7 },
          { from: 5.5, to: 7.8 },
        ],
      },
    ).map(({ key }) => key);
    expect(keys.filter((key) => key === 's5.500')).toHaveLength(1);
    expect(new Set(keys).size).toBe(keys.length);
  });
  it('is what was taken, whatever the threshold and whatever was added before', () => {
    const taken = [{ from: 5.5, to: 7.8 }];
    const low = { level: -90, through: 'A' };
    const windows = (change: Partial<SoundChoices>) => sounds(change, { taken }).map(({ window }) => window);
    expect(windows({ threshold: low })).toEqual(taken);
    expect(windows({ added: [{ from: 5, to: 9 }] })).toHaveLength(4);
    expect(windows({})[0]).toEqual(taken[0]);
  });
  it('is odd where it is much shorter or longer than the others', () => {
    const all = sounds();
    const words = all.map((sound) => oddLength(all, sound));
    expect(words).toEqual([
      undefined,
      undefined,
      'It is much shorter than the others: is it a reading?',
      undefined,
    ]);
    expect(oddLength(all.slice(0, 3), all[2] as (typeof all)[number])).toBeUndefined();
  });
});

describe('what is said of a sound', () => {
  const heard = { from: 5, to: 8 };
  it('takes the place of what was said of it before, and of nothing else', () => {
    const before = [
      { momentS: 4, n: 1 },
      { momentS: 5, n: 2 },
      { momentS: 7.9, n: 3 },
      { momentS: 8, n: 4 },
    ];
    expect(saying(before, heard, { momentS: 5, n: 9 }).map(({ n }) => n)).toEqual([1, 4, 9]);
    expect(saying(before, heard, undefined).map(({ n }) => n)).toEqual([1, 4]);
  });
});

describe('what levels of a recording are by', () => {
  const [first, second, third] = FANS.calibrations as [Calibration, Calibration, Calibration];
  const [early, , last] = FANS.files as [FilePart, FilePart, FilePart];
  it('is the calibration of its own tone, though a later one is there', () => {
    expect(calibrationFor(FANS.calibrations, early, {})?.id).toBe(first.id);
    expect(calibrationFor([third, second, first], last, {})?.id).toBe(third.id);
  });
  it('is the last one where it has none, or the one that was chosen', () => {
    const other = { ...early, id: 'another' };
    expect(calibrationFor(FANS.calibrations, other, {})?.id).toBe(third.id);
    expect(calibrationFor(FANS.calibrations, early, { calibrationId: second.id })?.id).toBe(second.id);
    expect(calibrationFor([], early, {})).toBeUndefined();
  });
  it('sounds where its tone is, and in no other recording', () => {
    expect(tonesOf(FANS.calibrations, early)).toEqual([{ from: 1, to: 3 }]);
    expect(tonesOf(FANS.calibrations, { ...early, id: 'another' })).toEqual([]);
  });
});

describe('the readings of a recording', () => {
  const [file, other] = FANS.files as [FilePart, FilePart];
  it('are those of a channel of it', () => {
    expect(readingsOfChannel(FANS.readings, file, 1).map(({ round }) => round)).toEqual([1, 1, 1, 1, 1, 1]);
    expect(readingsOfChannel(FANS.readings, file, 2)).toEqual([]);
    expect(readingsOfChannel(FANS.readings, other, 1).every(({ round }) => round === 2)).toBe(true);
  });
});
