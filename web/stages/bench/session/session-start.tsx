import { useState } from 'react';
import styled from 'styled-components';
import { HAZARDS } from '../../../../core/model/words.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { cautionOf } from '../../../../core/plan/cautions.ts';
import { conditionsInOrder, missingConditions } from '../../../../core/plan/session.ts';
import { listed } from '../../../../core/quantity/format.ts';
import { Button } from '../../../ui/button.tsx';
import { CheckBox } from '../../../ui/check-box.tsx';
import { Note } from '../../../ui/note.tsx';
import { Row } from '../../../ui/page.tsx';
import { Problem } from '../../../ui/problem.tsx';
import { TextField } from '../../../ui/text-field.tsx';
import { type ConditionTexts, ConditionFields, readConditions } from './condition-fields.tsx';
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
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 12px 16px;
`;

const Cautions = styled.div`
  display: grid;
  gap: 14px;
`;

/** Instruments that the plan names, one after the other. */
const plannedInstruments = ({ measurands }: StudyDocument): string =>
  listed([...new Set(measurands.map(({ instrument }) => instrument.name).filter((name) => name !== ''))]);

/** What a session asks before its first reading: who, with what, the checklist, the cautions, the conditions. */
export function SessionStart({
  document,
  onStart,
}: {
  document: StudyDocument;
  onStart: (fields: SessionStartFields) => void;
}) {
  const { study, sessions } = document;
  const before = sessions.filter(({ kind }) => kind === 'bench').at(-1);
  const [operator, setOperator] = useState(before?.operator ?? '');
  const [instrument, setInstrument] = useState(
    (before?.instrument || plannedInstruments(document)).slice(0, 120),
  );
  const [checked, setChecked] = useState<readonly string[]>([]);
  const [acknowledged, setAcknowledged] = useState(false);
  const [texts, setTexts] = useState<ConditionTexts>({});
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
    const read = readConditions(conditions, texts, 'start', new Date().toISOString());
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
        <TextField label="Operator" value={operator} onChange={setOperator} maxLength={120} />
        <TextField label="Instrument" value={instrument} onChange={setInstrument} maxLength={120} />
      </Pair>
      {steps.length > 0 && (
        <section aria-labelledby="session-steps">
          <h2 id="session-steps">Checklist</h2>
          {steps.map((step) => (
            <CheckBox
              key={step}
              isSelected={checked.includes(step)}
              onChange={(on) => {
                setChecked(on ? [...checked, step] : checked.filter((one) => one !== step));
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
              setTexts({ ...texts, [id]: text });
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
      </Row>
      <Problem>{problem}</Problem>
    </Form>
  );
}
