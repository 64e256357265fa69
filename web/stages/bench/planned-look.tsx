import { useMemo } from 'react';
import type { LookState } from '../../../core/bench/look-state.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { measurandsInOrder } from '../../../core/model/in-order.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { blindStudy } from '../../../core/plan/blind.ts';
import { answer } from '../../../core/report/answer.ts';
import { useAnalysis } from '../../app/api/analysis.ts';
import { useLook, useRecordedLook } from '../../app/use-look.ts';
import { Note } from '../../ui/note.tsx';

/** More measurands than this are looked at in the ranking. */
const MOST_SHOWN = 4;

/** What a planned look says of one measurand. */
function LookAt({
  document,
  measurand,
  level,
}: {
  document: StudyDocument;
  measurand: Measurand;
  level: number;
}) {
  const { data: analysis } = useAnalysis(document, measurand.id, undefined, {
    method: undefined,
    pairAlpha: level,
  });
  if (!analysis) return null;
  return analysis.classes.map(({ name, items, analysis: ranked }) => {
    const first = ranked.ranking[0];
    const settled = first?.placeLow === 1 && first.placeHigh === 1;
    return (
      <p key={name} style={{ marginTop: 4 }}>
        <b>{[measurand.name, name].filter((word) => word !== '').join(', ')}:</b>{' '}
        {
          answer(
            items.map((item) => item.name),
            ranked,
            measurand.unit,
          ).sentence
        }{' '}
        {settled ? 'First place is settled, so you may stop here.' : 'Go on.'}
      </p>
    );
  });
}

function Looked({ document, look }: { document: StudyDocument; look: LookState }) {
  useRecordedLook(document, look);
  const blind = useMemo(() => blindStudy(document), [document]);
  const ranked = measurandsInOrder(blind).filter(({ direction }) => direction.kind !== 'unranked');
  return (
    <Note tone="good" title={`Planned look after round ${String(look.complete)}`}>
      {ranked.slice(0, MOST_SHOWN).map((measurand) => (
        <LookAt key={measurand.id} document={blind} measurand={measurand} level={look.level} />
      ))}
    </Note>
  );
}

export interface LookDueProps {
  document: StudyDocument;
  queue: readonly Run[];
}

/** What a planned look shows when it is due. */
export function PlannedLook({ document, queue }: LookDueProps) {
  const look = useLook(document, queue);
  return look.due ? <Looked document={document} look={look} /> : null;
}
