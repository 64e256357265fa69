import { ArrowLeft, Printer } from 'lucide-react';
import { Fragment, useMemo } from 'react';
import { useNavigate } from 'react-router';
import styled, { createGlobalStyle } from 'styled-components';
import { conditionKind } from '../../../core/conditions/index.ts';

import { gridSize } from '../../../core/forms/grid.ts';
import { readingForm, unitRead } from '../../../core/forms/index.ts';
import type { Condition, Level, Measurand } from '../../../core/model/parts.ts';
import { blindStudy } from '../../../core/plan/blind.ts';
import { factorLevels, irreversibleFactor, measurandsRead, settingKey } from '../../../core/plan/grid.ts';
import { cautionOf } from '../../../core/plan/cautions.ts';
import { type Run, runQueue } from '../../../core/bench/queue.ts';
import { formatNumber, formatPlain, listed, withUnit } from '../../../core/quantity/format.ts';
import { useStudy } from '../../app/study-frame.tsx';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { Button } from '../../ui/button.tsx';
import { Row } from '../../ui/page.tsx';
import { Scroll } from '../../ui/table.tsx';
import { PRINT } from '../../ui/tokens.ts';

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

const Queue = styled.table`
  width: 100%;
  margin-top: 18px;
  border-collapse: collapse;
  th,
  td {
    padding: 4px 8px;
    border: 1px solid var(--rule-strong);
    text-align: left;
    height: 32px;
  }
  th {
    font-size: var(--size-13);
    font-weight: 640;
  }
  thead {
    display: table-header-group;
  }
  tr {
    break-inside: avoid;
  }
  tr[data-first] > * {
    border-top: 2.5px solid var(--ink);
  }
  .box {
    min-width: 96px;
  }
  bdi {
    margin-left: 8px;
  }
`;

/** One row of the sheet: an item in a round at a setting, with boxes for what is read of it. */
interface SheetRow {
  key: string;
  first: Run;
  opensRound: boolean;
  /** The level from which there is no way back, where its first run is. */
  opensLevel: Level | undefined;
  /** Ids of the measurands that are read of this item. */
  read: Set<string>;
}

function sheetRows(queue: readonly Run[], irreversible: readonly Level[]): SheetRow[] {
  const rows: SheetRow[] = [];
  const levelOf = ({ levelIds }: Run) => irreversible.findIndex(({ id }) => levelIds.includes(id));
  for (const run of queue) {
    const last = rows.at(-1);
    const same =
      last?.first.itemId === run.itemId &&
      last.first.round === run.round &&
      settingKey(last.first.levelIds) === settingKey(run.levelIds);
    if (same) {
      last.read.add(run.measurandId);
      continue;
    }
    const level = levelOf(run);
    rows.push({
      key: run.key,
      first: run,
      opensRound: last?.first.round !== run.round,
      opensLevel: last && level > levelOf(last.first) ? irreversible[level] : undefined,
      read: new Set([run.measurandId]),
    });
  }
  return rows;
}

/** A grid with more cells than this is written down on a sheet of its own. */
const MOST_CELLS = 64;

const Boxes = styled.div<{ $columns: number | undefined }>`
  display: grid;
  grid-template-columns: ${({ $columns }) =>
    $columns === undefined
      ? 'repeat(auto-fit, minmax(74px, 1fr))'
      : `repeat(${String($columns)}, minmax(28px, 1fr))`};
  gap: 3px;
  > span {
    min-height: 26px;
    padding: 0 3px;
    border: 1px solid var(--rule-strong);
    font-size: 9px;
    line-height: 1.3;
    color: var(--quiet);
  }
`;

/** Where a reading is written: one box a part, a grid as the real one lies there. */
function ReadingBoxes({ measurand }: { measurand: Measurand }) {
  const form = readingForm(measurand.form);
  const parts = (form?.parts(measurand) ?? []).filter(({ made }) => !made);
  const asked = form?.entry === 'clock' ? parts.filter(({ optional }) => !optional) : parts;
  if (asked.length < 2 || asked.length > MOST_CELLS) return null;
  if (form?.entry === 'cells') {
    return (
      <Boxes $columns={gridSize(measurand.settings).columns}>
        {asked.map(({ name }) => (
          <span key={name} />
        ))}
      </Boxes>
    );
  }
  return (
    <Boxes $columns={undefined}>
      {asked.map(({ name, label }) => (
        <span key={name}>{label}</span>
      ))}
    </Boxes>
  );
}

/** What a condition can be, where that is planned. */
function choiceWords(condition: Condition): string {
  const choices = conditionKind(condition).choices(condition);
  return choices.length === 0 ? '' : `: ${listed(choices, 'or')}`;
}

/** The run sheet for paper: order, boxes to write in, conditions, checklists, cautions. Typed in later in that order. */
export function RunSheet() {
  const whole = useStudy();
  const document = useMemo(() => blindStudy(whole), [whole]);
  const navigate = useNavigate();
  const { study, conditions } = document;
  const { procedure, materials, hazards } = study;
  const measurands = measurandsRead(document);
  const items = new Map(document.items.map((item) => [item.id, item]));
  const rows = useMemo(() => sheetRows(runQueue(whole), irreversibleFactor(whole)?.levels ?? []), [whole]);
  const factors = factorLevels(document);
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
      <Columns>
        <Blanks>
          <dt>Date</dt>
          <dd />
          <dt>Operator</dt>
          <dd />
          {measurands.map(({ id, name, instrument }) => (
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
        {procedure.beforeSession.length > 0 && (
          <section>
            <h2>Before the session</h2>
            <Checks>
              {procedure.beforeSession.map((step) => (
                <li key={step}>{step}</li>
              ))}
            </Checks>
          </section>
        )}
        {procedure.beforeReading.length + procedure.waits.length > 0 && (
          <section>
            <h2>Before each reading</h2>
            <Checks>
              {procedure.beforeReading.map((step) => (
                <li key={step}>{step}</li>
              ))}
              {procedure.waits.map(({ what, durationS }) => (
                <li key={what}>
                  {what}: {withUnit(formatNumber(durationS, 0), 's')}
                </li>
              ))}
            </Checks>
          </section>
        )}
        {materials.length > 0 && (
          <section>
            <h2>To bring</h2>
            <Checks>
              {materials.map((thing) => (
                <li key={thing}>{thing}</li>
              ))}
            </Checks>
          </section>
        )}
      </Columns>
      {conditions
        .filter(({ limits }) => limits.low !== null || limits.high !== null)
        .map(({ id, quantity, unit, limits }) => (
          <p key={id}>
            Wait while the {quantity.toLowerCase()} is{' '}
            {listed(
              [
                limits.low === null ? '' : `below ${withUnit(formatPlain(limits.low), unit)}`,
                limits.high === null ? '' : `above ${withUnit(formatPlain(limits.high), unit)}`,
              ].filter(Boolean),
              'or',
            )}
            .
          </p>
        ))}
      {hazards.map((hazard) => (
        <Caution key={hazard}>
          <b>{cautionOf(hazard).label}.</b> {cautionOf(hazard).caution}
        </Caution>
      ))}
      <Scroll aria-label="The runs in order">
        <Queue>
          <thead>
            <tr>
              <th scope="col">Run</th>
              <th scope="col">Round</th>
              <th scope="col">Item</th>
              {factors.map(({ factor }) => (
                <th key={factor.id} scope="col">
                  {factor.name}
                </th>
              ))}
              {measurands.map((measurand) => (
                <th key={measurand.id} scope="col">
                  {measurand.name}
                  {unitRead(measurand) && `, ${unitRead(measurand)}`}
                </th>
              ))}
              <th scope="col">Note</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ key, first, opensRound, opensLevel, read }, place) => (
              <Fragment key={key}>
                {opensLevel && (
                  <tr data-first>
                    <th colSpan={4 + factors.length + measurands.length}>
                      {opensLevel.name}: everything above this line is read first, since there is no way back.
                    </th>
                  </tr>
                )}
                <tr data-first={opensRound || undefined}>
                  <td>{place + 1}</td>
                  <td>{first.round}</td>
                  <td>
                    <MarkSign mark={items.get(first.itemId)?.mark ?? 0} size={13} />
                    <bdi>
                      {items.get(first.itemId)?.name} ({items.get(first.itemId)?.code})
                    </bdi>
                  </td>
                  {first.setting.map(({ id, name }) => (
                    <td key={id}>{name}</td>
                  ))}
                  {measurands.map((measurand) => (
                    <td key={measurand.id} className="box">
                      {read.has(measurand.id) ? <ReadingBoxes measurand={measurand} /> : '–'}
                    </td>
                  ))}
                  <td className="box" />
                </tr>
              </Fragment>
            ))}
          </tbody>
        </Queue>
      </Scroll>
    </Sheet>
  );
}
