import styled from 'styled-components';
import { focusRing } from '../../../ui/tokens.ts';

/** What chooses a row. */
export const Name = styled.button`
  padding: 2px 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
  small {
    display: block;
    font-size: var(--size-13);
    font-weight: 400;
    color: var(--quiet);
  }
  &:focus-visible {
    ${focusRing}
  }
`;

/** An item with its mark. */
export const Of = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 140px;
  > :last-child {
    flex: 1;
  }
`;

export const Where = styled.td`
  white-space: nowrap;
`;

const OddList = styled.ul`
  font-weight: 400;
  font-size: var(--size-13);
  color: var(--rust);
  min-width: 22ch;
`;

/** What is to be looked at; nothing where nothing is odd. */
export function Odd({ sentences }: { sentences: readonly string[] }) {
  return (
    sentences.length > 0 && (
      <OddList>
        {sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </OddList>
    )
  );
}
