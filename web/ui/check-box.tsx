import { Check } from 'lucide-react';
import type { ReactNode } from 'react';
import { CheckboxButton, CheckboxField } from 'react-aria-components';
import styled from 'styled-components';
import { focusRing } from './tokens.ts';

const Line = styled(CheckboxButton)`
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 44px;
  padding: 4px 8px;
  border-radius: 6px;
  cursor: pointer;
  &[data-hovered] {
    background: var(--hover);
  }
  &[data-focus-visible] {
    ${focusRing}
  }
`;

const Box = styled.span<{ $on: boolean }>`
  flex: none;
  display: grid;
  place-items: center;
  width: 22px;
  height: 22px;
  border: 2px solid ${({ $on }) => ($on ? 'var(--fern)' : 'var(--rule-strong)')};
  border-radius: 5px;
  background: ${({ $on }) => ($on ? 'var(--fern)' : 'var(--sheet)')};
  color: var(--sheet);
`;

export interface CheckBoxProps {
  isSelected: boolean;
  onChange: (isSelected: boolean) => void;
  children: ReactNode;
}

/** Something that is so or not. */
export const CheckBox = ({ children, ...rest }: CheckBoxProps) => (
  <CheckboxField {...rest}>
    <Line>
      {({ isSelected }) => (
        <>
          <Box $on={isSelected}>{isSelected && <Check size={16} strokeWidth={3} aria-hidden />}</Box>
          {children}
        </>
      )}
    </Line>
  </CheckboxField>
);
