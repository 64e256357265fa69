import { useMemo } from 'react';
import type { SettingAnalysis } from '../../core/analysis/analyse-study.ts';
import { cellMaps } from '../../core/analysis/cell-maps.ts';
import { itemsInOrder } from '../../core/model/in-order.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { CellsPicture } from './cells-picture.tsx';
import type { PictureOf } from './report-pictures.tsx';

/** The grids of items, cell by cell. */
export function ReportCells({
  document,
  picture: { view },
  caption,
  analysis,
}: {
  document: StudyDocument;
  picture: PictureOf<'cells'>;
  caption: string;
  /** undefined while it is being worked out. */
  analysis: SettingAnalysis | undefined;
}) {
  const cells = useMemo(() => analysis && cellMaps(analysis, itemsInOrder(document)), [analysis, document]);
  if (!analysis || !cells) return null;
  return <CellsPicture label={analysis.measurand.name} cells={cells} view={view} caption={caption} />;
}
