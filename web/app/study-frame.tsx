import { Check } from 'lucide-react';
import { useDeferredValue, useEffect, useMemo } from 'react';
import { NavLink, Outlet, useMatch, useOutletContext, useParams } from 'react-router';
import styled from 'styled-components';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { isEveryRunSettled } from '../../core/bench/queue.ts';
import { Button } from '../ui/button.tsx';
import { LoadAgain } from '../ui/load-again.tsx';
import { FORCED, HAND, NARROW, PRINT, focusRing } from '../ui/tokens.ts';
import { dayAndTime } from '../ui/when.ts';
import { useContact } from './api/contact.ts';
import { useLive } from './api/live.ts';
import { patchStudy, useStudyDocument } from './api/studies.ts';
import { useIsNewer } from './newer-program.ts';
import { InHead } from './shell.tsx';
import { tell } from './tell.ts';

const Title = styled.div`
  flex: 1;
  min-width: 0;
  height: 64px;
  padding-top: 10px;
  display: flex;
  align-items: center;
  color: var(--quiet);
  bdi {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    color: var(--ink);
    font-weight: 640;
  }
  ${NARROW} {
    flex-basis: 100%;
    height: 28px;
    padding-top: 0;
  }
`;

const Tabs = styled.nav`
  display: flex;
  gap: 2px;
  ${NARROW} {
    overflow-x: auto;
    flex: 1;
    margin-left: -12px;
  }
`;

const Tab = styled(NavLink)`
  display: inline-flex;
  align-items: center;
  gap: 8px;
  height: 44px;
  padding: 0 18px;
  border-radius: var(--corner-large) var(--corner-large) 0 0;
  color: var(--quiet);
  font-weight: 640;
  text-decoration: none;
  white-space: nowrap;
  &:hover {
    color: var(--ink);
  }
  &[aria-current='page'] {
    background: var(--sheet);
    color: var(--ink);
  }
  &:focus-visible {
    ${focusRing}
    outline-offset: -4px;
  }
  svg {
    color: var(--fern);
  }
  ${NARROW} {
    padding: 0 14px;
  }
  ${HAND} {
    padding: 0 9px;
    svg {
      display: none;
    }
  }
  ${FORCED} {
    &[aria-current='page'] {
      border: 2px solid Highlight;
      border-bottom: 0;
    }
  }
`;

const Gone = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
  padding: 12px 28px;
  background: var(--sheet);
  border-bottom: 1px solid var(--rule);
  color: var(--rust);
  font-weight: 640;
  ${NARROW} {
    padding: 12px 20px;
  }
`;

/** Quieter than what is gone: the work goes on. */
const Away = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 16px;
  padding: 8px 28px;
  background: var(--rust-soft);
  color: var(--ink);
  font-size: var(--size-15);
  ${NARROW} {
    padding: 8px 20px;
  }
  ${PRINT} {
    display: none;
  }
`;

const STAGES = [
  { path: 'plan', label: 'Plan' },
  { path: 'bench', label: 'Bench' },
  { path: 'screen', label: 'Screen' },
  { path: 'rank', label: 'Rank' },
  { path: 'report', label: 'Report' },
] as const;

/** That the study was deleted, and the way back. */
function Deleted({ study }: { study: StudyDocument['study'] }) {
  return (
    <Gone role="alert">
      <p>This study was deleted. It takes nothing more until it is taken back.</p>
      <Button
        size="small"
        onPress={() => {
          tell(patchStudy(study, { status: 'open' }));
        }}
      >
        Take it back
      </Button>
    </Gone>
  );
}

/** A study's title, its five stages as tabs, and the open stage. */
export function StudyFrame() {
  const { studyId = '' } = useParams();
  const document = useStudyDocument(studyId);
  const { study } = document;
  // The bench follows by itself, since it takes readings too.
  const atBench = useMatch('/study/:studyId/bench') !== null;
  useLive(atBench ? undefined : studyId, false);
  const { awaySince } = useContact();
  const isNewer = useIsNewer();
  // Whoever works does not wait for it.
  const later = useDeferredValue(document);
  const benchDone = useMemo(() => isEveryRunSettled(later), [later]);
  const done: Record<string, boolean> = {
    plan: document.items.length > 1 && document.measurands.length > 0,
    bench: benchDone,
  };

  useEffect(() => {
    globalThis.document.title = `${study.title} · Brackenridge`;
    return () => {
      globalThis.document.title = 'Brackenridge';
    };
  }, [study.title]);

  return (
    <>
      <InHead>
        <Title>
          <bdi title={study.title}>{study.title}</bdi>
        </Title>
        <Tabs aria-label="Stages">
          {STAGES.map(({ path, label }) => (
            <Tab key={path} to={path}>
              {label}
              {done[path] && <Check size={15} strokeWidth={3} aria-label="done" />}
            </Tab>
          ))}
        </Tabs>
      </InHead>
      {awaySince !== undefined && (
        <Away role="status">
          On its own since {dayAndTime(awaySince)}: the server is away. What you record is held in this
          browser and sent when it is back.
        </Away>
      )}
      {awaySince === undefined && isNewer && (
        <Away role="status">
          The program on the server is newer than this page. What you recorded is kept.
          <LoadAgain />
        </Away>
      )}
      {study.status === 'deleted' && <Deleted study={study} />}
      <Outlet context={document} />
    </>
  );
}

/** The study that the open stage is about. */
export const useStudy = (): StudyDocument => useOutletContext<StudyDocument>();
