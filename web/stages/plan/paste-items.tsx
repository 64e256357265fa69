import { FileUp } from 'lucide-react';
import { useState } from 'react';
import styled from 'styled-components';
import { decodeText } from '../../../core/formats/csv-read.ts';
import { FileProblem } from '../../../core/formats/file-problem.ts';
import {
  type PasteEffects,
  type PastedTable,
  parseItemTable,
  pasteEffects,
} from '../../../core/formats/item-table.ts';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { Item } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { attributeColumns } from '../../../core/plan/attributes.ts';
import { newItem } from '../../../core/plan/new-parts.ts';
import { counted, formatPlain, withUnit } from '../../../core/quantity/format.ts';
import { problemText } from '../../app/api/client.ts';
import { createPart, deletePart, patchPart } from '../../app/api/studies.ts';
import { tellDone } from '../../app/tell.ts';
import { Dialog, DialogAnswers } from '../../ui/dialog.tsx';
import { FileButton } from '../../ui/file-button.tsx';
import { Note } from '../../ui/note.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';
import { TextField } from '../../ui/text-field.tsx';

/** A table of items is small; larger files are readings, or no table at all. */
const LARGEST_FILE = 1_000_000;

/** Rows that are shown before a table is taken over. */
const ROWS_SHOWN = 12;

const Preview = styled(Table)`
  .bad {
    color: var(--rust);
    font-weight: 640;
    text-decoration: underline wavy;
    text-underline-offset: 3px;
  }
`;

/** How many values that give way are named one by one. */
const NAMED = 4;

/** Says before a table is taken over what gives way to it. */
function Overwritten({ effects: { added, changed, units } }: { effects: PasteEffects }) {
  if (changed.length === 0 && units.length === 0) return null;
  const value = (number: number, unit: string) => withUnit(formatPlain(number), unit);
  return (
    <Note tone="attention" title={`${counted(changed.length, 'value')} would be overwritten`}>
      {changed.slice(0, NAMED).map(({ item, attribute, before, after, unit }) => (
        <p key={`${item}/${attribute}`}>
          {attribute} of <bdi>{item}</bdi>: {formatPlain(before)} becomes {value(after, unit)}
        </p>
      ))}
      {changed.length > NAMED && <p>and {counted(changed.length - NAMED, 'more value')}.</p>}
      {units.map(({ attribute, before, after }) => (
        <p key={attribute}>
          {attribute} was in {before || 'no unit'} and would be in {after || 'no unit'}.
        </p>
      ))}
      {added.length > 0 && <p>{counted(added.length, 'item')} would be added.</p>}
    </Note>
  );
}

/** What was understood of a table; what was not is marked. */
function Understood({ table: { attributes, rows } }: { table: PastedTable }) {
  return (
    <Scroll aria-label="What was understood">
      <Preview>
        <thead>
          <tr>
            <th scope="col">Item</th>
            {attributes.map(({ name, unit }) => (
              <FigureHead key={name}>{withUnit(name, unit && `(${unit})`)}</FigureHead>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, ROWS_SHOWN).map(({ row, name, cells, problem }) => (
            <tr key={row}>
              <th scope="row" className={problem ? 'bad' : ''} title={problem}>
                {name || '(no name)'}
              </th>
              {cells.map((cell, place) => (
                <td
                  key={attributes[place]?.name ?? place}
                  className={`figure ${'problem' in cell ? 'bad' : ''}`}
                  title={'problem' in cell ? cell.problem : undefined}
                >
                  {'problem' in cell ? cell.text : cell.value === null ? '–' : formatPlain(cell.value)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Preview>
    </Scroll>
  );
}

/** Says how many places of a table were not understood, and why the first of them was not. */
function NotUnderstood({ table: { rows } }: { table: PastedTable }) {
  const inCells = rows.flatMap(({ cells }) =>
    cells.flatMap((cell) => ('problem' in cell ? [cell.problem] : [])),
  );
  const inRows = rows.flatMap(({ problem }) => problem ?? []);
  const bad =
    inRows.length +
    rows
      .filter(({ problem }) => !problem)
      .reduce((sum, { cells }) => sum + cells.filter((cell) => 'problem' in cell).length, 0);
  if (bad === 0) return null;
  return (
    <Note tone="attention" title={`${counted(bad, 'place is', 'places are')} not understood`}>
      {inRows[0] ?? inCells[0]} They are skipped; everything else can be taken over.
    </Note>
  );
}

/** Writes what a table says, row by row. @returns takes it back */
async function takeOver(
  studyId: string,
  items: readonly Item[],
  { attributes, news }: PasteEffects,
): Promise<() => Promise<void>> {
  const changed = items.filter(({ id }) => attributes.has(id));
  const known = [...items];
  const added: Item[] = [];
  for (const item of changed) {
    await patchPart('items', item, { attributes: attributes.get(item.id) ?? [] });
  }
  for (const { name, attributes: ofNew } of news) {
    const item = await createPart(studyId, 'items', { ...newItem(name, known), attributes: ofNew });
    known.push(item);
    added.push(item);
  }
  return async () => {
    for (const item of added) await deletePart('items', item);
    for (const item of changed) {
      await patchPart('items', { ...item, version: item.version + 1 }, { attributes: item.attributes });
    }
  };
}

/** Text of a file with a table of items. @throws Error that says why it is none */
async function tableText(file: File): Promise<string> {
  if (file.size > LARGEST_FILE) throw new Error(`${file.name} is larger than a table of items can be.`);
  try {
    return decodeText(new Uint8Array(await file.arrayBuffer()));
  } catch (error) {
    throw new Error(error instanceof FileProblem ? error.message : `${file.name} cannot be read.`, {
      cause: error,
    });
  }
}

/** A table as text: pasted, or from a file. */
function TableText({
  text,
  problem,
  onText,
  onFailure,
}: {
  text: string;
  problem: string | undefined;
  onText: (text: string) => void;
  onFailure: (words: string) => void;
}) {
  const open = async (file: File) => {
    try {
      onText(await tableText(file));
    } catch (error) {
      onFailure((error as Error).message);
    }
  };
  return (
    <>
      <FileButton
        accept={['.csv', '.tsv', '.txt', 'text/csv', 'text/tab-separated-values', 'text/plain']}
        onFile={(file) => void open(file)}
      >
        <FileUp size={18} aria-hidden /> Open a CSV file
      </FileButton>
      <TextField
        label="Or copied from a spreadsheet"
        value={text}
        rows={5}
        onChange={onText}
        placeholder={'Item\tMass (g)\tPrice (EUR)'}
        help="A header row, the item’s name in the first column, one attribute a column. Items that are here already are filled in, others are added."
        problem={problem}
        autoFocus
      />
    </>
  );
}

/** Items and their attributes from a table, which is shown as it was understood before it is taken over. */
export function PasteItems({
  document,
  text,
  onText,
  onClose,
}: {
  document: StudyDocument;
  /** What was pasted so far; it is there again when the dialog is opened once more. */
  text: string;
  onText: (text: string) => void;
  onClose: () => void;
}) {
  const [failure, setFailure] = useState<string>();
  const items = itemsInOrder(document);
  const table = text.trim() === '' ? undefined : parseItemTable(text, attributeColumns(items));
  const usable = table?.rows.filter(({ problem }) => problem === undefined).length ?? 0;
  const effects = table && pasteEffects(table, items);
  const take = async () => {
    if (!effects) return;
    try {
      const takeBack = await takeOver(document.study.id, items, effects);
      tellDone(`${counted(usable, 'item')} taken over.`, takeBack);
      onText('');
      onClose();
    } catch (error) {
      // Rows before this one are in; the same paste again changes nothing of them.
      setFailure(problemText(error));
    }
  };
  return (
    <Dialog title="Items from a table" isOpen onClose={onClose}>
      <TableText
        text={text}
        problem={table?.problem ?? failure}
        onText={(next) => {
          onText(next);
          setFailure(undefined);
        }}
        onFailure={setFailure}
      />
      {table && table.rows.length > 0 && <Understood table={table} />}
      {table && <NotUnderstood table={table} />}
      {effects && <Overwritten effects={effects} />}
      <DialogAnswers
        onNo={onClose}
        go={<>Take over {usable > 0 && counted(usable, 'item')}</>}
        isDisabled={usable === 0}
        onGo={() => void take()}
      />
    </Dialog>
  );
}
