import { useMemo } from 'react';
import {
  type Sound,
  calibrationFor,
  oddLength,
  readingsOfChannel,
  soundsOf,
  thresholdOf,
  tonesOf,
} from '../../../../core/bench/heard.ts';
import { runQueue } from '../../../../core/bench/queue.ts';
import { itemNamed } from '../../../../core/bench/tracks.ts';
import { type HeardRun, runsOfSounds } from '../../../../core/bench/sounds.ts';
import { type SoundValue, type SoundWindow, soundParts } from '../../../../core/formats/recording-value.ts';
import { SOUND_PARTS, recording, soundQuestion } from '../../../../core/forms/recording.ts';
import { partText, waitsToBeWorkedOut, windowOf } from '../../../../core/forms/worked-out.ts';
import { filtersText } from '../../../../core/sound/filters.ts';
import type { FilePart, Measurand, Reading } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { soundReader, useSoundValues, useTrack } from '../../../app/api/recordings.ts';
import {
  type Taken,
  type TakenTogether,
  itemsAtBench,
  takeBack,
  takeTogether,
  workAgain,
  workedOut,
} from '../from-files/worked-out.ts';
import { useSession } from '../session/use-session.ts';
import { useChoices } from './choices.ts';

/** The files of a study that are recordings. */
export const soundsIn = ({ files }: StudyDocument): FilePart[] =>
  files.filter(({ file }) => file.endsWith('.wav'));

/** A sound of a recording, with what comes of it. */
export interface SoundRow extends Sound {
  number: number;
  /** In the unit of the measurand. */
  level: number | undefined;
  asked: SoundWindow | undefined;
  value: SoundValue | { problem: string } | undefined;
  problem: string | undefined;
  /** What is odd about it among the others. */
  odd: string | undefined;
  /** Whose it is and where its reading goes; undefined for what is no reading. */
  run: HeardRun | undefined;
  /** The reading that was taken of it. */
  taken: Reading | undefined;
  ready: boolean;
}

/** What a sound that was taken waits for. */
const NOT_WAITING = {
  ...{ asked: undefined, value: undefined, problem: undefined, odd: undefined, run: undefined },
  ready: false,
} as const;

/** The parts of a reading from what a window gave. */
function partsOf(
  value: SoundValue,
  asked: SoundWindow,
  names: { fileId: string; calibrationId: string | undefined },
  measurand: Measurand,
): Reading['parts'] {
  const understood = recording.read(soundParts(value, asked, names, measurand.settings), measurand);
  return 'parts' in understood ? understood.parts : [];
}

/** What a reading comes to by the settings that hold now, with the calibration that it was worked out by. */
async function workedAgain(
  reading: Reading,
  measurand: Measurand,
  { files, calibrations }: StudyDocument,
): Promise<{ parts: Reading['parts'] } | { problem: string }> {
  const file = files.find(({ id }) => id === partText(reading, SOUND_PARTS.file));
  if (!file) return { problem: 'its file is not in this study.' };
  const number = (name: string) => reading.parts.find((part) => part.name === name)?.number ?? undefined;
  const [from, to] = [number(SOUND_PARTS.quietFrom), number(SOUND_PARTS.quietTo)];
  const named = calibrations.find(({ id }) => id === partText(reading, SOUND_PARTS.calibration));
  const calibration = named ?? calibrationFor(calibrations, file, {});
  const asked: SoundWindow = {
    channel: number(SOUND_PARTS.channel) ?? 1,
    window: windowOf(reading),
    quiet: from === undefined || to === undefined ? undefined : { from, to },
    fullScale: calibration?.fullScale,
  };
  const value = await soundReader().value(file.file, asked, measurand.settings);
  if ('problem' in value) return value;
  return { parts: partsOf(value, asked, { fileId: file.id, calibrationId: calibration?.id }, measurand) };
}

/** What is ready to be recorded. */
const readyToTake = (
  rows: readonly SoundRow[],
  names: { fileId: string; calibrationId: string | undefined },
  measurand: Measurand,
): Taken[] =>
  rows.flatMap(({ ready, value, run, asked }) =>
    ready && value && !('problem' in value) && run && asked
      ? [{ place: run.place, parts: partsOf(value, asked, names, measurand) }]
      : [],
  );

/** What sounds in a channel, and the readings that are taken from it. */
function useFound({
  before,
  track,
  head,
  choices,
  calibrations,
  file,
  settings,
}: {
  before: ReturnType<typeof workedOut>;
  track: ReturnType<typeof useTrack>['track'];
  head: { lengthS: number } | undefined;
  choices: ReturnType<typeof useChoices>[0];
  calibrations: StudyDocument['calibrations'];
  file: FilePart;
  settings: Measurand['settings'];
}) {
  const { channel } = choices;
  const readings = useMemo(() => readingsOfChannel(before, file, channel), [before, file, channel]);
  const sounds = useMemo(() => {
    if (!track || head === undefined) return [];
    const { filters: heardBy } = soundQuestion(settings);
    const known = { filters: heardBy, lengthS: head.lengthS, tones: tonesOf(calibrations, file) };
    return soundsOf(track, choices, { ...known, taken: readings.map(windowOf) });
  }, [track, head, choices, calibrations, file, readings, settings]);
  return { readings, sounds };
}

/** Each sound as a row: its reading, or the run that it is to be of and what its window gives. */
function useRows({
  document,
  measurand,
  file,
  queue,
  items,
  channel,
  readings,
  sounds,
  fullScale,
}: ReturnType<typeof useFound> & {
  document: StudyDocument;
  measurand: Measurand;
  file: FilePart;
  queue: ReturnType<typeof runQueue>;
  items: ReturnType<typeof itemsAtBench>;
  channel: number;
  /** dB; undefined where it is not calibrated. */
  fullScale: number | undefined;
}) {
  const taken = sounds.map(({ window }) =>
    readings.find((reading) => {
      const { from, to } = windowOf(reading);
      return from === window.from && to === window.to;
    }),
  );
  // What was taken waits for no run any more, and stays as it was taken.
  const waiting = sounds.filter((_, i) => !taken[i]);
  const asked = waiting.map(({ window, quiet }): SoundWindow => ({ channel, window, quiet, fullScale }));
  const values = useSoundValues(file.file, asked, measurand.settings);
  // A recording that is called after an item is of that item alone.
  const named = itemNamed(file.name.replace(/\.wav$/i, ''), items)?.id;
  const heard = waiting.map((sound) => ({ ...sound, itemId: sound.itemId ?? named }));
  const { runs, missed } = runsOfSounds(document, queue, measurand.id, heard);
  const rows = sounds.map((sound, i): SoundRow => {
    const reading = taken[i];
    const number = i + 1;
    if (reading) {
      const level = recording.value(reading.parts, measurand) ?? undefined;
      return { ...sound, ...NOT_WAITING, number, window: windowOf(reading), level, taken: reading };
    }
    const place = waiting.indexOf(sound);
    const { data: value, error: problem } = values[place] ?? {};
    const run = runs[place];
    return {
      ...sound,
      ...{ number, value, taken: undefined },
      level: value && !('problem' in value) ? value.value : undefined,
      asked: asked[place],
      problem: problem?.message,
      odd: oddLength(sounds, sound),
      run: run && { ...run, item: items.find(({ id }) => id === run.item.id) ?? run.item },
      ready: run !== undefined && value !== undefined && !('problem' in value),
    };
  });
  return { rows, missed };
}

/** All that can be done with one recording, for one measurand. */
export function useSounds(
  document: StudyDocument,
  measurand: Measurand,
  file: FilePart,
  head: { lengthS: number } | undefined,
) {
  const { study, calibrations } = document;
  const { settings } = measurand;
  const [choices, change] = useChoices(study.id, measurand.id, file.id);
  const { filters, calibrated } = soundQuestion(settings);
  const { channel } = choices;
  const { track, share, error } = useTrack(head && file.file, channel, filters);
  const before = useMemo(() => workedOut(document, measurand), [document, measurand]);
  const session = useSession(document);
  const queue = useMemo(() => runQueue(document), [document]);
  const items = useMemo(() => itemsAtBench(document), [document]);
  const calibration = calibrationFor(calibrations, file, choices);
  const through = filtersText(filters);
  const { readings, sounds } = useFound({ before, track, head, choices, calibrations, file, settings });
  const { rows, missed } = useRows({
    ...{ document, measurand, file, queue, items, channel, readings, sounds },
    fullScale: calibrated ? calibration?.fullScale : undefined,
  });
  const runsToCome = queue.filter(
    (run) => run.measurandId === measurand.id && run.state === 'to come',
  ).length;

  /** Records what is ready as readings, and what was missed as skipped. */
  const take = (): Promise<TakenTogether> => {
    const names = { fileId: file.id, calibrationId: calibration?.id };
    return takeTogether(
      study.id,
      session.session,
      new Set([file.name]),
      readyToTake(rows, names, measurand),
      missed,
    );
  };

  const stale = before.filter((reading) => waitsToBeWorkedOut(recording, measurand, reading));
  return {
    ...{ choices, change, track, share, error, rows, items, calibration, calibrated, runsToCome, stale },
    through,
    threshold: track && thresholdOf(track, choices, filters),
    take,
    takeBack: (together: TakenTogether) => takeBack(study.id, together),
    workAgain: () =>
      workAgain(stale, { studyId: study.id, items }, (reading) => workedAgain(reading, measurand, document)),
  };
}
export type Sounds = ReturnType<typeof useSounds>;
