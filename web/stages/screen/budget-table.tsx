import { useMemo, memo } from 'react';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { budgetWords } from '../../../core/report/budget.ts';
import { ReportTableView } from '../../app/report-table.tsx';
import { Fold } from '../../ui/fold.tsx';

/** What each mean is uncertain by, part by part, and what to improve first. */
export const BudgetTable = memo(function BudgetTable({ analysis }: { analysis: SettingAnalysis }) {
  const words = useMemo(() => budgetWords(analysis), [analysis]);
  if (!words) return null;
  return (
    <Fold title="What the means are uncertain by" state={words.summary}>
      <ReportTableView table={words.table} what="Uncertainty of the means" />
      <p style={{ maxWidth: '72ch' }}>{words.how}</p>
    </Fold>
  );
});
