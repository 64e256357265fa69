import { type DragEvent, useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { FileProblem, decodeText } from '../../../core/formats/csv-read.ts';
import {
  type Delimiter,
  type Matching,
  matchingProblem,
  partRoles,
} from '../../../core/formats/readings-table.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { measurandsRead } from '../../../core/plan/grid.ts';
import { counted, formatNumber } from '../../../core/quantity/format.ts';
import { parseTable, readTable } from '../../app/api/analysis.ts';
import { problemText } from '../../app/api/client.ts';
import { importReadings } from '../../app/api/import-readings.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { FileButton } from '../../ui/file-button.tsx';
import { Row } from '../../ui/page.tsx';
import { Segments } from '../../ui/segments.tsx';
import { Scroll } from '../../ui/table.tsx';
import { Problem } from '../../ui/problem.tsx';
import { TextField } from '../../ui/text-field.tsx';
import type { TableHead, TableRead } from '../../workers/analysis.worker.ts';
import { sessionFields } from './session/use-session.ts';

/** Problems of a table that are told one by one. */
const MOST_TOLD = 40;
/** Larger files than this are no table of readings, bytes. */
const LARGEST_FILE = 60e6;

const Drop = styled.div<{ $over: boolean }>`
  display: grid;
  gap: 12px;
  padding: 14px;
  border: 2px dashed ${({ $over }) => ($over ? 'var(--fern)' : 'var(--rule-strong)')};
  border-radius: var(--corner);
`;

const Preview = styled.table`
  border-collapse: collapse;
  width: 100%;
  th,
  td {
    padding: 6px 10px;
    border-bottom: 1px solid var(--rule);
    text-align: left;
    vertical-align: top;
    white-space: nowrap;
  }
  th > div {
    min-width: 150px;
    margin-top: 4px;
    font-weight: 400;
  }
  td[data-bad='true'] {
    background: color-mix(in srgb, var(--rust) 16%, transparent);
    box-shadow: inset 3px 0 0 var(--rust);
  }
`;

const Problems = styled.ul`
  max-height: 170px;
  overflow-y: auto;
  display: grid;
  gap: 3px;
  color: var(--rust);
`;

const DELIMITERS = [
  { value: ',', label: 'Comma' },
  { value: ';', label: 'Semicolon' },
  { value: '\t', label: 'Tab' },
] as const;

export interface ImportDialogProps {
  document: StudyDocument;
  onClose: () => void;
  onDone: (count: number) => void;
}

/** Reads a table of readings in: what the columns hold, what is wrong with which cell, and then all of it or none. */
export function ImportDialog({ document, onClose, onDone }: ImportDialogProps) {
  const [text, setText] = useState('');
  const [name, setName] = useState('');
  const [table, setTable] = useState<TableHead>();
  const [matching, setMatching] = useState<Matching>();
  const [outcome, setOutcome] = useState<TableRead>();
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState<string>();
  const [over, setOver] = useState(false);
  const whole = useRef('');
  const abort = useRef<AbortController>(undefined);
  const session = useRef<ReturnType<typeof sessionFields>>(undefined);
  const asked = useRef(0);
  useEffect(
    () => () => {
      abort.current?.abort();
    },
    [],
  );

  const check = async (next: Matching) => {
    session.current = undefined;
    setMatching(next);
    setOutcome(undefined);
    const wrong = matchingProblem(document, next);
    setProblem(wrong);
    if (wrong !== undefined) return;
    asked.current += 1;
    const mine = asked.current;
    setBusy('Checking…');
    const checked = await readTable(document, next, (share) => {
      if (asked.current === mine) setBusy(`Checking, ${formatNumber(100 * share, 0)} %`);
    });
    // An older look must not overwrite a newer one.
    if (asked.current !== mine) return;
    // What is still told of its progress comes too late.
    asked.current += 1;
    setBusy(undefined);
    setOutcome(checked);
  };
  const parse = async (given: string, delimiter?: Delimiter) => {
    setBusy('Reading…');
    setOutcome(undefined);
    const found = await parseTable(document, given, delimiter);
    setBusy(undefined);
    if ('problem' in found) {
      setProblem(found.problem);
      if (!delimiter) setTable(undefined);
      return;
    }
    setTable(found);
    await check(found.guess);
  };
  const takeFile = async (file: File) => {
    if (file.size > LARGEST_FILE) {
      setProblem(`A table may have ${formatNumber(LARGEST_FILE / 1e6, 0)} MB.`);
      return;
    }
    setName(file.name.slice(0, 200));
    let given: string;
    try {
      given = decodeText(new Uint8Array(await file.arrayBuffer()));
    } catch (error) {
      setProblem(error instanceof FileProblem ? error.message : 'The file cannot be read.');
      return;
    }
    whole.current = given;
    // A large text in a field would freeze the page.
    setText(given.length < 20000 ? given : '');
    await parse(given);
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const file = event.dataTransfer.files.item(0);
    if (file) void takeFile(file);
  };
  const write = async () => {
    if (!outcome) return;
    const controller = new AbortController();
    abort.current = controller;
    setBusy(`Writing ${counted(outcome.count, 'reading')}…`);
    const now = new Date().toISOString();
    // The same session again after an answer that was lost, so that nothing is written twice.
    session.current ??= sessionFields(document.study.id, {
      kind: 'import',
      startedAt: now,
      endedAt: now,
      note: name || 'a pasted table',
    });
    try {
      const { packed, count } = outcome;
      if (await importReadings(document.study.id, session.current, packed, controller.signal)) onDone(count);
      else setProblem('Stopped. Nothing was written.');
    } catch (error) {
      setProblem(problemText(error));
    }
    setBusy(undefined);
  };

  const measurands = measurandsRead(document);
  const roles = [
    { value: 'ignore', label: '–' },
    { value: 'item', label: 'Item' },
    { value: 'round', label: 'Round' },
    { value: 'time', label: 'Date and time' },
    { value: 'value', label: 'Value' },
    { value: 'measurand', label: 'Measurand of the value' },
    ...document.factors.map(({ id, name: factor }) => ({ value: `factor/${id}`, label: factor })),
    ...measurands.flatMap((measurand) =>
      partRoles(measurand).map(({ role, label }) => ({ value: role, label })),
    ),
  ];
  const badCells = new Set(outcome?.problems.map(({ line, column }) => `${String(line)}/${column}`));
  const writing = busy?.startsWith('Writing') ?? false;
  return (
    <Dialog
      title="Readings from a table"
      isOpen
      wide
      onClose={writing ? () => abort.current?.abort() : onClose}
    >
      {!table && (
        <Drop
          $over={over}
          onDragOver={(event) => {
            event.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => {
            setOver(false);
          }}
          onDrop={drop}
        >
          <TextField
            label="Paste a table with a header, or drop a CSV file here"
            value={text}
            onChange={(next) => {
              setText(next);
              setProblem(undefined);
            }}
            rows={6}
            placeholder={'Item;Round;Value\n…'}
            autoFocus
          />
          <Row>
            <Button
              tone="go"
              isDisabled={text.trim() === ''}
              onPress={() => {
                whole.current = text;
                void parse(text);
              }}
            >
              Look at it
            </Button>
            <FileButton accept={['.csv', '.tsv', '.txt', 'text/csv']} onFile={(file) => void takeFile(file)}>
              A file…
            </FileButton>
          </Row>
        </Drop>
      )}
      {table && matching && (
        <>
          <Row style={{ alignItems: 'flex-end', gap: '12px 24px' }}>
            <Segments
              label="Between the columns"
              options={DELIMITERS}
              value={table.delimiter}
              onChange={(delimiter) => void parse(whole.current, delimiter)}
            />
            <Segments
              label="Decimals"
              options={[
                { value: '.', label: '3.5' },
                { value: ',', label: '3,5' },
              ]}
              value={matching.decimal}
              onChange={(decimal) => void check({ ...matching, decimal })}
            />
            {matching.roles.includes('value') && !matching.roles.includes('measurand') && (
              <Choice
                label="The values are of"
                options={measurands.map(({ id, name: label }) => ({ value: id, label }))}
                value={matching.valueOf}
                onChange={(valueOf) => void check({ ...matching, valueOf })}
              />
            )}
          </Row>
          <Scroll aria-label="The first rows, and what each column holds">
            <Preview>
              <thead>
                <tr>
                  {table.columns.map((column, at) => (
                    <th key={column} scope="col">
                      {column || `Column ${String(at + 1)}`}
                      <div>
                        <Choice
                          label={`What the column ${column} holds`}
                          labelHidden
                          options={roles}
                          value={matching.roles[at] ?? 'ignore'}
                          onChange={(role) => {
                            void check({
                              ...matching,
                              roles: matching.roles.map((one, i) => (i === at ? role : one)),
                            });
                          }}
                        />
                      </div>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {table.rows.map((row, i) => (
                  <tr key={i}>
                    {table.columns.map((column, at) => (
                      <td key={column} data-bad={badCells.has(`${String(table.lines[i])}/${column}`)}>
                        {row[at] ?? ''}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </Preview>
          </Scroll>
          {table.rowCount > table.rows.length && (
            <p style={{ color: 'var(--quiet)' }}>
              And {counted(table.rowCount - table.rows.length, 'more row')}.
            </p>
          )}
          {outcome && (
            <div role="status">
              <strong>
                {counted(outcome.count, 'reading')} can be taken
                {outcome.badRows > 0 && `; ${counted(outcome.badRows, 'row')} cannot and will be skipped`}.
              </strong>
              {outcome.problems.length > 0 && (
                <Problems>
                  {outcome.problems.slice(0, MOST_TOLD).map(({ line, column, message }, i) => (
                    <li key={i}>
                      Line {line}
                      {column && `, ${column}`}: {message}
                    </li>
                  ))}
                  {outcome.problems.length > MOST_TOLD && (
                    <li>And {formatNumber(outcome.problems.length - MOST_TOLD, 0)} more.</li>
                  )}
                </Problems>
              )}
            </div>
          )}
        </>
      )}
      <Problem>{problem}</Problem>
      {busy !== undefined && <p role="status">{busy}</p>}
      <DialogActions>
        {table && !writing && (
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
        <Button
          onPress={() => {
            if (writing) abort.current?.abort();
            else onClose();
          }}
        >
          {writing ? 'Stop' : 'Take none'}
        </Button>
        {outcome && outcome.count > 0 && !writing && (
          <Button tone="go" onPress={() => void write()}>
            Take {counted(outcome.count, 'reading')}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
