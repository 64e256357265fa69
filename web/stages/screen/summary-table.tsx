import { type ReactNode, memo, useState } from 'react';
import styled from 'styled-components';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { groupsOf } from '../../../core/analysis/at-setting.ts';
import type { MoreFigures } from '../../../core/analysis/more-figures.ts';
import type { Item } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { decimalsFor, formatNumber } from '../../../core/quantity/format.ts';
import { rangeWords } from '../../../core/summary/typed.ts';
import { useMoreFigures } from '../../app/api/analysis.ts';
import { TakeTable } from '../../app/take.tsx';
import { settingFigures } from '../../strip/lanes.ts';
import { Button } from '../../ui/button.tsx';
import { ItemHead } from '../../ui/name.tsx';
import { FigureHead, Table } from '../../ui/table.tsx';

type Group = ReturnType<typeof groupsOf>[number];

const Verdict = styled.small`
  display: block;
  color: var(--quiet);
`;

/** All that the table may say of one item. */
interface SummaryRow {
  item: Item;
  figures: Group['analysis']['items'][number] | undefined;
  /** Of signed errors, where sizes are ranked. */
  bias: NonNullable<Group['signed']>[number] | undefined;
  kept: NonNullable<Group['within']>[number] | undefined;
  more: MoreFigures | undefined;
}

interface SummaryColumn {
  head: string;
  cell: (row: SummaryRow) => ReactNode;
}

type Shown = ReturnType<typeof settingFigures>;

const percent = (share: number | null | undefined): string =>
  share == null ? '–' : `${formatNumber(100 * share, Math.min(3, decimalsFor(100 * share)))}\u202f%`;

const between = (
  interval: readonly [number, number] | null | undefined,
  { result }: Shown,
  joined = ' to ',
): string | undefined => (interval ? `${result(interval[0])}${joined}${result(interval[1])}` : undefined);

const isRange = ({ figures }: SummaryRow): boolean => figures?.typed?.kind === 'range';

/** Counts, location and spread: what is always shown. */
function mainColumns({ measurand, bySize }: SettingAnalysis, shown: Shown): SummaryColumn[] {
  const { result, spread } = shown;
  return [
    { head: 'readings', cell: ({ figures }) => (figures?.typed ? 'elsewhere' : (figures?.n ?? 0)) },
    { head: 'count', cell: (row) => (isRange(row) ? '–' : (row.figures?.summary.n ?? 0)) },
    {
      head: `${bySize ? 'mean size' : 'mean'}${measurand.unit && `, ${measurand.unit}`}`,
      cell: ({ figures }) =>
        figures?.typed?.kind === 'range' ? rangeWords(figures.typed) : result(figures?.summary.mean),
    },
    ...(bySize ? [{ head: 'bias', cell: ({ bias }: SummaryRow) => result(bias?.mean) }] : []),
    { head: '95 % interval', cell: ({ figures }) => between(figures?.summary.interval, shown) ?? '–' },
    { head: 'SD', cell: ({ figures }) => spread(figures?.summary.sd) },
    { head: 'CV', cell: ({ figures }) => percent(figures?.summary.cv) },
  ];
}

/** The middle, the ends, and how many keep to the spec. */
function endColumns({ measurand }: SettingAnalysis, { result }: Shown): SummaryColumn[] {
  return [
    {
      head: 'lowest, highest',
      cell: (row) => {
        const { min, max } = row.figures?.summary ?? {};
        return min == null || max == null || isRange(row) ? '–' : `${result(min)}, ${result(max)}`;
      },
    },
    ...(measurand.spec
      ? [
          {
            head: 'within spec',
            cell: ({ kept }: SummaryRow) => (
              <>
                {kept && kept.n > 0 ? `${String(kept.within)} of ${String(kept.n)}` : '–'}
                {kept?.verdict != null && <Verdict>{kept.verdict}</Verdict>}
              </>
            ),
          },
        ]
      : []),
  ];
}

const medianColumn = (shown: Shown, all: boolean): SummaryColumn => ({
  head: 'median',
  cell: ({ figures, more }) => (
    <>
      {shown.result(figures?.summary.median)}
      {all && more?.medianInterval && <Verdict>{between(more.medianInterval, shown)}</Verdict>}
    </>
  ),
});

/** What is shown where more is asked for; what no item has is left away. */
function moreColumns(rows: readonly SummaryRow[], shown: Shown): SummaryColumn[] {
  const { result, spread } = shown;
  const counts = rows.find(({ more }) => more?.counted)?.more?.counted?.method;
  return [
    ...(rows.some(({ more }) => more?.trimmed)
      ? [
          {
            head: 'trimmed mean',
            cell: ({ more }: SummaryRow) => (
              <>
                {result(more?.trimmed?.mean)}
                <Verdict>{between(more?.trimmed?.interval, shown)}</Verdict>
              </>
            ),
          },
        ]
      : []),
    ...(counts === undefined
      ? []
      : [
          {
            head: counts,
            cell: ({ more }: SummaryRow) =>
              more?.counted ? between([more.counted.low, more.counted.high], shown) : '–',
          },
        ]),
    { head: 'MAD', cell: ({ figures }) => spread(figures?.summary.mad) },
    {
      head: 'quartiles',
      cell: ({ figures }) => {
        const { q1, q3 } = figures?.summary ?? {};
        return q1 == null || q3 == null ? '–' : between([q1, q3], shown, ', ');
      },
    },
  ];
}

export interface SummaryTableProps {
  document: StudyDocument;
  analysis: SettingAnalysis;
}

/** The columns of the summary. @param all with the figures that are asked for */
function columnsOf(analysis: SettingAnalysis, rows: SummaryRow[], all: boolean): SummaryColumn[] {
  const shown = settingFigures(analysis);
  const standardError: SummaryColumn = {
    head: 'SE',
    cell: ({ figures }) => shown.spread(figures?.summary.se),
  };
  return [
    ...mainColumns(analysis, shown),
    ...(all ? [standardError] : []),
    medianColumn(shown, all),
    ...(all ? moreColumns(rows, shown) : []),
    ...endColumns(analysis, shown),
  ];
}

/** Counts, location and spread of every item, of the readings that count; more figures where they are asked for. */
export const SummaryTable = memo(function SummaryTable({ document, analysis }: SummaryTableProps) {
  const [all, setAll] = useState(false);
  const { measurand, setting } = analysis;
  const { data: found = [] } = useMoreFigures(document, measurand.id, setting.key, all);
  const moreOf = new Map(found.map((more) => [more.itemId, more]));
  const rows = groupsOf(analysis).flatMap((group) =>
    group.items.map((item, i): SummaryRow => ({
      item,
      figures: group.analysis.items[i],
      bias: group.signed?.[i],
      kept: group.within?.[i],
      more: moreOf.get(item.id),
    })),
  );
  const columns = columnsOf(analysis, rows, all);
  return (
    <>
      <TakeTable what="Summary per item">
        <Table>
          <caption>Per item{measurand.unit && `, in ${measurand.unit}`}</caption>
          <thead>
            <tr>
              <th scope="col">Item</th>
              {columns.map(({ head }) => (
                <FigureHead key={head}>{head}</FigureHead>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.item.id}>
                <ItemHead name={row.item.name} mark={row.item.mark} />
                {columns.map(({ head, cell }) => (
                  <td key={head} className="figure">
                    {cell(row)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      </TakeTable>
      <Button
        size="small"
        tone="quiet"
        onPress={() => {
          setAll(!all);
        }}
      >
        {all ? 'Fewer figures' : 'More figures: standard error, quartiles, MAD, trimmed mean'}
      </Button>
    </>
  );
});
