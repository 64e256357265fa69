import styled, { css } from 'styled-components';
import { NARROW } from '../../../ui/tokens.ts';

/** An input that is nothing but its figure. */
const bareFigure = css`
  flex: 1;
  min-width: 0;
  width: 100%;
  padding: 0;
  border: 0;
  outline: none;
  background: transparent;
  color: var(--ink);
  caret-color: var(--fern);
  font-weight: 620;
  letter-spacing: -0.02em;
  &::placeholder {
    color: var(--rule);
  }
`;

/** What is to be typed, above the line. */
export const EntryName = styled.p`
  margin-top: 8px;
  font-size: var(--size-15);
  font-weight: 640;
  color: var(--quiet);
`;

/** The field that is written on: one large figure, its unit, and what is done with it. */
export const Figure = styled.div<{ $odd: boolean }>`
  display: flex;
  align-items: center;
  gap: 16px;
  margin-top: 4px;
  padding: 0 12px 0 16px;
  border-radius: var(--corner) var(--corner) 0 0;
  background: var(--field);
  cursor: text;
  border-bottom: 3px solid ${({ $odd }) => ($odd ? 'var(--rust)' : 'var(--ink)')};
  input {
    ${bareFigure}
    font-size: clamp(3.4rem, 9vw, var(--size-104));
    line-height: 1.12;
  }
  > button:last-of-type {
    margin-left: auto;
  }
  @supports (field-sizing: content) {
    input {
      field-sizing: content;
      flex: 0 1 auto;
      width: auto;
      min-width: 1.2ch;
    }
  }
  > span {
    align-self: flex-end;
    padding-bottom: 0.9rem;
    color: var(--quiet);
    font-size: var(--size-29);
    white-space: nowrap;
    max-width: 200px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  &:focus-within {
    border-color: ${({ $odd }) => ($odd ? 'var(--rust)' : 'var(--fern)')};
  }
`;

/** Several figures side by side, each with its own label. */
export const Figures = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 10px 28px;
  margin-top: 12px;
  > button {
    margin-left: auto;
  }
`;

export const LabelledFigure = styled.label<{ $odd: boolean }>`
  flex: 1 1 150px;
  min-width: 0;
  max-width: 320px;
  border-bottom: 3px solid ${({ $odd }) => ($odd ? 'var(--rust)' : 'var(--ink)')};
  small {
    display: block;
    font-size: var(--size-15);
    font-weight: 640;
    color: var(--quiet);
  }
  span {
    display: flex;
    align-items: baseline;
    gap: 10px;
    color: var(--quiet);
    font-size: var(--size-19);
  }
  input {
    ${bareFigure}
    font-size: clamp(2.4rem, 6vw, 4rem);
    line-height: 1.15;
  }
  &:focus-within {
    border-color: ${({ $odd }) => ($odd ? 'var(--rust)' : 'var(--fern)')};
  }
  ${NARROW} {
    max-width: none;
  }
`;
