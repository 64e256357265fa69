import { type ReactNode, useState } from 'react';
import styled from 'styled-components';
import { Button } from './button.tsx';
import { TextField } from './text-field.tsx';

const Line = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  align-items: start;
  max-width: 620px;
`;

export interface AddLineProps {
  label: string;
  placeholder: string;
  /** What to say when nothing was typed. */
  empty: string;
  /** Takes what was typed, or says what is wrong with it. */
  onAdd: (text: string) => string | undefined;
  maxLength?: number;
  button?: ReactNode;
}

/** Type, Enter, and it is added; the field is ready for the next one. */
export function AddLine({ label, placeholder, empty, onAdd, maxLength = 300, button = 'Add' }: AddLineProps) {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string>();
  const add = () => {
    const typed = text.trim();
    const wrong = typed === '' ? empty : onAdd(typed);
    setProblem(wrong);
    if (wrong === undefined) setText('');
  };
  return (
    <Line>
      <TextField
        label={label}
        labelHidden
        placeholder={placeholder}
        value={text}
        maxLength={maxLength}
        onChange={(next) => {
          setText(next);
          setProblem(undefined);
        }}
        problem={problem}
        onEnter={add}
      />
      <Button onPress={add}>{button}</Button>
    </Line>
  );
}
