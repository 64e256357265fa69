import { memo, useDeferredValue, useMemo, useState } from 'react';
import styled from 'styled-components';
import { readingsInOrder } from '../../../core/analysis/in-order.ts';
import { settingsRead } from '../../../core/analysis/settings.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { blindStudy } from '../../../core/plan/blind.ts';
import { settingKey } from '../../../core/plan/grid.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { useAnalysis } from '../../app/api/analysis.ts';
import { stripLanes } from '../../strip/lanes.ts';
import { OrderPicture } from '../../strip/order-picture.tsx';
import { Strip } from '../../strip/strip.tsx';
import { ShownAs, type ShownBy } from '../../app/shown-as.tsx';

const Shown = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 6px 16px;
  margin: 6px 0 10px;
  h2 span {
    font-weight: 400;
    color: var(--quiet);
  }
`;

/** Drawn again only when the readings are. */
const LiveStrip = memo(Strip);

export interface BenchReadingsProps {
  document: StudyDocument;
  run: Run | undefined;
  measurand: Measurand;
  /** The reading that was recorded last, to point it out. */
  lastId: string | undefined;
}

/** What has been read of the measurand at the setting that is at the bench: by item, or in the order taken. */
export function BenchReadings({ document: whole, run, measurand, lastId }: BenchReadingsProps) {
  const [shown, setShown] = useState<ShownBy>('items');
  const key = run ? settingKey(run.levelIds) : (settingsRead(whole)[0]?.key ?? '');
  // The hand comes first: what is drawn of the readings may follow a moment later.
  const settled = useDeferredValue(whole);
  const pointedId = useDeferredValue(lastId);
  const document = useMemo(() => blindStudy(settled), [settled]);
  const { data: analysis, analysed } = useAnalysis(document, measurand.id, key, { resamples: 0 });
  const lanes = useMemo(
    () => stripLanes(document, measurand, key, analysis, { analysed }),
    [document, measurand, key, analysis, analysed],
  );
  const order = useMemo(
    () => (shown === 'order' ? readingsInOrder(document, measurand.id, key) : undefined),
    [document, measurand, key, shown],
  );
  const marks = useMemo(() => new Map(document.items.map(({ id, mark }) => [id, mark])), [document]);
  return (
    <>
      <Shown>
        <h2>
          {measurand.name}
          {measurand.unit && <span> in {measurand.unit}</span>}
        </h2>
        <ShownAs by={shown} onBy={setShown} />
      </Shown>
      {order ? (
        <OrderPicture label={measurand.name} unit={measurand.unit} order={order} marks={marks} />
      ) : (
        <LiveStrip
          label={`${measurand.name}: readings so far, by item`}
          unit={measurand.unit}
          lanes={lanes}
          laneHeight={Math.max(34, Math.min(48, Math.floor(300 / Math.max(1, lanes.length))))}
          pointedId={pointedId}
        />
      )}
    </>
  );
}
