import type { ReactNode } from 'react';
import styled from 'styled-components';
import type { Item } from '../../../../core/model/parts.ts';
import { MarkSign } from '../../../strip/mark-sign.tsx';
import { Choice } from '../../../ui/choice.tsx';
import { focusRing } from '../../../ui/tokens.ts';

const Name = styled.button`
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

export interface RowNameProps {
  chosen: boolean;
  onChoose: () => void;
  children: ReactNode;
}

/** What a row is called, which chooses it. */
export const RowName = ({ chosen, onChoose, children }: RowNameProps) => (
  <th scope="row">
    <Name type="button" aria-pressed={chosen} onClick={onChoose}>
      {children}
    </Name>
  </th>
);

const Of = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 140px;
  > :last-child {
    flex: 1;
  }
`;

export interface RowItemProps {
  label: string;
  items: readonly Item[];
  item: Item | undefined;
  /** Whether a row may be no item’s. */
  orNone?: boolean;
  onItem: (itemId: string) => void;
}

/** Whose a row is, with the item’s mark. */
export const RowItem = ({ label, items, item, orNone = false, onItem }: RowItemProps) => (
  <Of>
    {item && <MarkSign mark={item.mark} />}
    <Choice
      label={label}
      labelHidden
      options={[
        ...(orNone ? [{ value: '', label: 'none' }] : []),
        ...items.map(({ id, name }) => ({ value: id, label: name })),
      ]}
      value={item?.id ?? ''}
      onChange={onItem}
    />
  </Of>
);

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
