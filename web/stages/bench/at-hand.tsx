import { type ReactNode, useState } from 'react';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { openingEarly, openingEarlyWords } from '../../../core/bench/irreversible.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { counted } from '../../../core/quantity/format.ts';
import { takeOverBench, type useLive } from '../../app/api/live.ts';
import { TAB } from '../../app/api/tab.ts';
import { tell } from '../../app/tell.ts';
import { Button } from '../../ui/button.tsx';
import { EmptyState, Row } from '../../ui/page.tsx';
import { clockTime } from '../../ui/when.ts';
import { SessionStart } from './session/session-start.tsx';
import type { Bench } from './use-bench.ts';

/** A step that cannot be undone, and that a run takes before others were read. */
export interface EarlyStep {
  run: Run;
  early: NonNullable<ReturnType<typeof openingEarly>>;
  openIt: () => void;
}

/** Why no reading is taken here just now; undefined where one is. */
export type Held = { by: 'another tab' | 'start' | 'pause' | 'end' } | ({ by: 'early' } & EarlyStep);

/** What keeps readings from being taken here. */
export function useHeld(
  document: StudyDocument,
  { run, queue, session: { session, asks, paused } }: Bench,
  live: ReturnType<typeof useLive>,
): Held | undefined {
  const [openedEarly, setOpenedEarly] = useState<ReadonlySet<string>>(new Set());
  if (live.connected && live.holder !== null && live.holder !== TAB) return { by: 'another tab' };
  if (!run) return { by: 'end' };
  if (asks && !session) return { by: 'start' };
  if (paused) return { by: 'pause' };
  const early = openingEarly(document, queue, run);
  const key = early && `${run.itemId}/${early.level.id}`;
  if (!early || key === undefined || openedEarly.has(key)) return undefined;
  const openIt = () => {
    setOpenedEarly((before) => new Set([...before, key]));
  };
  return { by: 'early', run, early, openIt };
}

function TakenElsewhere({ document, run }: { document: StudyDocument; run: Run | undefined }) {
  return (
    <EmptyState
      title={run ? `${run.item.name} is at the bench.` : 'All runs are done.'}
      action={
        <Button
          tone="go"
          onPress={() => {
            tell(takeOverBench(document.study.id));
          }}
        >
          Take over here
        </Button>
      }
    >
      Another tab or tablet takes the readings; they come in here as they are recorded.
    </EmptyState>
  );
}

function TooEarly({
  run,
  early,
  openIt,
  goTo,
  beside,
}: EarlyStep & { goTo: Bench['goTo']; beside: ReactNode }) {
  return (
    <EmptyState
      title={`Not yet: ${run.item.name} at ${early.level.name}.`}
      action={
        <Row>
          <Button
            tone="go"
            autoFocus
            onPress={() => {
              goTo(early.lost[0]?.key);
            }}
          >
            Read {counted(early.lost.length, 'run')} first
          </Button>
          <Button onPress={openIt}>Open it all the same</Button>
          {beside}
        </Row>
      }
    >
      {openingEarlyWords(early)}
    </EmptyState>
  );
}

/** What is at hand at the bench while no reading is taken. */
export function NotReading({
  document,
  bench,
  held,
  beside,
}: {
  document: StudyDocument;
  bench: Bench;
  held: Held;
  /** What else can be done from here. */
  beside: ReactNode;
}) {
  const { run, queue, session } = bench;
  if (held.by === 'another tab') return <TakenElsewhere document={document} run={run} />;
  if (held.by === 'start')
    return <SessionStart document={document} onStart={session.start} beside={beside} />;
  if (held.by === 'early') return <TooEarly {...held} goTo={bench.goTo} beside={beside} />;
  if (held.by === 'pause')
    return (
      <EmptyState
        title={`Paused since ${clockTime(session.session?.pauses.at(-1)?.from ?? '')}.`}
        action={
          <Row>
            <Button tone="go" onPress={session.goOn} autoFocus>
              Go on
            </Button>
            {beside}
          </Row>
        }
      >
        {run?.item.name} is next. The time of a pause does not count.
      </EmptyState>
    );
  return (
    <EmptyState
      title={
        queue.some(({ state }) => state === 'skipped')
          ? 'All runs are done but the skipped ones.'
          : `All ${counted(queue.length, 'run')} are done.`
      }
      action={<Row>{beside}</Row>}
    >
      Look the readings over next. A run can still be opened from the queue.
    </EmptyState>
  );
}
