import styled from 'styled-components';

/** A drawn picture with its words: never wider than its place, never broken over two printed pages. */
export const PictureFrame = styled.figure`
  margin: 0;
  min-width: 0;
  break-inside: avoid;
  svg {
    display: block;
    max-width: 100%;
    height: auto;
    overflow: visible;
  }
  text {
    fill: var(--ink);
    font-size: 14px;
  }
  .quiet {
    fill: var(--quiet);
    font-size: 12.5px;
  }
  .strong {
    font-weight: 680;
  }
  .turn {
    fill: var(--rust);
    font-size: 13px;
  }
  figcaption {
    margin-top: 4px;
    font-size: var(--size-13);
    color: var(--quiet);
    max-width: 90ch;
  }
`;
