import type { StudyDocument } from '../model/study-document.ts';
import { itemsInOrder } from '../model/in-order.ts';
import { measurandsRead, planSize } from '../plan/grid.ts';
import { runQueue } from '../bench/queue.ts';
import { analyseStudy } from './analyse-study.ts';
import { atSetting, groupsOf } from './at-setting.ts';

/** What the list of studies shows of one: counts, and a small strip of the first measurand. */
export interface StudyPreview {
  items: { id: string; code: string; name: string; mark: number }[];
  measurand: string;
  unit: string;
  /** Index of the item, value, whether it is left out. */
  marks: { item: number; value: number; out: boolean }[];
  means: (number | null)[];
  runs: { done: number; of: number };
  lastReadingAt: string | null;
}

/** A small strip does not show more marks than this. */
const MOST_MARKS = 400;

export function studyPreview(document: StudyDocument): StudyPreview {
  const items = itemsInOrder(document);
  const [measurand] = measurandsRead(document);
  const queue = runQueue(document);
  const analysed = measurand && atSetting(analyseStudy(document, measurand.id, { resamples: 0 }));
  const index = new Map(items.map(({ id }, i) => [id, i]));
  const means = new Map<string, number | null>();
  for (const group of analysed ? groupsOf(analysed) : []) {
    group.items.forEach(({ id }, i) => means.set(id, group.analysis.items[i]?.summary.mean ?? null));
  }
  const marks = (analysed?.readings ?? []).flatMap(({ itemId, value, use }) =>
    value === null ? [] : [{ item: index.get(itemId) as number, value, out: use.is === 'left out' }],
  );
  const every = Math.ceil(marks.length / MOST_MARKS);
  return {
    items: items.map(({ id, code, name, mark }) => ({ id, code, name, mark })),
    measurand: measurand?.name ?? '',
    unit: measurand?.unit ?? '',
    marks: marks.filter((_, i) => i % every === 0),
    means: items.map(({ id }) => means.get(id) ?? null),
    runs: {
      done: queue.filter(({ state }) => state === 'done').length,
      of: planSize(document).runs + queue.filter(({ added }) => added).length,
    },
    lastReadingAt: document.readings.reduce<string | null>(
      (last, { takenAt }) => (last === null || takenAt > last ? takenAt : last),
      null,
    ),
  };
}
