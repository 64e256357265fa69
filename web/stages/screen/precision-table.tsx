import { memo } from 'react';
import type { StudyPrecision } from '../../../core/analysis/precision.ts';
import { precisionSentences, precisionTable } from '../../../core/report/precision.ts';
import { ReportTableView } from '../../app/report-table.tsx';
import { Fold } from '../../ui/fold.tsx';

/** Who and what read a measurand, what of the spread comes from them, and what to improve. */
export const PrecisionTable = memo(function PrecisionTable({
  precision,
  unit,
}: {
  precision: StudyPrecision;
  unit: string;
}) {
  const sentences = precisionSentences(precision, unit);
  return (
    <Fold title="Who and what read it" state={sentences[1] ?? ''}>
      <p style={{ marginBottom: 12, maxWidth: '72ch' }}>{sentences.join(' ')}</p>
      <ReportTableView table={precisionTable(precision, unit)} what="Who and what read it" />
      <p style={{ maxWidth: '72ch' }}>
        Variance components by restricted maximum likelihood, items and settings as fixed; limits are 2.8
        standard deviations (ISO 5725-2, ISO 5725-6).
      </p>
    </Fold>
  );
});
