import { useState } from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import type { RunningLog } from '../../../../core/model/instrument.ts';
import { traceUnit } from '../../../../core/forms/trace.ts';
import { spanText } from '../../../../core/quantity/clock.ts';
import { counted, withUnit } from '../../../../core/quantity/format.ts';
import { convert } from '../../../../core/quantity/units.ts';
import { startLog, stopLog, useLogs } from '../../../app/api/traces.ts';
import { Button } from '../../../ui/button.tsx';
import { Choice } from '../../../ui/choice.tsx';
import { Key } from '../../../ui/key.tsx';
import { Row } from '../../../ui/page.tsx';
import { Problem } from '../../../ui/problem.tsx';
import type { EntryProps } from './entry.ts';
import { OneNumber } from './one-number.tsx';
import { useStartStop } from './use-start-stop.ts';

const Beside = styled(Row)`
  margin-top: 12px;
`;

const PERIODS = ['0.2', '0.5', '1', '2', '5', '10', '30', '60', '300'] as const;

/** How far a log has come. */
const logWords = ({ rows, last, unit, periodS }: RunningLog): string =>
  `${counted(rows, 'row')} in ${spanText(Math.max(0, rows - 1) * periodS)}, ${last === null ? 'nothing shown just now' : withUnit(last, unit)}`;

/** A value that is worked out from a file, logged here from an instrument, or typed in where there is no file. */
export function TraceValue(props: EntryProps) {
  const { run, instruments, onKey } = props;
  const { studyId, settings } = run.measurand;
  const navigate = useNavigate();
  const { data: logs, refetch } = useLogs(studyId);
  const [period, setPeriod] = useState<(typeof PERIODS)[number]>('1');
  const unit = traceUnit(settings);
  const fit = instruments.find(
    ({ state, unit: shown }) => state === 'ready' && (unit === '' || convert(1, shown, unit) !== undefined),
  );
  const log = logs?.find(({ column }) => column === run.item.name);
  const { toggle, busy, problem } = useStartStop({
    stop:
      log &&
      (async () => {
        await stopLog(log);
        void navigate('../bench/traces');
      }),
    start: fit && (() => startLog(studyId, fit.id, run.item.name, Number(period))),
    look: refetch,
  });
  return (
    <>
      <OneNumber
        {...props}
        onKey={(event, typed) => {
          if (event.key !== ' ' || typed !== '' || (!fit && !log)) return onKey(event, typed);
          if (!event.repeat) toggle();
          return true;
        }}
      />
      <Beside>
        {(fit ?? log) && (
          <Button tone={log ? 'go' : 'plain'} isDisabled={busy} onPress={toggle}>
            {log ? 'Stop the log' : `Log it from the ${fit?.title ?? 'instrument'}`} <Key>Space</Key>
          </Button>
        )}
        {log ? (
          <span role="timer">{logWords(log)}</span>
        ) : (
          <>
            {fit && (
              <Choice
                label="Seconds from row to row"
                labelHidden
                options={PERIODS.map((value) => ({ value, label: `each ${value} s` }))}
                value={period}
                onChange={setPeriod}
              />
            )}
            <Button tone="quiet" onPress={() => void navigate('../bench/traces')}>
              Work it out from a logger’s file
            </Button>
          </>
        )}
      </Beside>
      <Problem>{log?.problem ?? problem}</Problem>
    </>
  );
}
