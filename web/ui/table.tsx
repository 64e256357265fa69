import styled from 'styled-components';
import { PRINT } from './tokens.ts';

/** A quiet table: figures to the right, one rule a row. */
export const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  font-size: var(--size-15);
  caption {
    text-align: left;
    padding-bottom: 6px;
    font-weight: 680;
    font-size: var(--size-16);
  }
  th {
    font-size: var(--size-13);
    font-weight: 660;
    color: var(--quiet);
    text-align: left;
    vertical-align: bottom;
    padding: 6px 8px;
  }
  tbody th {
    font-size: inherit;
    color: inherit;
    font-weight: 560;
    vertical-align: middle;
    /* A long name takes lines of its own, so that some figure is seen beside it on any page. */
    max-width: max(14ch, min(40ch, 42vw));
    overflow-wrap: break-word;
    bdi {
      white-space: normal;
    }
  }
  tbody th:has(bdi) {
    min-width: min(15ch, 28vw);
  }
  td {
    padding: 6px 8px;
    vertical-align: middle;
  }
  th:first-child,
  td:first-child {
    padding-left: 0;
  }
  th:last-child,
  td:last-child {
    padding-right: 0;
  }
  td:has(button) {
    padding-top: 2px;
    padding-bottom: 2px;
  }
  tbody tr {
    border-top: 1px solid var(--rule);
  }
  .figure {
    text-align: right;
    white-space: nowrap;
  }
  tr[data-current] {
    background: var(--fern-soft);
    font-weight: 640;
    > :first-child {
      box-shadow: -10px 0 0 var(--fern-soft);
    }
    > :last-child {
      box-shadow: 10px 0 0 var(--fern-soft);
    }
  }
  tr[data-out] td,
  tr[data-out] th {
    color: var(--quiet);
  }
`;

/** The head of a column of figures. */
export const FigureHead = styled.th.attrs({ scope: 'col', className: 'figure' })``;

/** Lets a wide table be moved sideways, by keyboard too. */
export const Scroll = styled.div.attrs({ tabIndex: 0, role: 'region' })`
  overflow-x: auto;
  /* A tinted row reaches a little further than the text, which still lines up with what is above. */
  margin-inline: -10px;
  padding-inline: 10px;
  /* A shade at either edge, covered by the sheet's own ground where there is nothing more to see. */
  --edge: color-mix(in srgb, var(--ink) 22%, transparent);
  background:
    linear-gradient(90deg, var(--sheet) 14px, transparent) left / 44px 100% no-repeat local,
    linear-gradient(270deg, var(--sheet) 14px, transparent) right / 44px 100% no-repeat local,
    linear-gradient(90deg, var(--edge), transparent) left / 14px 100% no-repeat scroll,
    linear-gradient(270deg, var(--edge), transparent) right / 14px 100% no-repeat scroll;
  ${PRINT} {
    overflow: visible;
    background: none;
  }
`;
