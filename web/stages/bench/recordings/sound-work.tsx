import { type ReactNode, useState } from 'react';
import styled from 'styled-components';
import { handKey, saying } from '../../../../core/bench/heard.ts';
import type { FilePart, Measurand } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { counted } from '../../../../core/quantity/format.ts';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import { SavedNumber } from '../../../app/draft-field.tsx';
import { Choice } from '../../../ui/choice.tsx';
import { Row, Sheet } from '../../../ui/page.tsx';
import { Columns } from '../../../ui/span.tsx';
import type { SoundHead } from '../../../workers/recording.worker.ts';
import { Stale } from '../from-files/stale.tsx';
import { TakeAll } from '../from-files/take-all.tsx';
import { WindowFields } from '../from-files/window-fields.tsx';
import { CalibrationNote } from './calibration-note.tsx';
import { SoundStage } from './sound-stage.tsx';
import { SoundTable } from './sound-table.tsx';
import { type SoundRow, type Sounds, useSounds } from './use-sounds.ts';

const Work = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
  margin-top: 16px;
`;

/** What can be said of a sound. */
function changesOf({ change }: Sounds) {
  return {
    onExtra: ({ heard, byHand }: SoundRow, extra: boolean) => {
      change((before) => ({
        ...before,
        // A window that was added by hand and is none is gone.
        added: byHand && extra ? before.added.filter(({ from }) => from !== heard.from) : before.added,
        extras: byHand
          ? before.extras
          : saying(before.extras, heard, extra ? { momentS: heard.from } : undefined),
      }));
    },
    onMissed: ({ heard }: SoundRow, count: number) => {
      change((before) => ({
        ...before,
        missed: saying(before.missed, heard, count > 0 ? { momentS: heard.from, count } : undefined),
      }));
    },
    onItem: ({ heard }: SoundRow, itemId: string) => {
      change((before) => ({
        ...before,
        items: saying(before.items, heard, { momentS: heard.from, itemId }),
      }));
    },
    onAdd: (window: TimeWindow) => {
      change((before) => ({ ...before, added: [...before.added, window] }));
    },
    onWindow: ({ heard }: SoundRow, { from, to }: TimeWindow) => {
      change((before) => ({
        ...before,
        moved: saying(before.moved, heard, { momentS: heard.from, from, to }),
      }));
    },
  };
}

/** How far apart sounds are, and where their windows lie. */
function WindowsOfAll({ choices, change }: Pick<Sounds, 'choices' | 'change'>) {
  return (
    <>
      <SavedNumber
        columns={2}
        label="Apart by"
        unit="s"
        required
        saved={choices.apartS}
        check={(seconds) => (seconds < 0 || seconds > 600 ? 'From 0 to 600 s.' : undefined)}
        save={(seconds) => {
          change((before) => ({ ...before, apartS: seconds ?? 0 }));
          return Promise.resolve();
        }}
      />
      <SavedNumber
        columns={2}
        label="Begin after"
        unit="s"
        required
        saved={choices.afterS}
        check={(seconds) => (Math.abs(seconds) > 3600 ? 'At most an hour.' : undefined)}
        save={(seconds) => {
          change((before) => ({ ...before, afterS: seconds ?? 0 }));
          return Promise.resolve();
        }}
      />
      <SavedNumber
        columns={2}
        label="Length"
        placeholder="all"
        unit="s"
        saved={choices.lengthS ?? null}
        check={(seconds) => (seconds <= 0 || seconds > 36000 ? 'More than 0 s.' : undefined)}
        save={(seconds) => {
          change((before) => {
            const { lengthS: _, ...rest } = before;
            return seconds === null ? rest : { ...rest, lengthS: seconds };
          });
          return Promise.resolve();
        }}
      />
    </>
  );
}

/** How sounds are found, and where their windows lie. */
function Finding({
  sounds: { choices, change, threshold, through, calibration, calibrated },
}: {
  sounds: Sounds;
}) {
  const addDb = calibrated ? (calibration?.fullScale ?? 0) : 0;
  const unit = calibrated && calibration ? 'dB' : 'dB FS';
  return (
    <>
      <SavedNumber
        columns={2}
        label="Sounds above"
        unit={unit}
        required
        saved={threshold === undefined ? null : Number((threshold + addDb).toFixed(1))}
        save={(level) => {
          change((before) => {
            const { threshold: _, ...rest } = before;
            return level === null ? rest : { ...rest, threshold: { level: level - addDb, through } };
          });
          return Promise.resolve();
        }}
      />
      <WindowsOfAll choices={choices} change={change} />
    </>
  );
}

/** Which recording is looked at, and which of its channels. */
function Choosing({
  files,
  file,
  onFile,
  channels,
  sounds: { choices, change },
}: {
  files: readonly FilePart[];
  file: FilePart;
  onFile: (fileId: string) => void;
  channels: number;
  sounds: Sounds;
}) {
  return (
    <>
      {files.length > 1 && (
        <Choice
          label="Recording"
          labelHidden
          options={files.map(({ id, name }) => ({ value: id, label: name }))}
          value={file.id}
          onChange={onFile}
        />
      )}
      {channels > 1 && (
        <Choice
          label="Channel"
          labelHidden
          options={Array.from({ length: channels }, (_, i) => ({
            value: String(i + 1),
            label: `Channel ${String(i + 1)}`,
          }))}
          value={String(choices.channel)}
          onChange={(channel) => {
            change((before) => ({ ...before, channel: Number(channel) }));
          }}
        />
      )}
    </>
  );
}

/** What its levels stand on, where it is calibrated. */
function Calibrating({
  document,
  measurand,
  files,
  file,
  sounds: { choices, change, calibration, calibrated },
  chosen,
}: Pick<SoundWorkProps, 'document' | 'measurand' | 'files' | 'file'> & {
  sounds: Sounds;
  chosen: SoundRow | undefined;
}) {
  if (!calibrated) return null;
  return (
    <CalibrationNote
      measurand={measurand}
      files={files}
      file={file}
      calibrations={document.calibrations}
      calibration={calibration}
      channel={choices.channel}
      chosen={chosen}
      onChosen={(calibrationId) => {
        change((before) => ({ ...before, calibrationId }));
      }}
    />
  );
}

interface SoundWorkProps {
  document: StudyDocument;
  measurand: Measurand;
  files: readonly FilePart[];
  file: FilePart;
  onFile: (fileId: string) => void;
  head: SoundHead | undefined;
  title: ReactNode;
  notes: ReactNode;
}

/** Where the window of a sound begins and ends, as long as it is not taken. */
function ChosenWindow({
  chosen,
  lengthS,
  onWindow,
}: {
  chosen: SoundRow | undefined;
  lengthS: number;
  onWindow: ReturnType<typeof changesOf>['onWindow'];
}) {
  if (!chosen || chosen.taken || chosen.tone) return null;
  return (
    <WindowFields
      key={chosen.key}
      of={`sound ${String(chosen.number)}`}
      columns={2}
      window={chosen.window}
      lengthS={lengthS}
      onChange={(window) => {
        onWindow(chosen, window);
      }}
    />
  );
}

/** One recording: its picture, what sounds in it, and the readings to be. */
export function SoundWork(props: SoundWorkProps) {
  const { document, measurand, files, file, onFile, head, title, notes } = props;
  const sounds = useSounds(document, measurand, file, head);
  const { rows, items } = sounds;
  const [chosenKey, setChosenKey] = useState<string>();
  const chosen = rows.find(({ key }) => key === chosenKey) ?? rows.find(({ extra }) => !extra) ?? rows[0];
  const { onExtra, onMissed, onItem, onWindow, onAdd } = changesOf(sounds);
  return (
    <Sheet
      notesLabel="Recordings"
      notes={
        <>
          <Calibrating {...{ document, measurand, files, file, sounds, chosen }} />
          {notes}
        </>
      }
    >
      {title}
      <Stale stale={sounds.stale} workAgain={sounds.workAgain} measurand={measurand} />
      {head && (
        <Work>
          <SoundStage
            file={file}
            head={head}
            sounds={sounds}
            chosen={chosen}
            choosing={
              <Choosing files={files} file={file} onFile={onFile} channels={head.channels} sounds={sounds} />
            }
            onChoose={setChosenKey}
            onWindow={onWindow}
            onExtra={onExtra}
            onMissed={onMissed}
            onAdd={(window) => {
              onAdd(window);
              setChosenKey(handKey(window));
            }}
          />
          <Columns>
            <Finding sounds={sounds} />
            <ChosenWindow chosen={chosen} lengthS={head.lengthS} onWindow={onWindow} />
          </Columns>
          {rows.length > 0 && (
            <SoundTable
              rows={rows}
              items={items}
              measurand={measurand}
              chosenKey={chosen?.key}
              onChoose={setChosenKey}
              onExtra={onExtra}
              onMissed={onMissed}
              onItem={onItem}
            />
          )}
          <Taking sounds={sounds} measurand={measurand} />
        </Work>
      )}
    </Sheet>
  );
}

/** Why no sound can be taken. */
function nothingWords(rows: readonly SoundRow[]): string {
  if (rows.length === 0)
    return 'Nothing in this recording is louder than the threshold: drag it down in the picture, or add a window.';
  return rows.every(({ taken, extra }) => taken ?? extra)
    ? 'All that sounds here is taken, or is no reading.'
    : 'Nothing here can be taken yet.';
}

/** The one key that takes all, and what has no run. */
function Taking({
  sounds: { rows, track, runsToCome, take, takeBack },
  measurand,
}: {
  sounds: Sounds;
  measurand: Measurand;
}) {
  const lost = rows.filter(({ extra, taken, run }) => !extra && !taken && !run).length;
  return (
    <Row>
      <TakeAll
        measurand={measurand}
        ready={rows.filter((row) => row.ready).length}
        working={!track || rows.some(({ run, value, problem }) => run && !value && problem === undefined)}
        take={take}
        takeBack={takeBack}
        nothing={track && nothingWords(rows)}
      />
      {track && lost > 0 && (
        <p>
          {counted(lost, 'sound')} without a run: {counted(runsToCome, 'run')} to come. Choose an item for a
          run beyond the plan.
        </p>
      )}
    </Row>
  );
}
