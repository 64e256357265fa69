import styled from 'styled-components';

/** A field of a measurand, so many of twelve columns wide. */
export const Span = styled.div<{ $columns: number }>`
  grid-column: span ${({ $columns }) => $columns};
  min-width: 0;
  display: flex;
  align-items: flex-start;
  gap: 4px;
  > * {
    flex: 1;
  }
  > button {
    flex: none;
    margin-top: 22px;
  }
  @media (max-width: 720px) {
    grid-column: span ${({ $columns }) => Math.min(12, $columns * 2)};
  }
`;
