import { useState } from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { v7 } from 'uuid';
import { newMeasurand } from '../../../core/plan/new-parts.ts';
import type { Study } from '../../../core/model/study.ts';
import { type PlanPattern, studyFromPattern } from '../../../core/plan/pattern.ts';
import { PATTERNS } from '../../../core/plan/patterns/index.ts';
import { isTexts, useKept } from '../../app/kept.ts';
import { problemText } from '../../app/api/client.ts';
import {
  type ListedStudy,
  createPart,
  createStudy,
  createWholeStudy,
  duplicateStudy,
  newSeed,
  patchStudy,
} from '../../app/api/studies.ts';
import { Choice } from '../../ui/choice.tsx';
import { Dialog, DialogAnswers } from '../../ui/dialog.tsx';
import { Problem } from '../../ui/problem.tsx';
import { TextField } from '../../ui/text-field.tsx';

const EMPTY = 'empty';
const ELSEWHERE = 'elsewhere';
/** Earlier tests that a study keeps from the one before, beside that one. */
const MOST_EARLIER = 9;

/** What the plan of a study becomes where its items are measured again: its own, and what the pattern says of it. */
function planAgain(
  copy: Study,
  earlier: Study,
  { question, study }: PlanPattern,
  asked: string,
): Partial<Study> {
  const { beforeSession, beforeReading, waits } = copy.procedure;
  const added = <T,>(have: readonly T[], more: readonly T[] = []) => [
    ...have,
    ...more.filter((line) => !have.includes(line)),
  ];
  const confounds = study.confounds?.filter(
    ({ what }) => !copy.confounds.some((known) => known.what === what),
  );
  return {
    question: asked === '' ? question : asked,
    procedure: {
      beforeSession: added(beforeSession, study.procedure?.beforeSession),
      beforeReading: added(beforeReading, study.procedure?.beforeReading),
      waits,
    },
    confounds: [...copy.confounds, ...(confounds ?? [])],
    earlier: [
      ...copy.earlier.filter(({ studyId }) => studyId !== earlier.id).slice(-MOST_EARLIER),
      { studyId: earlier.id, title: earlier.title, matches: [] },
    ],
  };
}

const Suits = styled.p`
  margin-top: -6px;
  font-size: var(--size-15);
  color: var(--quiet);
`;

/** What a new study begins with. */
interface Beginning {
  title: string;
  question: string;
  pattern: PlanPattern | undefined;
  /** The study that was made the first time, where the same items are measured again. */
  earlier: Study | undefined;
  /** The study whose plan is copied. */
  other: Study | undefined;
}

/** Makes the study. @returns its id */
async function begin({ title, question, pattern, earlier, other }: Beginning): Promise<string> {
  if (pattern && earlier) {
    const copy = await duplicateStudy(earlier, 'plan', title);
    await patchStudy(copy, planAgain(copy, earlier, pattern, question));
    return copy.id;
  }
  if (pattern) {
    const document = studyFromPattern(pattern, {
      title,
      seed: newSeed(),
      newId: () => v7(),
      now: new Date().toISOString(),
    });
    if (question !== '') document.study.question = question;
    await createWholeStudy(document);
    return document.study.id;
  }
  if (other) {
    const copy = await duplicateStudy(other, 'plan', title);
    if (question !== '') await patchStudy(copy, { question });
    return copy.id;
  }
  const study = await createStudy(title, question);
  await createPart(study.id, 'measurands', newMeasurand('Reading', 1));
  return study.id;
}

const startOptions = (studies: readonly ListedStudy[]) => [
  { value: EMPTY, label: 'Nothing: one measurand, the rest as you go' },
  ...PATTERNS.map(({ key, label, suits }) => ({ value: `pattern/${key}`, label, help: suits })),
  ...studies.map(({ study }) => ({ value: `study/${study.id}`, label: `The plan of ${study.title}` })),
];

/** Which study was the first time; an empty id where that is not said yet. */
function FirstTime({
  studies,
  id,
  unsaid,
  onChange,
}: {
  studies: readonly ListedStudy[];
  id: string;
  unsaid: boolean;
  onChange: (id: string) => void;
}) {
  return (
    <>
      <Choice
        label="The first time was"
        value={id}
        options={[
          ...(id === '' ? [{ value: '', label: 'Choose a study' }] : []),
          ...studies.map(({ study }) => ({ value: study.id, label: study.title })),
          { value: ELSEWHERE, label: 'Somewhere else: none of these' },
        ]}
        onChange={onChange}
      />
      <Problem>{unsaid ? 'Say which study was the first time.' : undefined}</Problem>
    </>
  );
}

/** A study as it is said before it begins, and what begins it. */
function useNewStudy(studies: readonly ListedStudy[]) {
  const navigate = useNavigate();
  // What is typed is there again when the dialog is opened once more.
  const [{ title = '', question = '' }, change, forget] = useKept(
    'new-study',
    (): Record<string, string> => ({}),
    isTexts,
  );
  const [from, setFrom] = useState(EMPTY);
  const [earlierId, setEarlierId] = useState('');
  const [unsaid, setUnsaid] = useState(false);
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const pattern = PATTERNS.find(({ key }) => from === `pattern/${key}`);
  const other = studies.find(({ study }) => from === `study/${study.id}`)?.study;
  const asksFirstTime = pattern?.again && studies.length > 0;
  const create = async () => {
    if (busy) return;
    if (title.trim() === '') {
      setProblem('Give the study a name.');
      return;
    }
    if (asksFirstTime && earlierId === '') {
      setUnsaid(true);
      return;
    }
    setBusy(true);
    try {
      const earlier = pattern?.again ? studies.find(({ study }) => study.id === earlierId)?.study : undefined;
      const id = await begin({ title: title.trim(), question: question.trim(), pattern, earlier, other });
      forget();
      await navigate(`/study/${id}/plan`);
    } catch (failure) {
      setProblem(problemText(failure));
    } finally {
      setBusy(false);
    }
  };
  return {
    ...{ title, question, from, earlierId, unsaid, problem, pattern, other, asksFirstTime, create },
    setFrom,
    setQuestion: (text: string) => {
      change((before) => ({ ...before, question: text }));
    },
    call: (text: string) => {
      change((before) => ({ ...before, title: text }));
      setProblem(undefined);
    },
    sayEarlier: (id: string) => {
      setEarlierId(id);
      setUnsaid(false);
    },
  };
}

/** Where a study begins: empty, from one of our patterns, or from the plan of another study. */
export function NewStudy({
  studies,
  isOpen,
  onClose,
}: {
  studies: readonly ListedStudy[];
  isOpen: boolean;
  onClose: () => void;
}) {
  const study = useNewStudy(studies);
  const { title, question, from, pattern, other, asksFirstTime, problem, create } = study;
  return (
    <Dialog title="New study" isOpen={isOpen} onClose={onClose}>
      <TextField
        label="Name"
        value={title}
        onChange={study.call}
        problem={problem}
        placeholder="What is compared"
        autoFocus
        onEnter={() => void create()}
      />
      <Choice label="Start from" value={from} options={startOptions(studies)} onChange={study.setFrom} />
      {pattern && <Suits>{pattern.suits}</Suits>}
      {asksFirstTime && (
        <FirstTime studies={studies} id={study.earlierId} unsaid={study.unsaid} onChange={study.sayEarlier} />
      )}
      {other && <Suits>Items, measurands, factors, claims and procedure; no readings.</Suits>}
      <TextField
        label="Question"
        value={question}
        onChange={study.setQuestion}
        rows={2}
        placeholder={pattern?.question ?? other?.question ?? ''}
        help="What should the readings answer? It can wait."
      />
      <DialogAnswers onNo={onClose} go="Begin" onGo={() => void create()} />
    </Dialog>
  );
}
