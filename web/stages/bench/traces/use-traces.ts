import { useMemo } from 'react';
import { runQueue } from '../../../../core/bench/queue.ts';
import { placesInQueue, proposedItems } from '../../../../core/bench/tracks.ts';
import { readInstant } from '../../../../core/formats/cells.ts';
import { likelyReference } from '../../../../core/formats/trace-columns.ts';
import {
  TRACE_PARTS,
  columnText,
  howText,
  takenOff,
  trace,
  traceParts,
} from '../../../../core/forms/trace.ts';
import { partText, waitsToBeWorkedOut, windowOf } from '../../../../core/forms/worked-out.ts';
import type { FilePart, Item, Measurand, Reading } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import type { TraceSummary, TrackValue } from '../../../workers/trace.worker.ts';
import { type TrackWindow, trackValue, useTrackValues, useTraces } from '../../../app/api/traces.ts';
import {
  type Taken,
  type TakenTogether,
  itemsAtBench,
  takeBack,
  takeTogether,
  usedFiles,
  workAgain,
  workedOut,
} from '../from-files/worked-out.ts';
import { useSession } from '../session/use-session.ts';
import { useChoices } from './choices.ts';

/** A column of a file that a reading can be worked out from. */
interface Column {
  key: string;
  file: FilePart;
  head: string;
  name: string;
  summary: TraceSummary;
  asked: TrackWindow;
}

/** A column of a file, with its window and what comes of it. */
export interface TrackRow {
  key: string;
  file: FilePart;
  head: string;
  name: string;
  lengthS: number;
  stepS: number;
  startedAt: string | undefined;
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

/** The files of a study that are tables. */
export const tablesOf = ({ files }: StudyDocument): FilePart[] =>
  files.filter(({ file }) => file.endsWith('.csv'));

/** The columns of files, each with the window that is asked for. */
function useColumns(
  document: StudyDocument,
  { id, settings }: Measurand,
  fileId: string | undefined,
  before: readonly Reading[],
) {
  const { study } = document;
  const files = tablesOf(document);
  const read = useTraces(files);
  const [choices, change] = useChoices(study.id, id);
  const off = takenOff(settings).kind === 'column';
  const lessOf = (file: FilePart): string | undefined => {
    const summary = read[files.indexOf(file)]?.data;
    return off && summary ? (choices.less[file.id] ?? likelyReference(summary)) : undefined;
  };
  // What was worked out last is likely to be wanted again.
  const last = before.at(-1);
  const usual = last && windowOf(last);
  const columns = files.flatMap((file, i): Column[] => {
    const summary = fileId === undefined || file.id === fileId ? read[i]?.data : undefined;
    if (!summary) return [];
    const less = lessOf(file);
    const reference = summary.columns.find(({ head }) => head === less);
    return summary.columns
      .filter(({ head }) => head !== less)
      .map(({ head, name, fromS, toS }) => {
        const key = `${file.id}/${head}`;
        const { lengthS } = summary;
        // As far as there are values, where nothing was said.
        const whole = {
          from: Math.max(fromS, reference?.fromS ?? 0),
          to: Math.min(toS, reference?.toS ?? lengthS),
        };
        const { from, to } = (choices.shared ? choices.window : choices.windows[key]) ?? usual ?? whole;
        const window = { from: Math.min(from, lengthS), to: Math.min(to, lengthS) };
        return {
          key,
          file,
          head,
          name,
          summary,
          asked: { file: file.file, track: { column: head, less }, window },
        };
      });
  });
  return { read, choices, change, off, lessOf, columns };
}

/** The reading that was worked out of just this window, as it is asked now. */
const takenOf = (before: readonly Reading[], { file, head, asked: { window } }: Column, how: string) =>
  before.find((reading) => {
    const { from, to } = windowOf(reading);
    return (
      partText(reading, TRACE_PARTS.file) === file.id &&
      partText(reading, TRACE_PARTS.column) === columnText(head) &&
      partText(reading, TRACE_PARTS.how) === how &&
      from === window.from &&
      to === window.to
    );
  });

/** The parts of a reading from what a window gave. */
function partsOf(
  value: Exclude<TrackValue, { problem: string }>,
  window: TimeWindow,
  from: { fileId: string; column: string; less: string | undefined },
  measurand: Measurand,
): Reading['parts'] {
  const { fileId, column, less } = from;
  const names = { fileId, column, ...(less === undefined ? {} : { less }) };
  const understood = trace.read(traceParts(value, window, names, measurand.settings), measurand);
  return 'parts' in understood ? understood.parts : [];
}

/** What a reading comes to by the settings that hold now. */
async function workedAgain(
  reading: Reading,
  measurand: Measurand,
  files: readonly FilePart[],
  lessOf: (file: FilePart) => string | undefined,
): Promise<{ parts: Reading['parts'] } | { problem: string }> {
  const file = files.find(({ id }) => id === partText(reading, TRACE_PARTS.file));
  if (!file) return { problem: 'its file is not in this study.' };
  const column = partText(reading, TRACE_PARTS.column) ?? '';
  const off = takenOff(measurand.settings).kind === 'column';
  const less = off ? (partText(reading, TRACE_PARTS.less) ?? lessOf(file)) : undefined;
  const window = windowOf(reading);
  const value = await trackValue({ file: file.file, track: { column, less }, window }, measurand.settings);
  return 'problem' in value
    ? value
    : { parts: partsOf(value, window, { fileId: file.id, column, less }, measurand) };
}

/** The ticked windows as readings. */
function tickedToTake(rows: readonly TrackRow[], measurand: Measurand): Taken[] {
  return rows.flatMap((row): Taken[] => {
    const { ticked, value, place, file, head, window, asked } = row;
    if (!ticked || !value || 'problem' in value || !place) return [];
    const started = readInstant(row.startedAt ?? '');
    const from = { fileId: file.id, column: head, less: asked.track.less };
    return [
      {
        place,
        parts: partsOf(value, window, from, measurand),
        takenAt: started && new Date(Date.parse(started) + window.from * 1000).toISOString(),
      },
    ];
  });
}

/**
 * All that can be done with the files of a study, for one measurand.
 * @param fileId the file that is looked at; undefined for all
 */
export function useTracks(document: StudyDocument, measurand: Measurand, fileId: string | undefined) {
  const studyId = document.study.id;
  const before = useMemo(() => workedOut(document, measurand), [document, measurand]);
  const { columns, choices, lessOf, ...shown } = useColumns(document, measurand, fileId, before);
  const session = useSession(document);
  const queue = useMemo(() => runQueue(document), [document]);
  const items = useMemo(() => itemsAtBench(document), [document]);
  const tracks = columns.map(({ key, file: { id: fileId, name: file }, head: column }) => ({
    ...{ key, fileId, file, column },
  }));
  const proposed = proposedItems(tracks, items, queue, measurand.id);
  const itemIds = columns.map(({ key }) => choices.items[key] ?? proposed.get(key) ?? '');
  const values = useTrackValues(
    columns.map(({ asked }) => asked),
    measurand.settings,
  );
  const how = howText(measurand.settings);
  const ready = columns.map((column, i) => {
    const { data: value } = values[i] ?? {};
    const taken = takenOf(before, column, how);
    const good = itemIds[i] !== '' && value !== undefined && !('problem' in value) && !taken;
    return { taken, ticked: good && (choices.ticked[column.key] ?? true) };
  });
  // What is not taken leaves its run to others of its item.
  const places = placesInQueue(
    document,
    queue,
    measurand.id,
    ready.map(({ ticked }, i) => (ticked ? (itemIds[i] ?? '') : '')),
  );
  const rows = columns.map(({ key, file, head, name, asked, summary }, i): TrackRow => {
    const { error, data: value } = values[i] ?? {};
    const { taken, ticked = false } = ready[i] ?? {};
    const { lengthS, stepS, startedAt } = summary;
    return {
      ...{ key, file, head, name, asked, taken, ticked, value, lengthS, stepS, startedAt },
      item: items.find(({ id }) => id === itemIds[i]),
      window: asked.window,
      problem: error?.message,
      place: places[i],
    };
  });

  /** Records the ticked windows as readings. */
  const take = (): Promise<TakenTogether> => {
    const names = new Set(rows.filter(({ ticked }) => ticked).map(({ file }) => file.name));
    return takeTogether(studyId, session.session, names, tickedToTake(rows, measurand));
  };

  const used = useMemo(() => usedFiles(document), [document]);
  const stale = before.filter((reading) => waitsToBeWorkedOut(trace, measurand, reading));
  return {
    ...{ ...shown, choices, lessOf, items, rows, stale, used, take },
    takeBack: (together: TakenTogether) => takeBack(studyId, together),
    workAgain: () =>
      workAgain(stale, { studyId, items }, (reading) =>
        workedAgain(reading, measurand, document.files, lessOf),
      ),
  };
}
export type Tracks = ReturnType<typeof useTracks>;
