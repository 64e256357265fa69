import type { Item, Measurand } from '../../core/model/parts.ts';
import type { MeasurandAnalysis } from '../../core/analysis/analyse-study.ts';
import { itemsInOrder, standingReadings } from '../../core/model/record.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { formatNumber } from '../../core/quantity/format.ts';
import { resultDecimals } from '../../core/rank/answer.ts';
import type { StripBand, StripLane, StripMark } from './layout.ts';

/** Decimals for the results of a measurand: those of its first class. */
export function analysisDecimals(analysis: MeasurandAnalysis | undefined, measurand: Measurand): number {
  const first = analysis?.classes[0] ?? analysis?.controls;
  return first ? resultDecimals(first.analysis, measurand.instrument.resolution) : 2;
}

/** Place or place range as printed: “2” or “2–4”. */
export const placeRange = (low: number, high: number): string =>
  low === high ? String(low) : `${String(low)}–${String(high)}`;

/**
 * The lanes of a measurand: every reading at once, means and intervals as soon as the analysis has them.
 * @param order items from top to bottom; the plan's order when left out
 * @param places whether the lanes end with their places
 */
export function stripLanes(
  document: StudyDocument,
  measurand: Measurand,
  analysis: MeasurandAnalysis | undefined,
  { order, places = false }: { order?: readonly Item[]; places?: boolean } = {},
): StripLane[] {
  const own = analysis?.measurand.id === measurand.id ? analysis : undefined;
  const uses = new Map(own?.readings.map(({ id, use }) => [id, use]));
  const marks = new Map<string, StripMark[]>();
  for (const { reading, value, standing, measurand: measured } of standingReadings(document)) {
    if (measured.id !== measurand.id || value === null || standing.is === 'withdrawn') continue;
    const use = uses.get(reading.id) ?? standing;
    const lane = marks.get(reading.itemId) ?? [];
    lane.push({
      id: reading.id,
      value,
      out: use.is === 'left out',
      title: `round ${String(reading.round)}`,
    });
    marks.set(reading.itemId, lane);
  }
  const decimals = analysisDecimals(own, measurand);
  const groups = [...(own?.classes ?? []), ...(own?.controls ? [own.controls] : [])];
  return (order ?? itemsInOrder(document)).map((item) => {
    const group = groups.find(({ items }) => items.some(({ id }) => id === item.id));
    const index = group?.items.findIndex(({ id }) => id === item.id) ?? -1;
    const summary = group?.analysis.items[index]?.summary;
    const place = group?.analysis.ranking.find((entry) => entry.index === index);
    return {
      id: item.id,
      name: item.name,
      code: item.code,
      mark: item.mark,
      marks: marks.get(item.id) ?? [],
      mean: summary?.mean ?? null,
      interval: summary?.interval ?? null,
      figure: summary?.mean == null ? '–' : formatNumber(summary.mean, decimals),
      ...(places ? { place: place ? placeRange(place.placeLow, place.placeHigh) : '–' } : {}),
    };
  });
}

/** The margin around the leader of a class, where there are a margin and a leader. */
export function leaderBand(
  analysis: MeasurandAnalysis | undefined,
  className: string,
  marginText: (margin: number) => string,
): StripBand | undefined {
  const group = analysis?.classes.find(({ name }) => name === className);
  const leader = group?.analysis.ranking[0];
  const mean = leader && group.analysis.items[leader.index]?.summary.mean;
  if (!group || mean == null || group.analysis.margin === 0 || group.analysis.ranking.length < 2)
    return undefined;
  const { margin } = group.analysis;
  return { from: mean - margin, to: mean + margin, label: `within ${marginText(margin)} of the leader` };
}
