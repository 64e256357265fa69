import { useEffect } from 'react';
import { useLocation } from 'react-router';
import styled from 'styled-components';
import type { MethodEntry } from '../../../core/methods/method-entry.ts';
import { METHODS } from '../../../core/methods/index.ts';
import { PageHead } from '../../ui/page.tsx';
import { NARROW, PRINT, focusRing } from '../../ui/tokens.ts';

const Page = styled.main`
  flex: 1;
  display: grid;
  grid-template-columns: 232px minmax(0, 1fr);
  gap: 24px 48px;
  padding: 24px 28px 80px;
  background: var(--sheet);
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
    padding: 20px 20px 60px;
  }
`;

const Head = styled.div`
  grid-column: 1 / -1;
`;

const Contents = styled.nav`
  align-self: start;
  position: sticky;
  top: 20px;
  max-height: calc(100vh - 40px);
  overflow-y: auto;
  font-size: var(--size-15);
  h2 {
    font-size: var(--size-15);
    font-weight: 640;
    margin-top: 14px;
  }
  h2:first-child {
    margin-top: 0;
  }
  ul {
    margin: 2px 0 0;
    padding: 0;
    list-style: none;
  }
  a {
    display: block;
    padding: 4px 0;
    color: var(--quiet);
    text-decoration: none;
    border-radius: 4px;
  }
  a:hover {
    color: var(--fern);
    text-decoration: underline;
  }
  a:focus-visible {
    ${focusRing}
  }
  ${NARROW} {
    position: static;
    max-height: none;
    columns: 2;
    h2 {
      break-after: avoid;
    }
    a {
      padding: 8px 0;
    }
  }
  ${PRINT} {
    display: none;
  }
`;

const Group = styled.section`
  max-width: 800px;
  & + & {
    margin-top: 36px;
  }
  > h2 {
    font-size: var(--size-25);
  }
  > p {
    margin: 4px 0 16px;
    max-width: 68ch;
    color: var(--quiet);
  }
`;

const Entry = styled.article`
  padding: 18px 0;
  border-top: 1px solid var(--rule);
  scroll-margin-top: 12px;
  break-inside: avoid;
  h3 {
    font-size: var(--size-19);
  }
  h3 + p {
    margin: 4px 0 10px;
    max-width: 68ch;
  }
  dl {
    display: grid;
    grid-template-columns: 92px minmax(0, 1fr);
    gap: 6px 16px;
    margin: 0;
    font-size: var(--size-15);
  }
  dt {
    color: var(--quiet);
  }
  dd {
    margin: 0;
    max-width: 66ch;
    overflow-wrap: anywhere;
  }
  sub {
    line-height: 0;
  }
  &:target {
    border-top-color: var(--fern);
  }
  ${NARROW} {
    dl {
      grid-template-columns: minmax(0, 1fr);
      gap: 0;
    }
    dd {
      margin-bottom: 8px;
    }
  }
`;

/** A formula as it is written, what stands behind a low line set low. */
const Formula = ({ text }: { text: string }) =>
  text
    // A symbol, a low line and what goes with it: R_i, s_xx.
    .split(/_(\w{1,2})/u)
    .map((piece, i) => (i % 2 === 0 ? piece : <sub key={String(i)}>{piece}</sub>));

function Method({ name, label, says, formula, source, misleads, example }: MethodEntry) {
  return (
    <Entry id={name} aria-labelledby={`${name}-label`}>
      <h3 id={`${name}-label`}>{label}</h3>
      <p>{says}</p>
      <dl>
        <dt>Formula</dt>
        <dd>
          <Formula text={formula} />
        </dd>
        <dt>Source</dt>
        <dd>{source}</dd>
        <dt>Misleads</dt>
        <dd>{misleads}</dd>
        <dt>Example</dt>
        <dd>
          {example.given}. {example.gives}
        </dd>
      </dl>
    </Entry>
  );
}

/** Every method in plain words, with its formula, its source, when it misleads, and an example worked by hand. */
export function Methods() {
  const { hash } = useLocation();
  useEffect(() => {
    if (hash) document.getElementById(hash.slice(1))?.scrollIntoView();
  }, [hash]);
  return (
    <Page>
      <Head>
        <PageHead title="Methods">
          How readings are judged here. Every example is worked again by the program’s own tests, and printed
          as they found it.
        </PageHead>
      </Head>
      <Contents aria-label="Methods">
        {METHODS.map(({ title, entries }) => [
          <h2 key={title}>{title}</h2>,
          <ul key={`${title} list`}>
            {entries.map(({ name, label }) => (
              <li key={name}>
                <a href={`#${name}`}>{label}</a>
              </li>
            ))}
          </ul>,
        ])}
      </Contents>
      <div>
        {METHODS.map(({ title, about, entries }) => (
          <Group key={title} aria-label={title}>
            <h2>{title}</h2>
            <p>{about}</p>
            {entries.map((entry) => (
              <Method key={entry.name} {...entry} />
            ))}
          </Group>
        ))}
      </div>
    </Page>
  );
}
