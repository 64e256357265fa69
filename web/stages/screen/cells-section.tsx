import { useMemo, useState } from 'react';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { cellMaps } from '../../../core/analysis/cell-maps.ts';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { cellTable, cellViews, cellsCaption } from '../../../core/report/cells.ts';
import type { CellsView } from '../../../core/report/report.ts';
import { ReportTableView } from '../../app/report-table.tsx';
import { TakePicture } from '../../app/take.tsx';
import { CellsPicture } from '../../strip/cells-picture.tsx';
import { Section } from '../../ui/page.tsx';
import { Segments } from '../../ui/segments.tsx';

const LABELS: Record<CellsView, string> = { amount: 'As read', share: 'In per cent of its mean' };

/** The grid of each item, cell by cell, and how even it is; nothing where no reading counts. */
export function CellsSection({ document, analysis }: { document: StudyDocument; analysis: SettingAnalysis }) {
  const { measurand } = analysis;
  const [chosen, setChosen] = useState<CellsView>();
  const cells = useMemo(() => cellMaps(analysis, itemsInOrder(document)), [analysis, document]);
  const table = useMemo(() => cells && cellTable(cells), [cells]);
  const views = cells ? cellViews(cells, measurand) : [];
  const view = views.find((offered) => offered === chosen) ?? views[0];
  if (!cells || !table || !view) return null;
  return (
    <Section aria-labelledby="cells">
      <h2 id="cells">The grid, cell by cell</h2>
      {views.length > 1 && (
        <Segments
          label="Cells shown"
          labelHidden
          options={views.map((value) => ({ value, label: LABELS[value] }))}
          value={view}
          onChange={setChosen}
        />
      )}
      <div style={{ margin: '14px 0 26px' }}>
        <TakePicture what={`${measurand.name}, cell by cell`}>
          <CellsPicture
            label={measurand.name}
            cells={cells}
            view={view}
            caption={cellsCaption(cells, view)}
          />
        </TakePicture>
      </div>
      <ReportTableView table={table} />
    </Section>
  );
}
