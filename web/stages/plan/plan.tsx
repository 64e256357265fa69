import { Printer } from 'lucide-react';
import { lazy, useMemo } from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { counted, listed } from '../../../core/quantity/format.ts';
import type { Study } from '../../../core/model/study.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { attributeColumns } from '../../../core/plan/attributes.ts';
import { type Duration, spokenDuration, studyDuration } from '../../../core/plan/duration.ts';
import { factorLevels, planSize } from '../../../core/plan/grid.ts';
import { plannedOrder } from '../../../core/plan/run-order.ts';
import { cautionOf } from '../../../core/plan/cautions.ts';
import { looksWords } from '../../../core/plan/looks.ts';
import { measurandsInOrder } from '../../../core/model/in-order.ts';
import { NextStage } from '../../app/next-stage.tsx';
import { patchStudy } from '../../app/api/studies.ts';
import { SavedText } from '../../app/draft-field.tsx';
import { useStudy } from '../../app/study-frame.tsx';
import { Button } from '../../ui/button.tsx';
import { Fold } from '../../ui/fold.tsx';
import { PageHead, Row, Section, Sheet } from '../../ui/page.tsx';
import { ItemList } from './item-list.tsx';
import { MeasurandList } from './measurand-list.tsx';
import { PlanNotes } from './plan-notes.tsx';
import { RunOrder } from './run-order.tsx';
import { showing } from './same-parts.ts';

const Question = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.6fr);
  gap: 16px;
  @media (max-width: 680px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Folds = styled.div`
  margin-top: 26px;
  border-bottom: 1px solid var(--rule);
  & + section {
    border-top: 0;
    margin-top: 0;
  }
`;

const procedureCounts = ({ procedure, materials }: Study): string[] => [
  ...(procedure.beforeSession.length > 0
    ? [`${counted(procedure.beforeSession.length, 'step')} before the session`]
    : []),
  ...(procedure.beforeReading.length > 0
    ? [`${counted(procedure.beforeReading.length, 'step')} before each reading`]
    : []),
  ...(procedure.waits.length > 0 ? [counted(procedure.waits.length, 'wait')] : []),
  ...(materials.length > 0 ? [`${counted(materials.length, 'thing')} to bring`] : []),
];

const stateOf = (parts: readonly string[], empty: string): string =>
  parts.length > 0 ? listed(parts) : empty;

const folded = () => import('./folded.tsx');
const Attributes = lazy(async () => ({ default: (await folded()).Attributes }));
const BlindCodes = lazy(async () => ({ default: (await folded()).BlindCodes }));
const Cautions = lazy(async () => ({ default: (await folded()).Cautions }));
const Claims = lazy(async () => ({ default: (await folded()).Claims }));
const ConditionList = lazy(async () => ({ default: (await folded()).ConditionList }));
const Confounds = lazy(async () => ({ default: (await folded()).Confounds }));
const Deviations = lazy(async () => ({ default: (await folded()).Deviations }));
const Factors = lazy(async () => ({ default: (await folded()).Factors }));
const HowLong = lazy(async () => ({ default: (await folded()).HowLong }));
const LooksPlanned = lazy(async () => ({ default: (await folded()).LooksPlanned }));
const Procedure = lazy(async () => ({ default: (await folded()).Procedure }));
const ReadingsNeeded = lazy(async () => ({ default: (await folded()).ReadingsNeeded }));

const Items = showing(ItemList, 'items');
const Measurands = showing(MeasurandList, 'items', 'measurands', 'conditions', 'changes', 'readings');
const ItemAttributes = showing(Attributes, 'items');
const Conditions = showing(ConditionList, 'conditions', 'sessions');
const ClaimList = showing(Claims, 'claims', 'items', 'measurands', 'factors', 'levels', 'readings');

/** What is known of the items, and what is varied besides them. */
function ItemFolds({ document }: { document: StudyDocument }) {
  return (
    <>
      <Fold
        title="Attributes of the items"
        state={
          listed(attributeColumns(document.items).map(({ name }) => name)) ||
          'none yet: mass, price, a rated value'
        }
      >
        <ItemAttributes document={document} />
      </Fold>
      <Fold
        title="Factors"
        state={
          factorLevels(document)
            .map(({ factor, levels }) => `${factor.name}: ${levels.map(({ name }) => name).join(', ')}`)
            .join('; ') || 'nothing is varied but the item'
        }
      >
        <Factors document={document} />
      </Fold>
    </>
  );
}

/** How many readings, with which looks, in how long. */
function SizeFolds({ document, duration }: { document: StudyDocument; duration: Duration }) {
  return (
    <>
      <Fold title="How many readings" state="what the planned rounds can see">
        <ReadingsNeeded document={document} />
      </Fold>
      <Fold title="Looks before the end" state={looksWords(document.study.looks)}>
        <LooksPlanned study={document.study} />
      </Fold>
      <Fold
        title="How long"
        state={duration.totalS > 0 ? `about ${spokenDuration(duration.totalS)}` : 'nothing planned yet'}
      >
        <HowLong document={document} duration={duration} />
      </Fold>
    </>
  );
}

/** How it is done, and what goes along with it. */
function ProcedureFolds({ document }: { document: StudyDocument }) {
  const { study } = document;
  return (
    <>
      <Fold title="Procedure" state={stateOf(procedureCounts(study), 'no steps yet')}>
        <Procedure document={document} />
      </Fold>
      <Fold
        title="What else changes with the item"
        state={listed(study.confounds.map(({ what }) => what)) || 'nothing named yet'}
      >
        <Confounds document={document} />
      </Fold>
      <Fold
        title="Conditions to record"
        state={listed(document.conditions.map(({ quantity }) => quantity)) || 'none yet'}
      >
        <Conditions document={document} />
      </Fold>
    </>
  );
}

/** What makes the comparison fair and safe. */
function CareFolds({ document }: { document: StudyDocument }) {
  const { study } = document;
  return (
    <>
      <Fold
        title="Claims to check"
        state={
          document.claims.length === 0
            ? 'none yet: an order, a maker’s figure, a rule of thumb'
            : counted(document.claims.length, 'claim')
        }
      >
        <ClaimList document={document} />
      </Fold>
      <Fold
        title="Blind codes"
        state={{ no: 'names are shown at the bench', blind: 'codes only', opened: 'opened' }[study.blind]}
      >
        <BlindCodes document={document} />
      </Fold>
      <Fold
        title="Cautions"
        state={listed(study.hazards.map((hazard) => cautionOf(hazard).label)) || 'no hazard named'}
      >
        <Cautions document={document} />
      </Fold>
      {document.readings.length > 0 && (
        <Fold
          title="Deviations from the plan"
          state={study.deviations.length === 0 ? 'none noted' : counted(study.deviations.length, 'deviation')}
        >
          <Deviations document={document} />
        </Fold>
      )}
    </>
  );
}

/** What the plan needs still, or how large it is. */
function planHeading(document: StudyDocument, missing: readonly string[]): string {
  if (missing.length > 0) return `The plan needs ${listed(missing)}.`;
  const { runs, settings } = planSize(document);
  const varied = factorLevels(document).length > 0;
  const where = varied ? ` at ${counted(settings, 'setting')}` : '';
  return `${counted(document.items.length, 'item')} in ${counted(document.study.rounds, 'round')}${where}: ${counted(runs, 'reading')}.`;
}

/** What the study is called, and what it is to answer. */
function NameAndQuestion({ study }: Pick<StudyDocument, 'study'>) {
  return (
    <Question>
      <SavedText
        label="Name of the study"
        saved={study.title}
        required
        save={(title) => patchStudy(study, { title })}
      />
      <SavedText
        label="Question"
        saved={study.question}
        placeholder="What should the readings answer?"
        save={(question) => patchStudy(study, { question })}
      />
    </Question>
  );
}

/** Leads to the run sheet. */
function SheetButton({ isDisabled }: { isDisabled: boolean }) {
  const navigate = useNavigate();
  return (
    <Row>
      <Button size="large" isDisabled={isDisabled} onPress={() => void navigate('../sheet')}>
        <Printer size={20} aria-hidden /> Run sheet for paper
      </Button>
    </Row>
  );
}

/** What is settled before the first reading: question, items, measurands, rounds and their order. */
export function Plan() {
  const document = useStudy();
  const { study, items } = document;
  const measurands = measurandsInOrder(document);
  const missing = [
    ...(items.length < 2 ? ['at least two items'] : []),
    ...(measurands.length === 0 ? ['something to measure'] : []),
  ];
  // One order for all that follows from it; a large plan has thousands of runs.
  const order = useMemo(() => plannedOrder(document), [document]);
  const duration = useMemo(() => studyDuration(document, order), [document, order]);
  return (
    <Sheet
      notes={<PlanNotes document={document} order={order} />}
      notesLabel="Notes on the plan"
      next={
        <NextStage
          to="bench"
          pressing={missing.length === 0}
          missing={
            items.length === 0 || measurands.length === 0
              ? `The bench needs ${listed(missing)} first.`
              : undefined
          }
        />
      }
    >
      <PageHead title={planHeading(document, missing)}>
        Everything saves itself when you leave a field. Only items and one measurand are needed; the rest can
        wait.
      </PageHead>
      <NameAndQuestion study={study} />
      <Section aria-labelledby="items">
        <h2 id="items">Items</h2>
        <Items document={document} />
      </Section>
      <Section aria-labelledby="measurands">
        <h2 id="measurands">What is measured</h2>
        <Measurands document={document} />
      </Section>
      <Section aria-labelledby="order">
        <h2 id="order">Rounds and their order</h2>
        <RunOrder document={document} order={order} />
      </Section>
      <Folds>
        <ItemFolds document={document} />
        <SizeFolds document={document} duration={duration} />
        <ProcedureFolds document={document} />
        <CareFolds document={document} />
      </Folds>
      <Section>
        <SheetButton isDisabled={items.length === 0 || measurands.length === 0} />
      </Section>
    </Sheet>
  );
}
