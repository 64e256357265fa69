import { useState } from 'react';
import styled from 'styled-components';
import type { StudyFinding } from '../../core/inspections/inspection.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { capital } from '../../core/quantity/format.ts';
import { Button } from '../ui/button.tsx';
import { Note } from '../ui/note.tsx';
import { Row } from '../ui/page.tsx';
import { TextField } from '../ui/text-field.tsx';
import { patchStudy } from './api/studies.ts';
import { isText, useKept } from './kept.ts';
import { MethodLink } from './method-link.tsx';
import { tell, tellDone } from './tell.ts';

const Source = styled.small`
  display: block;
  color: var(--quiet);
`;

/** Answers a finding, or takes the answer back where the text is empty. */
async function answer(document: StudyDocument, finding: StudyFinding, text: string): Promise<void> {
  const { study } = document;
  const others = study.answers.filter((reply) => reply.finding !== finding.id);
  const answers =
    text === '' ? others : [...others, { finding: finding.id, text, answeredAt: new Date().toISOString() }];
  const now = await patchStudy(study, { answers });
  if (text !== '')
    tellDone('Answered; the report will say so.', () => patchStudy(now, { answers: study.answers }));
}

interface FindingProps {
  document: StudyDocument;
  finding: StudyFinding;
  /** Shows the reading that it is about. */
  onShow?: ((readingId: string) => void) | undefined;
  onLeaveOut?: ((readingIds: readonly string[], what: string) => void) | undefined;
}

/** What can be done about a finding, from where it stands. */
function FindingActions({
  finding: { readingIds, message },
  onShow,
  onLeaveOut,
  onAnswer,
}: Omit<FindingProps, 'document'> & { onAnswer: () => void }) {
  const [first] = readingIds;
  return (
    <>
      {first !== undefined && onShow && (
        <Button
          size="small"
          onPress={() => {
            onShow(first);
          }}
        >
          Show it
        </Button>
      )}
      {first !== undefined && onLeaveOut && (
        <Button
          size="small"
          onPress={() => {
            onLeaveOut(readingIds, message);
          }}
        >
          Leave {readingIds.length > 1 ? 'them' : 'it'} out…
        </Button>
      )}
      <Button size="small" onPress={onAnswer}>
        Answer it…
      </Button>
    </>
  );
}

/** Where a finding is answered. */
function AnswerField({
  text,
  onText,
  onSave,
  onLeave,
}: {
  text: string;
  onText: (text: string) => void;
  onSave: () => void;
  onLeave: () => void;
}) {
  return (
    <Row style={{ marginTop: 8, alignItems: 'end' }}>
      <TextField
        label="Your answer, for the report"
        value={text}
        placeholder="Accepted, because…"
        maxLength={1000}
        autoFocus
        onChange={onText}
        onEnter={onSave}
      />
      <Button size="small" tone="go" onPress={onSave}>
        Answer
      </Button>
      <Button size="small" tone="quiet" onPress={onLeave}>
        Not now
      </Button>
    </Row>
  );
}

/** One finding: what was seen, why it matters, what can be done; with what the tester says to it. */
export function Finding(props: FindingProps) {
  const { document, finding } = props;
  const [answering, setAnswering] = useState(false);
  const given = document.study.answers.find((reply) => reply.finding === finding.id);
  // What is typed stays with its finding until it is used.
  const [typed, change, forget] = useKept(
    `answer/${document.study.id}/${finding.id}`,
    () => undefined,
    (value): value is string | undefined => isText(value),
  );
  const text = typed ?? given?.text ?? '';
  const begin = () => {
    setAnswering(true);
  };
  const leave = () => {
    setAnswering(false);
  };
  if (given && !answering) {
    return (
      <Note
        tone="plain"
        title={finding.message}
        actions={
          <Button size="small" tone="quiet" onPress={begin}>
            Change the answer
          </Button>
        }
      >
        Answered: <bdi>{given.text}</bdi>
      </Note>
    );
  }
  return (
    <Note
      tone="attention"
      title={finding.message}
      actions={answering ? undefined : <FindingActions {...props} onAnswer={begin} />}
    >
      {finding.why} {finding.todo}
      <Source>
        {capital(finding.source)}. {finding.method !== undefined && <MethodLink name={finding.method} />}
      </Source>
      {answering && (
        <AnswerField
          text={text}
          onText={(next) => {
            change(() => next);
          }}
          onSave={() => {
            tell(answer(document, finding, text.trim()).then(forget));
            leave();
          }}
          onLeave={leave}
        />
      )}
    </Note>
  );
}
