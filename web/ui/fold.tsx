import type { ReactNode } from 'react';
import { ChevronRight } from 'lucide-react';
import styled from 'styled-components';
import { Later } from './later.tsx';
import { focusRing } from './tokens.ts';
import { useOpened } from './use-opened.ts';

const Frame = styled.details`
  border-top: 1px solid var(--rule);
  summary {
    display: flex;
    align-items: center;
    gap: 10px;
    min-height: 56px;
    cursor: pointer;
    list-style: none;
    border-radius: 4px;
  }
  summary::-webkit-details-marker {
    display: none;
  }
  summary > svg {
    flex: none;
    color: var(--quiet);
  }
  &[open] > summary > svg {
    transform: rotate(90deg);
  }
  summary:focus-visible {
    ${focusRing}
  }
  summary h2 {
    flex: none;
  }
  summary span {
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    color: var(--quiet);
    font-size: var(--size-15);
  }
`;

const Body = styled.div`
  padding: 4px 0 26px 28px;
`;

export interface FoldProps {
  title: string;
  /** What stands in it, in a few words, so that it need not be opened to know. */
  state: string;
  children: ReactNode;
}

/** A part of a page that is opened when it is wanted. */
export function Fold({ title, state, children }: FoldProps) {
  // It stays with whatever was typed into it.
  const { opened, onToggle } = useOpened();
  return (
    <Frame onToggle={onToggle}>
      <summary>
        <ChevronRight size={18} aria-hidden />
        <h2>{title}</h2>
        <span>{state}</span>
      </summary>
      <Body>{opened && <Later waiting={<p>Opening…</p>}>{children}</Later>}</Body>
    </Frame>
  );
}
