import type { ReactNode, Ref } from 'react';
import styled from 'styled-components';

/** A drawn picture with its words: never wider than its place, never broken over two printed pages. */
const Frame = styled.figure`
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

/** A name that is cut where there is no room for more of it. */
export const shortened = (name: string, characters: number): string =>
  name.length > characters ? `${name.slice(0, characters - 1)}…` : name;

/** A drawn picture in its frame, with what readers hear of it and the words under it. */
export function Drawing({
  frame,
  width,
  height,
  label,
  caption,
  children,
}: {
  /** Of the figure, whose width is measured. */
  frame: Ref<HTMLElement>;
  width: number;
  height: number;
  label: string;
  caption: ReactNode;
  children: ReactNode;
}) {
  return (
    <Frame ref={frame}>
      <svg
        width={width}
        height={height}
        viewBox={`0 0 ${String(width)} ${String(height)}`}
        role="img"
        aria-label={label}
      >
        {children}
      </svg>
      <figcaption>{caption}</figcaption>
    </Frame>
  );
}
