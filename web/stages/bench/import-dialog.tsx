import { useEffect, useRef, useState } from 'react';
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
import { TablePreview, TableProblems, TableSigns, TableSource } from '../../app/table-pieces.tsx';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { Problem } from '../../ui/problem.tsx';
import type { TableHead, TableRead } from '../../workers/analysis.worker.ts';
import { sessionFields } from './session/use-session.ts';

export interface ImportDialogProps {
  document: StudyDocument;
  onClose: () => void;
  onDone: (count: number) => void;
}

/** Reads a table of readings in: what the columns hold, what is wrong with which cell, and then all of it or none. */
export function ImportDialog({ document, onClose, onDone }: ImportDialogProps) {
  const [name, setName] = useState('');
  const [table, setTable] = useState<TableHead>();
  const [matching, setMatching] = useState<Matching>();
  const [outcome, setOutcome] = useState<TableRead>();
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState<string>();
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
  const writing = busy?.startsWith('Writing') ?? false;
  return (
    <Dialog
      title="Readings from a table"
      isOpen
      wide
      onClose={writing ? () => abort.current?.abort() : onClose}
    >
      {!table && (
        <TableSource
          onProblem={setProblem}
          onText={(given, from) => {
            whole.current = given;
            setName(from);
            void parse(given);
          }}
        />
      )}
      {table && matching && (
        <>
          <TableSigns
            delimiter={table.delimiter}
            decimal={matching.decimal}
            onDelimiter={(delimiter) => void parse(whole.current, delimiter)}
            onDecimal={(decimal) => void check({ ...matching, decimal })}
          >
            {matching.roles.includes('value') && !matching.roles.includes('measurand') && (
              <Choice
                label="The values are of"
                options={measurands.map(({ id, name: label }) => ({ value: id, label }))}
                value={matching.valueOf}
                onChange={(valueOf) => void check({ ...matching, valueOf })}
              />
            )}
          </TableSigns>
          <TablePreview
            table={table}
            roles={matching.roles}
            options={roles}
            problems={outcome?.problems ?? []}
            onRole={(column, role) => {
              void check({
                ...matching,
                roles: matching.roles.map((said, i) => (i === column ? role : said)),
              });
            }}
          />
          {outcome && (
            <div role="status">
              <strong>
                {counted(outcome.count, 'reading')} can be taken
                {outcome.badRows > 0 && `; ${counted(outcome.badRows, 'row')} cannot and will be skipped`}.
              </strong>
              <TableProblems problems={outcome.problems} />
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
