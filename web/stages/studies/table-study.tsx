import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Delimiter } from '../../../core/formats/readings-table.ts';
import type { StudyColumn, StudyMatching } from '../../../core/formats/study-table.ts';
import { counted, formatNumber, listed } from '../../../core/quantity/format.ts';
import { parseStudyTable, readStudyTable } from '../../app/api/analysis.ts';
import { problemText } from '../../app/api/client.ts';
import { createWholeStudy, newSeed } from '../../app/api/studies.ts';
import {
  TablePreview,
  TableProblems,
  TableSigns,
  TableSource,
  textOfTable,
} from '../../app/table-pieces.tsx';
import { Button } from '../../ui/button.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { Row } from '../../ui/page.tsx';
import { Problem } from '../../ui/problem.tsx';
import { Segments } from '../../ui/segments.tsx';
import { TextField } from '../../ui/text-field.tsx';
import type { StudyTableHead, StudyTableRead } from '../../workers/analysis.worker.ts';

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
  const [title, setTitle] = useState('');
  const [table, setTable] = useState<StudyTableHead>();
  const [matching, setMatching] = useState<StudyMatching>();
  const [outcome, setOutcome] = useState<StudyTableRead>();
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState<string>();
  const whole = useRef('');
  const seed = useRef(newSeed());
  const asked = useRef(0);
  useEffect(
    () => () => {
      asked.current += 1;
    },
    [],
  );

  const check = async (next: StudyMatching) => {
    setMatching(next);
    asked.current += 1;
    const mine = asked.current;
    setBusy('Checking…');
    const found = await readStudyTable(next, { title: 'Readings', seed: seed.current }, (share) => {
      if (asked.current === mine) setBusy(`Checking, ${formatNumber(100 * share, 0)} %`);
    });
    // An older look must not overwrite a newer one.
    if (asked.current !== mine) return;
    asked.current += 1;
    setBusy(undefined);
    setOutcome(found);
    setProblem(found.refused);
  };
  const parse = async (given: string, delimiter?: Delimiter) => {
    setBusy('Reading…');
    const found = await parseStudyTable(given, delimiter);
    setBusy(undefined);
    if ('problem' in found) {
      setProblem(found.problem);
      if (!delimiter) setTable(undefined);
      return;
    }
    setTable(found);
    await check(found.guess);
  };
  const take = (given: string, from: string) => {
    whole.current = given;
    setTitle((said) => said || from.replace(/\.[^.]*$/, '').slice(0, 110));
    void parse(given);
  };
  const opened = useRef(false);
  useEffect(() => {
    if (!file || opened.current) return;
    opened.current = true;
    textOfTable(file).then(
      (given) => {
        take(given, file.name);
      },
      (error: unknown) => {
        setProblem(problemText(error));
      },
    );
  });
  const make = async () => {
    if (!matching || busy !== undefined) return;
    if (title.trim() === '') {
      setProblem('Give the study a name.');
      return;
    }
    setBusy('Making the study…');
    try {
      const made = await readStudyTable(
        matching,
        { title: title.trim(), seed: seed.current },
        () => undefined,
      );
      if (!made.json || made.id === undefined) throw new Error('Nothing can be read.');
      await createWholeStudy(made.json);
      await navigate(`/study/${made.id}/screen`);
    } catch (error) {
      setProblem(problemText(error));
      setBusy(undefined);
    }
  };
  const wide = matching?.roles.includes('readings-of-item') ?? false;
  const dated = matching?.roles.some((role) => role === 'date' || role === 'moment') ?? false;
  return (
    <Dialog title="A study from a table" isOpen wide onClose={onClose}>
      {!table && <TableSource onProblem={setProblem} onText={take} />}
      {table && matching && (
        <>
          <TableSigns
            delimiter={table.delimiter}
            decimal={matching.decimal}
            onDelimiter={(delimiter) => void parse(whole.current, delimiter)}
            onDecimal={(decimal) => void check({ ...matching, decimal })}
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
                onChange={(dates) => void check({ ...matching, dates: dates === 'year' ? undefined : dates })}
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
              onChange={(direction) => void check({ ...matching, direction })}
            />
          </TableSigns>
          {wide && (
            <Row style={{ alignItems: 'flex-start', gap: '12px 24px' }}>
              <TextField
                label="What was read"
                value={matching.measurand}
                onChange={(measurand) => void check({ ...matching, measurand })}
              />
              <TextField
                label="Unit"
                value={matching.unit}
                onChange={(unit) => void check({ ...matching, unit })}
                placeholder="m/s, dB, g…"
              />
            </Row>
          )}
          <TablePreview
            table={table}
            roles={matching.roles}
            options={ROLES}
            problems={outcome?.problems ?? []}
            onRole={(column, role) => {
              void check({
                ...matching,
                roles: matching.roles.map((said, i) => (i === column ? role : said)),
              });
            }}
          />
          {outcome && outcome.refused === undefined && <Becomes outcome={outcome} />}
          <TextField
            label="Name of the study"
            value={title}
            onChange={(text) => {
              setTitle(text);
              setProblem(outcome?.refused);
            }}
            placeholder="What is compared"
          />
        </>
      )}
      <Problem>{problem}</Problem>
      {busy !== undefined && <p role="status">{busy}</p>}
      <DialogActions>
        {table && (
          <Button
            tone="quiet"
            onPress={() => {
              setTable(undefined);
              setOutcome(undefined);
              setProblem(undefined);
            }}
          >
            Another table
          </Button>
        )}
        <Button onPress={onClose}>Not now</Button>
        {outcome?.json && (
          <Button tone="go" onPress={() => void make()}>
            Make the study
          </Button>
        )}
      </DialogActions>
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
