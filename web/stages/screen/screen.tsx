import {
  type ComponentProps,
  type ReactNode,
  type RefObject,
  lazy,
  memo,
  useCallback,
  useDeferredValue,
  useMemo,
  useRef,
  useState,
} from 'react';
import { cellsRead } from '../../../core/forms/index.ts';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import type { StudyFinding } from '../../../core/inspections/inspection.ts';
import type { Item, RuleInForce } from '../../../core/model/parts.ts';
import { ruleWords } from '../../../core/screening/words.ts';
import { useAgreement, useAnalysis, useFindings, usePrecision } from '../../app/api/analysis.ts';
import { recordParts } from '../../app/api/studies.ts';
import { ChangeNote } from '../../app/change-note.tsx';
import { NextStage } from '../../app/next-stage.tsx';
import { NoReadings } from '../../app/no-readings.tsx';
import { useStudyView } from '../../app/study-view.tsx';
import { FarSection, PageHead, Sheet } from '../../ui/page.tsx';
import { NARROW } from '../../ui/tokens.ts';
import { useMedia } from '../../ui/use-media.ts';
import { BudgetTable } from './budget-table.tsx';
import { Corrections } from './corrections.tsx';
import { Elsewhere } from './elsewhere.tsx';
import { enforce } from './enforce.ts';
import { headline } from './headline.ts';
import { type LeavingOut, LeavingOutDialogs } from './leaving-out.tsx';
import { Noticed } from './noticed.tsx';
import { PrecisionTable } from './precision-table.tsx';
import { ReadingTable } from './reading-table.tsx';
import { ReadingsView } from './readings-view.tsx';
import { SchoolTable } from './school-table.tsx';
import { ChosenReading, ScreenNotes } from './screen-notes.tsx';
import type { Shown } from './shown.ts';
import { SummaryTable } from './summary-table.tsx';
import { Later } from '../../ui/later.tsx';

// Drawn when it is asked for.
const AgainstReference = lazy(async () => ({
  default: (await import('./against-reference.tsx')).AgainstReference,
}));

const CellsSection = lazy(async () => ({
  default: (await import('./cells-section.tsx')).CellsSection,
}));

const NO_FINDINGS: readonly StudyFinding[] = [];

/** Which readings count, and why: by rule, by hand, and what every other rule would have done. */
export function Screen() {
  const view = useStudyView();
  const { document, measurand, settingKey } = view;
  const {
    data: analysis,
    analysed = document,
    error,
    isPlaceholderData,
  } = useAnalysis(document, measurand?.id, settingKey, { resamples: 0 });
  const { data: findings = NO_FINDINGS } = useFindings(document);
  const precision = usePrecision(document, measurand?.id);
  const agreement = useAgreement(document, measurand?.id);
  const seen = useMemo(() => measurand && { ...view, measurand }, [view, measurand]);
  const now = useMemo(
    (): Shown | undefined =>
      seen && {
        ...{ view: seen, analysis, analysed, findings },
        ...{ precision: precision.data, agreement: agreement.data },
      },
    [seen, analysis, analysed, findings, precision.data, agreement.data],
  );
  const [held, hold] = useState(now);
  // What changed is drawn once, with what it makes of the readings; nothing of one measurand stands beside another’s name.
  const isOther = held?.view.measurand.id !== measurand?.id;
  const isComing =
    isPlaceholderData || (isOther && (precision.isPlaceholderData || agreement.isPlaceholderData));
  if (!isComing && held !== now) hold(now);
  const shown = isComing ? held : now;
  // Drawn a little at a time, so that a hand that goes on is not held.
  const below = useDeferredValue(shown);
  if (!now || document.readings.length + document.figures.length === 0) {
    return (
      <NoReadings title="No readings to screen yet.">
        Here you look over what was read: which readings count, which are left out and why.
      </NoReadings>
    );
  }
  if (error) throw error;
  // Of a decision the picture comes first; another measurand or setting comes as a whole.
  const isSame =
    below !== undefined &&
    below.view.measurand.id === shown?.view.measurand.id &&
    below.view.settingKey === shown.view.settingKey;
  return <ScreenOf shown={(isSame ? shown : below) ?? now} below={below ?? now} control={view.control} />;
}

interface ScreenOfProps {
  shown: Shown;
  /** What is shown below the picture: it may be a moment behind. */
  below: Shown;
  /** Where something else is chosen: at once, while what is shown follows. */
  control: ReactNode;
}

/** What can be done with a reading: decided on, and asked why it is left out. */
function useDeciding(studyId: string, leaving: RefObject<LeavingOut | null>) {
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
  const ask = useCallback<LeavingOut['ask']>((ids, what) => leaving.current?.ask(ids, what), [leaving]);
  const askWhy = useCallback(
    (id: string) => {
      ask([id]);
    },
    [ask],
  );
  return { decide, takeBack, ask, askWhy };
}

/** What is shown, and which rule judged it. */
function Head({ shown: { analysis, view } }: { shown: Shown }) {
  const { measurand, setting } = view;
  const title = useMemo(
    () => (analysis ? headline(analysis, measurand) : 'Looking the readings over…'),
    [analysis, measurand],
  );
  return (
    <PageHead title={title}>
      {measurand.name}
      {setting && ` at ${setting}`}.{' '}
      {analysis?.ruled === false
        ? 'No rule judges these values.'
        : `${ruleWords(measurand.rule)} is in force.`}{' '}
      Hollow marks are left out; choose one to see why, or to take it back.
    </PageHead>
  );
}

/** The margin: the chosen reading, where there is room beside it, and what there is to know. */
const Margin = ({ narrow, ...about }: ComponentProps<typeof ScreenNotes> & { narrow: boolean }) => (
  <>
    <ChangeNote document={about.document} asking />
    {!narrow && <ChosenReading {...about} />}
    <ScreenNotes {...about} />
  </>
);

/** What stands below the picture. */
const Below = ({
  shown,
  analysis,
  items,
  chosenId,
  onChoose,
  ask,
  askWhy,
  takeBack,
}: Pick<LookedProps, 'shown' | 'analysis' | 'items'> & {
  chosenId: string | undefined;
  onChoose: (id: string | undefined) => void;
} & Pick<ReturnType<typeof useDeciding>, 'ask' | 'askWhy' | 'takeBack'>) => (
  <>
    <Looked {...{ shown, analysis, items }} onShow={onChoose} onLeaveOut={ask} />
    <FarSection aria-labelledby="readings">
      <h2 id="readings">All readings</h2>
      <ReadingTable
        readings={analysis.readings}
        unit={analysis.measurand.unit}
        {...{ items, chosenId, onChoose }}
        onLeaveOut={askWhy}
        onTakeBack={takeBack}
      />
    </FarSection>
  </>
);

const ScreenOf = memo(function ScreenOf({ shown, below, control }: ScreenOfProps) {
  const { analysis } = shown;
  const { document, measurand, settingKey } = shown.view;
  const [chosenId, setChosenId] = useState<string>();
  const leaving = useRef<LeavingOut>(null);
  const items = useMemo(() => new Map(document.items.map((item) => [item.id, item])), [document.items]);
  const { decide, takeBack, ask, askWhy } = useDeciding(document.study.id, leaving);
  const onRule = useCallback(
    (rule: RuleInForce) => {
      enforce(measurand, rule);
    },
    [measurand],
  );
  const several = useCallback(() => leaving.current?.askWhich(chosenId), [chosenId]);
  // The margin is at the foot of a narrow page, far from what is chosen.
  const narrow = useMedia(NARROW);
  const about = below.analysis && {
    ...{ document: below.view.document, settingKey, analysis: below.analysis, items, chosenId },
    ...{ onChoose: setChosenId, onLeaveOut: askWhy, onDecide: decide, onRule },
  };
  return (
    <Sheet
      notesLabel="Notes on the readings"
      next={<NextStage to="rank" />}
      notes={about && <Margin narrow={narrow} {...about} />}
    >
      {control}
      <Head shown={shown} />
      <ReadingsView
        view={shown.view}
        analysis={analysis}
        analysed={shown.analysed}
        chosenId={chosenId}
        onChoose={setChosenId}
        onSeveral={several}
      />
      {about && narrow && <ChosenReading {...about} />}
      {analysis && below.analysis && (
        <Below
          {...{ shown: below, analysis: below.analysis, items, chosenId }}
          onChoose={setChosenId}
          {...{ ask, askWhy, takeBack }}
        />
      )}
      {analysis && (
        // As soon as it can be asked for, though what is below the picture may not be there yet.
        <LeavingOutDialogs ref={leaving} {...{ document, measurand, settingKey, analysis, items }} />
      )}
    </Sheet>
  );
});

interface LookedProps {
  shown: Shown;
  analysis: SettingAnalysis;
  items: ReadonlyMap<string, Item>;
  onShow: (id: string | undefined) => void;
  onLeaveOut: LeavingOut['ask'];
}

/** What was found when the readings were looked over; drawn again only where that is something else. */
const Looked = memo(function Looked({ shown, analysis, items, onShow, onLeaveOut }: LookedProps) {
  const { precision, agreement } = shown;
  const { document, measurand, settingKey } = shown.view;
  return (
    <>
      <Corrections document={document} measurand={measurand} analysis={analysis} />
      {!analysis.classes.some((group) => group.analysis.exact) && (
        <Elsewhere document={document} measurand={measurand} analysis={analysis} />
      )}
      <Noticed shown={shown} onShow={onShow} onLeaveOut={onLeaveOut} />
      {analysis.ruled && (
        <FarSection aria-labelledby="schools">
          <h2 id="schools">What each rule would do</h2>
          <SchoolTable document={document} measurand={measurand} settingKey={settingKey} />
        </FarSection>
      )}
      <FarSection aria-labelledby="summary">
        <h2 id="summary">Summary of what counts</h2>
        <SummaryTable document={document} analysis={analysis} />
        <BudgetTable analysis={analysis} />
        {precision && <PrecisionTable precision={precision} unit={measurand.unit} />}
      </FarSection>
      {cellsRead(measurand) && (
        <Later>
          <CellsSection document={document} analysis={analysis} />
        </Later>
      )}
      {agreement && (
        <Later>
          <AgainstReference
            document={document}
            measurand={measurand}
            agreement={agreement}
            items={items}
            onLeaveOut={onLeaveOut}
          />
        </Later>
      )}
    </>
  );
});
