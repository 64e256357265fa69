import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { StudyColumn, StudyMatching } from '../../../core/formats/study-columns.ts';
import { counted, listed } from '../../../core/quantity/format.ts';
import { parseStudyTable, readStudyTable } from '../../app/api/analysis.ts';
import { problemText } from '../../app/api/client.ts';
import { createWholeStudy, newSeed } from '../../app/api/studies.ts';
import { SavedText } from '../../app/draft-field.tsx';
import { keep } from '../../app/kept.ts';
import { TableMatching, TableProblems, TableSource } from '../../app/table-pieces.tsx';
import { useTable } from '../../app/use-table.ts';
import { Button } from '../../ui/button.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { Problem } from '../../ui/problem.tsx';
import { Segments } from '../../ui/segments.tsx';
import { TextField } from '../../ui/text-field.tsx';
import type { StudyTableRead } from '../../workers/analysis.worker.ts';

const ROLES: readonly { value: StudyColumn; label: string; help?: string }[] = [
  { value: 'ignore', label: '–', help: 'not taken' },
  { value: 'item', label: 'Item', help: 'each name is one item' },
  { value: 'readings', label: 'Readings', help: 'of what the column is called' },
  { value: 'readings-of-item', label: 'Readings of this item', help: 'the column is one item' },
  { value: 'round', label: 'Round' },
  { value: 'level', label: 'Level of a factor', help: 'a setting that was varied' },
  { value: 'attribute', label: 'Attribute of the item', help: 'a price, a mass' },
  { value: 'condition', label: 'Condition', help: 'noted beside the readings' },
  { value: 'moment', label: 'Date and time' },
  { value: 'date', label: 'Date' },
  { value: 'clock', label: 'Time of day' },
  { value: 'measurand', label: 'What was read', help: 'names the measurand row by row' },
  { value: 'unit', label: 'Unit' },
];

/** By this name a pasted table stays until a study is made of it. */
const PASTED = 'table/new study';

/** The table of a study to be, as the dialog works on it. */
function useStudyTable(file: File | undefined) {
  const seed = useRef(newSeed());
  /** What was sent last: the same study again after an answer that was lost, so that it is made once. */
  const made = useRef<{ title: string; outcome: StudyTableRead; study: StudyTableRead }>(undefined);
  const readAs = (title: string, next: StudyMatching, onProgress: (share: number) => void) =>
    readStudyTable(next, { title, seed: seed.current }, onProgress);
  const table = useTable({
    parse: parseStudyTable,
    read: (next: StudyMatching, onProgress) => readAs('Readings', next, onProgress),
    refused: (found) => found.refused,
    file,
  });
  const studyOf = async (title: string, next: StudyMatching, outcome: StudyTableRead) => {
    if (made.current?.title !== title || made.current.outcome !== outcome)
      made.current = { title, outcome, study: await readAs(title, next, () => undefined) };
    return made.current.study;
  };
  return { ...table, studyOf };
}

/** What the columns hold, and what the table does not say of its readings. */
function Matched({
  work,
  matching,
}: {
  work: Pick<ReturnType<typeof useStudyTable>, 'table' | 'outcome' | 'change' | 'setDelimiter'>;
  matching: StudyMatching;
}) {
  const { table, outcome, change } = work;
  const wide = matching.roles.includes('readings-of-item');
  const dated = matching.roles.some((role) => role === 'date' || role === 'moment');
  if (!table) return null;
  return (
    <TableMatching
      {...work}
      table={table}
      matching={matching}
      options={ROLES}
      problems={outcome?.problems ?? []}
    >
      {dated && (
        <Segments
          label="Dates"
          options={[
            { value: 'year', label: 'year first' },
            { value: 'day', label: 'day first' },
            { value: 'month', label: 'month first' },
          ]}
          value={matching.dates ?? 'year'}
          onChange={(dates) => void change({ dates: dates === 'year' ? undefined : dates })}
        />
      )}
      <Segments
        label="Better is"
        options={[
          { value: 'higher', label: 'higher' },
          { value: 'lower', label: 'lower' },
          { value: 'unranked', label: 'not ranked' },
        ]}
        value={matching.direction}
        onChange={(direction) => void change({ direction })}
      />
      {wide && (
        <>
          <SavedText
            label="What was read"
            saved={matching.measurand}
            save={(measurand) => change({ measurand })}
          />
          <SavedText
            label="Unit"
            saved={matching.unit}
            placeholder="m/s, dB, g…"
            save={(unit) => change({ unit })}
          />
        </>
      )}
    </TableMatching>
  );
}

/** How it goes on from here: another table, the study, or neither. */
function WaysOn({
  onOther,
  onClose,
  onMake,
}: {
  /** undefined while there is no table. */
  onOther: (() => void) | undefined;
  onClose: () => void;
  /** undefined while nothing can be made. */
  onMake: (() => void) | undefined;
}) {
  return (
    <DialogActions>
      {onOther && (
        <Button tone="quiet" onPress={onOther}>
          Another table
        </Button>
      )}
      <Button onPress={onClose}>Not now</Button>
      {onMake && (
        <Button tone="go" onPress={onMake}>
          Make the study
        </Button>
      )}
    </DialogActions>
  );
}

/** A new study from any table of readings: what its columns hold, what becomes of it, and then all of it or none. */
export function TableStudy({
  file,
  onClose,
}: {
  /** A file that is to be looked at. */
  file?: File | undefined;
  onClose: () => void;
}) {
  const navigate = useNavigate();
  const [typed, setTyped] = useState<string>();
  const work = useStudyTable(file);
  const { name, table, matching, outcome, problem, say, busy, setBusy } = work;
  const title = typed ?? name.replace(/\.[^.]*$/, '').slice(0, 110);
  const make = async () => {
    if (!matching || !outcome || busy !== undefined) return;
    const called = title.trim();
    if (called === '') {
      say('Give the study a name.');
      return;
    }
    setBusy('Making the study…');
    try {
      const { id, json } = await work.studyOf(called, matching, outcome);
      if (!json || id === undefined) throw new Error('Nothing can be read.');
      await createWholeStudy(json);
      keep(PASTED, undefined);
      await navigate(`/study/${id}/screen`);
    } catch (error) {
      say(problemText(error));
      setBusy(undefined);
    }
  };
  return (
    <Dialog title="A study from a table" isOpen wide onClose={onClose}>
      {!table && <TableSource {...work} keptAs={PASTED} />}
      {table && matching && (
        <>
          <Matched work={work} matching={matching} />
          {outcome && outcome.refused === undefined && <Becomes outcome={outcome} />}
          <TextField
            label="Name of the study"
            value={title}
            onChange={(text) => {
              setTyped(text);
              say(outcome?.refused);
            }}
            placeholder="What is compared"
          />
        </>
      )}
      <Problem>{problem}</Problem>
      {busy !== undefined && <p role="status">{busy}</p>}
      <WaysOn
        onOther={table && work.forget}
        onClose={onClose}
        onMake={outcome?.json ? () => void make() : undefined}
      />
    </Dialog>
  );
}

/** Names of a list, the first ones; the others are counted. */
const shortList = (names: readonly string[], most = 6): string =>
  names.length <= most
    ? listed(names)
    : `${names.slice(0, most).join(', ')} and ${String(names.length - most)} more`;

/** What the table would become, and what of it would not be taken. */
function Becomes({
  outcome: { items = [], measurands = [], factors = [], readings, problems, notices },
}: {
  outcome: StudyTableRead;
}) {
  return (
    <div role="status">
      <strong>
        {counted(readings, 'reading')} of {counted(items.length, 'item')}
        {problems.length > 0 && `; ${counted(problems.length, 'cell')} cannot be read and will be skipped`}.
      </strong>{' '}
      {items.length > 0 &&
        `Items: ${shortList(items)}. Measurands: ${shortList(measurands.map(({ name, unit }) => (unit ? `${name} in ${unit}` : name)))}.`}{' '}
      {factors.length > 0 && `Varied: ${shortList(factors)}.`}
      <ul style={{ color: 'var(--quiet)' }}>
        {notices.slice(0, 12).map((notice) => (
          <li key={notice}>{notice}</li>
        ))}
      </ul>
      <TableProblems problems={problems} />
    </div>
  );
}
