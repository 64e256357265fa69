import { type ClipboardEvent, type KeyboardEvent, useRef, useState } from 'react';
import styled from 'styled-components';
import { cellName, gridSize } from '../../../../core/forms/grid.ts';
import { readingForm } from '../../../../core/forms/index.ts';
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

/** A sheet of cells that fills like the real one: arrows move, Enter goes on, a block can be pasted. */
export function Cells({ run, texts, onText, wrongPart, onEnter, onKey, first }: EntryProps) {
  const table = useRef<HTMLTableElement>(null);
  const { rows, columns } = gridSize(run.measurand.settings);
  const unit = readingForm(run.measurand.form)?.parts(run.measurand)[0]?.unit ?? '';
  const names = Array.from({ length: rows * columns }, (_, i) =>
    cellName(Math.floor(i / columns), i % columns),
  );
  const values = names.map((name) => {
    const understood = parseQuantity(texts[name] ?? '', unit);
    return 'number' in understood ? understood.number : undefined;
  });
  const shade = shades(values);
  const [focused, setFocused] = useState<number>();
  const [beyond, setBeyond] = useState(0);
  // A cell that is still being typed in is not wrong yet.
  const unread = names.filter(
    (name, place) => place !== focused && values[place] === undefined && (texts[name] ?? '').trim() !== '',
  );
  const filled = names.filter((name) => (texts[name] ?? '').trim() !== '').length;
  const focusCell = (place: number) => {
    table.current?.querySelectorAll('input')[place]?.focus();
  };
  const move = (event: KeyboardEvent<HTMLInputElement>, place: number) => {
    const { selectionStart, selectionEnd, value } = event.currentTarget;
    const atStart = selectionEnd === 0;
    const atEnd = selectionStart === value.length;
    if (event.key === 'ArrowUp' && place >= columns) focusCell(place - columns);
    else if (event.key === 'ArrowDown' && place + columns < names.length) focusCell(place + columns);
    else if (event.key === 'ArrowLeft' && atStart && place > 0) focusCell(place - 1);
    else if (event.key === 'ArrowRight' && atEnd && place + 1 < names.length) focusCell(place + 1);
    else if (event.key === 'Enter' && !event.ctrlKey && !event.metaKey && place + 1 < names.length)
      focusCell(place + 1);
    else if (event.key === 'Enter') onEnter();
    else if (!onKey(event, filled > 0 ? 'cells' : value)) return;
    event.preventDefault();
  };
  const paste = (event: ClipboardEvent, start: number) => {
    const lines = event.clipboardData
      .getData('text/plain')
      .replace(/\r?\n$/, '')
      .split(/\r?\n/)
      .map((line) => line.split(/\t|;/));
    if (lines.length === 1 && lines[0]?.length === 1) return;
    event.preventDefault();
    const [row, column] = [Math.floor(start / columns), start % columns];
    let left = 0;
    lines.forEach((line, i) => {
      line.forEach((text, j) => {
        if (row + i < rows && column + j < columns) {
          onText(cellName(row + i, column + j), text.trim().slice(0, 60));
        } else if (text.trim() !== '') left += 1;
      });
    });
    setBeyond(left);
  };
  return (
    <>
      <Scroll aria-label={`Grid of ${run.item.name}`}>
        <Grid ref={table}>
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
                {Array.from({ length: columns }, (__, column) => {
                  const place = row * columns + column;
                  const name = names[place] as string;
                  const share = shade[place];
                  return (
                    <td key={name}>
                      <input
                        ref={place === 0 ? first : undefined}
                        value={texts[name] ?? ''}
                        inputMode="decimal"
                        autoComplete="off"
                        maxLength={60}
                        aria-label={`Row ${String(row + 1)}, column ${String(column + 1)}${unit ? ` in ${unit}` : ''}`}
                        aria-invalid={wrongPart === name || unread.includes(name)}
                        style={
                          share === undefined
                            ? {}
                            : {
                                background: `color-mix(in srgb, var(--fern) ${String(Math.round(8 + 40 * share))}%, transparent)`,
                              }
                        }
                        onFocus={() => {
                          setFocused(place);
                        }}
                        onBlur={() => {
                          setFocused(undefined);
                        }}
                        onChange={(event) => {
                          setBeyond(0);
                          onText(name, event.target.value);
                        }}
                        onKeyDown={(event) => {
                          move(event, place);
                        }}
                        onPaste={(event) => {
                          paste(event, place);
                        }}
                      />
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
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
