import { useEffect, useRef } from 'react';
import { type Matching, matchingProblem, partRoles } from '../../../core/formats/readings-table.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { measurandsRead } from '../../../core/plan/grid.ts';
import { counted } from '../../../core/quantity/format.ts';
import { parseTable, readTable } from '../../app/api/analysis.ts';
import { problemText } from '../../app/api/client.ts';
import { importReadings } from '../../app/api/import-readings.ts';
import { keep } from '../../app/kept.ts';
import { TableMatching, TableProblems, TableSource } from '../../app/table-pieces.tsx';
import { useTable } from '../../app/use-table.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { Problem } from '../../ui/problem.tsx';
import { sessionFields } from './session/use-session.ts';

export interface ImportDialogProps {
  document: StudyDocument;
  onClose: () => void;
  onDone: (count: number) => void;
}

/** By this name a pasted table stays with its study until its readings are taken. */
const pastedIn = ({ study }: StudyDocument): string => `table/${study.id}`;

/** What a column of a table of readings may hold. */
function rolesIn(document: StudyDocument): { value: string; label: string }[] {
  return [
    { value: 'ignore', label: '–' },
    { value: 'item', label: 'Item' },
    { value: 'round', label: 'Round' },
    { value: 'time', label: 'Date and time' },
    { value: 'value', label: 'Value' },
    { value: 'measurand', label: 'Measurand of the value' },
    ...document.factors.map(({ id, name }) => ({ value: `factor/${id}`, label: name })),
    ...measurandsRead(document).flatMap((measurand) =>
      partRoles(measurand).map(({ role, label }) => ({ value: role, label })),
    ),
  ];
}

/** The table of readings as the dialog works on it, and what writes them. */
function useReadingsTable(document: StudyDocument, onDone: ImportDialogProps['onDone']) {
  const abort = useRef<AbortController>(undefined);
  const session = useRef<ReturnType<typeof sessionFields>>(undefined);
  const work = useTable({
    parse: (text, delimiter) => parseTable(document, text, delimiter),
    refuse: (next: Matching) => matchingProblem(document, next),
    read: (next, onProgress) => {
      session.current = undefined;
      return readTable(document, next, onProgress);
    },
  });
  useEffect(
    () => () => {
      abort.current?.abort();
    },
    [],
  );
  const { name, outcome, say, setBusy } = work;
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
      if (await importReadings(document.study.id, session.current, packed, controller.signal)) {
        keep(pastedIn(document), undefined);
        onDone(count);
      } else say('Stopped. Nothing was written.');
    } catch (error) {
      say(problemText(error));
    }
    setBusy(undefined);
  };
  const stop = () => abort.current?.abort();
  return { ...work, write, stop };
}

/** Reads a table of readings in: what the columns hold, what is wrong with which cell, and then all of it or none. */
export function ImportDialog({ document, onClose, onDone }: ImportDialogProps) {
  const work = useReadingsTable(document, onDone);
  const { table, matching, outcome, problem, busy } = work;
  const writing = busy?.startsWith('Writing') ?? false;
  return (
    <Dialog title="Readings from a table" isOpen wide onClose={writing ? work.stop : onClose}>
      {!table && <TableSource {...work} keptAs={pastedIn(document)} />}
      {table && matching && (
        <>
          <TableMatching
            {...work}
            table={table}
            matching={matching}
            options={rolesIn(document)}
            problems={outcome?.problems ?? []}
          >
            {matching.roles.includes('value') && !matching.roles.includes('measurand') && (
              <Choice
                label="The values are of"
                options={measurandsRead(document).map(({ id, name: label }) => ({ value: id, label }))}
                value={matching.valueMeasurand}
                onChange={(valueMeasurand) => void work.change({ valueMeasurand })}
              />
            )}
          </TableMatching>
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
          <Button tone="quiet" onPress={work.forget}>
            Another table
          </Button>
        )}
        <Button onPress={writing ? work.stop : onClose}>{writing ? 'Stop' : 'Take none'}</Button>
        {outcome && outcome.count > 0 && !writing && (
          <Button tone="go" onPress={() => void work.write()}>
            Take {counted(outcome.count, 'reading')}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
