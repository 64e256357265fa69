import { groupsOf } from '../../../core/analysis/at-setting.ts';
import { Suspense, lazy, useCallback, useMemo, useState } from 'react';
import styled from 'styled-components';
import { readingsInOrder } from '../../../core/analysis/in-order.ts';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import { counted, formatNumber, listed, withUnit } from '../../../core/quantity/format.ts';
import { gaveWay } from '../../../core/record/record.ts';
import { ruleWords } from '../../../core/screening/words.ts';
import { stripCaption } from '../../../core/report/left-out-words.ts';
import { standsOutSentence } from '../../../core/report/answer.ts';
import { meanOf } from '../../../core/summary/energy.ts';
import { ChangeNote } from '../../app/change-note.tsx';
import { NextStage } from '../../app/next-stage.tsx';
import { useAgreement, useAnalysis, useFindings, usePrecision } from '../../app/api/analysis.ts';
import { Finding } from '../../app/findings.tsx';
import { patchPart, recordParts } from '../../app/api/studies.ts';
import { tellDone, tellFailure } from '../../app/tell.ts';
import { NoReadings } from '../../app/no-readings.tsx';
import { useStudyView } from '../../app/study-view.tsx';
import { settingFigures, stripLanes } from '../../strip/lanes.ts';
import { TakenStrip } from '../../app/taken-strip.tsx';
import { Button } from '../../ui/button.tsx';
import { PageHead, Row, Section, Sheet } from '../../ui/page.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Segments } from '../../ui/segments.tsx';
import { NARROW } from '../../ui/tokens.ts';
import { BudgetTable } from './budget-table.tsx';
import { Corrections } from './corrections.tsx';
import { Elsewhere } from './elsewhere.tsx';
import { LeaveOutDialog } from './leave-out-dialog.tsx';
import { PrecisionTable } from './precision-table.tsx';
import { ReadingTable } from './reading-table.tsx';
import { SchoolTable } from './school-table.tsx';
import { BeforeAfter } from './before-after.tsx';
import { ScreenNotes } from './screen-notes.tsx';
import { SeveralOut, batches, canGoOut } from './several-out.tsx';
import { lanesOfSome, someReadings } from './some-readings.ts';
import { SummaryTable } from './summary-table.tsx';

// Drawn when it is asked for.
const AgainstReference = lazy(async () => ({
  default: (await import('./against-reference.tsx')).AgainstReference,
}));
const OrderPicture = lazy(async () => ({
  default: (await import('../../strip/order-picture.tsx')).OrderPicture,
}));

const Views = styled(Row)`
  > button:last-child {
    margin-left: auto;
  }
  margin-bottom: 8px;
`;

const Findings = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
  gap: 18px 28px;
  margin-bottom: 8px;
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
  }
`;

/** What cannot be set right is in no mean, with or without screening. */
const isUncorrected = (use: SettingAnalysis['readings'][number]['use']) =>
  use.is === 'left out' && use.by === 'correction';

/** What screening does to the means, in one sentence. */
function headline(analysis: SettingAnalysis, measurand: Measurand): string {
  const out = analysis.readings.filter(({ use }) => use.is === 'left out' && !gaveWay(use));
  const odd = groupsOf(analysis)
    .map((group) => standsOutSentence(group.analysis))
    .filter((sentence) => sentence !== '')
    .join(' ');
  if (out.length === 0) return `Every reading counts. ${odd}`.trim();
  const { decimals } = settingFigures(analysis);
  // Means move of those items alone of which something is left out.
  const valuesOf = new Map(out.map(({ itemId }) => [itemId, [] as number[]]));
  for (const { itemId, value, use } of analysis.readings) {
    if (value === null || gaveWay(use) || isUncorrected(use)) continue;
    valuesOf.get(itemId)?.push(value);
  }
  const moved = groupsOf(analysis).flatMap((group) =>
    group.items.flatMap((item, i) => {
      const all = valuesOf.get(item.id) ?? [];
      const mean = (group.signed?.[i] ?? group.analysis.items[i]?.summary)?.mean;
      const shift = mean == null || all.length === 0 ? 0 : Math.abs(mean - meanOf(all, analysis.average));
      const printed = formatNumber(shift, Math.min(decimals, 2));
      return Number(printed.replace(/\u202f/g, '')) > 0
        ? [`${item.name} by ${withUnit(printed, measurand.unit)}`]
        : [];
    }),
  );
  const words = `${counted(out.length, 'reading is', 'readings are')} left out`;
  if (moved.length === 0) return `${words}. No mean moves by it. ${odd}`.trim();
  return moved.length > 3
    ? `${words}. That moves ${counted(moved.length, 'mean')}. ${odd}`.trim()
    : `${words}. That moves ${listed(moved)}. ${odd}`.trim();
}

/** Which readings count, and why: by rule, by hand, and what every other rule would have done. */
export function Screen() {
  const { document, measurand, settingKey, setting, control } = useStudyView();
  const {
    data: analysis,
    analysed = document,
    error,
  } = useAnalysis(document, measurand?.id, settingKey, { resamples: 0 });
  const [chosenId, setChosenId] = useState<string>();
  const [leavingOut, setLeavingOut] = useState<{ ids: readonly string[]; what?: string }>();
  const [several, setSeveral] = useState(false);
  const [view, setView] = useState<'items' | 'order'>('items');
  const { data: findings = [] } = useFindings(document);
  const { data: precision } = usePrecision(document, measurand?.id);
  const { data: agreement } = useAgreement(document, measurand?.id);
  const [shownPart, setShownPart] = useState('');
  const parts = useMemo(
    () => (analysis ? someReadings(analysis.readings, document.sessions) : []),
    [analysis, document.sessions],
  );
  const part = parts.find(({ value }) => value === shownPart);
  const allLanes = useMemo(
    // Drawn once for a decision: what was decided is to be seen when the analysis knows it.
    () => (measurand ? stripLanes(analysed, measurand, settingKey, analysis, { analysed }) : []),
    [analysed, measurand, settingKey, analysis],
  );
  const lanes = useMemo(() => (part ? lanesOfSome(allLanes, part) : allLanes), [allLanes, part]);
  const order = useMemo(
    () => (measurand && view === 'order' ? readingsInOrder(document, measurand.id, settingKey) : undefined),
    [document, measurand, settingKey, view],
  );
  const shownInOrder = useMemo(() => {
    if (!order) return undefined;
    const out = new Set(analysis?.readings.flatMap(({ id, use }) => (use.is === 'left out' ? [id] : [])));
    return {
      ...order,
      readings: order.readings.map((reading) => ({ ...reading, out: reading.out || out.has(reading.id) })),
    };
  }, [order, analysis]);
  const marks = useMemo(() => new Map(document.items.map(({ id, mark }) => [id, mark])), [document.items]);
  const items = useMemo(() => new Map(document.items.map((item) => [item.id, item])), [document.items]);
  const studyId = document.study.id;
  const decide = useCallback(
    (action: 'leave-out' | 'take-back' | 'keep', readingId: string, reason: string) => {
      void recordParts(studyId, [{ kind: 'decisions', fields: { action, readingId, reason } }]);
    },
    [studyId],
  );
  const takeBack = useCallback(
    (id: string) => {
      decide('take-back', id, '');
    },
    [decide],
  );
  const askWhy = useCallback((id: string) => {
    setLeavingOut({ ids: [id] });
  }, []);
  const title = useMemo(
    () => (analysis && measurand ? headline(analysis, measurand) : 'Looking the readings over…'),
    [analysis, measurand],
  );

  if (!measurand || document.readings.length + document.figures.length === 0) {
    return (
      <NoReadings title="No readings to screen yet.">
        Here you look over what was read: which readings count, which are left out and why.
      </NoReadings>
    );
  }
  if (error) throw error;
  const leaving = analysis?.readings.find(({ id }) => id === leavingOut?.ids[0]);
  const leaveOut = (ids: readonly string[], reason: string) => {
    void recordParts(
      document.study.id,
      ids.map((readingId) => ({
        kind: 'decisions' as const,
        fields: { action: 'leave-out' as const, readingId, reason },
      })),
    );
    if (ids.length > 1) {
      tellDone(`${counted(ids.length, 'reading')} left out.`, () =>
        recordParts(
          document.study.id,
          ids.map((readingId) => ({
            kind: 'decisions' as const,
            fields: { action: 'take-back' as const, readingId, reason: '' },
          })),
        ),
      );
    }
  };
  const wouldChange = (readingIds: readonly string[]) =>
    analysis && (
      <BeforeAfter
        document={document}
        analysis={analysis}
        settingKey={settingKey}
        readingIds={readingIds}
        action="leave-out"
      />
    );
  const here = findings.filter(({ measurandId }) => measurandId === null || measurandId === measurand.id);
  const answered = new Set(document.study.answers.map(({ finding }) => finding));
  const open = here.filter(({ id }) => !answered.has(id));
  const elsewhere = findings.filter((one) => !here.includes(one) && !answered.has(one.id)).length;
  const canLeaveOut = analysis?.readings.some(canGoOut) ?? false;
  const offered =
    analysis && several
      ? batches(
          analysis.readings,
          document.sessions,
          items,
          analysis.readings.find(({ id }) => id === chosenId),
        )
      : [];
  return (
    <Sheet
      notesLabel="Notes on the readings"
      next={<NextStage to="rank" />}
      notes={
        analysis && (
          <>
            <ChangeNote document={document} asking />
            <ScreenNotes
              document={document}
              settingKey={settingKey}
              analysis={analysis}
              items={items}
              chosenId={chosenId}
              onChoose={setChosenId}
              onLeaveOut={askWhy}
              onDecide={decide}
              onRule={(rule) => {
                const before = measurand.rule;
                patchPart('measurands', measurand, { rule })
                  .then((now) => {
                    tellDone(`${ruleWords(rule)} is in force now.`, () =>
                      patchPart('measurands', now, { rule: before }),
                    );
                  })
                  .catch(tellFailure);
              }}
            />
          </>
        )
      }
    >
      {control}
      <PageHead title={title}>
        {measurand.name}
        {setting && ` at ${setting}`}.{' '}
        {analysis?.ruled === false
          ? 'No rule judges these values.'
          : `${ruleWords(measurand.rule)} is in force.`}{' '}
        Hollow marks are left out; choose one to see why, or to take it back.
      </PageHead>
      <Views>
        <Segments
          label="Readings shown"
          labelHidden
          options={[
            { value: 'items', label: 'By item' },
            { value: 'order', label: 'In the order taken' },
          ]}
          value={view}
          onChange={setView}
        />
        {view === 'items' && parts.length > 0 && (
          <Choice
            label="Readings of"
            labelHidden
            options={[{ value: '', label: 'All readings' }, ...parts]}
            value={part?.value ?? ''}
            onChange={setShownPart}
          />
        )}
        {canLeaveOut && (
          <Button
            size="small"
            tone="quiet"
            onPress={() => {
              setSeveral(true);
            }}
          >
            Leave several out…
          </Button>
        )}
      </Views>
      {shownInOrder ? (
        <Suspense>
          <OrderPicture label={measurand.name} unit={measurand.unit} order={shownInOrder} marks={marks} />
        </Suspense>
      ) : (
        <TakenStrip
          what={[measurand.name, setting, part?.label ?? 'all readings'].filter(Boolean).join(', ')}
          caption={
            analysis
              ? `${stripCaption(analysis, {
                  ranksOnly: analysis.classes.some(({ analysis: { ranksOnly } }) => ranksOnly),
                  placed: false,
                })}${part ? ` ${part.label} alone; means are of all readings.` : ''}`
              : ''
          }
          label={`${measurand.name}: all readings by item`}
          unit={measurand.unit}
          lanes={lanes}
          spanned={allLanes}
          pointedId={chosenId}
          onChoose={setChosenId}
          trueZero={analysis !== undefined && analysis.trueZero && !analysis.bySize}
        />
      )}
      {analysis && (
        <>
          <Corrections document={document} measurand={measurand} analysis={analysis} />
          {!analysis.classes.some((group) => group.analysis.exact) && (
            <Elsewhere document={document} measurand={measurand} analysis={analysis} />
          )}
          {(here.length > 0 || elsewhere > 0) && (
            <Section aria-labelledby="findings">
              <h2 id="findings">
                {open.length > 0
                  ? `${counted(open.length, 'thing')} to look at`
                  : here.length > 0
                    ? 'Looked at'
                    : 'Elsewhere in the study'}
              </h2>
              <Findings>
                {[...open, ...here.filter(({ id }) => answered.has(id))].map((finding) => (
                  <Finding
                    key={finding.id}
                    document={document}
                    finding={finding}
                    onShow={setChosenId}
                    onLeaveOut={(ids, what) => {
                      setLeavingOut({ ids, what });
                    }}
                  />
                ))}
              </Findings>
              {elsewhere > 0 && <p>{counted(elsewhere, 'thing')} to look at in other measurands.</p>}
            </Section>
          )}
          {analysis.ruled && (
            <Section aria-labelledby="schools">
              <h2 id="schools">What each rule would do</h2>
              <SchoolTable document={document} measurand={measurand} settingKey={settingKey} />
            </Section>
          )}
          <Section aria-labelledby="summary">
            <h2 id="summary">Summary of what counts</h2>
            <SummaryTable document={document} analysis={analysis} />
            <BudgetTable analysis={analysis} />
            {precision && <PrecisionTable precision={precision} unit={measurand.unit} />}
          </Section>
          {agreement && (
            <Suspense>
              <AgainstReference
                document={document}
                measurand={measurand}
                agreement={agreement}
                items={items}
                onLeaveOut={(ids, what) => {
                  setLeavingOut({ ids, what });
                }}
              />
            </Suspense>
          )}
          <Section aria-labelledby="readings">
            <h2 id="readings">All readings</h2>
            <ReadingTable
              readings={analysis.readings}
              items={items}
              unit={measurand.unit}
              chosenId={chosenId}
              onChoose={setChosenId}
              onLeaveOut={askWhy}
              onTakeBack={takeBack}
            />
          </Section>
        </>
      )}
      <LeaveOutDialog
        isOpen={leavingOut !== undefined}
        count={leavingOut?.ids.length ?? 1}
        what={
          leavingOut && (
            <>
              <p>
                <bdi>
                  {leavingOut.what ??
                    (leaving
                      ? `${items.get(leaving.itemId)?.name ?? ''}, round ${String(leaving.round)}: ${withUnit(String(leaving.value), measurand.unit)}`
                      : '')}
                </bdi>
              </p>
              {wouldChange(leavingOut.ids)}
            </>
          )
        }
        onClose={() => {
          setLeavingOut(undefined);
        }}
        onReason={(reason) => {
          if (leavingOut) leaveOut(leavingOut.ids, reason);
          setLeavingOut(undefined);
        }}
      />
      {several && (
        <SeveralOut
          offered={offered}
          preview={wouldChange}
          onClose={() => {
            setSeveral(false);
          }}
          onReason={(ids, reason) => {
            leaveOut(ids, reason);
            setSeveral(false);
          }}
        />
      )}
    </Sheet>
  );
}
