import { Button as AriaButton, type ButtonProps } from 'react-aria-components';
import styled from 'styled-components';
import { Hint } from './hint.tsx';
import { focusRing } from './tokens.ts';

const Styled = styled(AriaButton)`
  display: inline-grid;
  place-items: center;
  width: 40px;
  height: 40px;
  padding: 0;
  border: 0;
  border-radius: var(--corner);
  background: transparent;
  color: var(--quiet);
  cursor: pointer;
  @media (pointer: coarse) {
    width: 44px;
    height: 44px;
  }
  &[data-hovered] {
    background: var(--hover);
    color: var(--ink);
  }
  &[data-focus-visible] {
    ${focusRing}
  }
  &[data-disabled] {
    opacity: 0.35;
    cursor: default;
  }
`;

export interface IconButtonProps extends ButtonProps {
  /** What it does, for readers and as a hint. */
  label: string;
}

/** A button that shows an icon and says its label as a hint. */
export function IconButton({ label, ...props }: IconButtonProps) {
  return (
    <Hint text={label}>
      <Styled {...props} aria-label={label} />
    </Hint>
  );
}
