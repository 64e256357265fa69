import { groupsOf } from '../../../core/analysis/at-setting.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { useMoreFigures } from '../../app/api/analysis.ts';
import { useState, memo } from 'react';
import styled from 'styled-components';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { decimalsFor, formatNumber } from '../../../core/quantity/format.ts';
import { rangeWords } from '../../../core/summary/typed.ts';
import { TakeTable } from '../../app/take.tsx';
import { settingFigures } from '../../strip/lanes.ts';
import { Button } from '../../ui/button.tsx';
import { ItemHead } from '../../ui/name.tsx';
import { FigureHead, Table } from '../../ui/table.tsx';

const Verdict = styled.small`
  display: block;
  color: var(--quiet);
`;

/** Counts, location and spread of every item, of the readings that count; more figures where they are asked for. */
export interface SummaryTableProps {
  document: StudyDocument;
  analysis: SettingAnalysis;
}

export const SummaryTable = memo(function SummaryTable({ document, analysis }: SummaryTableProps) {
  const [all, setAll] = useState(false);
  const { measurand } = analysis;
  const { result, spread } = settingFigures(analysis);
  const { data: more = [] } = useMoreFigures(document, measurand.id, analysis.setting.key, all);
  const moreOf = new Map(more.map((found) => [found.itemId, found]));
  const between = (interval: readonly [number, number] | undefined) =>
    interval && `${result(interval[0])} to ${result(interval[1])}`;
  const counts = more.find(({ counted }) => counted)?.counted?.method;
  const trims = more.some(({ trimmed }) => trimmed);
  const rows = groupsOf(analysis).flatMap((group) =>
    group.items.map((item, i) => ({
      item,
      figures: group.analysis.items[i],
      bias: group.signed?.[i],
      kept: group.within?.[i],
    })),
  );
  return (
    <>
      <TakeTable what="Summary per item">
        <Table>
          <caption>Per item{measurand.unit && `, in ${measurand.unit}`}</caption>
          <thead>
            <tr>
              <th scope="col">Item</th>
              <FigureHead>readings</FigureHead>
              <FigureHead>count</FigureHead>
              <FigureHead>
                {analysis.bySize ? 'mean size' : 'mean'}
                {measurand.unit && `, ${measurand.unit}`}
              </FigureHead>
              {analysis.bySize && <FigureHead>bias</FigureHead>}
              <FigureHead>95 % interval</FigureHead>
              <FigureHead>SD</FigureHead>
              <FigureHead>CV</FigureHead>
              {all && <FigureHead>SE</FigureHead>}
              <FigureHead>median</FigureHead>
              {all && trims && <FigureHead>trimmed mean</FigureHead>}
              {all && counts !== undefined && <FigureHead>{counts}</FigureHead>}
              {all && <FigureHead>MAD</FigureHead>}
              {all && <FigureHead>quartiles</FigureHead>}
              <FigureHead>lowest, highest</FigureHead>
              {measurand.spec && <FigureHead>within spec</FigureHead>}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ item, figures, bias, kept }) => {
              const summary = figures?.summary;
              const { medianInterval, trimmed, counted } = moreOf.get(item.id) ?? {};
              return (
                <tr key={item.id}>
                  <ItemHead name={item.name} mark={item.mark} />
                  <td className="figure">{figures?.typed ? 'elsewhere' : (figures?.n ?? 0)}</td>
                  <td className="figure">{figures?.typed?.kind === 'range' ? '–' : (summary?.n ?? 0)}</td>
                  <td className="figure">
                    {figures?.typed?.kind === 'range' ? rangeWords(figures.typed) : result(summary?.mean)}
                  </td>
                  {analysis.bySize && <td className="figure">{result(bias?.mean)}</td>}
                  <td className="figure">
                    {summary?.interval
                      ? `${result(summary.interval[0])} to ${result(summary.interval[1])}`
                      : '–'}
                  </td>
                  <td className="figure">{spread(summary?.sd)}</td>
                  <td className="figure">
                    {summary?.cv == null
                      ? '–'
                      : `${formatNumber(100 * summary.cv, Math.min(3, decimalsFor(100 * summary.cv)))}\u202f%`}
                  </td>
                  {all && <td className="figure">{spread(summary?.se)}</td>}
                  <td className="figure">
                    {result(summary?.median)}
                    {all && medianInterval && <Verdict>{between(medianInterval)}</Verdict>}
                  </td>
                  {all && trims && (
                    <td className="figure">
                      {result(trimmed?.mean)}
                      <Verdict>{between(trimmed?.interval)}</Verdict>
                    </td>
                  )}
                  {all && counts !== undefined && (
                    <td className="figure">{counted ? between([counted.low, counted.high]) : '–'}</td>
                  )}
                  {all && <td className="figure">{spread(summary?.mad)}</td>}
                  {all && (
                    <td className="figure">
                      {summary?.q1 == null ? '–' : `${result(summary.q1)}, ${result(summary.q3)}`}
                    </td>
                  )}
                  <td className="figure">
                    {summary?.min == null || summary.max == null || figures?.typed?.kind === 'range'
                      ? '–'
                      : `${result(summary.min)}, ${result(summary.max)}`}
                  </td>
                  {measurand.spec && (
                    <td className="figure">
                      {kept && kept.n > 0 ? `${String(kept.within)} of ${String(kept.n)}` : '–'}
                      {kept?.verdict != null && <Verdict>{kept.verdict}</Verdict>}
                    </td>
                  )}
                </tr>
              );
            })}
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
