import styled, { css } from 'styled-components';

export const twelveColumns = css`
  display: grid;
  grid-template-columns: repeat(12, minmax(0, 1fr));
  gap: 12px;
`;

/** Fields side by side. */
export const Columns = styled.div`
  ${twelveColumns}
`;

/** A field, so many of twelve columns wide. */
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
