import {
  type CSSProperties,
  type ClipboardEvent,
  type KeyboardEvent,
  type ReactNode,
  useRef,
  useState,
} from 'react';
import styled from 'styled-components';
import { cellName } from '../../../../core/forms/grid.ts';
import { cellsRead } from '../../../../core/forms/index.ts';
import { counted } from '../../../../core/quantity/format.ts';
import { parseQuantity } from '../../../../core/quantity/parse.ts';
import { Button } from '../../../ui/button.tsx';
import { Key } from '../../../ui/key.tsx';
import { Row } from '../../../ui/page.tsx';
import { Scroll } from '../../../ui/table.tsx';
import type { EntryProps } from './entry.ts';

const Grid = styled.table`
  border-collapse: separate;
  border-spacing: 4px;
  margin: 10px 0;
  th {
    padding: 0 8px;
    font-size: var(--size-13);
    font-weight: 600;
    color: var(--quiet);
  }
  input {
    width: 76px;
    height: 48px;
    padding: 0 6px;
    border: 1px solid var(--rule-strong);
    border-radius: 6px;
    background: transparent;
    color: var(--ink);
    text-align: center;
    font-size: var(--size-19);
    font-weight: 600;
  }
  input:focus-visible {
    outline: 3px solid var(--fern);
    outline-offset: -1px;
  }
  input[aria-invalid='true'] {
    border: 2px solid var(--rust);
  }
`;

const Wrong = styled.span`
  color: var(--rust);
  font-weight: 600;
`;

/** A cell's share of the way from the smallest to the largest, for its shade. */
function shades(values: readonly (number | undefined)[]): (number | undefined)[] {
  const known = values.filter((value) => value !== undefined);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  return values.map((value) =>
    value === undefined ? undefined : high > low ? (value - low) / (high - low) : 0.5,
  );
}

const shadeStyle = (share: number | undefined): CSSProperties =>
  share === undefined
    ? {}
    : { background: `color-mix(in srgb, var(--fern) ${String(Math.round(8 + 40 * share))}%, transparent)` };

/** A cell's name in a grid of so many columns. */
const nameAt = (place: number, columns: number) => cellName(Math.floor(place / columns), place % columns);

/** The place to which an arrow leads from a cell; undefined where it stays in the cell's own text. */
function placeByArrow(
  { key, currentTarget: { selectionStart, selectionEnd, value } }: KeyboardEvent<HTMLInputElement>,
  place: number,
  columns: number,
): number | undefined {
  if (key === 'ArrowUp') return place - columns;
  if (key === 'ArrowDown') return place + columns;
  if (key === 'ArrowLeft' && selectionEnd === 0) return place - 1;
  if (key === 'ArrowRight' && selectionStart === value.length) return place + 1;
  return undefined;
}

/** A block of cells as a spreadsheet copies it, line by line; undefined where it is a single text. */
function blockOf(event: ClipboardEvent): string[][] | undefined {
  const lines = event.clipboardData
    .getData('text/plain')
    .replace(/\r?\n$/, '')
    .split(/\r?\n/)
    .map((line) => line.split(/\t|;/));
  return lines.length === 1 && lines[0]?.length === 1 ? undefined : lines;
}

/** What is in the cells: their names, numbers, and those that are no numbers. */
function cellsOf({ run, texts }: Pick<EntryProps, 'run' | 'texts'>, focused: number | undefined) {
  const { rows, columns, unit } = cellsRead(run.measurand) ?? { rows: 0, columns: 0, unit: '' };
  const names = Array.from({ length: rows * columns }, (_, place) => nameAt(place, columns));
  const values = names.map((name) => {
    const understood = parseQuantity(texts[name] ?? '', unit);
    return 'number' in understood ? understood.number : undefined;
  });
  const isFilled = (name: string) => (texts[name] ?? '').trim() !== '';
  // A cell that is still being typed in is not wrong yet.
  const unread = names.filter(
    (name, place) => isFilled(name) && place !== focused && values[place] === undefined,
  );
  const filled = names.filter(isFilled).length;
  return { rows, columns, unit, names, shade: shades(values), filled, unread };
}

/** One cell: what is typed in it, and where arrows, Enter and a pasted block lead from it. */
function CellField({
  of: { texts, onText, wrongPart, first },
  cells: { columns, unit, names, shade, unread },
  place,
  onFocused,
  onKeyDown,
  onPaste,
}: {
  of: EntryProps;
  cells: ReturnType<typeof cellsOf>;
  place: number;
  /** Says which cell has the focus now; undefined once none has. */
  onFocused: (place: number | undefined) => void;
  onKeyDown: (event: KeyboardEvent<HTMLInputElement>, place: number) => void;
  onPaste: (event: ClipboardEvent, place: number) => void;
}) {
  const name = names[place] as string;
  const where = `Row ${String(Math.floor(place / columns) + 1)}, column ${String((place % columns) + 1)}`;
  return (
    <input
      ref={place === 0 ? first : undefined}
      value={texts[name] ?? ''}
      inputMode="decimal"
      autoComplete="off"
      maxLength={60}
      aria-label={`${where}${unit ? ` in ${unit}` : ''}`}
      aria-invalid={wrongPart === name || unread.includes(name)}
      style={shadeStyle(shade[place])}
      onFocus={() => {
        onFocused(place);
      }}
      onBlur={() => {
        onFocused(undefined);
      }}
      onChange={(event) => {
        onText(name, event.target.value);
      }}
      onKeyDown={(event) => {
        onKeyDown(event, place);
      }}
      onPaste={(event) => {
        onPaste(event, place);
      }}
    />
  );
}

/** Cells in rows and columns, each with its number at the edge. */
function CellTable({
  rows,
  columns,
  cell,
}: {
  rows: number;
  columns: number;
  cell: (place: number) => ReactNode;
}) {
  return (
    <>
      <thead>
        <tr>
          <th aria-label="Row" />
          {Array.from({ length: columns }, (_, column) => (
            <th key={column} scope="col">
              {column + 1}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {Array.from({ length: rows }, (_, row) => (
          <tr key={row}>
            <th scope="row">{row + 1}</th>
            {Array.from({ length: columns }, (__, column) => (
              <td key={column}>{cell(row * columns + column)}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </>
  );
}

/** Fills a block into a grid from a cell on. @returns how many of its cells lie beyond the grid */
function filledFrom(
  block: readonly (readonly string[])[],
  start: number,
  { rows, columns }: { rows: number; columns: number },
  onText: EntryProps['onText'],
): number {
  const [row, column] = [Math.floor(start / columns), start % columns];
  let left = 0;
  block.forEach((line, i) => {
    line.forEach((text, j) => {
      if (row + i < rows && column + j < columns)
        onText(cellName(row + i, column + j), text.trim().slice(0, 60));
      else if (text.trim() !== '') left += 1;
    });
  });
  return left;
}

/** A sheet of cells that fills like the real one: arrows move, Enter goes on, a block can be pasted. */
export function Cells(props: EntryProps) {
  const { run, texts, onText, onEnter, onKey } = props;
  const table = useRef<HTMLTableElement>(null);
  const [focused, setFocused] = useState<number>();
  const [beyond, setBeyond] = useState(0);
  const cells = cellsOf({ run, texts }, focused);
  const { rows, columns, unit, names, filled, unread } = cells;
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>, place: number) => {
    const goesOn = event.key === 'Enter' && !event.ctrlKey && !event.metaKey;
    const next = goesOn ? place + 1 : placeByArrow(event, place, columns);
    if (next !== undefined && next >= 0 && next < names.length)
      table.current?.querySelectorAll('input')[next]?.focus();
    else if (event.key === 'Enter') {
      if (!event.repeat) onEnter();
    } else if (!onKey(event, filled > 0 ? 'cells' : event.currentTarget.value)) return;
    event.preventDefault();
  };
  const onPaste = (event: ClipboardEvent, start: number) => {
    const block = blockOf(event);
    if (!block) return;
    event.preventDefault();
    setBeyond(filledFrom(block, start, { rows, columns }, onText));
  };
  const of: EntryProps = {
    ...props,
    onText: (part, text) => {
      setBeyond(0);
      onText(part, text);
    },
  };
  return (
    <>
      <Scroll aria-label={`Grid of ${run.item.name}`}>
        <Grid ref={table}>
          <CellTable
            rows={rows}
            columns={columns}
            cell={(place) => (
              <CellField {...{ of, cells, place, onKeyDown, onPaste }} onFocused={setFocused} />
            )}
          />
        </Grid>
      </Scroll>
      <Row>
        <Button tone="go" size="large" onPress={onEnter}>
          Record <Key>Ctrl Enter</Key>
        </Button>
        <span>
          {counted(filled, 'cell')} of {rows * columns}
          {unit && `, in ${unit}`}. A cell may stay empty.
        </span>
        <Wrong role="status">
          {unread.length > 0 && `${counted(unread.length, 'cell')} not understood. `}
          {beyond > 0 && `${counted(beyond, 'cell')} of the block lay beyond the grid.`}
        </Wrong>
      </Row>
    </>
  );
}
