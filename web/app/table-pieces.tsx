import { type DragEvent, type ReactNode, useState } from 'react';
import styled from 'styled-components';
import { FileProblem, decodeText } from '../../core/formats/csv-read.ts';
import type { Delimiter, TableProblem } from '../../core/formats/readings-table.ts';
import { counted, formatNumber } from '../../core/quantity/format.ts';
import { problemText } from './api/client.ts';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { FileButton } from '../ui/file-button.tsx';
import { Row } from '../ui/page.tsx';
import { Segments } from '../ui/segments.tsx';
import { Scroll } from '../ui/table.tsx';
import { TextField } from '../ui/text-field.tsx';

/** Problems of a table that are told one by one. */
const MOST_TOLD = 40;
/** Larger files than this are no table of readings, bytes. */
const LARGEST_FILE = 60e6;
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

/**
 * The text of a file that may hold a table.
 * @throws Error that says in a sentence why it holds none
 */
export async function textOfTable(file: File): Promise<string> {
  if (file.size > LARGEST_FILE) {
    throw new Error(`A table may have ${formatNumber(LARGEST_FILE / 1e6, 0)} MB.`);
  }
  try {
    return decodeText(new Uint8Array(await file.arrayBuffer()));
  } catch (error) {
    throw error instanceof FileProblem ? error : new Error('The file cannot be read.', { cause: error });
  }
}

/** Where a table comes from: pasted, dropped, or a file. */
export function TableSource({
  onText,
  onProblem,
}: {
  /** Told the whole text, and the name of the file if it came from one. */
  onText: (text: string, name: string) => void;
  onProblem: (problem: string | undefined) => void;
}) {
  const [text, setText] = useState('');
  const [over, setOver] = useState(false);
  const takeFile = async (file: File) => {
    let given: string;
    try {
      given = await textOfTable(file);
    } catch (error) {
      onProblem(problemText(error));
      return;
    }
    setText(given.length < MOST_SHOWN ? given : '');
    onText(given, file.name.slice(0, 200));
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const file = event.dataTransfer.files.item(0);
    if (file) void takeFile(file);
  };
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
      onDrop={drop}
    >
      <TextField
        label="Paste a table with a header, or drop a CSV file here"
        value={text}
        onChange={(next) => {
          setText(next);
          onProblem(undefined);
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
            onText(text, '');
          }}
        >
          Look at it
        </Button>
        <FileButton accept={['.csv', '.tsv', '.txt', 'text/csv']} onFile={(file) => void takeFile(file)}>
          A file…
        </FileButton>
      </Row>
    </Drop>
  );
}

/** What stands between columns, and before decimals; and what else is to be said of a table. */
export function TableSigns({
  delimiter,
  decimal,
  onDelimiter,
  onDecimal,
  children,
}: {
  delimiter: Delimiter;
  decimal: '.' | ',';
  onDelimiter: (delimiter: Delimiter) => void;
  onDecimal: (decimal: '.' | ',') => void;
  children?: ReactNode;
}) {
  return (
    <Row style={{ alignItems: 'flex-end', gap: '12px 24px' }}>
      <Segments label="Between the columns" options={DELIMITERS} value={delimiter} onChange={onDelimiter} />
      <Segments
        label="Decimals"
        options={[
          { value: '.', label: '3.5' },
          { value: ',', label: '3,5' },
        ]}
        value={decimal}
        onChange={onDecimal}
      />
      {children}
    </Row>
  );
}

/** The first rows of a table, with what each column holds, and cells that cannot be read marked. */
export function TablePreview<Role extends string>({
  table,
  roles,
  options,
  problems,
  onRole,
}: {
  table: {
    columns: readonly string[];
    rows: readonly string[][];
    lines: readonly number[];
    rowCount: number;
  };
  roles: readonly Role[];
  options: readonly { value: Role; label: string; help?: string }[];
  problems: readonly TableProblem[];
  onRole: (column: number, role: Role) => void;
}) {
  const bad = new Set(problems.map(({ line, column }) => `${String(line)}/${column}`));
  return (
    <>
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
                      options={options}
                      value={roles[at] ?? (options[0]?.value as Role)}
                      onChange={(role) => {
                        onRole(at, role);
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
                  <td key={column} data-bad={bad.has(`${String(table.lines[i])}/${column}`)}>
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
