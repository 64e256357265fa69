import { groupsOf } from '../../core/analysis/at-setting.ts';
import type { Item, Measurand } from '../../core/model/parts.ts';
import type { SettingAnalysis } from '../../core/analysis/analyse-study.ts';
import { itemsInOrder } from '../../core/model/in-order.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { settingKey } from '../../core/plan/grid.ts';
import type { Observation } from '../../core/observations/observation.ts';
import { correctorOf } from '../../core/observations/correct.ts';
import { placeRange } from '../../core/rank/place.ts';
import { recordOf } from '../../core/record/record.ts';
import { type Figures, figuresOf } from '../../core/report/figures.ts';
import { counted } from '../../core/quantity/format.ts';
import { rangeWords } from '../../core/summary/typed.ts';
import type { StripBand, StripLane, StripMark } from './layout.ts';

/** How the figures of a measurand are printed: as suits all its classes together. */
export const settingFigures = ({ classes, controls }: SettingAnalysis): Figures => {
  const groups = groupsOf({ classes, controls });
  return figuresOf({
    items: groups.flatMap(({ analysis }) => analysis.items),
    step: groups[0]?.analysis.step ?? 0,
  });
};

export interface LaneOptions {
  /** Items from top to bottom; the plan's order when left out. */
  order?: readonly Item[] | undefined;
  /** Whether the lanes end with their places. */
  places?: boolean;
  /** Whether errors are shown by their size, as they are ranked. */
  sizes?: boolean;
  /** The state of the study that the analysis is of, where that is known: what was recorded since stands behind it. */
  analysed?: StudyDocument | undefined;
}

/** The mark of each observation as it was read: of what has not changed it is the same object. */
const madeMarks = new WeakMap<Observation, StripMark>();

const markWords = (round: number): string => `round ${String(round)}`;

function markOf(observation: Observation, value: number): StripMark {
  const made = madeMarks.get(observation);
  if (made?.value === value) return made;
  const { id, use, round } = observation;
  const mark = { id, value, out: use.is === 'left out', title: markWords(round) };
  madeMarks.set(observation, mark);
  return mark;
}

/** The marks of a lane as they were made last, by the first of them. */
const madeLanes = new WeakMap<StripMark, readonly StripMark[]>();

/** Marks of a lane, as the same list as before where they are the same marks: what was worked out of them holds. */
function steadyMarks(marks: readonly StripMark[]): readonly StripMark[] {
  const [first] = marks;
  if (!first) return marks;
  const before = madeLanes.get(first);
  if (before?.length === marks.length && marks.every((mark, i) => mark === before[i])) return before;
  madeLanes.set(first, marks);
  return marks;
}

/** Ids of what was recorded since a state of a study; undefined where it does not follow from it. */
function recordedSince(document: StudyDocument, analysed: StudyDocument): ReadonlySet<string> | undefined {
  const count = analysed.readings.length;
  return document.readings[count - 1] === analysed.readings[count - 1]
    ? new Set(document.readings.slice(count).map(({ id }) => id))
    : undefined;
}

/** The marks of each item: what the analysis knows, and what was recorded since. */
function marksOf(
  document: StudyDocument,
  measurand: Measurand,
  key: string,
  { analysis, analysed }: { analysis: SettingAnalysis | undefined; analysed: StudyDocument | undefined },
  shown: (value: number) => number,
): Map<string, StripMark[]> {
  const marks = new Map<string, StripMark[]>();
  const push = (itemId: string, mark: StripMark) => {
    const lane = marks.get(itemId);
    if (lane) lane.push(mark);
    else marks.set(itemId, [mark]);
  };
  const withdrawn = new Set<string>();
  const since: { itemId: string; mark: StripMark }[] = [];
  // What is worked out from others is known by its analysis alone, and of the state that this is of it knows all.
  if (measurand.expression === null && (analysis === undefined || document !== analysed)) {
    const fresh = analysis && analysed && recordedSince(document, analysed);
    const known = new Set(fresh ? [] : analysis?.readings.map(({ id }) => id));
    const corrected = correctorOf(document, measurand);
    for (const { reading, value, standing } of recordOf(document).ofMeasurand(measurand.id)) {
      const { id, itemId, sessionId, round, levels } = reading;
      if (standing.is === 'withdrawn') withdrawn.add(id);
      const isKnown = fresh ? !fresh.has(id) : known.has(id);
      if (isKnown || value === null || standing.is === 'withdrawn') continue;
      if (settingKey(levels.map(({ levelId }) => levelId)) !== key) continue;
      const mark = { id, value: shown(corrected(value, sessionId)), out: standing.is === 'left out' };
      since.push({ itemId, mark: { ...mark, title: markWords(round) } });
    }
  }
  for (const observation of analysis?.readings ?? []) {
    const { id, itemId, value } = observation;
    if (value !== null && !withdrawn.has(id)) push(itemId, markOf(observation, shown(value)));
  }
  for (const { itemId, mark } of since) push(itemId, mark);
  return marks;
}

/** An interval put about another middle. */
export function shifted(
  interval: readonly [number, number] | null,
  mean: number | null,
  from: number | null,
): readonly [number, number] | null {
  if (interval === null || mean === null || from === null || mean === from) return interval;
  return [interval[0] + mean - from, interval[1] + mean - from];
}

/**
 * The lanes of a measurand at a setting: every reading at once, means and intervals as soon as the analysis has them.
 * @param key of the setting
 */
export function stripLanes(
  document: StudyDocument,
  measurand: Measurand,
  key: string,
  analysis: SettingAnalysis | undefined,
  { order, places = false, sizes = false, analysed }: LaneOptions = {},
): StripLane[] {
  const known =
    analysis?.measurand.id === measurand.id && analysis.setting.key === key ? analysis : undefined;
  const bySize = known?.bySize ?? false;
  const target = measurand.direction.target ?? 0;
  const marks = marksOf(document, measurand, key, { analysis: known, analysed }, (value) =>
    bySize && sizes ? Math.abs(value - target) : value,
  );
  const figures = known && settingFigures(known);
  const groups = known ? groupsOf(known) : [];
  return (order ?? itemsInOrder(document)).map((item) => {
    const group = groups.find(({ items }) => items.some(({ id }) => id === item.id));
    const index = group?.items.findIndex(({ id }) => id === item.id) ?? -1;
    const analysed = group?.analysis.items[index];
    // Among signed errors stands their mean, the bias; among sizes that of the sizes.
    const summary = bySize && !sizes ? group?.signed?.[index] : analysed?.summary;
    // A ranking shows what it places by, which rounds with gaps may move.
    const placedBy = places && !group?.analysis.ranksOnly ? analysed?.placedBy : undefined;
    const mean = placedBy ?? summary?.mean ?? null;
    const typed = analysed?.typed;
    const ranged = typed?.kind === 'range' ? typed : undefined;
    const place = group?.analysis.ranking.find((entry) => entry.index === index);
    return {
      id: item.id,
      name: item.name,
      code: item.code,
      mark: item.mark,
      marks: steadyMarks(marks.get(item.id) ?? []),
      ...(typed
        ? {
            words:
              typed.kind === 'range'
                ? 'known from elsewhere'
                : `${counted(typed.n, 'reading')} from elsewhere`,
          }
        : {}),
      mean: ranged ? null : mean,
      ...(ranged ? { reach: [ranged.low, ranged.high] as const } : {}),
      // Marks in an order have no interval that would mean anything.
      interval: group?.analysis.ranksOnly
        ? null
        : shifted(summary?.interval ?? null, mean, summary?.mean ?? null),
      figure: ranged ? rangeWords(ranged) : figures ? figures.result(mean) : '–',
      ...(places ? { place: place ? placeRange(place) : '–' } : {}),
    };
  });
}

/** The margin around the leader of a class, where there are a margin and a leader; around a target, where one is set. */
export function leaderBand(
  analysis: SettingAnalysis | undefined,
  className: string,
  marginText: (margin: number) => string,
): StripBand | undefined {
  const group = analysis?.classes.find(({ name }) => name === className);
  const leader = group?.analysis.ranking[0];
  const mean = leader && group.analysis.items[leader.index]?.placedBy;
  if (
    !analysis ||
    !group ||
    mean == null ||
    group.analysis.margin === 0 ||
    group.analysis.ranksOnly ||
    group.analysis.ranking.length < 2
  )
    return undefined;
  const { margin } = group.analysis;
  const { direction } = analysis.measurand;
  if (direction.kind === 'nearest' && !analysis.bySize && direction.target !== null) {
    const reach = Math.abs(mean - direction.target) + margin;
    return {
      from: direction.target - reach,
      to: direction.target + reach,
      label: `as near to the target as the leader, within ${marginText(margin)}`,
    };
  }
  return { from: mean - margin, to: mean + margin, label: `within ${marginText(margin)} of the leader` };
}
