import { useRef } from 'react';
import styled from 'styled-components';
import type { StudyName } from '../../core/expression/names.ts';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/text-field.tsx';

const Names = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 6px;
  button {
    font-family: var(--typed);
    font-weight: 500;
    border-color: var(--rule);
  }
`;

/** More names than this are narrowed by typing. */
const MOST_OFFERED = 12;

export interface ExpressionBoxProps {
  label: string;
  value: string;
  names: readonly StudyName[];
  problem: string | undefined;
  /** What it comes to on sample values, or what it is made of. */
  preview: string | undefined;
  onChange: (text: string) => void;
  onCommit: () => void;
  autoFocus?: boolean;
}

/** A box for an expression over the study's names, with completion and what it comes to. */
export function ExpressionBox({
  autoFocus = false,
  label,
  value,
  names,
  problem,
  preview,
  onChange,
  onCommit,
}: ExpressionBoxProps) {
  const input = useRef<HTMLInputElement>(null);
  // The word that is being typed at the end decides which names are offered.
  const word =
    value
      .split(/[^\p{L}\p{N}_]/u)
      .at(-1)
      ?.toLowerCase() ?? '';
  const complete = names.some(({ identifier }) => identifier === word);
  const offered = names
    .filter(
      ({ identifier, name }) =>
        word === '' || complete || identifier.includes(word) || name.toLowerCase().includes(word),
    )
    .slice(0, MOST_OFFERED);
  const insert = (identifier: string) => {
    onChange(`${complete || word === '' ? value : value.slice(0, -word.length)}${identifier}`);
    input.current?.focus();
  };
  return (
    <div>
      <TextField
        label={label}
        value={value}
        inputRef={input}
        maxLength={500}
        autoFocus={autoFocus}
        placeholder="pull / mass"
        problem={problem}
        {...(preview === undefined ? {} : { help: preview })}
        onChange={onChange}
        onEnter={onCommit}
        onBlur={onCommit}
      />
      <Names aria-label="Names to use">
        {offered.map(({ identifier, name, unit, kind }) => (
          <Button
            key={identifier}
            size="small"
            aria-label={`Insert ${name}, ${kind}${unit ? ` in ${unit}` : ''}`}
            onPress={() => {
              insert(identifier);
            }}
          >
            {identifier}
          </Button>
        ))}
      </Names>
    </div>
  );
}
