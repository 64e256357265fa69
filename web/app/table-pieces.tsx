import { type ReactNode, useState } from 'react';
import styled from 'styled-components';
import type { Delimiter, TableProblem } from '../../core/formats/readings-table.ts';
import { counted, formatNumber } from '../../core/quantity/format.ts';
import { isText, useKept } from './kept.ts';
import type { TableGuessed } from './use-table.ts';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { FileButton } from '../ui/file-button.tsx';
import { Row } from '../ui/page.tsx';
import { Segments } from '../ui/segments.tsx';
import { Scroll } from '../ui/table.tsx';
import { TextField } from '../ui/text-field.tsx';

/** Problems of a table that are told one by one. */
const MOST_TOLD = 40;
/** A longer text in a field would freeze the page. */
const MOST_SHOWN = 20000;

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

/** Takes a file that is dropped on it. */
function DropPlace({ onFile, children }: { onFile: (file: File) => void; children: ReactNode }) {
  const [over, setOver] = useState(false);
  return (
    <Drop
      $over={over}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => {
        setOver(false);
      }}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        const file = event.dataTransfer.files.item(0);
        if (file) onFile(file);
      }}
    >
      {children}
    </Drop>
  );
}

/** Where a table comes from: pasted, dropped, or a file. */
export function TableSource({
  keptAs,
  takeText,
  takeFile,
  say,
}: {
  /** The name by which what is pasted stays until it is used. */
  keptAs: string;
  takeText: (text: string) => void;
  /** Gives back the text of the file. */
  takeFile: (file: File) => Promise<string>;
  /** Says what is wrong, or nothing. */
  say: (problem: string | undefined) => void;
}) {
  const [text, change] = useKept(keptAs, () => '', isText);
  const setText = (next: string) => {
    change(() => next);
  };
  const take = async (file: File) => {
    const given = await takeFile(file);
    setText(given.length < MOST_SHOWN ? given : '');
  };
  return (
    <DropPlace onFile={(file) => void take(file)}>
      <TextField
        label="Paste a table with a header, or drop a CSV file here"
        value={text}
        onChange={(next) => {
          setText(next);
          say(undefined);
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
            takeText(text);
          }}
        >
          Look at it
        </Button>
        <FileButton accept={['.csv', '.tsv', '.txt', 'text/csv']} onFile={(file) => void take(file)}>
          A file…
        </FileButton>
      </Row>
    </DropPlace>
  );
}

/** The first rows of a table, and what each column holds. */
function FirstRows<Role extends string>({
  table,
  roles,
  options,
  problems,
  onRoles,
}: {
  table: Omit<TableGuessed<unknown>, 'guess'>;
  roles: readonly Role[];
  options: readonly { value: Role; label: string; help?: string }[];
  /** Cells that cannot be read. */
  problems: readonly TableProblem[];
  onRoles: (roles: Role[]) => void;
}) {
  const bad = new Set(problems.map(({ line, column }) => `${String(line)}/${column}`));
  return (
    <Scroll aria-label="The first rows, and what each column holds">
      <Preview>
        <thead>
          <tr>
            {table.columns.map((column, place) => (
              <th key={column} scope="col">
                {column || `Column ${String(place + 1)}`}
                <div>
                  <Choice
                    label={`What the column ${column} holds`}
                    labelHidden
                    options={options}
                    value={roles[place] ?? (options[0]?.value as Role)}
                    onChange={(role) => onRoles(roles.map((said, i) => (i === place ? role : said)))}
                  />
                </div>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row, i) => (
            <tr key={i}>
              {table.columns.map((column, place) => (
                <td key={column} data-bad={bad.has(`${String(table.lines[i])}/${column}`)}>
                  {row[place] ?? ''}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Preview>
    </Scroll>
  );
}

/** The first rows of a table, what each column holds, the signs in it, and cells that cannot be read marked. */
export function TableMatching<Role extends string>({
  table,
  matching: { roles, decimal },
  options,
  problems,
  setDelimiter,
  change,
  children,
}: {
  table: Omit<TableGuessed<unknown>, 'guess'>;
  matching: { roles: readonly Role[]; decimal: '.' | ',' };
  /** What a column may hold. */
  options: readonly { value: Role; label: string; help?: string }[];
  problems: readonly TableProblem[];
  setDelimiter: (delimiter: Delimiter) => void;
  change: (said: { roles: Role[] } | { decimal: '.' | ',' }) => Promise<void>;
  /** What else is to be said of the table. */
  children?: ReactNode;
}) {
  return (
    <>
      <Row style={{ alignItems: 'flex-end', gap: '12px 24px' }}>
        <Segments
          label="Between the columns"
          options={DELIMITERS}
          value={table.delimiter}
          onChange={setDelimiter}
        />
        <Segments
          label="Decimals"
          options={[
            { value: '.', label: '3.5' },
            { value: ',', label: '3,5' },
          ]}
          value={decimal}
          onChange={(said) => void change({ decimal: said })}
        />
        {children}
      </Row>
      <FirstRows {...{ table, roles, options, problems }} onRoles={(said) => void change({ roles: said })} />
      {table.rowCount > table.rows.length && (
        <p style={{ color: 'var(--quiet)' }}>
          And {counted(table.rowCount - table.rows.length, 'more row')}.
        </p>
      )}
    </>
  );
}

/** What cannot be read of a table, line by line. */
export function TableProblems({ problems }: { problems: readonly TableProblem[] }) {
  if (problems.length === 0) return null;
  return (
    <Problems>
      {problems.slice(0, MOST_TOLD).map(({ line, column, message }, i) => (
        <li key={i}>
          Line {line}
          {column && `, ${column}`}: {message}
        </li>
      ))}
      {problems.length > MOST_TOLD && <li>And {formatNumber(problems.length - MOST_TOLD, 0)} more.</li>}
    </Problems>
  );
}
