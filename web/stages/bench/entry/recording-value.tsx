import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import type { RunningRecording } from '../../../../core/model/instrument.ts';
import { formatNumber, withUnit } from '../../../../core/quantity/format.ts';
import { startRecording, stopRecording, useRunningRecordings } from '../../../app/api/recordings.ts';
import { Button } from '../../../ui/button.tsx';
import { Key } from '../../../ui/key.tsx';
import { Row } from '../../../ui/page.tsx';
import { Problem } from '../../../ui/problem.tsx';
import type { EntryProps } from './entry.ts';
import { EntryName, Figure } from './frame.tsx';
import { clippedWords, recordedWords } from '../recordings/running-words.ts';
import { OneNumber } from './one-number.tsx';
import { useStartStop } from './use-start-stop.ts';

const Beside = styled(Row)`
  margin-top: 12px;
`;

interface RunningProps extends Pick<EntryProps, 'run' | 'onKey' | 'onMove' | 'first'> {
  running: RunningRecording;
  busy: boolean;
  onStop: () => void;
}

/** How loud it is while it is recorded, and on to what sounds next: in place of a number to type. */
function WhileRecorded({ run, onKey, onMove, first, running, busy, onStop }: RunningProps) {
  const { level, clipped, problem } = running;
  const next = () => {
    onMove('next');
  };
  return (
    <>
      <EntryName>{run.measurand.name} is being recorded: let it sound, then Enter for the next run</EntryName>
      <Figure $odd={problem !== null || clipped > 0}>
        <input
          ref={first}
          readOnly
          value={level === null ? '–' : formatNumber(level, 1)}
          aria-label={`Level that is recorded of ${run.item.name}, in dB re full scale`}
          aria-describedby="bench-under"
          onKeyDown={(event) => {
            const does = event.key === ' ' ? onStop : event.key === 'Enter' ? next : undefined;
            // A key that is held down is pressed once.
            if (does && !event.repeat) does();
            else if (!does && !onKey(event, '')) return;
            event.preventDefault();
          }}
        />
        <span>dB FS</span>
        <Button tone="go" size="large" onPress={next}>
          On to the next run <Key>Enter</Key>
        </Button>
      </Figure>
      <Beside>
        <Button isDisabled={busy} onPress={onStop}>
          Stop, and look what sounds in it <Key>Space</Key>
        </Button>
        <span role="timer">{recordedWords(running)}</span>
        {clipped > 0 && <strong>{clippedWords(running)}</strong>}
      </Beside>
    </>
  );
}

/** A level that is worked out from a recording, recorded here from an instrument, or typed in where there is none. */
export function RecordingValue(props: EntryProps) {
  const { run, instruments, onKey, onMove, first } = props;
  const { studyId } = run.measurand;
  const navigate = useNavigate();
  const { data: recordings, refetch } = useRunningRecordings(studyId);
  const recorder = instruments.find(({ state, sound }) => state === 'ready' && sound !== null);
  const running = recordings?.[0];
  useEffect(() => {
    // The field is another one then, and the keys go where it is.
    if (document.activeElement === document.body) first.current?.focus();
  }, [running?.id, first]);
  const { toggle, busy, problem } = useStartStop({
    stop:
      running &&
      (async () => {
        await stopRecording(running);
        onMove('first');
        void navigate('../bench/recordings');
      }),
    start: recorder && (() => startRecording(studyId, recorder.id)),
    look: refetch,
  });
  return (
    <>
      {running ? (
        <WhileRecorded {...props} running={running} busy={busy} onStop={toggle} />
      ) : (
        <>
          <OneNumber
            {...props}
            onKey={(event, typed) => {
              if (event.key !== ' ' || typed !== '' || !recorder) return onKey(event, typed);
              if (!event.repeat) toggle();
              return true;
            }}
          />
          <Beside>
            {recorder && (
              <Button isDisabled={busy} onPress={toggle}>
                Record from the {recorder.title} <Key>Space</Key>
              </Button>
            )}
            {recorder?.shown && (
              <output aria-live="off">{withUnit(recorder.shown, recorder.unit)} now</output>
            )}
            <Button tone="quiet" onPress={() => void navigate('../bench/recordings')}>
              Work it out from a recording
            </Button>
          </Beside>
        </>
      )}
      <Problem>{running?.problem ?? problem}</Problem>
    </>
  );
}
