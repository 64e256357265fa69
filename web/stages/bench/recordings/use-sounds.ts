import { useMemo } from 'react';
import {
  type Sound,
  type SoundChoices,
  oddLength,
  soundsOf,
  thresholdOf,
} from '../../../../core/bench/heard.ts';
import { runQueue } from '../../../../core/bench/queue.ts';
import { itemNamed } from '../../../../core/bench/tracks.ts';
import { type HeardRun, runsOfSounds } from '../../../../core/bench/sounds.ts';
import { type SoundValue, type SoundWindow, soundParts } from '../../../../core/formats/recording-value.ts';
import { SOUND_PARTS, recording, soundQuestion } from '../../../../core/forms/recording.ts';
import { partText, waitsToBeWorkedOut } from '../../../../core/forms/worked-out.ts';
import type { Calibration, FilePart, Item, Measurand, Reading } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { blindItems } from '../../../../core/plan/blind.ts';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import { soundReader, useSoundValues, useTrack } from '../../../app/api/recordings.ts';
import { type NewBenchPart, newRecordId, recordParts } from '../../../app/api/studies.ts';
import { sessionFor, takeBack, windowOf, workAgain, workedOut } from '../from-files/worked-out.ts';
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

/** The calibration that levels of a file are worked out by: the chosen one, its own, or the last one before. */
export function calibrationFor(
  calibrations: readonly Calibration[],
  file: FilePart,
  { calibrationId }: Pick<SoundChoices, 'calibrationId'>,
): Calibration | undefined {
  if (calibrationId !== undefined) return calibrations.find(({ id }) => id === calibrationId);
  const inOrder = [...calibrations].sort((a, b) => (a.calibratedAt < b.calibratedAt ? -1 : 1));
  return inOrder.findLast(({ fileId }) => fileId === file.id) ?? inOrder.at(-1);
}

/** Where a calibrator sounds in a recording. */
const tonesOf = (calibrations: readonly Calibration[], file: FilePart): TimeWindow[] =>
  calibrations.flatMap(({ fileId, toneFrom, toneTo }) =>
    fileId === file.id && toneFrom !== null && toneTo !== null ? [{ from: toneFrom, to: toneTo }] : [],
  );

/** The reading that was taken of a window: of more than half of it. */
const takenOf = (before: readonly Reading[], file: FilePart, channel: number, window: TimeWindow) =>
  before.find((reading) => {
    if (partText(reading, SOUND_PARTS.file) !== file.id) return false;
    const [from, to] = [windowOf(reading).from, windowOf(reading).to];
    const shared = Math.min(to, window.to) - Math.max(from, window.from);
    return Number(partText(reading, SOUND_PARTS.channel)) === channel && 2 * shared > window.to - window.from;
  });

const blindOrNot = (document: StudyDocument): readonly Item[] => {
  if (document.study.blind !== 'blind') return document.items;
  const blind = blindItems(document);
  return document.items.map((item) => blind.get(item.id) ?? item);
};

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
  const items = useMemo(() => blindOrNot(document), [document]);
  const calibration = calibrationFor(calibrations, file, choices);
  const sounds = useMemo(
    () => (track && head ? soundsOf(track, head.lengthS, choices, tonesOf(calibrations, file)) : []),
    [track, head, choices, calibrations, file],
  );
  const taken = sounds.map(({ window }) => takenOf(before, file, channel, window));
  // What was taken waits for no run any more, and stays as it was taken.
  const waiting = sounds.filter((_, i) => !taken[i]);
  const fullScale = calibrated ? calibration?.fullScale : undefined;
  const asked = waiting.map(({ window, quiet }): SoundWindow => ({ channel, window, quiet, fullScale }));
  const values = useSoundValues(file.file, asked, settings);
  // A recording that is called after an item is of that item alone.
  const named = itemNamed(file.name.replace(/\.wav$/i, ''), items)?.id;
  const heard = waiting.map((sound) => ({ ...sound, itemId: sound.itemId ?? named }));
  const runs = runsOfSounds(document, queue, measurand.id, heard);
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
  const runsToCome = queue.filter(
    (run) => run.measurandId === measurand.id && run.state === 'to come',
  ).length;

  /** Records what is ready as readings. @returns the ids of the readings */
  const take = async (): Promise<string[]> => {
    const now = new Date().toISOString();
    const { id: sessionId, opened } = sessionFor(study.id, session.session, now, new Set([file.name]));
    const added: NewBenchPart[] = [];
    const ids: string[] = [];
    for (const { ready, value, run, asked: window } of rows) {
      if (!ready || !value || 'problem' in value || !run || !window) continue;
      const { item, place } = run;
      const id = newRecordId(study.id);
      if (place.added) added.push({ kind: 'decisions', fields: { action: 'add-run', run: place.ref } });
      added.push({
        kind: 'readings',
        fields: {
          ...{ id, itemId: item.id, measurandId: measurand.id, sessionId },
          ...{ round: place.ref.round, place: place.place, source: 'recording', takenAt: now },
          levels: place.setting.map(({ id: levelId, factorId }) => ({ factorId, levelId })),
          parts: partsOf(value, window, { fileId: file.id, calibrationId: calibration?.id }, measurand),
        },
      });
      ids.push(id);
    }
    await recordParts(study.id, [...opened, ...added]);
    return ids;
  };

  const stale = before.filter((reading) => waitsToBeWorkedOut(recording, measurand, reading));
  return {
    ...{ choices, change, track, share, error, rows, items, calibration, calibrated, runsToCome, stale },
    threshold: track && thresholdOf(track, choices),
    take,
    takeBack: (ids: readonly string[]) => takeBack(study.id, ids),
    workAgain: () =>
      workAgain(stale, { studyId: study.id, items }, (reading) => workedAgain(reading, measurand, document)),
  };
}
export type Sounds = ReturnType<typeof useSounds>;
