import { useState } from 'react';
import styled from 'styled-components';
import type { InstrumentState } from '../../../core/model/instrument.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import { listed, wordFor } from '../../../core/quantity/format.ts';
import { readingForm, unitRead } from '../../../core/forms/index.ts';
import { convert } from '../../../core/quantity/units.ts';
import { problemText } from '../../app/api/client.ts';
import { tell } from '../../app/tell.ts';
import { connectInstrument, removeInstrument } from '../../app/api/live.ts';
import { Button } from '../../ui/button.tsx';
import { Dialog, DialogAnswers } from '../../ui/dialog.tsx';
import { LetterKey } from './letter-key.tsx';
import { Aside, Row } from '../../ui/page.tsx';
import { TextField } from '../../ui/text-field.tsx';

const Shown = styled.div`
  display: flex;
  align-items: baseline;
  gap: 8px;
  margin: 2px 0 6px;
  output {
    font-size: var(--size-29);
    font-weight: 680;
    min-width: 4ch;
  }
  small {
    color: var(--quiet);
    font-size: var(--size-15);
  }
`;

const Dead = styled.p`
  margin: 2px 0 6px;
  color: var(--rust);
  font-weight: 640;
`;

/** How many of the connected instruments are named where none fits. */
const MOST_NAMED = 3;

/** Instruments whose readings can become readings of a measurand, by their units. */
export const fitting = (instruments: readonly InstrumentState[], measurand: Measurand): InstrumentState[] =>
  instruments.filter(
    ({ unit, title }) => title !== '' && convert(1, unit, unitRead(measurand)) !== undefined,
  );

/** Instruments that record what a measurand is worked out from. */
const recording = (instruments: readonly InstrumentState[], measurand: Measurand): InstrumentState[] =>
  readingForm(measurand.form)?.entry === 'recording' ? instruments.filter(({ sound }) => sound !== null) : [];

function ConnectDialog({ onClose }: { onClose: () => void }) {
  const [address, setAddress] = useState('127.0.0.1:5025');
  const [problem, setProblem] = useState<string>();
  const connect = async () => {
    const found = /^(.+):(\d{1,5})$/.exec(address.trim());
    if (!found) {
      setProblem('An address has the form host:port, such as 127.0.0.1:5025.');
      return;
    }
    try {
      await connectInstrument(found[1] as string, Number(found[2]));
      onClose();
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  return (
    <Dialog title="Connect an instrument" isOpen onClose={onClose}>
      <p>
        One that answers SCPI commands over the network. Only this machine and addresses on its list are
        allowed.
      </p>
      <TextField
        label="Address"
        value={address}
        onChange={(next) => {
          setAddress(next);
          setProblem(undefined);
        }}
        problem={problem}
        maxLength={260}
        autoFocus
        onEnter={() => void connect()}
      />
      <DialogAnswers onNo={onClose} go="Connect" onGo={() => void connect()} />
    </Dialog>
  );
}

export interface InstrumentsProps {
  instruments: readonly InstrumentState[];
  measurand: Measurand | undefined;
  onTake: (instrument: InstrumentState) => void;
  /** Whether one is being connected. */
  connecting: boolean;
  onConnecting: (connecting: boolean) => void;
}

/** An instrument with what it shows, and what takes that. */
function InstrumentCard({
  instrument,
  isFirst,
  onTake,
}: {
  instrument: InstrumentState;
  /** Its reading is taken by the key. */
  isFirst: boolean;
  onTake: (instrument: InstrumentState) => void;
}) {
  return (
    <div>
      <b>{instrument.title}</b>
      {instrument.state === 'away' ? (
        <Dead role="status">Dead: {instrument.problem ?? 'it does not answer.'} It is tried again.</Dead>
      ) : (
        <>
          <Shown>
            <output aria-live="off">{instrument.shown ?? '–'}</output>
            <small>{instrument.unit}</small>
          </Shown>
          {instrument.problem !== null && <p role="status">{instrument.problem}</p>}
        </>
      )}
      <Button
        size="small"
        isDisabled={instrument.state !== 'ready'}
        onPress={() => {
          onTake(instrument);
        }}
      >
        Take it {isFirst && <LetterKey>I</LetterKey>}
      </Button>
    </div>
  );
}

/** What is said where no connected instrument reads what is measured now. */
function NoneFits({ instruments, measurand }: Pick<InstrumentsProps, 'instruments' | 'measurand'>) {
  if (instruments.length === 0) return <p>None is connected: type what is read.</p>;
  const names = instruments.map(({ title, unit }) =>
    title ? `${title} (${unit})` : 'one that does not answer',
  );
  return (
    <p>
      Type what is read, or connect one that reads {(measurand && unitRead(measurand)) || 'this'}. Connected{' '}
      {wordFor(names.length, 'is', 'are')} {listed(names.slice(0, MOST_NAMED))}
      {names.length > MOST_NAMED && ' and others'}.
    </p>
  );
}

/** Connects an instrument, or lets go of the first that fits. */
function ConnectOrLetGo({ first, onConnect }: { first: InstrumentState | undefined; onConnect: () => void }) {
  return (
    <Row style={{ marginTop: 6, marginLeft: -12 }}>
      <Button size="small" tone="quiet" onPress={onConnect}>
        Connect one…
      </Button>
      {first && (
        <Button
          size="small"
          tone="quiet"
          onPress={() => {
            tell(removeInstrument(first.id));
          }}
        >
          Let go
        </Button>
      )}
    </Row>
  );
}

/** The connected instruments that fit what is measured now, each with what it shows; one key takes it. */
export function Instruments({
  instruments,
  measurand,
  onTake,
  connecting,
  onConnecting: setConnecting,
}: InstrumentsProps) {
  const suitable = measurand ? fitting(instruments, measurand) : [];
  const recorders = measurand ? recording(instruments, measurand) : [];
  const away = instruments.filter(({ state, title }) => state === 'away' && title !== '');
  return (
    <Aside>
      <h3>Instruments</h3>
      {suitable.length + recorders.length === 0 && (
        <NoneFits instruments={instruments} measurand={measurand} />
      )}
      {suitable.map((instrument, i) => (
        <InstrumentCard key={instrument.id} instrument={instrument} isFirst={i === 0} onTake={onTake} />
      ))}
      {recorders
        .filter(({ state }) => state !== 'away')
        .map((recorder) => (
          <div key={recorder.id}>
            <b>{recorder.title}</b>
            <p>Its level is shown at the entry, where it records.</p>
          </div>
        ))}
      {away
        .filter(({ id }) => !suitable.some((instrument) => instrument.id === id))
        .map(({ id, title, problem }) => (
          <p key={id} role="status">
            {title}: {problem} It is tried again.
          </p>
        ))}
      <ConnectOrLetGo
        first={suitable[0]}
        onConnect={() => {
          setConnecting(true);
        }}
      />
      {connecting && (
        <ConnectDialog
          onClose={() => {
            setConnecting(false);
          }}
        />
      )}
    </Aside>
  );
}
