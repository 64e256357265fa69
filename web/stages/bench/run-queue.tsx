import { Fragment, lazy, useEffect, useMemo, useRef } from 'react';
import { queueGroups } from '../../../core/bench/irreversible.ts';
import type { Run } from '../../../core/bench/queue.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { Later } from '../../ui/later.tsx';
import { QueueFrame, type QueueProps, RunLine } from './run-line.tsx';

/** Few plans have so many runs, and the others do without what it takes. */
const LongQueue = lazy(async () => ({ default: (await import('./long-queue.tsx')).LongQueue }));

/** A queue that is longer than this is drawn as far as it is seen; a plan may have thousands of runs. */
const LONG = 320;

/** All runs, with the current one in sight. */
function WholeQueue({ groups, currentKey, severalMeasurands, onChoose }: QueueProps) {
  const frame = useRef<HTMLElement>(null);
  useEffect(() => {
    const box = frame.current;
    const line = box?.querySelector<HTMLElement>('[aria-current]');
    if (!line || !box) return;
    box.scrollTop = line.offsetTop - box.clientHeight / 3;
    box.scrollLeft = line.offsetLeft - box.clientWidth / 3;
  }, [currentKey]);
  return (
    <QueueFrame aria-label="Run queue" ref={frame}>
      {groups.map(({ key, title, runs }) => (
        <Fragment key={key}>
          <h2>{title}</h2>
          <ol>
            {runs.map((run) => (
              <RunLine
                key={run.key}
                run={run}
                isCurrent={run.key === currentKey}
                severalMeasurands={severalMeasurands}
                onChoose={onChoose}
              />
            ))}
          </ol>
        </Fragment>
      ))}
    </QueueFrame>
  );
}

export interface RunQueueProps extends Omit<QueueProps, 'groups'> {
  plan: Pick<StudyDocument, 'study' | 'factors' | 'levels'>;
  queue: readonly Run[];
}

/** What is done, what is next, what was skipped, round by round. Any run can be opened. */
export function RunQueue({ plan, queue, ...rest }: RunQueueProps) {
  const groups = useMemo(() => queueGroups(plan, queue), [plan, queue]);
  return queue.length > LONG ? (
    <Later>
      <LongQueue groups={groups} {...rest} />
    </Later>
  ) : (
    <WholeQueue groups={groups} {...rest} />
  );
}
