import { type ReactNode, useState } from 'react';
import styled from 'styled-components';
import { HAZARDS } from '../../../../core/model/words.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { cautionOf } from '../../../../core/plan/cautions.ts';
import {
  type ConditionTexts,
  SILENT_S,
  benchSessions,
  conditionsInOrder,
  missingConditions,
  readConditions,
} from '../../../../core/bench/session.ts';
import { listed } from '../../../../core/quantity/format.ts';
import { newInstant } from '../../../app/api/studies.ts';
import { isRecord, isText, isTexts, useKept } from '../../../app/kept.ts';
import { Button } from '../../../ui/button.tsx';
import { CheckBox } from '../../../ui/check-box.tsx';
import { Note } from '../../../ui/note.tsx';
import { Row } from '../../../ui/page.tsx';
import { Problem } from '../../../ui/problem.tsx';
import { TextField } from '../../../ui/text-field.tsx';
import { ConditionFields } from './condition-fields.tsx';
import type { SessionStartFields } from './use-session.ts';

const Form = styled.div`
  display: grid;
  gap: 18px;
  max-width: 720px;
  padding-bottom: 28px;
  h1 {
    font-size: var(--size-29);
    line-height: 1.15;
  }
  h2 {
    font-size: var(--size-19);
  }
`;

const Pair = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
  gap: 12px 16px;
`;

const Cautions = styled.div`
  display: grid;
  gap: 14px;
`;

/** What is filled in and not started yet. The cautions are acknowledged again each time. */
interface Filled {
  operator: string;
  instrument: string;
  checked: readonly string[];
  texts: ConditionTexts;
}

const isFilled = (value: unknown): value is Filled =>
  isRecord(value) &&
  isText(value.operator) &&
  isText(value.instrument) &&
  Array.isArray(value.checked) &&
  value.checked.every(isText) &&
  isTexts(value.texts);

/** Instruments that the plan names, one after the other. */
const plannedInstruments = ({ measurands }: StudyDocument): string =>
  listed([...new Set(measurands.map(({ instrument }) => instrument.name).filter((name) => name !== ''))]);

/** What the form begins with: who and what it was last, and a start that was undone just now as it was filled in. */
function toFillIn(document: StudyDocument): Filled {
  const latest = document.sessions.findLast(({ kind }) => kind === 'bench');
  const lately = latest && Date.now() - Date.parse(latest.startedAt) < SILENT_S * 1000;
  const undone = lately && latest !== benchSessions(document).at(-1) ? latest : undefined;
  const atStart = undone?.conditions.filter(({ at }) => at === 'start') ?? [];
  return {
    operator: latest?.operator ?? '',
    instrument: (latest?.instrument || plannedInstruments(document)).slice(0, 120),
    checked: undone?.checked ?? [],
    texts: Object.fromEntries(atStart.map(({ conditionId, text }) => [conditionId, text])),
  };
}

/** What a session asks before its first reading: who, with what, the checklist, the cautions, the conditions. */
export function SessionStart({
  document,
  onStart,
  beside,
}: {
  document: StudyDocument;
  onStart: (fields: SessionStartFields) => void;
  /** What else can be done from here. */
  beside: ReactNode;
}) {
  const { study } = document;
  const before = benchSessions(document).at(-1);
  const [filled, change, forget] = useKept(`start/${study.id}`, () => toFillIn(document), isFilled);
  const { operator, instrument, checked, texts } = filled;
  const set = (changes: Partial<Filled>) => {
    change((now) => ({ ...now, ...changes }));
  };
  const [acknowledged, setAcknowledged] = useState(false);
  const [problem, setProblem] = useState<string>();
  const [missing, setMissing] = useState<string>();
  const [tried, setTried] = useState(false);
  const conditions = conditionsInOrder(document);
  const hazards = HAZARDS.filter((hazard) => study.hazards.includes(hazard));
  const steps = study.procedure.beforeSession;

  const start = (anyway: boolean) => {
    setTried(true);
    if (hazards.length > 0 && !acknowledged) {
      setProblem('Read the cautions first, and say that you have.');
      return;
    }
    const read = readConditions(conditions, texts, 'start', newInstant(study.id));
    if ('problem' in read) {
      setProblem(read.problem);
      return;
    }
    const notRead = missingConditions(document, read.readings, 'start').map(({ quantity }) => quantity);
    if (notRead.length > 0 && !anyway) {
      setMissing(listed(notRead));
      setProblem(
        `${listed(notRead)} ${notRead.length === 1 ? 'is' : 'are'} required by the plan. Months later nobody can say what it was.`,
      );
      return;
    }
    forget();
    onStart({
      operator: operator.trim(),
      instrument: instrument.trim(),
      checked: steps.filter((step) => checked.includes(step)),
      acknowledged: hazards,
      conditions: read.readings,
    });
  };
  return (
    <Form>
      <h1>{before ? 'Another session' : 'Before the first reading'}</h1>
      <Pair>
        <TextField
          label="Operator"
          value={operator}
          onChange={(next) => {
            set({ operator: next });
          }}
          maxLength={120}
        />
        <TextField
          label="Instrument"
          value={instrument}
          onChange={(next) => {
            set({ instrument: next });
          }}
          maxLength={120}
        />
      </Pair>
      {steps.length > 0 && (
        <section aria-labelledby="session-steps">
          <h2 id="session-steps">Checklist</h2>
          {steps.map((step) => (
            <CheckBox
              key={step}
              isSelected={checked.includes(step)}
              onChange={(on) => {
                set({ checked: on ? [...checked, step] : checked.filter((other) => other !== step) });
              }}
            >
              {step}
            </CheckBox>
          ))}
        </section>
      )}
      {conditions.length > 0 && (
        <section aria-labelledby="session-conditions">
          <h2 id="session-conditions">Conditions now</h2>
          <ConditionFields
            conditions={conditions}
            texts={texts}
            tried={tried}
            onText={(id, text) => {
              set({ texts: { ...texts, [id]: text } });
              setProblem(undefined);
            }}
          />
        </section>
      )}
      {hazards.length > 0 && (
        <Cautions>
          {hazards.map((hazard) => (
            <Note key={hazard} tone="attention" title={cautionOf(hazard).label}>
              {cautionOf(hazard).caution}
            </Note>
          ))}
          <CheckBox
            isSelected={acknowledged}
            onChange={(on) => {
              setAcknowledged(on);
              setProblem(undefined);
            }}
          >
            I have read the cautions. Makers’ instructions, local codes and licensed practice come first.
          </CheckBox>
        </Cautions>
      )}
      <Problem>{problem}</Problem>
      <Row>
        <Button
          tone="go"
          size="large"
          onPress={() => {
            start(false);
          }}
        >
          Start the session
        </Button>
        {missing !== undefined && problem !== undefined && (
          <Button
            size="large"
            onPress={() => {
              start(true);
            }}
          >
            Start without {missing}
          </Button>
        )}
        {beside}
      </Row>
    </Form>
  );
}
