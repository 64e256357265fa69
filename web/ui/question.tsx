import { type ReactNode, useEffect, useId, useState } from 'react';
import styled from 'styled-components';
import { NARROW, PRINT } from './tokens.ts';

const Frame = styled.section`
  position: fixed;
  right: 20px;
  bottom: 20px;
  z-index: 20;
  display: flex;
  flex-direction: column;
  gap: 14px;
  width: min(400px, calc(100vw - 32px));
  max-height: calc(100dvh - 40px);
  overflow: auto;
  padding: 20px 22px;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner-large);
  background: var(--sheet);
  color: var(--ink);
  box-shadow: 0 12px 48px var(--shade);
  ${NARROW} {
    right: 16px;
    bottom: 16px;
  }
  ${PRINT} {
    display: none;
  }
`;

const Title = styled.h2`
  font-size: var(--size-19);
  line-height: 1.2;
  font-weight: 680;
`;

export interface QuestionProps {
  title: string;
  onClose: () => void;
  children: ReactNode;
}

/**
 * A question beside the work, left by Escape: what it is about stays in sight and in reach. Unlike what must be answered
 * first, it comes and goes without the rest of the page being drawn again.
 */
export function Question({ title, onClose, children }: QuestionProps) {
  const titleId = useId();
  // Whatever is asked for takes the focus, and gives it back.
  const [before] = useState(() => document.activeElement);
  useEffect(
    () => () => {
      if (before instanceof HTMLElement) before.focus({ preventScroll: true });
    },
    [before],
  );
  return (
    <Frame
      role="dialog"
      aria-labelledby={titleId}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        onClose();
      }}
    >
      <Title id={titleId}>{title}</Title>
      {children}
    </Frame>
  );
}
