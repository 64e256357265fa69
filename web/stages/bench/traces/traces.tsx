import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import {
  takenOff,
  trace,
  traceQuantityLabel,
  traceQuestion,
  traceUnit,
} from '../../../../core/forms/trace.ts';
import type { Measurand } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { counted, formatPlain, withUnit } from '../../../../core/quantity/format.ts';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import { useStudy } from '../../../app/study-frame.tsx';
import { addTrace, useTrackLines } from '../../../app/api/traces.ts';
import { TRACE_COLUMNS, TRACE_LEFT, TRACE_RIGHT, TracePicture } from '../../../strip/trace-picture.tsx';
import { Button } from '../../../ui/button.tsx';
import { Choice } from '../../../ui/choice.tsx';
import { Note } from '../../../ui/note.tsx';
import { Row, Sheet } from '../../../ui/page.tsx';
import { Columns } from '../../../ui/span.tsx';
import { Segments } from '../../../ui/segments.tsx';
import { Stale } from '../from-files/stale.tsx';
import { FilesPage } from '../from-files/files-page.tsx';
import { TakeAll } from '../from-files/take-all.tsx';
import { WindowFields, WindowSlider } from '../from-files/window-fields.tsx';
import { FileNotes } from './file-notes.tsx';
import { TrackTable } from './track-table.tsx';
import { type TrackRow, type Tracks, tablesOf, useTracks } from './use-traces.ts';

const FILES = ['.csv', '.txt', '.tsv', '.log', 'text/csv', 'text/plain', 'text/tab-separated-values'];

/** So many files are shown over each other unless one is chosen. */
const FEW_FILES = 1;
const ALL_FILES = { value: '', label: 'All files' };

const Work = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
  margin-top: 16px;
`;

/** Levels that the question is about, to be drawn across the picture. */
function levelsOf({ settings }: Measurand): number[] {
  const { quantity, threshold, low, high } = traceQuestion(settings);
  if (quantity === 'timeTo') return [threshold];
  return quantity === 'within' || quantity === 'recovery' ? [low, high] : [];
}

/** The traces that items' values are worked out from, over each other. */
function Picture({
  rows,
  measurand,
  chosen,
  view,
  shaded,
}: {
  rows: readonly TrackRow[];
  measurand: Measurand;
  chosen: TrackRow;
  view: 'file' | 'window';
  /** The window of the one that is looked at, as it is dragged. */
  shaded: TimeWindow;
}) {
  const shown = rows.filter(({ item }) => item);
  const longest = Math.max(
    1,
    ...shown.map(({ lengthS, window: cut }) => (view === 'file' ? lengthS : cut.to - cut.from)),
  );
  const lines = useTrackLines(
    shown.map(({ asked, lengthS }) => ({
      ...asked,
      window: view === 'file' ? { from: 0, to: lengthS } : asked.window,
    })),
    measurand.settings,
    TRACE_COLUMNS,
  );
  const unit = traceUnit(measurand.settings);
  return (
    <TracePicture
      label={`Traces of ${counted(shown.length, 'item')} over time. The table below has the values.`}
      caption={
        view === 'file'
          ? 'Each file from its first row; the shaded window is what the values are worked out from.'
          : 'Each from the start of its window. The broken line is the fitted curve, where there is one.'
      }
      unit={unit}
      from={0}
      to={longest}
      window={view === 'file' ? shaded : undefined}
      levels={levelsOf(measurand)}
      lines={shown.map(({ key, item, window: cut, value }, i) => {
        const start = view === 'file' ? 0 : cut.from;
        const good = value && !('problem' in value) ? value : undefined;
        const moved = (points: readonly { x: number; y: number }[]) =>
          start === 0 ? points : points.map(({ x, y }) => ({ x: x - start, y }));
        return {
          id: key,
          name: item?.name ?? '',
          mark: item?.mark ?? 0,
          points: moved(lines[i]?.data ?? []),
          curve: moved(good?.curvePoints ?? []),
          moment: good?.moment === undefined ? undefined : good.moment + cut.from - start,
          chosen: key === chosen.key,
        };
      })}
    />
  );
}

/** Which file is looked at, how, and whether its columns share a window. */
function Views({
  files,
  fileId,
  onFile,
  view,
  onView,
  tracks: { rows, choices, change },
}: {
  files: StudyDocument['files'];
  fileId: string | undefined;
  onFile: (fileId: string) => void;
  view: 'file' | 'window';
  onView: (view: 'file' | 'window') => void;
  tracks: Tracks;
}) {
  return (
    <Row>
      {files.length > 1 && (
        <Choice
          label="File"
          labelHidden
          options={[ALL_FILES, ...files.map(({ id, name }) => ({ value: id, label: name }))]}
          value={fileId ?? ''}
          onChange={onFile}
        />
      )}
      <Segments
        label="Shown"
        labelHidden
        options={[
          { value: 'file', label: 'Whole files' },
          { value: 'window', label: 'From a common start' },
        ]}
        value={view}
        onChange={onView}
      />
      <Segments
        label="Windows"
        labelHidden
        options={[
          { value: 'shared', label: 'One window for all' },
          { value: 'own', label: 'Each its own' },
        ]}
        value={choices.shared ? 'shared' : 'own'}
        onChange={(next) => {
          change((before) => ({
            ...before,
            shared: next === 'shared',
            // What held for all is where each begins.
            windows:
              next === 'own' && before.window
                ? { ...Object.fromEntries(rows.map((row) => [row.key, row.window])), ...before.windows }
                : before.windows,
          }));
        }}
      />
    </Row>
  );
}

/** The traces with the window of the one that is looked at, which is moved in the picture or typed. */
function Windows({
  tracks: { rows, choices, change },
  measurand,
  view,
  chosen,
}: {
  tracks: Tracks;
  measurand: Measurand;
  view: 'file' | 'window';
  chosen: TrackRow;
}) {
  // What is being dragged is worked out once it is let go.
  const [dragged, setDragged] = useState<TimeWindow>();
  const setWindow = (next: TimeWindow) => {
    setDragged(undefined);
    change((before) =>
      before.shared
        ? { ...before, window: next }
        : { ...before, windows: { ...before.windows, [chosen.key]: next } },
    );
  };
  const shown = dragged ?? chosen.window;
  return (
    <>
      <Picture rows={rows} measurand={measurand} chosen={chosen} view={view} shaded={shown} />
      {view === 'file' && (
        <WindowSlider
          window={shown}
          lengthS={Math.max(...rows.filter(({ item }) => item).map(({ lengthS }) => lengthS), chosen.lengthS)}
          stepS={chosen.stepS}
          left={TRACE_LEFT}
          right={TRACE_RIGHT}
          onDrag={setDragged}
          onChange={setWindow}
        />
      )}
      <Columns>
        <WindowFields
          key={choices.shared ? 'all' : chosen.key}
          window={chosen.window}
          lengthS={chosen.lengthS}
          onChange={setWindow}
        />
      </Columns>
    </>
  );
}

/** Takes what is ticked as readings. */
function TakeTicked({
  tracks: { rows, take, takeBack },
  measurand,
}: {
  tracks: Tracks;
  measurand: Measurand;
}) {
  return (
    <Row>
      <TakeAll
        measurand={measurand}
        ready={rows.filter(({ ticked, place }) => ticked && place).length}
        working={rows.some(({ item, value, problem }) => item && !value && problem === undefined)}
        take={take}
        takeBack={takeBack}
        nothing={
          rows.every(({ taken, item }) => taken ?? !item)
            ? 'All of these are taken as readings.'
            : 'Nothing here is ticked to be taken.'
        }
      />
    </Row>
  );
}

/** Readings of one measurand from the files of a study. */
function TracesOf({
  document,
  measurand,
  head,
}: {
  document: StudyDocument;
  measurand: Measurand;
  head: ReactNode;
}) {
  const [wantedFile, setWantedFile] = useState<string>();
  const files = tablesOf(document);
  // Of many files the last one is likely to be wanted; of a few, all over each other.
  const fileId = wantedFile ?? (files.length > FEW_FILES ? files.at(-1)?.id : '');
  const tracks = useTracks(document, measurand, fileId === '' ? undefined : fileId);
  const { rows, choices, change, items } = tracks;
  const [view, setView] = useState<'file' | 'window'>('file');
  const [chosenKey, setChosenKey] = useState<string>();
  const chosen = rows.find(({ key }) => key === chosenKey) ?? rows.find(({ item }) => item) ?? rows[0];
  return (
    <Sheet
      notesLabel="Files"
      notes={
        <>
          <Question measurand={measurand} />
          <FileNotes files={files} tracks={tracks} fileId={fileId} onChoose={setWantedFile} />
        </>
      }
    >
      {head}
      <Stale stale={tracks.stale} workAgain={tracks.workAgain} measurand={measurand} />
      {chosen && (
        <Work>
          <Views {...{ files, fileId, view, tracks }} onFile={setWantedFile} onView={setView} />
          <Windows tracks={tracks} measurand={measurand} view={view} chosen={chosen} />
          <TrackTable
            rows={rows}
            items={items}
            measurand={measurand}
            severalFiles={fileId === '' && files.length > 1}
            separate={!choices.shared}
            chosenKey={chosen.key}
            onChoose={setChosenKey}
            onItem={(key, itemId) => {
              change((before) => ({ ...before, items: { ...before.items, [key]: itemId } }));
            }}
            onTick={(key, ticked) => {
              change((before) => ({ ...before, ticked: { ...before.ticked, [key]: ticked } }));
            }}
          />
          <TakeTicked tracks={tracks} measurand={measurand} />
        </Work>
      )}
    </Sheet>
  );
}

/** What is asked of each window, and where that is said. */
function Question({ measurand: { settings, unit } }: { measurand: Measurand }) {
  const navigate = useNavigate();
  const off = takenOff(settings);
  return (
    <Note
      title={`${traceQuantityLabel(settings)}${unit === '' ? '' : `, in ${unit}`}`}
      actions={
        <Button size="small" onPress={() => void navigate('../plan')}>
          Change it in the plan
        </Button>
      }
    >
      {off.kind === 'none'
        ? 'Nothing is taken off.'
        : off.kind === 'fixed'
          ? `${withUnit(formatPlain(off.value), traceUnit(settings))} is taken off.`
          : 'Another column of the file is taken off.'}
    </Note>
  );
}

const WORDS = {
  noun: 'file',
  notes: 'Files',
  about:
    'Each column is an item’s; its window is worked out into a reading, and the file stays with the study.',
  empty:
    'A logger’s table with a column of times: seconds, clock times, or dates. Each other column can become a reading of an item.',
  unread: {
    title: 'Nothing in this plan is read from traces.',
    todo: 'Choose “Trace” as the reading form of a measurand first.',
  },
};

/** From what loggers wrote to readings: files, windows, and what comes of them. */
export function Traces() {
  const document = useStudy();
  return (
    <FilesPage
      form={trace.name}
      files={tablesOf(document)}
      accept={FILES}
      words={WORDS}
      keep={(file) => addTrace(document.study.id, file, document.files)}
    >
      {(measurand, head) => (
        <TracesOf key={measurand.id} document={document} measurand={measurand} head={head} />
      )}
    </FilesPage>
  );
}
