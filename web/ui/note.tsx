import type { ReactNode } from 'react';
import styled from 'styled-components';

export type NoteTone = 'good' | 'attention' | 'plain';

const EDGES: Record<NoteTone, string> = {
  good: 'var(--fern)',
  attention: 'var(--rust)',
  plain: 'var(--rule-strong)',
};

const Frame = styled.section<{ $tone: NoteTone }>`
  padding: 1px 0 1px 14px;
  border-left: 3px solid ${({ $tone }) => EDGES[$tone]};
  font-size: var(--size-15);
  line-height: 1.45;
  overflow-wrap: anywhere;
  h3 {
    margin-bottom: 1px;
  }
`;

const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 10px;
`;

export interface NoteProps {
  tone?: NoteTone;
  title: string;
  children?: ReactNode;
  actions?: ReactNode;
}

/** A plain sentence in the margin, with what to do about it. */
export function Note({ tone = 'plain', title, children, actions }: NoteProps) {
  return (
    <Frame $tone={tone}>
      <h3>{title}</h3>
      {children}
      {actions && <Actions>{actions}</Actions>}
    </Frame>
  );
}
