import { useState } from 'react';
import styled from 'styled-components';
import type { Condition, Session } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import {
  type ConditionTexts,
  SILENT_S,
  conditionsInOrder,
  elapsedS,
  lastActive,
  missingConditions,
  readConditions,
  startOf,
} from '../../../../core/bench/session.ts';
import { conditionKind, conditionWords } from '../../../../core/conditions/index.ts';
import { listed } from '../../../../core/quantity/format.ts';
import { newInstant } from '../../../app/api/studies.ts';
import { isTexts, useKept } from '../../../app/kept.ts';
import { Button } from '../../../ui/button.tsx';
import { Dialog, DialogAnswers } from '../../../ui/dialog.tsx';
import { Note } from '../../../ui/note.tsx';
import { Aside, Row } from '../../../ui/page.tsx';
import { Problem } from '../../../ui/problem.tsx';
import { TextField } from '../../../ui/text-field.tsx';
import { clockTime, dayAndTime } from '../../../ui/when.ts';
import { ConditionFields } from './condition-fields.tsx';
import { useNow } from './use-now.ts';
import type { SessionAtBench } from './use-session.ts';

const Card = styled(Aside)`
  display: grid;
  gap: 8px;
  > h3 {
    margin-bottom: -4px;
  }
`;

/** h:mm of a session. */
const hours = (seconds: number): string => {
  const minutes = Math.floor(seconds / 60);
  return `${String(Math.floor(minutes / 60))}:${String(minutes % 60).padStart(2, '0')}`;
};

interface ConditionsDialogProps {
  title: string;
  action: string;
  conditions: readonly Condition[];
  session: Session;
  when: 'during' | 'end';
  /** Asks once more where required ones are missing. */
  needed: boolean;
  onClose: () => void;
  onDone: (conditions: Session['conditions']) => void;
}

function ConditionsDialog({
  title,
  action,
  conditions,
  session,
  when,
  needed,
  onClose,
  onDone,
}: ConditionsDialogProps) {
  // Closed by a slip of the finger, the dialog has its texts again.
  const [texts, changeTexts, forgetTexts] = useKept<ConditionTexts>(
    `conditions/${session.id}/${when}`,
    () => ({}),
    isTexts,
  );
  const [problem, setProblem] = useState<string>();
  const [asked, setAsked] = useState(false);
  const finish = () => {
    const read = readConditions(conditions, texts, when, newInstant(session.studyId));
    if ('problem' in read) {
      setProblem(read.problem);
      return;
    }
    const missing = needed ? missingConditions({ conditions: [...conditions] }, read.readings, 'end') : [];
    if (missing.length > 0 && !asked) {
      setAsked(true);
      setProblem(
        `${listed(missing.map(({ quantity }) => quantity))} should be read at the end too. Press again to end without.`,
      );
      return;
    }
    forgetTexts();
    onDone(read.readings);
  };
  return (
    <Dialog title={title} isOpen onClose={onClose}>
      {conditions.length > 0 ? (
        <ConditionFields
          conditions={conditions}
          texts={texts}
          tried={problem !== undefined}
          startOf={(id) => startOf(session, id)}
          onText={(id, text) => {
            changeTexts((before) => ({ ...before, [id]: text }));
            setProblem(undefined);
          }}
        />
      ) : (
        <p>The plan has no conditions to read.</p>
      )}
      <Problem>{problem}</Problem>
      <DialogAnswers no="Not yet" onNo={onClose} go={action} onGo={finish} />
    </Dialog>
  );
}

function SplitDialog({
  session,
  onClose,
  onDone,
}: {
  session: Session;
  onClose: () => void;
  onDone: (change: Pick<Session, 'operator' | 'instrument'>) => void;
}) {
  const [operator, setOperator] = useState(session.operator);
  const [instrument, setInstrument] = useState(session.instrument);
  const same = operator.trim() === session.operator && instrument.trim() === session.instrument;
  return (
    <Dialog title="Another instrument or operator" isOpen onClose={onClose}>
      <p>This session ends here and another one goes on. The record shows where.</p>
      <TextField label="Operator" value={operator} onChange={setOperator} maxLength={120} />
      <TextField label="Instrument" value={instrument} onChange={setInstrument} maxLength={120} />
      <DialogAnswers
        no="Nothing has changed"
        onNo={onClose}
        go="Go on with these"
        isDisabled={same}
        onGo={() => {
          onDone({ operator: operator.trim(), instrument: instrument.trim() });
        }}
      />
    </Dialog>
  );
}

/** The conditions of a session that were noted, each as it was noted last. */
function notedLast(document: StudyDocument, session: Session) {
  const latest = new Map(session.conditions.map((read) => [read.conditionId, read]));
  return conditionsInOrder(document).flatMap((condition) => {
    const read = latest.get(condition.id);
    return read ? [{ condition, read }] : [];
  });
}

/** What is to be said of the conditions as they were noted last. */
const warningsOf = (document: StudyDocument, session: Session): string[] =>
  notedLast(document, session).flatMap(({ condition, read }) => {
    const start = read.at === 'start' ? undefined : startOf(session, condition.id);
    return conditionKind(condition).warnings(read, condition, start);
  });

/** What there is to notice about the session that is on. */
function SessionNotes({
  document,
  session,
  isOld,
}: {
  document: StudyDocument;
  session: Session;
  /** Nothing was recorded for long. */
  isOld: boolean;
}) {
  const missing = missingConditions(document, session.conditions, 'start');
  return (
    <>
      {isOld && (
        <Note tone="attention" title="An old session is still open">
          Nothing was recorded since {dayAndTime(lastActive(session, document))}. End it, or go on if it is
          the same sitting.
        </Note>
      )}
      {warningsOf(document, session).map((warning) => (
        <Note key={warning} tone="attention" title="Conditions">
          {warning}
        </Note>
      ))}
      {missing.length > 0 && (
        <Note tone="attention" title="Not recorded at the start">
          {listed(missing.map(({ quantity }) => quantity))}: required by the plan.
        </Note>
      )}
    </>
  );
}

type SessionDialog = 'end' | 'conditions' | 'split';

/** What is asked about the session that is on. */
function SessionDialogs({
  document,
  session,
  bench,
  open,
  onClose,
}: {
  document: StudyDocument;
  session: Session;
  bench: SessionAtBench;
  open: SessionDialog;
  onClose: () => void;
}) {
  const conditions = conditionsInOrder(document);
  if (open === 'split') {
    return (
      <SplitDialog
        session={session}
        onClose={onClose}
        onDone={(change) => {
          bench.split(change);
          onClose();
        }}
      />
    );
  }
  const ends = open === 'end';
  return (
    <ConditionsDialog
      title={ends ? 'End the session' : 'Conditions now'}
      action={ends ? 'End it' : 'Note them'}
      when={ends ? 'end' : 'during'}
      needed={ends}
      {...{ conditions, session }}
      onClose={onClose}
      onDone={(read) => {
        if (ends) bench.end(read);
        else bench.addConditions(read);
        onClose();
      }}
    />
  );
}

/** The session that is on: since when, by whom, what its conditions do, and what can be done with it. */
export function SessionCard({ document, bench }: { document: StudyDocument; bench: SessionAtBench }) {
  const { session, paused } = bench;
  const [open, setOpen] = useState<SessionDialog>();
  const now = useNow(15000);
  if (!session) return null;
  const isOld = now - lastActive(session, document) > SILENT_S * 1000;
  const conditions = notedLast(document, session)
    .map(({ condition, read }) => conditionWords(condition, read))
    .join('; ');
  const button = (label: string, dialog: SessionDialog, tone?: 'quiet') => (
    <Button
      size="small"
      {...(tone ? { tone } : {})}
      onPress={() => {
        setOpen(dialog);
      }}
    >
      {label}
    </Button>
  );
  return (
    <Card>
      <h3>Session</h3>
      <p>
        {isOld
          ? `Since ${dayAndTime(session.startedAt)}`
          : `Since ${clockTime(session.startedAt)}, ${hours(elapsedS(session, now))}\u202fh at the bench`}
        {session.operator !== '' && `, ${session.operator}`}
        {session.continuesId !== null && ', going on from another'}.
      </p>
      {conditions !== '' && <p>{conditions}</p>}
      <SessionNotes document={document} session={session} isOld={isOld} />
      <Row>
        {document.conditions.length > 0 && button('Conditions now', 'conditions')}
        <Button size="small" onPress={paused ? bench.goOn : bench.pause}>
          {paused ? 'Go on' : 'Pause'}
        </Button>
        {button('End', 'end')}
        {button('Change…', 'split', 'quiet')}
      </Row>
      {open !== undefined && (
        <SessionDialogs
          {...{ document, session, bench, open }}
          onClose={() => {
            setOpen(undefined);
          }}
        />
      )}
    </Card>
  );
}
