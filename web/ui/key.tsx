import styled from 'styled-components';

/** A key of the keyboard. */
export const Key = styled.kbd`
  display: inline-block;
  padding: 0 6px;
  border: 1px solid currentcolor;
  border-bottom-width: 2px;
  border-radius: 5px;
  font: 600 0.8125rem/1.45 var(--typed);
  opacity: 0.85;
`;
