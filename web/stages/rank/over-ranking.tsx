import type { LookState } from '../../../core/bench/look-state.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { useOverLevels } from '../../app/api/analysis.ts';
import type { SeriesShown } from '../../app/study-view.tsx';
import { PageHead } from '../../ui/page.tsx';
import { Claims } from './claims.tsx';
import { ClassOver, ControlsOver } from './over-levels.tsx';
import { OverNotes } from './over-notes.tsx';
import type { RankFrame } from './rank-frame.ts';

/** The ranking over the levels of a factor: one page for all of them. */
export function OverRanking({
  document,
  measurand,
  series,
  look,
  frame,
}: {
  document: StudyDocument;
  measurand: Measurand;
  series: SeriesShown;
  look: LookState;
  frame: RankFrame;
}) {
  const { data: over } = useOverLevels(document, measurand.id, series, { pairAlpha: look.level });
  return frame(
    over && <OverNotes document={document} over={over} alpha={look.level} />,
    <>
      {over === undefined && <PageHead title="Comparing…" />}
      {over === null && <PageHead title={`${measurand.name} was not read over these levels.`} />}
      {over?.classes.map((group) => (
        <ClassOver
          key={group.name}
          over={over}
          group={group}
          named={over.classes.length > 1}
          soFar={!look.final}
        />
      ))}
      {over?.controls && <ControlsOver over={over} group={over.controls} />}
      {over && <Claims document={document} measurand={measurand} />}
    </>,
  );
}
