import type { ReactNode } from 'react';
import styled from 'styled-components';

const Line = styled.p`
  color: var(--rust);
  font-weight: 600;
  overflow-wrap: anywhere;
`;

/** What is wrong with what was entered, told at once; nothing where nothing is. */
export const Problem = ({ children }: { children: ReactNode }) =>
  children === undefined ? null : <Line role="alert">{children}</Line>;
