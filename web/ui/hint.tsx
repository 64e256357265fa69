import type { ReactNode } from 'react';
import { Tooltip, TooltipTrigger } from 'react-aria-components';
import styled from 'styled-components';

const Styled = styled(Tooltip)`
  padding: 4px 10px;
  border-radius: 6px;
  background: var(--ink);
  color: var(--sheet);
  font-size: var(--size-13);
  max-width: 260px;
`;

/** A few words that appear over a control on hover and on keyboard focus. */
export function Hint({ text, children }: { text: string; children: ReactNode }) {
  return (
    <TooltipTrigger delay={500} closeDelay={100}>
      {children}
      <Styled offset={6}>{text}</Styled>
    </TooltipTrigger>
  );
}
