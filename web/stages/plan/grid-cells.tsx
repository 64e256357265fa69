import { useState } from 'react';
import styled from 'styled-components';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { Item } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import {
  cellKey,
  factorLevels,
  levelIdsOf,
  planSize,
  settingKey,
  settingWords,
  settingsOf,
} from '../../../core/plan/grid.ts';
import { counted } from '../../../core/quantity/format.ts';
import { patchStudy } from '../../app/api/studies.ts';
import { Button } from '../../ui/button.tsx';
import { ItemName } from '../../ui/name.tsx';
import { Scroll } from '../../ui/table.tsx';
import { focusRing } from '../../ui/tokens.ts';
import { tell } from '../../app/tell.ts';

/** This many cells are drawn at a time; a grid may have thousands. */
const SHOWN_CELLS = 400;

const Grid = styled.table`
  border-collapse: collapse;
  margin: 12px 0 8px;
  th,
  td {
    padding: 2px 6px;
    border-bottom: 1px solid var(--rule);
    text-align: left;
    font-weight: 560;
    white-space: nowrap;
  }
  thead th {
    vertical-align: bottom;
    font-size: var(--size-13);
    color: var(--quiet);
    white-space: normal;
    max-width: 110px;
  }
  td button {
    min-width: 44px;
    min-height: 44px;
    border: 0;
    border-radius: 6px;
    background: transparent;
    color: var(--fern);
    font-size: var(--size-19);
    cursor: pointer;
  }
  td button[aria-pressed='true'] {
    color: var(--rust);
  }
  td button:hover {
    background: var(--hover);
  }
  td button:focus-visible {
    ${focusRing}
  }
`;

/** The cells of an item. */
function GridRow({
  item,
  settings,
  struck,
  onToggle,
}: {
  item: Item;
  settings: ReturnType<typeof settingsOf>;
  /** Keys of the cells that are struck out. */
  struck: ReadonlySet<string>;
  onToggle: (itemId: string, levelIds: string[]) => void;
}) {
  return (
    <tr>
      <th scope="row">
        <ItemName name={item.name} mark={item.mark} size={14} />
      </th>
      {settings.map((setting) => {
        const levelIds = levelIdsOf(setting);
        const out = struck.has(cellKey({ itemId: item.id, levelIds }));
        return (
          <td key={settingKey(levelIds)}>
            <button
              type="button"
              aria-pressed={out}
              aria-label={`Strike out ${item.name} at ${settingWords(setting)}`}
              onClick={() => {
                onToggle(item.id, levelIds);
              }}
            >
              {out ? '×' : '•'}
            </button>
          </td>
        );
      })}
    </tr>
  );
}

/** The full grid of items and settings: a tap strikes a cell out, or takes it back. */
export function GridCells({ document }: { document: StudyDocument }) {
  const [shown, setShown] = useState(SHOWN_CELLS);
  const size = planSize(document);
  const factors = factorLevels(document);
  if (factors.length === 0 || document.items.length === 0) return null;
  if (size.refused !== undefined) return <p role="alert">{size.refused}</p>;
  const { study } = document;
  const items = itemsInOrder(document);
  const settings = settingsOf(factors);
  const struck = new Set(study.struck.map(cellKey));
  const rows = items.slice(0, Math.max(1, Math.floor(shown / settings.length)));
  const toggle = (itemId: string, levelIds: string[]) => {
    const key = cellKey({ itemId, levelIds });
    tell(
      patchStudy(study, {
        struck: struck.has(key)
          ? study.struck.filter((cell) => cellKey(cell) !== key)
          : [...study.struck, { itemId, levelIds }],
      }),
    );
  };
  return (
    <>
      <h3 style={{ marginTop: 22 }}>
        {counted(size.grid - size.struck, 'cell')}
        {size.struck > 0 && `, ${String(size.struck)} struck out`}: {counted(size.runs, 'reading')} in{' '}
        {counted(size.rounds, 'round')}
      </h3>
      <Scroll aria-label="Grid of items and settings">
        <Grid>
          <thead>
            <tr>
              <th scope="col">Item</th>
              {settings.map((setting) => (
                <th key={settingKey(levelIdsOf(setting))} scope="col">
                  {settingWords(setting)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((item) => (
              <GridRow key={item.id} {...{ item, settings, struck }} onToggle={toggle} />
            ))}
          </tbody>
        </Grid>
      </Scroll>
      {rows.length < items.length && (
        <Button
          onPress={() => {
            setShown(shown + 4 * SHOWN_CELLS);
          }}
        >
          Show more of the {counted(items.length - rows.length, 'item')} left
        </Button>
      )}
      <p>A cell that is struck out (×) is not measured.</p>
    </>
  );
}
