import { ClipboardPaste, Trash2 } from 'lucide-react';
import { useState } from 'react';
import styled from 'styled-components';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { Item } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { attributeColumns } from '../../../core/plan/attributes.ts';
import { Conflict, patchPart } from '../../app/api/studies.ts';
import { SavedNumber } from '../../app/draft-field.tsx';
import { tell } from '../../app/tell.ts';
import { Button } from '../../ui/button.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { ItemName } from '../../ui/name.tsx';
import { QuietFields } from '../../ui/quiet-fields.tsx';
import { Scroll, Table } from '../../ui/table.tsx';
import { TextField } from '../../ui/text-field.tsx';
import { PasteItems } from './paste-items.tsx';

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

type Column = ReturnType<typeof attributeColumns>[number];

/** Takes a column from all items. */
function removeColumn(items: readonly Item[], column: string): void {
  const having = items.filter(({ attributes }) => attributes.some(({ name }) => name === column));
  tell(
    Promise.all(
      having.map((item) =>
        patchPart('items', item, { attributes: item.attributes.filter(({ name }) => name !== column) }),
      ),
    ),
  );
}

function AttributeTable({ items, columns }: { items: readonly Item[]; columns: readonly Column[] }) {
  return (
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
                    removeColumn(items, column.name);
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
                    saved={valueOf(item, column.name)}
                    save={(value) => saveAttributes(item, [{ ...column, value }])}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </QuietFields>
    </Scroll>
  );
}

/** Where a column is named; it begins empty for all items. */
function NewColumn({ items, columns }: { items: readonly Item[]; columns: readonly Column[] }) {
  const [name, setName] = useState('');
  const [unit, setUnit] = useState('');
  const [problem, setProblem] = useState<string>();
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
  return (
    <>
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
    </>
  );
}

/** Numbers that belong to an item: mass, price, a rated value. Columns are the tester's own. */
export function Attributes({ document }: { document: StudyDocument }) {
  const items = itemsInOrder(document);
  const columns = attributeColumns(items);
  const [pasting, setPasting] = useState(false);
  const [pasted, setPasted] = useState('');
  return (
    <>
      {columns.length > 0 && <AttributeTable items={items} columns={columns} />}
      <Adding>
        <NewColumn items={items} columns={columns} />
        <Button
          tone="quiet"
          onPress={() => {
            setPasting(true);
          }}
        >
          <ClipboardPaste size={18} aria-hidden /> From a table or file
        </Button>
      </Adding>
      {pasting && (
        <PasteItems
          document={document}
          text={pasted}
          onText={setPasted}
          onClose={() => {
            setPasting(false);
          }}
        />
      )}
    </>
  );
}
