import { useMemo } from 'react';
import styled from 'styled-components';
import { type Run, runQueue } from '../../../core/bench/queue.ts';
import { gridSize } from '../../../core/forms/grid.ts';
import { readingForm, unitRead } from '../../../core/forms/index.ts';
import type { Level, Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { factorLevels, irreversibleFactor, measurandsRead, settingKey } from '../../../core/plan/grid.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { Scroll } from '../../ui/table.tsx';

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

/** A row of the sheet, under a line where there is no way back behind it. */
function SheetLine({
  row: { first, opensRound, opensLevel, read },
  place,
  document: { items },
  measurands,
}: {
  row: SheetRow;
  place: number;
  document: StudyDocument;
  measurands: readonly Measurand[];
}) {
  const item = items.find(({ id }) => id === first.itemId);
  return (
    <>
      {opensLevel && (
        <tr data-first>
          <th colSpan={4 + first.setting.length + measurands.length}>
            {opensLevel.name}: everything above this line is read first, since there is no way back.
          </th>
        </tr>
      )}
      <tr data-first={opensRound || undefined}>
        <td>{place}</td>
        <td>{first.round}</td>
        <td>
          <MarkSign mark={item?.mark ?? 0} size={13} />
          <bdi>
            {item?.name} ({item?.code})
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
    </>
  );
}

/**
 * The runs in their order, with boxes to write in.
 * @param document as it is shown: with codes in place of names where the study is blind
 * @param whole the study itself, which says the order
 */
export function RunTable({ document, whole }: Record<'document' | 'whole', StudyDocument>) {
  const rows = useMemo(() => sheetRows(runQueue(whole), irreversibleFactor(whole)?.levels ?? []), [whole]);
  const measurands = measurandsRead(document);
  return (
    <Scroll aria-label="The runs in order">
      <Queue>
        <thead>
          <tr>
            <th scope="col">Run</th>
            <th scope="col">Round</th>
            <th scope="col">Item</th>
            {factorLevels(document).map(({ factor }) => (
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
          {rows.map((row, i) => (
            <SheetLine key={row.key} row={row} place={i + 1} document={document} measurands={measurands} />
          ))}
        </tbody>
      </Queue>
    </Scroll>
  );
}
