import { groupsOf } from '../../core/analysis/at-setting.ts';
import type { Item, Measurand } from '../../core/model/parts.ts';
import type { SettingAnalysis } from '../../core/analysis/analyse-study.ts';
import { itemsInOrder } from '../../core/model/in-order.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { settingKey } from '../../core/plan/grid.ts';
import type { Observation } from '../../core/observations/observation.ts';
import { correctorOf } from '../../core/observations/correct.ts';
import { placeRange } from '../../core/rank/place.ts';
import { type StandingReading, recordOf } from '../../core/record/record.ts';
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
  if (before === marks) return marks;
  if (before?.length === marks.length && marks.every((mark, i) => mark === before[i])) return before;
  madeLanes.set(first, marks);
  return marks;
}

/** What a page knows of the marks that an analysis has not seen yet. */
interface Since {
  /** Readings of the measurand that the analysis does not know. */
  recorded: readonly StandingReading[];
  /** Ids of readings that are withdrawn. */
  withdrawn: ReadonlySet<string>;
}

/** What was recorded and withdrawn since a state of a study that this one goes on from; undefined where it does not. */
function sinceState(
  document: StudyDocument,
  measurandId: string,
  analysed: StudyDocument,
): Since | undefined {
  const [readings, decisions] = [analysed.readings.length, analysed.decisions.length];
  const decided = document.decisions.slice(decisions);
  const goesOn =
    document.readings[readings - 1] === analysed.readings[readings - 1] &&
    document.decisions[decisions - 1] === analysed.decisions[decisions - 1] &&
    decided.every(({ sessionId }) => sessionId === null);
  if (!goesOn) return undefined;
  const fresh = new Set(document.readings.slice(readings).map(({ id }) => id));
  const entries = recordOf(document).ofMeasurand(measurandId);
  // What is new stands at the end, and so does most of what is taken back.
  const recorded = entries.slice(entries.findLastIndex(({ reading }) => !fresh.has(reading.id)) + 1);
  const withdrawn = [...new Set(decided.flatMap(({ readingId }) => readingId ?? []))].filter(
    (id) => entries.findLast(({ reading }) => reading.id === id)?.standing.is === 'withdrawn',
  );
  return { recorded, withdrawn: new Set(withdrawn) };
}

/** What an analysis does not know of a state of a study, whatever state it is of. */
function sinceAny(
  document: StudyDocument,
  measurandId: string,
  analysis: SettingAnalysis | undefined,
): Since {
  const known = new Set(analysis?.readings.map(({ id }) => id));
  const entries = recordOf(document).ofMeasurand(measurandId);
  return {
    recorded: entries.filter(({ reading }) => !known.has(reading.id)),
    withdrawn: new Set(
      entries.flatMap(({ reading, standing }) => (standing.is === 'withdrawn' ? [reading.id] : [])),
    ),
  };
}

type ItemMarks = ReadonlyMap<string, readonly StripMark[]>;

/** Marks by item, some of them gone and others behind; what does not change stays the same list. */
function changedMarks(
  before: ItemMarks,
  added: readonly { itemId: string; mark: StripMark }[],
  withdrawn: ReadonlySet<string>,
): ItemMarks {
  const marks = new Map(before);
  if (withdrawn.size > 0) {
    for (const [itemId, lane] of before)
      if (lane.some(({ id }) => withdrawn.has(id)))
        marks.set(
          itemId,
          lane.filter(({ id }) => !withdrawn.has(id)),
        );
  }
  const copied = new Map<string, StripMark[]>();
  for (const { itemId, mark } of added) {
    let lane = copied.get(itemId);
    if (!lane) {
      lane = [...(marks.get(itemId) ?? [])];
      copied.set(itemId, lane);
      marks.set(itemId, lane);
    }
    lane.push(mark);
  }
  return marks;
}

/** The marks of a setting as they were made last, and of which observations. */
interface MadeOfAnalysis {
  readings: readonly Observation[];
  marks: ItemMarks;
}

/** By the measurand as the study has it; by its setting, and by from where sizes are shown. */
const madeOfAnalysis = new WeakMap<Measurand, Map<string, MadeOfAnalysis>>();

/** The places in the order recorded at which there are other readings than before. */
function placesChanged(before: readonly Observation[], now: readonly Observation[]): number[] {
  const changed: number[] = [];
  for (let i = 0; i < Math.max(before.length, now.length); i += 1) if (before[i] !== now[i]) changed.push(i);
  return changed;
}

/** Of more changes than this the lanes of their items are made again. */
const FEW = 20;

/** The marks of before with a few of them in new looks; undefined where one comes, goes or moves. */
function patchedMarks(
  { readings: before, marks: madeBefore }: MadeOfAnalysis,
  readings: readonly Observation[],
  changed: readonly number[],
  sizesFrom: number | undefined,
): ItemMarks | undefined {
  if (changed.length > FEW) return undefined;
  const marks = new Map(madeBefore);
  for (const place of changed) {
    const observation = readings[place];
    if (observation?.value == null || observation.itemId !== before[place]?.itemId) return undefined;
    const { id, itemId, value } = observation;
    const lane = marks.get(itemId);
    const index = before[place].id === id ? (lane?.findIndex((mark) => mark.id === id) ?? -1) : -1;
    if (!lane || index === -1) return undefined;
    marks.set(itemId, lane.with(index, markOf(observation, shownFrom(value, sizesFrom))));
  }
  return marks;
}

/** The marks of before with those of all items made again of which something changed. */
function lanesMade(
  before: MadeOfAnalysis,
  readings: readonly Observation[],
  changed: readonly number[],
  sizesFrom: number | undefined,
): ItemMarks {
  const made = new Map<string, StripMark[]>();
  for (const place of changed)
    for (const observation of [before.readings[place], readings[place]])
      if (observation) made.set(observation.itemId, []);
  for (const observation of readings) {
    const { itemId, value } = observation;
    if (value !== null) made.get(itemId)?.push(markOf(observation, shownFrom(value, sizesFrom)));
  }
  return new Map([...before.marks, ...made]);
}

/**
 * The marks of what an analysis knows; of items whose readings are as they were, those of before.
 * @param sizesFrom where errors are shown by their size: from which value
 */
function analysedMarks(
  measurand: Measurand,
  { setting, readings }: Pick<SettingAnalysis, 'setting' | 'readings'>,
  sizesFrom: number | undefined,
): ItemMarks {
  const bySetting = madeOfAnalysis.get(measurand) ?? new Map<string, MadeOfAnalysis>();
  const name = `${String(sizesFrom)}/${setting.key}`;
  const before = bySetting.get(name) ?? { readings: [], marks: new Map<string, StripMark[]>() };
  const changed = placesChanged(before.readings, readings);
  if (changed.length === 0) return before.marks;
  const marks =
    patchedMarks(before, readings, changed, sizesFrom) ?? lanesMade(before, readings, changed, sizesFrom);
  madeOfAnalysis.set(measurand, bySetting.set(name, { readings, marks }));
  return marks;
}

const shownFrom = (value: number, sizesFrom: number | undefined): number =>
  sizesFrom === undefined ? value : Math.abs(value - sizesFrom);

/** The marks of each item: what the analysis knows, and what was recorded since. */
function marksOf(
  document: StudyDocument,
  measurand: Measurand,
  key: string,
  { analysis, analysed }: { analysis: SettingAnalysis | undefined; analysed: StudyDocument | undefined },
  sizesFrom: number | undefined,
): ItemMarks {
  const known: ItemMarks = analysis ? analysedMarks(measurand, analysis, sizesFrom) : new Map();
  // What is worked out from others is known by its analysis alone, and of the state that this is of it knows all.
  if (measurand.expression !== null || (analysis !== undefined && document === analysed)) return known;
  const { recorded, withdrawn } =
    (analysis && analysed && sinceState(document, measurand.id, analysed)) ??
    sinceAny(document, measurand.id, analysis);
  const corrected = correctorOf(document, measurand);
  const added = recorded.flatMap(({ reading, value, standing }) => {
    const { id, itemId, sessionId, round, levels } = reading;
    if (value === null || standing.is === 'withdrawn') return [];
    if (settingKey(levels.map(({ levelId }) => levelId)) !== key) return [];
    const shown = shownFrom(corrected(value, sessionId), sizesFrom);
    return [{ itemId, mark: { id, value: shown, out: standing.is === 'left out', title: markWords(round) } }];
  });
  return changedMarks(known, added, withdrawn);
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
  const sizesFrom = bySize && sizes ? target : undefined;
  const marks = marksOf(document, measurand, key, { analysis: known, analysed }, sizesFrom);
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

/** Lanes whose marks are distances in place of values; a mean of distances says nothing, so none is drawn. */
export const lanesOfDistances = (
  lanes: readonly StripLane[],
  distances: ReadonlyMap<string, number>,
): StripLane[] =>
  lanes.map(({ id, name, code, mark, marks }) => ({
    ...{ id, name, code, mark, mean: null, interval: null, figure: '' },
    marks: marks.flatMap((read) => {
      const value = distances.get(read.id);
      return value === undefined ? [] : [{ ...read, value }];
    }),
  }));

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
