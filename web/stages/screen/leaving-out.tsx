import { type Ref, useImperativeHandle, useState } from 'react';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import type { Item, Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { Observation } from '../../../core/observations/observation.ts';
import { counted, withUnit } from '../../../core/quantity/format.ts';
import { recordParts } from '../../app/api/studies.ts';
import { tellDone } from '../../app/tell.ts';
import { BeforeAfter } from './before-after.tsx';
import { LeaveOutDialog } from './leave-out-dialog.tsx';
import { SeveralOut, batches } from './several-out.tsx';

/** Asks for the reason for which readings are left out. */
export interface LeavingOut {
  /** @param what the readings in words, where they are not one */
  ask: (ids: readonly string[], what?: string) => void;
  /** @param chosenId a reading by which some are offered */
  askWhich: (chosenId: string | undefined) => void;
}

/** These readings, or some that are yet to be chosen. */
type Question = { ids: readonly string[]; what?: string | undefined } | { chosenId: string | undefined };

interface LeavingOutProps {
  ref: Ref<LeavingOut>;
  document: StudyDocument;
  measurand: Measurand;
  settingKey: string;
  analysis: SettingAnalysis;
  items: ReadonlyMap<string, Item>;
}

/** Leaves readings out, and says so where they are several, with a way back. */
function leaveOut(studyId: string, ids: readonly string[], reason: string): void {
  const decided = (action: 'leave-out' | 'take-back', why: string) =>
    ids.map((readingId) => ({ kind: 'decisions' as const, fields: { action, readingId, reason: why } }));
  void recordParts(studyId, decided('leave-out', reason));
  if (ids.length > 1)
    tellDone(`${counted(ids.length, 'reading')} left out.`, () =>
      recordParts(studyId, decided('take-back', '')),
    );
}

const readingWords = (
  { itemId, round, value }: Observation,
  items: LeavingOutProps['items'],
  unit: string,
): string => `${items.get(itemId)?.name ?? ''}, round ${String(round)}: ${withUnit(String(value), unit)}`;

/** What is asked: about some readings, or which of several. */
function useQuestion(ref: LeavingOutProps['ref'], about: string) {
  const [question, setQuestion] = useState<Question & { about: string }>();
  useImperativeHandle(
    ref,
    () => ({
      ask: (ids, what) => {
        setQuestion({ about, ids, what });
      },
      askWhich: (chosenId) => {
        setQuestion({ about, chosenId });
      },
    }),
    [about],
  );
  const close = () => {
    setQuestion(undefined);
  };
  // What is asked about is not on the page of another measurand.
  return [question?.about === about ? question : undefined, close] as const;
}

/** The questions by which readings are left out by hand; the page is not drawn again as they open and close. */
export function LeavingOutDialogs({
  ref,
  document,
  measurand,
  settingKey,
  analysis,
  items,
}: LeavingOutProps) {
  const [question, close] = useQuestion(ref, `${measurand.id}/${settingKey}`);
  if (!question) return null;
  const wouldChange = (readingIds: readonly string[]) => (
    <BeforeAfter
      document={document}
      analysis={analysis}
      settingKey={settingKey}
      readingIds={readingIds}
      action="leave-out"
    />
  );
  const decide = (ids: readonly string[], why: string) => {
    leaveOut(document.study.id, ids, why);
    close();
  };
  const asking = { studyId: document.study.id, onClose: close };
  const readingOf = (id: string | undefined) =>
    id === undefined ? undefined : analysis.readings.find((reading) => reading.id === id);
  if ('chosenId' in question) {
    return (
      <SeveralOut
        {...asking}
        offered={batches(analysis.readings, document.sessions, items, readingOf(question.chosenId))}
        preview={wouldChange}
        onLeaveOut={decide}
      />
    );
  }
  const { ids, what } = question;
  const reading = readingOf(ids[0]);
  const words = what ?? (reading && readingWords(reading, items, measurand.unit));
  return (
    <LeaveOutDialog
      key={ids.join(' ')}
      {...asking}
      count={ids.length}
      what={
        <>
          <p>
            <bdi>{words}</bdi>
          </p>
          {wouldChange(ids)}
        </>
      }
      onLeaveOut={(why) => {
        decide(ids, why);
      }}
    />
  );
}
