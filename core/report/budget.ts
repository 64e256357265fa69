import type { SettingAnalysis } from '../analysis/analyse-study.ts';
import { groupsOf } from '../analysis/at-setting.ts';
import { decimalsFor, formatNumber, formatPlain, listed, withUnit } from '../quantity/format.ts';
import type { Budget } from '../summary/budget.ts';
import type { ReportTable } from './report.ts';

type Source = Budget['largest'];

const IMPROVE: Record<Source, string> = {
  repeatability: 'more readings narrow it',
  resolution: 'a finer instrument narrows it, more readings do not',
  accuracy: 'a better or freshly calibrated instrument narrows it, more readings do not',
  corrections: 'conditions that are noted, and a calibration that is known better, narrow it',
};

const PARTS: Record<Source, string> = {
  repeatability: 'the spread of the readings',
  resolution: 'the step of the readings',
  accuracy: 'the stated accuracy',
  corrections: 'what the corrections leave open',
};

/** What the means are uncertain by, as a page and a report say it. */
export interface BudgetWords {
  /** What it mostly is, and what narrows that. */
  summary: string;
  table: ReportTable;
  /** How each part counts. */
  how: string;
}

/** What the mean of each item is uncertain by, part by part, and what to improve first; undefined where nothing is. */
export function budgetWords(analysis: SettingAnalysis): BudgetWords | undefined {
  const { measurand } = analysis;
  const groups = groupsOf(analysis);
  const rows = groups.flatMap((group) =>
    group.items.flatMap((item, i) => {
      const budget = group.analysis.items[i]?.budget;
      return budget ? [{ item, budget }] : [];
    }),
  );
  if (rows.length === 0) return undefined;
  const corrected = rows.some(({ budget }) => budget.corrections > 0);
  const largest = [...new Set(rows.map(({ budget }) => budget.largest))];
  const smallest = Math.min(...rows.map(({ budget }) => budget.combined).filter((size) => size > 0));
  const decimals = Number.isFinite(smallest) ? decimalsFor(smallest) + 1 : 0;
  const figure = (value: number | null) => ({ text: value === null ? '–' : formatNumber(value, decimals) });
  const [only, second] = largest;
  const step = formatPlain(groups[0]?.analysis.step as number);
  return {
    summary:
      only && !second
        ? `Mostly ${PARTS[only]}: ${IMPROVE[only]}.`
        : `Mostly ${listed(largest.map((part) => PARTS[part]))}, item by item.`,
    table: {
      caption: `Standard uncertainties${measurand.unit && `, ${measurand.unit}`}; U at 95 % is what the report prints`,
      figures: corrected ? [1, 2, 3, 4, 5, 6] : [1, 2, 3, 4, 5],
      head: [
        ...['Item', 'spread', 'step', 'stated accuracy'],
        ...(corrected ? ['corrections'] : []),
        ...['together', 'U', 'improve first'],
      ],
      rows: rows.map(({ item: { name, mark }, budget }) => [
        { text: name, mark },
        ...[budget.repeatability, budget.resolution, budget.accuracy].map(figure),
        ...(corrected ? [figure(budget.corrections)] : []),
        figure(budget.combined),
        { text: withUnit(formatNumber(budget.expanded, decimalsFor(budget.expanded)), measurand.unit) },
        { text: PARTS[budget.largest] },
      ]),
    },
    how: `The spread counts by s/√n, the step ${step} by a/√12, the stated accuracy${corrected ? ' and what corrections leave open' : ''} as a rectangle by its half-width/√3 (GUM, JCGM 100:2008). Between items read by the same instrument its accuracy largely cancels, so the verdicts go by the spread${corrected ? ', and by what of the corrections the items do not share' : ''}.`,
  };
}
