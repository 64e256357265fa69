import { ClipboardPaste, FileUp, Trash2 } from 'lucide-react';
import { useState } from 'react';
import styled from 'styled-components';
import {
  type PasteEffects,
  type PastedTable,
  parseItemTable,
  pasteEffects,
} from '../../../core/formats/item-table.ts';
import { decodeText } from '../../../core/formats/csv-read.ts';
import { FileProblem } from '../../../core/formats/file-problem.ts';
import type { Item } from '../../../core/model/parts.ts';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { newItem } from '../../../core/plan/new-parts.ts';
import { attributeColumns } from '../../../core/plan/attributes.ts';
import { counted, formatPlain, withUnit } from '../../../core/quantity/format.ts';
import { Conflict, createPart, deletePart, patchPart } from '../../app/api/studies.ts';
import { problemText } from '../../app/api/client.ts';
import { SavedNumber } from '../../app/draft-field.tsx';
import { Button } from '../../ui/button.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { FileButton } from '../../ui/file-button.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { ItemName } from '../../ui/name.tsx';
import { Note } from '../../ui/note.tsx';
import { QuietFields } from '../../ui/quiet-fields.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';
import { TextField } from '../../ui/text-field.tsx';
import { tell, tellDone } from '../../app/tell.ts';

/** A table of items is small; larger files are readings, or no table at all. */
const LARGEST_FILE = 1_000_000;

type Attribute = Item['attributes'][number];

const Adding = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: flex-start;
  margin-top: 12px;
`;

const Values = styled(Table)`
  width: auto;
  td,
  thead th + th {
    width: 170px;
  }
  th:first-child {
    padding-right: 24px;
  }
  /* The row's own line is enough. */
  && input:not([data-focused]) {
    border-bottom-color: transparent;
  }
`;

const Preview = styled(Table)`
  .bad {
    color: var(--rust);
    font-weight: 640;
    text-decoration: underline wavy;
    text-underline-offset: 3px;
  }
`;

/** An item's attributes with some of them set; others stay as they are. */
function withAttributes({ attributes }: Pick<Item, 'attributes'>, set: readonly Attribute[]): Attribute[] {
  const added = set.filter(({ name }) => !attributes.some((known) => known.name === name));
  return [...attributes.map((known) => set.find(({ name }) => name === known.name) ?? known), ...added];
}

const valueOf = ({ attributes }: Pick<Item, 'attributes'>, name: string): number | null =>
  attributes.find((attribute) => attribute.name === name)?.value ?? null;

/**
 * Saves some attributes of an item. Where others of them were saved meanwhile, such as a column that was just added, both
 * stay; only a value that somebody else changed is a conflict.
 */
async function saveAttributes(item: Item, set: readonly Attribute[]): Promise<Item> {
  try {
    return await patchPart('items', item, { attributes: withAttributes(item, set) });
  } catch (error) {
    if (!(error instanceof Conflict)) throw error;
    const theirs = error.theirs as unknown as Item;
    if (set.some(({ name }) => valueOf(theirs, name) !== valueOf(item, name))) throw error;
    return saveAttributes(theirs, set);
  }
}

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

function PasteDialog({
  document,
  isOpen,
  onClose,
}: {
  document: StudyDocument;
  isOpen: boolean;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const [failure, setFailure] = useState<string>();
  const items = itemsInOrder(document);
  const table: PastedTable | undefined =
    text.trim() === '' ? undefined : parseItemTable(text, attributeColumns(items));
  const usable = table?.rows.filter(({ problem }) => problem === undefined) ?? [];
  const effects = table && pasteEffects(table, items);
  const bad = (table?.rows ?? []).reduce(
    (sum, { cells, problem }) => sum + (problem ? 1 : cells.filter((cell) => 'problem' in cell).length),
    0,
  );
  const take = async () => {
    if (!effects) return;
    const changed = items.filter(({ id }) => effects.attributes.has(id));
    const known = [...items];
    const added: Item[] = [];
    try {
      for (const item of changed) {
        await patchPart('items', item, { attributes: effects.attributes.get(item.id) ?? [] });
      }
      for (const { name, attributes } of effects.news) {
        const item = await createPart(document.study.id, 'items', { ...newItem(name, known), attributes });
        known.push(item);
        added.push(item);
      }
      tellDone(`${counted(usable.length, 'item')} taken over.`, async () => {
        for (const item of added) await deletePart('items', item);
        for (const { id, version, attributes } of changed) {
          const now = { ...(items.find((item) => item.id === id) as Item), version: version + 1 };
          await patchPart('items', now, { attributes });
        }
      });
      setText('');
      onClose();
    } catch (error) {
      // Rows before this one are in; the same paste again changes nothing of them.
      setFailure(problemText(error));
    }
  };
  const open = async (file: File) => {
    if (file.size > LARGEST_FILE) {
      setFailure(`${file.name} is larger than a table of items can be.`);
      return;
    }
    try {
      setText(decodeText(new Uint8Array(await file.arrayBuffer())));
      setFailure(undefined);
    } catch (error) {
      setFailure(error instanceof FileProblem ? error.message : `${file.name} cannot be read.`);
    }
  };
  return (
    <Dialog title="Items from a table" isOpen={isOpen} onClose={onClose}>
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
        onChange={(next) => {
          setText(next);
          setFailure(undefined);
        }}
        placeholder={'Item\tMass (g)\tPrice (EUR)'}
        help="A header row, the item’s name in the first column, one attribute a column. Items that are here already are filled in, others are added."
        problem={table?.problem ?? failure}
        autoFocus
      />
      {table && table.rows.length > 0 && (
        <Scroll aria-label="What was understood">
          <Preview>
            <thead>
              <tr>
                <th scope="col">Item</th>
                {table.attributes.map(({ name, unit }) => (
                  <FigureHead key={name}>{withUnit(name, unit && `(${unit})`)}</FigureHead>
                ))}
              </tr>
            </thead>
            <tbody>
              {table.rows.slice(0, 12).map(({ row, name, cells, problem }) => (
                <tr key={row}>
                  <th scope="row" className={problem ? 'bad' : ''} title={problem}>
                    {name || '(no name)'}
                  </th>
                  {cells.map((cell, place) => (
                    <td
                      key={table.attributes[place]?.name ?? place}
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
      )}
      {bad > 0 && (
        <Note tone="attention" title={`${counted(bad, 'place is', 'places are')} not understood`}>
          {table?.rows.find(({ problem }) => problem)?.problem ??
            table?.rows.flatMap(({ cells }) =>
              cells.flatMap((cell) => ('problem' in cell ? [cell.problem] : [])),
            )[0]}{' '}
          They are skipped; everything else can be taken over.
        </Note>
      )}
      {effects && <Overwritten effects={effects} />}
      <DialogActions>
        <Button tone="quiet" onPress={onClose}>
          Not now
        </Button>
        <Button tone="go" isDisabled={usable.length === 0} onPress={() => void take()}>
          Take over {usable.length > 0 && counted(usable.length, 'item')}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Numbers that belong to an item: mass, price, a rated value. Columns are the tester's own. */
export function Attributes({ document }: { document: StudyDocument }) {
  const items = itemsInOrder(document);
  const columns = attributeColumns(items);
  const [name, setName] = useState('');
  const [unit, setUnit] = useState('');
  const [problem, setProblem] = useState<string>();
  const [pasting, setPasting] = useState(false);
  const add = () => {
    const column = name.trim();
    if (column === '' || columns.some((other) => other.name.toLowerCase() === column.toLowerCase())) {
      setProblem(column === '' ? 'Name the attribute.' : 'There is such an attribute already.');
      return;
    }
    tell(
      Promise.all(
        items.map((item) => saveAttributes(item, [{ name: column, unit: unit.trim(), value: null }])),
      ),
    );
    setName('');
    setUnit('');
  };
  const remove = (column: string) => {
    tell(
      Promise.all(
        items
          .filter(({ attributes }) => attributes.some((attribute) => attribute.name === column))
          .map((item) =>
            patchPart('items', item, {
              attributes: item.attributes.filter((attribute) => attribute.name !== column),
            }),
          ),
      ),
    );
  };
  return (
    <>
      {columns.length > 0 && (
        <Scroll aria-label="Attributes of the items">
          <QuietFields as={Values}>
            <thead>
              <tr>
                <th scope="col">Item</th>
                {columns.map((column) => (
                  <th key={column.name} scope="col">
                    {column.name}
                    {column.unit && `, ${column.unit}`}
                    <IconButton
                      label={`Remove the attribute ${column.name}`}
                      onPress={() => {
                        remove(column.name);
                      }}
                    >
                      <Trash2 size={16} aria-hidden />
                    </IconButton>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {items.map((item) => (
                <tr key={item.id}>
                  <th scope="row">
                    <ItemName name={item.name} mark={item.mark} size={14} />
                  </th>
                  {columns.map((column) => (
                    <td key={column.name}>
                      <SavedNumber
                        label={`${column.name} of ${item.name}`}
                        labelHidden
                        placeholder="–"
                        unit={column.unit}
                        saved={
                          item.attributes.find((attribute) => attribute.name === column.name)?.value ?? null
                        }
                        save={(value) => saveAttributes(item, [{ ...column, value }])}
                      />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </QuietFields>
        </Scroll>
      )}
      <Adding>
        <TextField
          label="New attribute"
          labelHidden
          placeholder="Mass, price, rated value"
          value={name}
          maxLength={120}
          onChange={(next) => {
            setName(next);
            setProblem(undefined);
          }}
          problem={problem}
          onEnter={add}
        />
        <TextField
          label="Its unit"
          labelHidden
          placeholder="unit"
          value={unit}
          maxLength={24}
          onChange={setUnit}
          onEnter={add}
        />
        <Button onPress={add} isDisabled={items.length === 0}>
          Add
        </Button>
        <Button
          tone="quiet"
          onPress={() => {
            setPasting(true);
          }}
        >
          <ClipboardPaste size={18} aria-hidden /> From a table or file
        </Button>
      </Adding>
      <PasteDialog
        document={document}
        isOpen={pasting}
        onClose={() => {
          setPasting(false);
        }}
      />
    </>
  );
}
