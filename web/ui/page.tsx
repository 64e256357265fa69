import type { ReactNode } from 'react';
import styled from 'styled-components';
import { NARROW, PRINT, label } from './tokens.ts';

const Grid = styled.div`
  flex: 1;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 296px;
  background: var(--sheet);
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
    align-content: start;
  }
`;

const Content = styled.main`
  min-width: 0;
  padding: 24px 28px 56px;
  ${NARROW} {
    padding: 20px 20px 28px;
  }
`;

/** The way on stays in sight however far the page is read: in the margin, or along the lower edge. */
const Next = styled.div`
  position: sticky;
  top: 0;
  z-index: 3;
  padding: 20px 24px 14px;
  background: var(--sheet);
  ${NARROW} {
    order: 3;
    top: auto;
    bottom: 0;
    padding: 10px 20px;
    border-top: 1px solid var(--rule);
  }
  ${PRINT} {
    display: none;
  }
`;

/** Margin and way on, one above the other. */
const Beside = styled.div`
  display: flex;
  flex-direction: column;
  min-width: 0;
  border-left: 1px solid var(--rule);
  ${NARROW} {
    display: contents;
  }
  ${PRINT} {
    border: 0;
  }
`;

/** Notes stay in sight beside what they are about: where there is no room for all of them, their end does. */
const Side = styled.aside<{ $under: boolean }>`
  position: sticky;
  top: min(var(--next, 0px), 100vh - var(--notes, 100vh));
  display: flex;
  flex-direction: column;
  gap: 22px;
  padding: ${({ $under }) => ($under ? '8px' : '26px')} 24px 40px;
  ${NARROW} {
    position: static;
    border-top: 1px solid var(--rule);
    padding: 20px 20px 40px;
  }
  ${PRINT} {
    position: static;
    border: 0;
  }
`;

/** Has what an element lies in know its height, by the name of a property. */
const heightAs = (property: string) => (element: HTMLElement | null) => {
  const around = element?.parentElement;
  if (!element || !around) return undefined;
  const observer = new ResizeObserver(() => {
    around.style.setProperty(property, `${String(element.offsetHeight)}px`);
  });
  observer.observe(element);
  return () => {
    observer.disconnect();
    around.style.removeProperty(property);
  };
};
const nextHeight = heightAs('--next');
const notesHeight = heightAs('--notes');

/** A stage's sheet: the work in the middle, notes in the margin. */
export function Sheet({
  children,
  notes,
  notesLabel,
  next,
}: {
  children: ReactNode;
  notes: ReactNode;
  notesLabel: string;
  /** The way on to the next stage. */
  next?: ReactNode;
}) {
  return (
    <Grid>
      <Content id="content" tabIndex={-1}>
        {children}
      </Content>
      <Beside>
        {next && <Next ref={nextHeight}>{next}</Next>}
        <Side ref={notesHeight} aria-label={notesLabel} $under={Boolean(next)}>
          {notes}
        </Side>
      </Beside>
    </Grid>
  );
}

/** The answer of a stage, first and largest, with a quiet line under it. */
const Head = styled.header`
  margin-bottom: 20px;
  * + & {
    margin-top: 20px;
  }
  h2 {
    font-size: var(--size-25);
    line-height: 1.2;
    text-wrap: balance;
  }
  p {
    margin-top: 4px;
    color: var(--quiet);
    max-width: 86ch;
    text-wrap: pretty;
  }
`;

/** @param level 2 where it is one of several on a page that has a title of its own */
export function PageHead({
  title,
  children,
  level = 1,
}: {
  title: ReactNode;
  children?: ReactNode;
  level?: 1 | 2;
}) {
  const Title = level === 1 ? 'h1' : 'h2';
  return (
    <Head>
      <Title>{title}</Title>
      {children && <p>{children}</p>}
    </Head>
  );
}

/** A part of a stage under a rule. */
export const Section = styled.section`
  padding-top: 22px;
  margin-top: 26px;
  border-top: 1px solid var(--rule);
  > h2 {
    margin-bottom: 12px;
  }
`;

/** A long part far down a page: it is styled and drawn when it comes into sight, and costs nothing before. */
export const FarSection = styled(Section)`
  content-visibility: auto;
  contain-intrinsic-size: auto 700px;
  /* Rings around what has the focus, and tinted rows, reach out of it. */
  overflow-clip-margin: 12px;
  ${PRINT} {
    content-visibility: visible;
  }
`;

/** A small group in the margin. */
export const Aside = styled.div`
  font-size: var(--size-15);
  h3 {
    ${label}
    margin-bottom: 4px;
  }
`;

export const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
`;

const Empty = styled.div`
  padding: 40px 0;
  max-width: 52ch;
  h1,
  h2 {
    font-size: var(--size-25);
    line-height: 1.2;
    margin-bottom: 8px;
    overflow-wrap: anywhere;
  }
  p {
    color: var(--quiet);
    margin-bottom: 20px;
  }
`;

/** What an empty screen says to do next. */
export function EmptyState({
  title,
  children,
  action,
  level = 1,
}: {
  title: string;
  children: ReactNode;
  action?: ReactNode;
  /** 2 where the page has a title already. */
  level?: 1 | 2;
}) {
  const Title = level === 1 ? 'h1' : 'h2';
  return (
    <Empty>
      <Title>{title}</Title>
      <p>{children}</p>
      {action}
    </Empty>
  );
}
