import { intervalOfCounts } from '../forms/interval.ts';
import { ALPHA } from '../model/alpha.ts';
import { itemsInOrder } from '../model/in-order.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { bootstrapInterval } from '../summary/bootstrap.ts';
import type { NamedInterval } from '../summary/counted.ts';
import { median, sorted } from '../summary/quantile.ts';
import { cutPerEnd, trimmedMean } from '../summary/trimmed-mean.ts';
import { NO_CELL, isRankedBySize, readingsOf } from './analyse-study.ts';
import { screenedOf } from './observed.ts';

/** Figures of one item that take longer, in the unit of the measurand. */
export interface MoreFigures {
  itemId: string;
  /** By drawing again, where there are enough readings. */
  medianInterval: readonly [number, number] | undefined;
  /** Of the readings without a tenth at each end; undefined where that is none. */
  trimmed: { mean: number; interval: readonly [number, number] | undefined } | undefined;
  /** What counts say together by their own statistics. */
  counted: NamedInterval | undefined;
}

/**
 * More figures of what counts of each item at a setting.
 * @throws RangeError when the study has no such measurand
 */
export function moreFigures(document: StudyDocument, measurandId: string, key: string): MoreFigures[] {
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  if (!measurand) throw new RangeError('The study has no such measurand.');
  const { cells, average, exact } = screenedOf(document, measurand);
  const target = isRankedBySize(measurand) ? measurand.direction.target : undefined;
  return itemsInOrder(document).map((item): MoreFigures => {
    const cell =
      cells.find(({ itemId, setting }) => itemId === item.id && (exact || setting === key)) ?? NO_CELL;
    const out = new Set(cell.screening.leftOut.map(({ index }) => index));
    const kept = sorted(Array.from(readingsOf(item, cell, target).values).filter((_, i) => !out.has(i)));
    const counting = cell.observations.filter((_, i) => !out.has(i));
    const draw = { alpha: ALPHA, seed: document.study.seed };
    const trims = average !== 'energy' && cutPerEnd(kept.length) > 0;
    return {
      itemId: item.id,
      medianInterval: bootstrapInterval(kept, median, draw),
      trimmed: trims
        ? { mean: trimmedMean(kept), interval: bootstrapInterval(kept, trimmedMean, draw) }
        : undefined,
      counted:
        measurand.expression === null
          ? intervalOfCounts(
              counting.map(({ parts }) => parts),
              measurand,
              ALPHA,
            )
          : undefined,
    };
  });
}
