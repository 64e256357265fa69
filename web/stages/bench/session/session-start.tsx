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
import { listed, wordFor } from '../../../../core/quantity/format.ts';
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

/** The caution of each hazard that a study has, in the order of the list of all. */
const hazardsOf = ({ study }: StudyDocument) => HAZARDS.filter((hazard) => study.hazards.includes(hazard));

/** Why a session does not start yet, and what it could start without. */
interface Hindrance {
  problem: string;
  missing?: string;
}

/** What a session starts with, as it was filled in; or why it does not. */
function sessionStart(
  document: StudyDocument,
  { operator, instrument, checked, texts }: Filled,
  { acknowledged, anyway }: { acknowledged: boolean; anyway: boolean },
): SessionStartFields | Hindrance {
  const hazards = hazardsOf(document);
  if (hazards.length > 0 && !acknowledged)
    return { problem: 'Read the cautions first, and say that you have.' };
  const { study } = document;
  const read = readConditions(conditionsInOrder(document), texts, 'start', newInstant(study.id));
  if ('problem' in read) return { problem: read.problem };
  const notRead = missingConditions(document, read.readings, 'start').map(({ quantity }) => quantity);
  if (notRead.length > 0 && !anyway) {
    const missing = listed(notRead);
    const are = wordFor(notRead.length, 'is', 'are');
    return {
      problem: `${missing} ${are} required by the plan. Months later nobody can say what it was.`,
      missing,
    };
  }
  return {
    operator: operator.trim(),
    instrument: instrument.trim(),
    checked: study.procedure.beforeSession.filter((step) => checked.includes(step)),
    acknowledged: hazards,
    conditions: read.readings,
  };
}

interface SectionProps {
  document: StudyDocument;
  filled: Filled;
  onChange: (changes: Partial<Filled>) => void;
}

function WhoAndWhat({ filled, onChange }: Omit<SectionProps, 'document'>) {
  return (
    <Pair>
      <TextField
        label="Operator"
        value={filled.operator}
        onChange={(operator) => {
          onChange({ operator });
        }}
        maxLength={120}
      />
      <TextField
        label="Instrument"
        value={filled.instrument}
        onChange={(instrument) => {
          onChange({ instrument });
        }}
        maxLength={120}
      />
    </Pair>
  );
}

function Checklist({ document, filled: { checked }, onChange }: SectionProps) {
  const steps = document.study.procedure.beforeSession;
  if (steps.length === 0) return null;
  return (
    <section aria-labelledby="session-steps">
      <h2 id="session-steps">Checklist</h2>
      {steps.map((step) => (
        <CheckBox
          key={step}
          isSelected={checked.includes(step)}
          onChange={(ticked) => {
            onChange({ checked: ticked ? [...checked, step] : checked.filter((other) => other !== step) });
          }}
        >
          {step}
        </CheckBox>
      ))}
    </section>
  );
}

function ConditionsNow({ document, filled: { texts }, onChange, tried }: SectionProps & { tried: boolean }) {
  const conditions = conditionsInOrder(document);
  if (conditions.length === 0) return null;
  return (
    <section aria-labelledby="session-conditions">
      <h2 id="session-conditions">Conditions now</h2>
      <ConditionFields
        conditions={conditions}
        texts={texts}
        tried={tried}
        onText={(id, text) => {
          onChange({ texts: { ...texts, [id]: text } });
        }}
      />
    </section>
  );
}

function CautionsToRead({
  document,
  acknowledged,
  onAcknowledged,
}: {
  document: StudyDocument;
  acknowledged: boolean;
  onAcknowledged: (acknowledged: boolean) => void;
}) {
  const hazards = hazardsOf(document);
  if (hazards.length === 0) return null;
  return (
    <Cautions>
      {hazards.map((hazard) => (
        <Note key={hazard} tone="attention" title={cautionOf(hazard).label}>
          {cautionOf(hazard).caution}
        </Note>
      ))}
      <CheckBox isSelected={acknowledged} onChange={onAcknowledged}>
        I have read the cautions. Makers’ instructions, local codes and licensed practice come first.
      </CheckBox>
    </Cautions>
  );
}

/** What is filled in before a session, what hinders its start, and what starts it. */
function useStart(document: StudyDocument, onStart: (fields: SessionStartFields) => void) {
  const [filled, change, forget] = useKept(`start/${document.study.id}`, () => toFillIn(document), isFilled);
  const [acknowledged, setAcknowledged] = useState(false);
  const [hindrance, setHindrance] = useState<Hindrance>();
  const [tried, setTried] = useState(false);
  const set = (changes: Partial<Filled>) => {
    change((now) => ({ ...now, ...changes }));
    if (changes.texts) setHindrance(undefined);
  };
  const start = (anyway: boolean) => {
    setTried(true);
    const started = sessionStart(document, filled, { acknowledged, anyway });
    if ('problem' in started) {
      setHindrance(started);
      return;
    }
    forget();
    onStart(started);
  };
  const acknowledge = (ticked: boolean) => {
    setAcknowledged(ticked);
    setHindrance(undefined);
  };
  return { filled, set, acknowledged, acknowledge, hindrance, tried, start };
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
  const { filled, set, acknowledged, acknowledge, hindrance, tried, start } = useStart(document, onStart);
  const section = { document, filled, onChange: set };
  return (
    <Form>
      <h1>{benchSessions(document).length > 0 ? 'Another session' : 'Before the first reading'}</h1>
      <WhoAndWhat filled={filled} onChange={set} />
      <Checklist {...section} />
      <ConditionsNow {...section} tried={tried} />
      <CautionsToRead document={document} acknowledged={acknowledged} onAcknowledged={acknowledge} />
      <Problem>{hindrance?.problem}</Problem>
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
        {hindrance?.missing !== undefined && (
          <Button
            size="large"
            onPress={() => {
              start(true);
            }}
          >
            Start without {hindrance.missing}
          </Button>
        )}
        {beside}
      </Row>
    </Form>
  );
}
