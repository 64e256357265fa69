import { useMemo } from 'react';
import { runQueue } from '../../../../core/bench/queue.ts';
import { placesInQueue, proposedItems } from '../../../../core/bench/tracks.ts';
import { likelyReference } from '../../../../core/formats/trace-columns.ts';
import { TRACE_PARTS, howText, takenOff, trace, traceParts } from '../../../../core/forms/trace.ts';
import { readInstant } from '../../../../core/formats/cells.ts';
import type { FilePart, Item, Measurand, Reading } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { blindItems } from '../../../../core/plan/blind.ts';
import { recordOf } from '../../../../core/record/record.ts';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import type { TraceSummary, TrackValue } from '../../../workers/trace.worker.ts';
import { isRecord, isTexts, useKept } from '../../../app/kept.ts';
import { type NewBenchPart, newRecordId, recordParts } from '../../../app/api/studies.ts';
import { type TrackWindow, trackValue, useTrackValues, useTraces } from '../../../app/api/traces.ts';
import { useSession } from '../session/use-session.ts';

/** What was chosen and not taken yet. */
interface Choices {
  /** One window for all, or each its own. */
  shared: boolean;
  window?: TimeWindow;
  windows: Record<string, TimeWindow>;
  /** Items by the keys of tracks; '' for none. */
  items: Record<string, string>;
  /** The column that is taken off, by the ids of files. */
  less: Record<string, string>;
  /** Tracks that are ticked or not, where that is not as it was proposed. */
  ticked: Record<string, boolean>;
}

const NOTHING_CHOSEN: Choices = { shared: true, windows: {}, items: {}, less: {}, ticked: {} };

const isWindow = (value: unknown): value is TimeWindow =>
  isRecord(value) && typeof value.from === 'number' && typeof value.to === 'number';
const isChoices = (value: unknown): value is Choices =>
  isRecord(value) &&
  typeof value.shared === 'boolean' &&
  (value.window === undefined || isWindow(value.window)) &&
  isRecord(value.windows) &&
  Object.values(value.windows).every(isWindow) &&
  isTexts(value.items) &&
  isTexts(value.less) &&
  isRecord(value.ticked) &&
  Object.values(value.ticked).every((ticked) => typeof ticked === 'boolean');

/** A column of a file, with its window and what comes of it. */
export interface TrackRow {
  key: string;
  file: FilePart;
  head: string;
  name: string;
  lengthS: number;
  stepS: number;
  item: Item | undefined;
  window: TimeWindow;
  asked: TrackWindow;
  value: TrackValue | undefined;
  problem: string | undefined;
  /** Where its reading goes; undefined without an item. */
  place: ReturnType<typeof placesInQueue>[number];
  /** The reading that was taken of just this. */
  taken: Reading | undefined;
  ticked: boolean;
}

const textOf = ({ parts }: Reading, name: string): string | undefined =>
  parts.find((part) => part.name === name)?.text;
const numberOf = ({ parts }: Reading, name: string): number =>
  parts.find((part) => part.name === name)?.number ?? Number.NaN;

/** The readings of a measurand that count and were worked out from files. */
const workedOut = (document: StudyDocument, measurand: Measurand): Reading[] =>
  recordOf(document).readings.flatMap(({ reading, standing }) =>
    reading.measurandId === measurand.id &&
    standing.is === 'kept' &&
    textOf(reading, TRACE_PARTS.file) !== undefined
      ? [reading]
      : [],
  );

/**
 * All that can be done with the files of a study, for one measurand.
 * @param fileId the file that is looked at; undefined for all
 */
export function useTracks(document: StudyDocument, measurand: Measurand, fileId: string | undefined) {
  const studyId = document.study.id;
  const { files } = document;
  const { settings } = measurand;
  const read = useTraces(files);
  const session = useSession(document);
  const [choices, change, forget] = useKept<Choices>(
    `traces/${studyId}/${measurand.id}`,
    () => NOTHING_CHOSEN,
    isChoices,
  );
  const queue = useMemo(() => runQueue(document), [document]);
  const items = useMemo(() => {
    if (document.study.blind !== 'blind') return document.items;
    const shown = blindItems(document);
    return document.items.map((item) => shown.get(item.id) ?? item);
  }, [document]);
  const off = takenOff(settings).kind === 'column';
  const lessOf = (file: FilePart, summary: TraceSummary): string | undefined =>
    off ? (choices.less[file.id] ?? likelyReference(summary)) : undefined;
  const bare = files.flatMap((file, i) => {
    const summary = fileId === undefined || file.id === fileId ? read[i]?.data : undefined;
    return (summary?.columns ?? []).flatMap(({ head, name }) =>
      summary && head !== lessOf(file, summary)
        ? [{ key: `${file.id}/${head}`, file, head, name, summary }]
        : [],
    );
  });
  const proposed = proposedItems(
    bare.map(({ key, file, head }) => ({ key, file: file.name, column: head })),
    items,
    queue,
    measurand.id,
  );
  const how = howText(settings);
  const before = workedOut(document, measurand);
  // What was worked out last is likely to be wanted again.
  const last = before.at(-1);
  const usual = last && {
    from: numberOf(last, TRACE_PARTS.from),
    to: numberOf(last, TRACE_PARTS.to),
  };
  const windowOf = (key: string, { lengthS }: TraceSummary): TimeWindow => {
    const { from, to } = (choices.shared ? choices.window : choices.windows[key]) ??
      usual ?? { from: 0, to: lengthS };
    return { from: Math.min(from, lengthS), to: Math.min(to, lengthS) };
  };
  const asked = bare.map(({ key, file, head, summary }): TrackWindow => ({
    file: file.file,
    track: { column: head, less: lessOf(file, summary) },
    window: windowOf(key, summary),
  }));
  const values = useTrackValues(asked, settings);
  const chosen = bare.map(({ key, file, head }, i) => {
    const { window } = asked[i] as TrackWindow;
    const itemId = choices.items[key] ?? proposed.get(key) ?? '';
    const taken = before.find(
      (reading) =>
        textOf(reading, TRACE_PARTS.file) === file.id &&
        textOf(reading, TRACE_PARTS.column) === head.slice(0, 60) &&
        textOf(reading, TRACE_PARTS.how) === how &&
        numberOf(reading, TRACE_PARTS.from) === window.from &&
        numberOf(reading, TRACE_PARTS.to) === window.to,
    );
    const value = values[i]?.data;
    const good = itemId !== '' && value !== undefined && !('problem' in value) && !taken;
    return { itemId, taken, ticked: good && (choices.ticked[key] ?? true) };
  });
  const wanted = chosen.filter(({ itemId }) => itemId !== '');
  const places = placesInQueue(
    document,
    queue,
    measurand.id,
    wanted.map(({ itemId }) => itemId),
  );
  const rows = bare.map(({ key, file, head, name, summary }, i): TrackRow => {
    const { itemId, taken, ticked } = chosen[i] as (typeof chosen)[number];
    const { error, data } = values[i] ?? {};
    return {
      ...{ key, file, head, name, taken, ticked },
      ...{ lengthS: summary.lengthS, stepS: summary.stepS },
      item: items.find(({ id }) => id === itemId),
      window: (asked[i] as TrackWindow).window,
      asked: asked[i] as TrackWindow,
      value: data,
      problem: error?.message,
      place: places[wanted.indexOf(chosen[i] as (typeof chosen)[number])],
    };
  });

  const partsOf = (texts: Record<string, string>) => {
    const understood = trace.read(texts, measurand);
    return 'parts' in understood ? understood.parts : [];
  };

  /** Records the ticked windows as readings. @returns the ids of the readings */
  const take = async (): Promise<string[]> => {
    const now = new Date().toISOString();
    const { id: sessionId, parts: opened } = session.forReading(now);
    const added: NewBenchPart[] = [];
    const ids: string[] = [];
    for (const { ticked, value, place, item, file, head, window, asked: question } of rows) {
      if (!ticked || !value || 'problem' in value || !place || !item) continue;
      const id = newRecordId(studyId);
      const { less } = question.track;
      const summary = read[files.indexOf(file)]?.data;
      const texts = traceParts(
        value,
        window,
        { fileId: file.id, column: head, ...(less === undefined ? {} : { less }) },
        settings,
      );
      const started = readInstant(summary?.startedAt ?? '');
      if (place.added) added.push({ kind: 'decisions', fields: { action: 'add-run', run: place.ref } });
      added.push({
        kind: 'readings',
        fields: {
          ...{ id, itemId: item.id, measurandId: measurand.id, sessionId },
          ...{ round: place.ref.round, place: place.place },
          levels: place.setting.map(({ id: levelId, factorId }) => ({ factorId, levelId })),
          ...{ parts: partsOf(texts), source: 'recording' },
          takenAt:
            started === undefined ? now : new Date(Date.parse(started) + window.from * 1000).toISOString(),
        },
      });
      ids.push(id);
    }
    await recordParts(studyId, [...opened, ...added]);
    return ids;
  };

  /** Takes readings back that were just taken. */
  const takeBack = (ids: readonly string[]) =>
    recordParts(
      studyId,
      ids.map((readingId) => ({
        kind: 'decisions',
        fields: { action: 'withdraw', readingId, reason: 'taken back' },
      })),
    );

  const stale = before.filter((reading) => textOf(reading, TRACE_PARTS.how) !== how);
  /** Works readings out again that were worked out with other settings. @returns what could not be, in sentences */
  const workAgain = async (): Promise<string[]> => {
    const problems: string[] = [];
    const added: NewBenchPart[] = [];
    for (const reading of stale) {
      const file = files.find(({ id }) => id === textOf(reading, TRACE_PARTS.file));
      const column = textOf(reading, TRACE_PARTS.column) ?? '';
      const summary = file && read[files.indexOf(file)]?.data;
      const item = items.find(({ id }) => id === reading.itemId);
      const less = off
        ? (textOf(reading, TRACE_PARTS.less) ?? (file && summary && lessOf(file, summary)))
        : undefined;
      const window = { from: numberOf(reading, TRACE_PARTS.from), to: numberOf(reading, TRACE_PARTS.to) };
      const say = (problem: string) =>
        problems.push(`${item?.name ?? ''}, round ${String(reading.round)}: ${problem}`);
      if (!file) {
        say('its file is not in this study.');
        continue;
      }
      try {
        const value = await trackValue({ file: file.file, track: { column, less }, window }, settings);
        if ('problem' in value) {
          say(value.problem);
          continue;
        }
        const texts = traceParts(
          value,
          window,
          { fileId: file.id, column, ...(less === undefined ? {} : { less }) },
          settings,
        );
        const { itemId, measurandId, sessionId, round, place, levels, source, takenAt } = reading;
        added.push(
          { kind: 'decisions', fields: { action: 'take-again', readingId: reading.id } },
          {
            kind: 'readings',
            fields: {
              ...{ itemId, measurandId, sessionId, round, place, levels, source, takenAt },
              parts: partsOf(texts),
            },
          },
        );
      } catch (error) {
        say(error instanceof Error ? error.message : String(error));
      }
    }
    if (added.length > 0) await recordParts(studyId, added);
    return problems;
  };

  return { ...{ choices, change, forget, items, read, rows, stale, take, takeBack, workAgain, off, lessOf } };
}
export type Tracks = ReturnType<typeof useTracks>;
