import { ArrowLeft, Printer } from 'lucide-react';
import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import styled, { createGlobalStyle } from 'styled-components';
import { conditionKind } from '../../../core/conditions/index.ts';
import type { Condition } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { blindStudy } from '../../../core/plan/blind.ts';
import { cautionOf } from '../../../core/plan/cautions.ts';
import { measurandsRead } from '../../../core/plan/grid.ts';
import { formatNumber, formatPlain, listed, withUnit } from '../../../core/quantity/format.ts';
import { useStudy } from '../../app/study-frame.tsx';
import { Button } from '../../ui/button.tsx';
import { Row } from '../../ui/page.tsx';
import { PRINT } from '../../ui/tokens.ts';
import { RunTable } from './run-table.tsx';

/** Both A4 and Letter leave room for this margin. */
const Paper = createGlobalStyle`
  @page { margin: 13mm 12mm; }
  ${PRINT} { body, html { background: #fff; } }
`;

const Sheet = styled.main`
  flex: 1;
  padding: 24px 28px 60px;
  background: var(--sheet);
  > * {
    max-width: 900px;
  }
  ${PRINT} {
    padding: 0;
    background: none;
    font-size: 10.5pt;
  }
`;

const Tools = styled(Row)`
  margin-bottom: 20px;
  ${PRINT} {
    display: none;
  }
`;

const Columns = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px 32px;
  margin: 16px 0;
  h2 {
    font-size: inherit;
    margin-bottom: 4px;
  }
`;

const Blanks = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 10px 12px;
  align-items: end;
  dd {
    min-height: 22px;
    border-bottom: 1px solid var(--rule-strong);
  }
`;

const Checks = styled.ul`
  display: grid;
  gap: 5px;
  li {
    display: flex;
    gap: 8px;
    break-inside: avoid;
  }
  li::before {
    content: '';
    flex: none;
    width: 13px;
    height: 13px;
    margin-top: 4px;
    border: 1px solid var(--ink);
  }
`;

const Caution = styled.p`
  margin-top: 8px;
  padding-left: 10px;
  border-left: 3px solid var(--rust);
  break-inside: avoid;
`;

/** What a condition can be, where that is planned. */
function choiceWords(condition: Condition): string {
  const choices = conditionKind(condition).choices(condition);
  return choices.length === 0 ? '' : `: ${listed(choices, 'or')}`;
}

/** A heading over a list of what is to be ticked; nothing where the list is empty. */
function CheckList({ title, steps }: { title: string; steps: readonly string[] }) {
  if (steps.length === 0) return null;
  return (
    <section>
      <h2>{title}</h2>
      <Checks>
        {steps.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </Checks>
    </section>
  );
}

/** What is written down once a session, and what is done before it and before each reading. */
function SessionColumns({ document }: { document: StudyDocument }) {
  const { conditions, study } = document;
  const { procedure, materials } = study;
  const waits = procedure.waits.map(
    ({ what, durationS }) => `${what}: ${withUnit(formatNumber(durationS, 0), 's')}`,
  );
  return (
    <Columns>
      <Blanks>
        <dt>Date</dt>
        <dd />
        <dt>Operator</dt>
        <dd />
        {measurandsRead(document).map(({ id, name, instrument }) => (
          <div key={id} style={{ display: 'contents' }}>
            <dt>Instrument, {name}</dt>
            <dd>{instrument.name}</dd>
          </div>
        ))}
      </Blanks>
      {conditions.length > 0 && (
        <Blanks>
          {conditions.flatMap((condition) =>
            ['at the start', 'at the end'].map((when) => (
              <div key={`${condition.id}/${when}`} style={{ display: 'contents' }}>
                <dt>
                  {condition.quantity} {when}
                  {condition.unit && `, ${condition.unit}`}
                  {choiceWords(condition)}
                  {condition.required && ' (required)'}
                </dt>
                <dd />
              </div>
            )),
          )}
        </Blanks>
      )}
      <CheckList title="Before the session" steps={procedure.beforeSession} />
      <CheckList title="Before each reading" steps={[...procedure.beforeReading, ...waits]} />
      <CheckList title="To bring" steps={materials} />
    </Columns>
  );
}

/** Says beyond which limit of a condition one waits; nothing where it has none. */
function waitWords({ quantity, unit, limits: { low, high } }: Condition): string | undefined {
  const beyond = [
    low === null ? '' : `below ${withUnit(formatPlain(low), unit)}`,
    high === null ? '' : `above ${withUnit(formatPlain(high), unit)}`,
  ].filter(Boolean);
  return beyond.length === 0
    ? undefined
    : `Wait while the ${quantity.toLowerCase()} is ${listed(beyond, 'or')}.`;
}

/** The run sheet for paper: order, boxes to write in, conditions, checklists, cautions. Typed in later in that order. */
export function RunSheet() {
  const whole = useStudy();
  const document = useMemo(() => blindStudy(whole), [whole]);
  const navigate = useNavigate();
  const { study, conditions } = document;
  return (
    <Sheet id="content" tabIndex={-1}>
      <Paper />
      <Tools>
        <Button onPress={() => void navigate('../plan')}>
          <ArrowLeft size={18} aria-hidden /> Back to the plan
        </Button>
        <Button
          tone="go"
          onPress={() => {
            globalThis.print();
          }}
        >
          <Printer size={18} aria-hidden /> Print
        </Button>
        <span>Prints on A4 and on Letter. Type the readings in at the bench later, in this order.</span>
      </Tools>
      <h1>
        <bdi>{study.title}</bdi>
      </h1>
      {study.question && (
        <p>
          <bdi>{study.question}</bdi>
        </p>
      )}
      <SessionColumns document={document} />
      {conditions.map((condition) => {
        const words = waitWords(condition);
        return words && <p key={condition.id}>{words}</p>;
      })}
      {study.hazards.map((hazard) => (
        <Caution key={hazard}>
          <b>{cautionOf(hazard).label}.</b> {cautionOf(hazard).caution}
        </Caution>
      ))}
      <RunTable document={document} whole={whole} />
    </Sheet>
  );
}
