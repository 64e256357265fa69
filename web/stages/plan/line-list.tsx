import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import styled from 'styled-components';
import { SavedText } from '../../app/draft-field.tsx';
import { Button } from '../../ui/button.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { QuietFields } from '../../ui/quiet-fields.tsx';
import { TextField } from '../../ui/text-field.tsx';
import { tell } from './tell.ts';

const List = styled.ol`
  display: grid;
  gap: 2px;
  max-width: 620px;
  margin-bottom: 8px;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 44px;
    gap: 4px;
    align-items: start;
  }
`;

const Adding = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  max-width: 620px;
`;

export interface LineListProps {
  /** What one line is called: “step”, “thing to bring”. */
  word: string;
  lines: readonly string[];
  save: (lines: string[]) => Promise<unknown>;
}

/** A list of short texts: add, change, remove. */
export function LineList({ word, lines, save }: LineListProps) {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string>();
  const add = () => {
    const line = text.trim();
    if (line === '') {
      setProblem('Type something first.');
      return;
    }
    setText('');
    tell(save([...lines, line]));
  };
  return (
    <>
      {lines.length > 0 && (
        <QuietFields as={List}>
          {lines.map((line, at) => (
            <li key={`${String(at)}/${line}`}>
              <SavedText
                label={`${word} ${String(at + 1)}`}
                labelHidden
                saved={line}
                required
                save={(next) => save(lines.map((one, i) => (i === at ? next : one)))}
              />
              <IconButton
                label={`Remove ${line}`}
                onPress={() => {
                  tell(save(lines.filter((_, i) => i !== at)));
                }}
              >
                <Trash2 size={18} aria-hidden />
              </IconButton>
            </li>
          ))}
        </QuietFields>
      )}
      <Adding>
        <TextField
          label={`Add a ${word}`}
          labelHidden
          placeholder={`Another ${word}, then Enter`}
          value={text}
          maxLength={300}
          onChange={(next) => {
            setText(next);
            setProblem(undefined);
          }}
          problem={problem}
          onEnter={add}
        />
        <Button onPress={add}>Add</Button>
      </Adding>
    </>
  );
}
