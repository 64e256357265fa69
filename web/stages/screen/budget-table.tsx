import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { ALPHA } from '../../../core/model/alpha.ts';
import { decimalsFor, formatNumber, formatPlain, listed, withUnit } from '../../../core/quantity/format.ts';
import { type Budget, uncertaintyBudget } from '../../../core/summary/budget.ts';
import { TakeTable } from '../../app/take.tsx';
import { Fold } from '../../ui/fold.tsx';
import { ItemHead } from '../../ui/name.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';

const IMPROVE: Record<Budget['largest'], string> = {
  repeatability: 'more readings narrow it',
  resolution: 'a finer instrument narrows it, more readings do not',
  accuracy: 'a better or freshly calibrated instrument narrows it, more readings do not',
  corrections: 'conditions that are noted, and a calibration that is known better, narrow it',
};

const PARTS: Record<Budget['largest'], string> = {
  repeatability: 'the spread of the readings',
  resolution: 'the step of the readings',
  accuracy: 'the stated accuracy',
  corrections: 'what the corrections leave open',
};

/** What each mean is uncertain by, part by part, and what to improve first. */
export function BudgetTable({ analysis }: { analysis: SettingAnalysis }) {
  const { measurand } = analysis;
  const rows = [...analysis.classes, ...(analysis.controls ? [analysis.controls] : [])].flatMap((group) =>
    group.analysis.exact || group.analysis.ranksOnly
      ? []
      : group.items.flatMap((item, i) => {
          const { summary, doubt } = group.analysis.items[i] ?? {};
          const budget =
            summary &&
            uncertaintyBudget(summary, measurand.instrument, group.analysis.step, ALPHA, doubt?.ofMean);
          return budget ? [{ item, budget }] : [];
        }),
  );
  if (rows.length === 0) return null;
  const corrected = rows.some(({ budget }) => budget.corrections > 0);
  const largest = [...new Set(rows.map(({ budget }) => budget.largest))];
  const smallest = Math.min(...rows.map(({ budget }) => budget.combined).filter((size) => size > 0));
  const decimals = Number.isFinite(smallest) ? decimalsFor(smallest) + 1 : 0;
  const figure = (value: number | null) => (value === null ? '–' : formatNumber(value, decimals));
  return (
    <Fold
      title="What the means are uncertain by"
      state={
        largest.length === 1
          ? `Mostly ${PARTS[largest[0] as Budget['largest']]}: ${IMPROVE[largest[0] as Budget['largest']]}.`
          : `Mostly ${listed(largest.map((part) => PARTS[part]))}, item by item.`
      }
    >
      <TakeTable what="Uncertainty of the means">
        <Scroll aria-label="Uncertainty of the means">
          <Table>
            <caption>
              Standard uncertainties{measurand.unit && `, ${measurand.unit}`}; U at 95 % is what the report
              prints
            </caption>
            <thead>
              <tr>
                <th scope="col">Item</th>
                {[
                  ...['spread', 'step', 'stated accuracy'],
                  ...(corrected ? ['corrections'] : []),
                  ...['together', 'U'],
                ].map((head) => (
                  <FigureHead key={head}>{head}</FigureHead>
                ))}
                <th scope="col">improve first</th>
              </tr>
            </thead>
            <tbody>
              {rows.map(({ item, budget }) => (
                <tr key={item.id}>
                  <ItemHead name={item.name} mark={item.mark} />
                  <td className="figure">{figure(budget.repeatability)}</td>
                  <td className="figure">{figure(budget.resolution)}</td>
                  <td className="figure">{figure(budget.accuracy)}</td>
                  {corrected && <td className="figure">{figure(budget.corrections)}</td>}
                  <td className="figure">{figure(budget.combined)}</td>
                  <td className="figure">
                    {withUnit(formatNumber(budget.expanded, decimalsFor(budget.expanded)), measurand.unit)}
                  </td>
                  <td>{PARTS[budget.largest]}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      </TakeTable>
      <p style={{ marginTop: 8, maxWidth: '72ch' }}>
        The spread counts by s/√n, the step {formatPlain(analysis.classes[0]?.analysis.step ?? 0)} by a/√12,
        the stated accuracy{corrected && ' and what corrections leave open'} as a rectangle by its
        half-width/√3 (GUM, JCGM 100:2008). Between items read by the same instrument its accuracy largely
        cancels, so the verdicts go by the spread.
      </p>
    </Fold>
  );
}
