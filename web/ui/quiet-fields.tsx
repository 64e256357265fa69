import styled from 'styled-components';

/** Within a list a field is a line to write on, and becomes a box when it is used. */
export const QuietFields = styled.div`
  input,
  button[aria-haspopup='listbox'] {
    border-color: transparent;
    border-bottom-color: var(--rule-strong);
    border-radius: 0;
    padding-left: 4px;
  }
  input[data-hovered],
  button[aria-haspopup='listbox'][data-hovered] {
    background: var(--hover);
  }
  input[data-invalid] {
    border-color: var(--rust);
  }
`;
