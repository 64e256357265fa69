import { Trash2 } from 'lucide-react';
import styled from 'styled-components';
import { SavedText } from '../../app/draft-field.tsx';
import { AddLine } from '../../ui/add-line.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { QuietFields } from '../../ui/quiet-fields.tsx';
import { tell } from '../../app/tell.ts';

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

export interface LineListProps {
  /** What one line is called: “step”, “thing to bring”. */
  word: string;
  lines: readonly string[];
  save: (lines: string[]) => Promise<unknown>;
}

/** A list of short texts: add, change, remove. */
export function LineList({ word, lines, save }: LineListProps) {
  return (
    <>
      {lines.length > 0 && (
        <QuietFields as={List}>
          {lines.map((line, place) => (
            <li key={`${String(place)}/${line}`}>
              <SavedText
                label={`${word} ${String(place + 1)}`}
                labelHidden
                saved={line}
                required
                save={(next) => save(lines.map((other, i) => (i === place ? next : other)))}
              />
              <IconButton
                label={`Remove ${line}`}
                onPress={() => {
                  tell(save(lines.filter((_, i) => i !== place)));
                }}
              >
                <Trash2 size={18} aria-hidden />
              </IconButton>
            </li>
          ))}
        </QuietFields>
      )}
      <AddLine
        label={`Add a ${word}`}
        placeholder={`Another ${word}, then Enter`}
        empty="Type something first."
        onAdd={(line) => {
          tell(save([...lines, line]));
          return undefined;
        }}
      />
    </>
  );
}
