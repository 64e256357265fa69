import type { ReactNode } from 'react';
import styled from 'styled-components';
import { focusRing } from './tokens.ts';

const Styled = styled.a`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 8px;
  min-height: 44px;
  min-width: 112px;
  padding: 8px 16px;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  background: var(--sheet);
  color: var(--ink);
  font-weight: 640;
  text-decoration: none;
  &:hover {
    background: var(--hover);
  }
  &:focus-visible {
    ${focusRing}
  }
`;

/** A link that looks like a button: to a file. */
export function LinkButton({
  href,
  download = false,
  onFollow,
  children,
}: {
  href: string;
  download?: boolean;
  /** Does in the page what the link is for. */
  onFollow?: () => void;
  children: ReactNode;
}) {
  return (
    <Styled
      href={href}
      download={download}
      onClick={
        onFollow &&
        ((event) => {
          event.preventDefault();
          onFollow();
        })
      }
    >
      {children}
    </Styled>
  );
}
