import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import styled from 'styled-components';
import type { Wait as WaitType } from '../../../core/model/study.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { parseQuantity } from '../../../core/quantity/parse.ts';
import { patchStudy } from '../../app/api/studies.ts';
import { SavedNumber, SavedText } from '../../app/draft-field.tsx';
import { Choice } from '../../ui/choice.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { QuietFields } from '../../ui/quiet-fields.tsx';
import { TextField } from '../../ui/text-field.tsx';
import { LineList } from './line-list.tsx';
import { tell } from '../../app/tell.ts';

const Columns = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(340px, 100%), 1fr));
  gap: 24px 36px;
  h3 {
    margin-bottom: 6px;
  }
`;

const Wait = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 104px 168px 44px;
  gap: 8px;
  align-items: start;
  max-width: 620px;
  margin-bottom: 4px;
`;

const WHEN_OPTIONS = [
  { value: 'session', label: 'each session', help: 'a break-in or a warm-up' },
  { value: 'item', label: 'each item', help: 'after a change of item' },
  { value: 'reading', label: 'each reading', help: 'until it settles' },
] as const;

type ProcedureOf = StudyDocument['study']['procedure'];

interface WaitsProps {
  waits: ProcedureOf['waits'];
  save: (waits: ProcedureOf['waits']) => Promise<unknown>;
}

/** A wait that is planned: what for, how long, when. */
function PlannedWait({ waits, save, place }: WaitsProps & { place: number }) {
  const wait = waits[place] as WaitType;
  const change = (changes: Partial<WaitType>) =>
    save(waits.map((other, i) => (i === place ? { ...other, ...changes } : other)));
  return (
    <QuietFields as={Wait}>
      <SavedText
        label={`Wait ${String(place + 1)}`}
        labelHidden
        saved={wait.what}
        required
        save={(what) => change({ what })}
      />
      <SavedNumber
        label={`Seconds of wait ${String(place + 1)}`}
        labelHidden
        saved={wait.durationS}
        unit="s"
        required
        check={(value) => (value < 0 ? 'A wait is 0 s or more.' : undefined)}
        save={(durationS) => change({ durationS: durationS ?? 0 })}
      />
      <Choice
        label={`When wait ${String(place + 1)} comes`}
        labelHidden
        value={wait.when}
        options={WHEN_OPTIONS}
        onChange={(when) => {
          tell(change({ when }));
        }}
      />
      <IconButton
        label={`Remove ${wait.what}`}
        onPress={() => {
          tell(save(waits.filter((_, i) => i !== place)));
        }}
      >
        <Trash2 size={18} aria-hidden />
      </IconButton>
    </QuietFields>
  );
}

/** Where another wait is typed in. */
function NewWait({ waits, save }: WaitsProps) {
  const [what, setWhat] = useState('');
  const [seconds, setSeconds] = useState('');
  const [when, setWhen] = useState<WaitType['when']>('reading');
  const [problem, setProblem] = useState<string>();
  const add = () => {
    const understood = parseQuantity(seconds, 's');
    if (what.trim() === '' || 'problem' in understood || understood.number < 0) {
      setProblem('Say what is waited for, and how many seconds.');
      return;
    }
    tell(save([...waits, { what: what.trim(), durationS: understood.number, when }]));
    setWhat('');
    setSeconds('');
  };
  return (
    <Wait>
      <TextField
        label="What is waited for"
        labelHidden
        placeholder="What is waited for"
        value={what}
        maxLength={300}
        onChange={(next) => {
          setWhat(next);
          setProblem(undefined);
        }}
        problem={problem}
        onEnter={add}
      />
      <TextField
        label="Seconds"
        labelHidden
        placeholder="30"
        suffix="s"
        value={seconds}
        onChange={(next) => {
          setSeconds(next);
          setProblem(undefined);
        }}
        onEnter={add}
      />
      <Choice label="When it comes" labelHidden value={when} options={WHEN_OPTIONS} onChange={setWhen} />
      <IconButton label="Add the wait" onPress={add}>
        <Plus size={18} aria-hidden />
      </IconButton>
    </Wait>
  );
}

/** Checklists before the session and before each reading, waits, and what to bring. */
export function Procedure({ document: { study } }: { document: StudyDocument }) {
  const { procedure, materials } = study;
  const save = (changes: Partial<ProcedureOf>) =>
    patchStudy(study, { procedure: { ...procedure, ...changes } });
  const waits = { waits: procedure.waits, save: (next: ProcedureOf['waits']) => save({ waits: next }) };
  return (
    <Columns>
      <section>
        <h3>Before the session</h3>
        <LineList
          word="step"
          lines={procedure.beforeSession}
          save={(beforeSession) => save({ beforeSession })}
        />
      </section>
      <section>
        <h3>Before each reading</h3>
        <LineList
          word="step"
          lines={procedure.beforeReading}
          save={(beforeReading) => save({ beforeReading })}
        />
      </section>
      <section>
        <h3>Waits: break-in, warm-up, settling</h3>
        {procedure.waits.map(({ what }, place) => (
          <PlannedWait key={`${String(place)}/${what}`} {...waits} place={place} />
        ))}
        <NewWait {...waits} />
      </section>
      <section>
        <h3>What to bring</h3>
        <LineList word="thing" lines={materials} save={(next) => patchStudy(study, { materials: next })} />
      </section>
    </Columns>
  );
}
