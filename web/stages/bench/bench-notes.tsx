import type { ReactNode } from 'react';
import { unitRead } from '../../../core/forms/index.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { counted, formatNumber, formatPlain, listed, withUnit } from '../../../core/quantity/format.ts';
import { cautionOf } from '../../../core/plan/cautions.ts';
import { outbox } from '../../app/api/outbox.ts';
import { useOutbox } from '../../app/api/studies.ts';
import { Button } from '../../ui/button.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside } from '../../ui/page.tsx';
import type { Bench } from './use-bench.ts';

/** Longer pauses than this are breaks and say nothing about the pace. */
const BREAK_S = 15 * 60;

/** Seconds per reading at the present pace: the median of the last ten steps; undefined with fewer than three. */
function paceS({ readings }: StudyDocument): number | undefined {
  const times = readings.slice(-11).map(({ takenAt }) => Date.parse(takenAt) / 1000);
  const steps = times
    .slice(1)
    .map((time, i) => time - (times[i] as number))
    .filter((step) => step > 0 && step < BREAK_S)
    .sort((a, b) => a - b);
  return steps.length < 3 ? undefined : steps[Math.floor(steps.length / 2)];
}

const duration = (seconds: number) =>
  seconds < 90 ? 'a minute' : `${formatNumber(Math.round(seconds / 60), 0)} minutes`;

function saveFile(name: string, content: unknown): void {
  const url = URL.createObjectURL(new Blob([JSON.stringify(content, null, 1)], { type: 'application/json' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}

/** Where the readings are: on disk, in this browser, or refused. */
function Saving() {
  const { entries, status, why } = useOutbox();
  const refused = entries.filter((entry) => entry.refused !== undefined);
  const waiting = entries.filter(({ kind, refused: why }) => kind === 'readings' && why === undefined).length;
  const steps = entries.length - refused.length;
  return (
    <>
      {status === 'broken' && (
        <Note tone="attention" title="This browser cannot store readings">
          It may be in private mode, or its disk full. Write the readings down until this is mended.
        </Note>
      )}
      {status === 'away' && (
        <Note
          tone="attention"
          title={why === undefined ? 'The server is away' : 'The server records nothing'}
        >
          {why} {waiting > 0 ? counted(waiting, 'reading') : counted(steps, 'step')} held safe in this
          browser.{' '}
          {why === undefined
            ? 'Go on; they are sent when the server is back.'
            : 'They are sent once this is mended.'}
        </Note>
      )}
      {refused.length > 0 && (
        <Note
          tone="attention"
          title={`${counted(refused.length, 'step')} refused`}
          actions={
            <>
              <Button size="small" tone="go" onPress={() => void outbox.retryRefused()}>
                Try again
              </Button>
              <Button
                size="small"
                onPress={() => {
                  saveFile('refused-readings.json', refused);
                }}
              >
                Save as a file
              </Button>
              <Button size="small" tone="quiet" onPress={() => void outbox.discardRefused()}>
                Forget them
              </Button>
            </>
          }
        >
          {refused[0]?.refused}
        </Note>
      )}
      {status !== 'away' && status !== 'broken' && (
        <p role="status" data-saving={steps === 0 ? 'saved' : 'sending'}>
          {steps === 0 ? 'Everything is saved.' : `Saving ${counted(steps, 'step')}…`}
        </p>
      )}
    </>
  );
}

/** What a run is read with, and what it can be. */
function ReadWith({ measurand }: { measurand: Measurand }) {
  const { low, high } = measurand.limits;
  const limit = (value: number) => withUnit(formatPlain(value), measurand.unit);
  return (
    <>
      <Aside>
        <h3>Read with</h3>
        <p>
          {measurand.instrument.name || 'No instrument is named in the plan.'}
          {measurand.instrument.resolution !== null &&
            `, in steps of ${withUnit(formatPlain(measurand.instrument.resolution), unitRead(measurand))}`}
        </p>
      </Aside>
      {(low !== null || high !== null) && (
        <Aside>
          <h3>Plausible</h3>
          <p>
            {low !== null && high !== null
              ? `${limit(low)} to ${limit(high)}`
              : low !== null
                ? `from ${limit(low)}`
                : `up to ${limit(high as number)}`}
          </p>
        </Aside>
      )}
    </>
  );
}

/** The margin of the bench: progress, pace, what the run is read with. */
export function BenchNotes({
  document,
  bench,
  children,
}: {
  document: StudyDocument;
  bench: Bench;
  /** What is known of session and instruments. */
  children: ReactNode;
}) {
  const { queue, run } = bench;
  const { hazards } = document.study;
  const done = queue.filter(({ state }) => state === 'done').length;
  const left = queue.filter(({ state }) => state === 'to come').length;
  const pace = paceS(document);
  return (
    <>
      <Note tone="good" title={`${formatNumber(done, 0)} of ${counted(queue.length, 'reading')}`}>
        {left > 0 && pace !== undefined && `About ${duration(left * pace)} left at this pace.`}
        <Saving />
      </Note>
      {children}
      {run && <ReadWith measurand={run.measurand} />}
      {hazards.length > 0 && bench.session.session !== undefined && (
        <Aside>
          <h3>Cautions</h3>
          <p>{listed(hazards.map((hazard) => cautionOf(hazard).label))}</p>
        </Aside>
      )}
      {document.study.question && (
        <Aside>
          <h3>The question</h3>
          <p>
            <bdi>{document.study.question}</bdi>
          </p>
        </Aside>
      )}
    </>
  );
}
