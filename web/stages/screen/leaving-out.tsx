import { type Ref, useImperativeHandle, useState } from 'react';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import type { Item, Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
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

/** The dialogs by which readings are left out by hand; what is behind them is not drawn again as they open and close. */
export function LeavingOutDialogs({
  ref,
  document,
  measurand,
  settingKey,
  analysis,
  items,
}: LeavingOutProps) {
  const [asked, setAsked] = useState<{ ids: readonly string[]; what?: string | undefined }>();
  const [several, setSeveral] = useState<{ chosenId: string | undefined }>();
  useImperativeHandle(
    ref,
    () => ({
      ask: (ids, what) => {
        setAsked({ ids, what });
      },
      askWhich: (chosenId) => {
        setSeveral({ chosenId });
      },
    }),
    [],
  );
  const reading = asked && analysis.readings.find(({ id }) => id === asked.ids[0]);
  const words =
    asked?.what ??
    (reading
      ? `${items.get(reading.itemId)?.name ?? ''}, round ${String(reading.round)}: ${withUnit(String(reading.value), measurand.unit)}`
      : '');
  const wouldChange = (readingIds: readonly string[]) => (
    <BeforeAfter
      document={document}
      analysis={analysis}
      settingKey={settingKey}
      readingIds={readingIds}
      action="leave-out"
    />
  );
  const close = () => {
    setAsked(undefined);
    setSeveral(undefined);
  };
  return (
    <>
      <LeaveOutDialog
        isOpen={asked !== undefined}
        count={asked?.ids.length ?? 1}
        what={
          asked && (
            <>
              <p>
                <bdi>{words}</bdi>
              </p>
              {wouldChange(asked.ids)}
            </>
          )
        }
        onClose={close}
        onReason={(reason) => {
          if (asked) leaveOut(document.study.id, asked.ids, reason);
          close();
        }}
      />
      {several && (
        <SeveralOut
          offered={batches(
            analysis.readings,
            document.sessions,
            items,
            analysis.readings.find(({ id }) => id === several.chosenId),
          )}
          preview={wouldChange}
          onClose={close}
          onReason={(ids, reason) => {
            leaveOut(document.study.id, ids, reason);
            close();
          }}
        />
      )}
    </>
  );
}
