import {
  type ChangeVerdict,
  type LevelSample,
  changeVerdict,
  changesShown,
  levelChanges,
  turnedRound,
} from '../compare/changes.ts';
import type { PairDifference } from '../compare/method.ts';
import { type TwoWay, twoWay } from '../compare/two-way.ts';
import { readingForm } from '../forms/index.ts';
import { ALPHA } from '../model/alpha.ts';
import { isTemperature } from '../quantity/units.ts';
import type { Factor, Item, Level, Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { roundingVariance } from '../summary/step.ts';
import { specLimits } from '../summary/spec.ts';
import {
  type ClassAnalysis,
  type MeasurandAnalysis,
  type StudyAnalysisOptions,
  analyseStudy,
  isRankedBySize,
  readingsOf,
  NO_CELL,
} from './analyse-study.ts';
import { keptOf } from './compare-screened.ts';
import { type Screened, screenedOf } from './observed.ts';
import { type FactorLevels, factorLevels } from '../plan/grid.ts';
import { type SettingSeries, factorsRead, settingSeries } from './series.ts';

/** What an item's values change by from one level to another. Levels are indices. */
export interface LevelChange {
  from: number;
  to: number;
  /** In the readings' unit. */
  difference: number;
  /** Holds with those of all items and levels at once; null where there is none. */
  interval: readonly [number, number] | null;
  /** Of the mean that it starts from; null where per cent mean nothing. */
  percent: number | null;
  verdict: ChangeVerdict;
  /** Single readings that lie closer together than the instrument can tell apart. */
  withinAccuracy: boolean;
}

/** Two items that change places between two levels. Items and levels are indices. */
export interface Turn {
  /** Better at the first of the two levels. */
  before: number;
  /** Better at the second. */
  after: number;
  from: number;
  to: number;
  /** Whether the readings support both sides. */
  settled: boolean;
  /** Where straight lines between the means cross, on the factor's scale; null without one. */
  at: number | null;
}

/** Where an item's means cross a limit, on the factor's scale, by straight lines between levels. */
export interface LimitCrossing {
  item: number;
  limit: number;
  at: number;
  /** Where the ends of the means' intervals cross it; null where that is beyond the levels. */
  low: number | null;
  high: number | null;
}

/** One class of items over the levels of a factor. */
export interface ClassOverLevels {
  name: string;
  items: Item[];
  /** The ranking at each level; undefined where nothing was read. */
  levels: (ClassAnalysis | undefined)[];
  /** Of each item, as far as it was read. */
  changes: LevelChange[][];
  turns: Turn[];
  crossings: LimitCrossing[];
  /** Whether what the factor does depends on the item, equal spread assumed. */
  test: TwoWay | undefined;
}

/** A measurand over the levels of one factor, the others held. */
export interface OverLevels {
  measurand: Measurand;
  factor: Factor;
  levels: Level[];
  /** The setting at each level in words, the other factors' levels among them. */
  settings: string[];
  /** Index of the level that changes start from. */
  baseline: number;
  /** Whether every level is a number, and each is another one. */
  numeric: boolean;
  /** The other factors' levels in words; '' without others. */
  held: string;
  classes: ClassOverLevels[];
  /** Control items: measured at each level, never ranked, and no changes of theirs are judged. */
  controls: ClassOverLevels | undefined;
  /** Marks in an order have no differences. */
  ranksOnly: boolean;
  bySize: boolean;
}

/** What is the same for all classes of a measurand over the levels. */
type OverFrame = Omit<OverLevels, 'classes' | 'controls'>;

/**
 * One measurand over the levels of a factor: the ranking at each, what each item changes by, where the order turns.
 * @param seriesKey of the other factors' levels; the first series when left out or not read
 * @returns null where nothing was read at two levels
 * @throws RangeError when the study has no such measurand
 */
export function overLevels(
  document: StudyDocument,
  measurandId: string,
  factorId: string,
  seriesKey?: string,
  options: StudyAnalysisOptions = {},
): OverLevels | null {
  const found = factorsRead(document).find(({ over }) => over.factor.id === factorId);
  const series = found?.series.find(({ key }) => key === seriesKey) ?? found?.series[0];
  if (!found || !series) return null;
  return seriesOver(analysed(document, measurandId, options), found.over, series, options);
}

/**
 * One measurand at all settings that were read: over the levels of a factor, once for each combination of the other
 * factors' levels, be it at one level alone.
 * @returns nothing where the factor has no levels, or nothing was read at any
 * @throws RangeError when the study has no such measurand
 */
export function overSettings(
  document: StudyDocument,
  measurandId: string,
  factorId: string,
  options: StudyAnalysisOptions = {},
): OverLevels[] {
  const over = factorLevels(document).find(({ factor }) => factor.id === factorId);
  if (!over) return [];
  const ofAll = analysed(document, measurandId, options);
  return settingSeries(document, over, 1).flatMap((series) => {
    const found = seriesOver(ofAll, over, series, options);
    return found.levels.length > 0 ? [found] : [];
  });
}

interface Analysed extends MeasurandAnalysis {
  screened: Screened;
}

function analysed(document: StudyDocument, measurandId: string, options: StudyAnalysisOptions): Analysed {
  const analysis = analyseStudy(document, measurandId, { ...options, resamples: 0 });
  return { ...analysis, screened: screenedOf(document, analysis.measurand, options.rule) };
}

function seriesOver(
  { measurand, settings, screened }: Analysed,
  { factor, levels: all, baseline }: FactorLevels,
  series: SettingSeries,
  options: StudyAnalysisOptions,
): OverLevels {
  // Levels at which nothing was read are not shown.
  const read = all.flatMap((level, i) => {
    const setting = series.settings[i];
    const analysis = settings.find((candidate) => candidate.setting.key === setting?.key);
    return analysis ? [{ level, analysis }] : [];
  });
  const levels = read.map(({ level }) => level);
  const values = levels.map(({ value }) => value);
  const over: OverFrame = {
    measurand,
    factor,
    levels,
    settings: read.map(({ analysis }) => analysis.setting.words),
    baseline: Math.max(0, levels.indexOf(baseline)),
    numeric: values.every((value) => value !== null) && new Set(values).size === values.length,
    held: series.words,
    ranksOnly: screened.ranksOnly,
    bySize: isRankedBySize(measurand),
  };
  const controls = read.map(({ analysis }) => analysis.controls);
  const controlItems = controls.find(Boolean)?.items;
  const names = [...new Set(read.flatMap(({ analysis }) => analysis.classes.map(({ name }) => name)))];
  return {
    ...over,
    controls: controlItems && {
      ...{ name: '', items: controlItems, levels: controls, changes: controlItems.map(() => []) },
      ...{ turns: [], crossings: [], test: undefined },
    },
    classes: names.map((name) =>
      classOver(
        over,
        screened,
        name,
        read.map(({ analysis }) => analysis.classes.find((group) => group.name === name)),
        { keys: read.map(({ analysis }) => analysis.setting.key), alpha: options.pairAlpha ?? ALPHA },
      ),
    ),
  };
}

function classOver(
  over: OverFrame,
  screened: Screened,
  name: string,
  levels: (ClassAnalysis | undefined)[],
  { keys, alpha }: { keys: readonly string[]; alpha: number },
): ClassOverLevels {
  const items = levels.find(Boolean)?.items ?? [];
  const samples = samplesOf(over, screened, items, keys);
  const shown = screened.ranksOnly ? [] : changesShown(levels.length, over.baseline);
  const differences = levelChanges(samples, {
    pairs: shown,
    alpha,
    // Energies, and rounds in which a rule leaves gaps on purpose, do not add up within rounds.
    withinRounds:
      screened.average !== 'energy' && !samples.flat().some((cell) => cell?.sample.trim !== undefined),
  });
  const group = { name, items, levels };
  return {
    ...group,
    changes: differences.map((changes, item) =>
      bothWays(changes).map((pair) => changeOf(over, group, samples, item, pair, { alpha, screened })),
    ),
    turns: turnsOf(over, group),
    crossings: crossingsOf(over, group),
    test: screened.ranksOnly
      ? undefined
      : twoWay(samples.map((row) => row.map((cell) => cell?.sample.kept ?? new Float64Array()))),
  };
}

/** The readings of each item at each setting that count. */
function samplesOf(
  { measurand, bySize }: Pick<OverLevels, 'measurand' | 'bySize'>,
  { cells, average, step }: Screened,
  items: readonly Item[],
  keys: readonly string[],
): (LevelSample | undefined)[][] {
  const read = items.flatMap((item) =>
    keys.map((key) => {
      const cell = cells.find(({ itemId, setting }) => itemId === item.id && setting === key);
      return readingsOf(item, cell ?? NO_CELL, bySize ? measurand.direction.target : null);
    }),
  );
  const { samples, rounds } = keptOf(read, {
    ...{ alpha: ALPHA, average, step },
    better: { kind: 'higher' },
  });
  return items.map((_, item) =>
    keys.map((__, level) => {
      const index = item * keys.length + level;
      const sample = samples[index];
      return sample && sample.kept.length > 0 ? { sample, rounds: rounds[index] } : undefined;
    }),
  );
}

function changeOf(
  { measurand }: Pick<OverLevels, 'measurand'>,
  { levels }: Pick<ClassOverLevels, 'levels'>,
  samples: readonly (readonly (LevelSample | undefined)[])[],
  item: number,
  pair: PairDifference,
  { alpha, screened }: { alpha: number; screened: Screened },
): LevelChange {
  const [from, to] = [pair.a, pair.b].map((level) => samples[item]?.[level]?.sample) as [
    LevelSample['sample'],
    LevelSample['sample'],
  ];
  const [start, end] = [from.summary.mean as number, to.summary.mean as number];
  const { verdict, withinAccuracy } = changeVerdict({
    pair,
    means: [start, end],
    counts: [from.kept.length, to.kept.length],
    margin: measurand.margin,
    absoluteMargin: levels[pair.a]?.analysis.margin,
    alpha,
    rounding: 2 * roundingVariance(screened.step),
    instrument: measurand.instrument,
  });
  return {
    from: pair.a,
    to: pair.b,
    difference: pair.difference,
    interval: pair.low === null || pair.high === null ? null : [pair.low, pair.high],
    percent: start > 0 && hasPercent(measurand, screened) ? (100 * pair.difference) / start : null,
    verdict,
    withinAccuracy,
  };
}

/** Per cent mean nothing of an error, of a level in decibels, nor of a temperature, whose zero is where it was put. */
export const hasPercent = (
  { form, unit, expression }: Measurand,
  { average }: Pick<Screened, 'average'>,
): boolean =>
  average !== 'energy' &&
  !isTemperature(unit) &&
  !(expression === null && (readingForm(form)?.rankedBySize ?? false));

/** The changes, and what leads back to the level before the baseline forwards as well: it is a step too. */
const bothWays = (changes: readonly (PairDifference | undefined)[]): PairDifference[] =>
  changes.flatMap((pair) => {
    if (!pair) return [];
    return pair.a === pair.b + 1 ? [pair, turnedRound(pair)] : [pair];
  });

/** Where the line from one point to another is at a height; null where it is level. */
const crossing = (
  x: readonly [number, number],
  y: readonly [number, number],
  height: number,
): number | null => (y[0] === y[1] ? null : x[0] + ((height - y[0]) / (y[1] - y[0])) * (x[1] - x[0]));

/** Pairs of items whose order by place is another at a later level: the nearest two levels that say so. */
function turnsOf(over: OverFrame, { items, levels }: Pick<ClassOverLevels, 'items' | 'levels'>): Turn[] {
  const turns: Turn[] = [];
  for (let a = 0; a < items.length; a += 1) {
    for (let b = a + 1; b < items.length; b += 1) {
      const leads = levels.map((group) => {
        const pair = group?.analysis.pairs.find((candidate) => candidate.a === a && candidate.b === b);
        if (!pair || pair.lead === 0) return undefined;
        return { side: Math.sign(pair.lead), settled: pair.verdict.endsWith('ahead') };
      });
      const turn = turnOf(leads);
      if (!turn) continue;
      const [before, after] = leads[turn.from]?.side === 1 ? [a, b] : [b, a];
      turns.push({ ...turn, before, after, at: crossingOf(over, levels, [a, b], turn) });
    }
  }
  return turns;
}

/** The first turn that the readings settle on both sides, else the first that they settle on one. */
function turnOf(
  leads: readonly ({ side: number; settled: boolean } | undefined)[],
): Pick<Turn, 'from' | 'to' | 'settled'> | undefined {
  let half: Pick<Turn, 'from' | 'to' | 'settled'> | undefined;
  for (let to = 1; to < leads.length; to += 1) {
    for (let from = to - 1; from >= 0; from -= 1) {
      const [leadFrom, leadTo] = [leads[from], leads[to]];
      if (!leadFrom || !leadTo || leadFrom.side === leadTo.side) continue;
      if (leadFrom.settled && leadTo.settled) return { from, to, settled: true };
      if (leadFrom.settled || leadTo.settled) half ??= { from, to, settled: false };
    }
  }
  return half;
}

function crossingOf(
  { levels, numeric }: OverFrame,
  groups: ClassOverLevels['levels'],
  [a, b]: readonly [number, number],
  { from, to }: Pick<Turn, 'from' | 'to'>,
): number | null {
  if (!numeric) return null;
  const gaps = groups.map((group) => {
    const [first, second] = [a, b].map((item) => {
      const analysed = group?.analysis.items[item];
      // Between ranges no line is drawn.
      return analysed?.typed?.kind === 'range' ? null : analysed?.placedBy;
    });
    return first == null || second == null ? null : first - second;
  });
  for (let level = from + 1; level <= to; level += 1) {
    const [start, end] = [gaps[level - 1], gaps[level]];
    if (start == null || end == null || start * end > 0) continue;
    const [x0, x1] = [levels[level - 1]?.value as number, levels[level]?.value as number];
    return crossing([x0, x1], [start, end], 0);
  }
  return null;
}

/** Where each item crosses the limits of the spec, where the levels are numbers. */
function crossingsOf(
  { measurand, levels, numeric, bySize, ranksOnly }: OverFrame,
  { items, levels: groups }: Pick<ClassOverLevels, 'items' | 'levels'>,
): LimitCrossing[] {
  const limits = measurand.spec && specLimits(measurand.spec, measurand.direction, { reference: null });
  if (!limits || !numeric || bySize || ranksOnly) return [];
  const x = levels.map(({ value }) => value as number);
  return items.flatMap((_, item) => {
    const points = groups.map((group) => group?.analysis.items[item]?.summary);
    const means = points.map((summary) => summary?.mean ?? null);
    const ends = ([0, 1] as const).map((end) => points.map((summary) => summary?.interval?.[end] ?? null));
    return [limits.low, limits.high].flatMap((limit): LimitCrossing[] => {
      if (limit === null) return [];
      const crossed = firstCrossing(x, means, limit);
      if (crossed === null) return [];
      const [low, high] = ends
        .map((line) => firstCrossing(x, line, limit))
        .sort((a, b) => (a ?? Number.POSITIVE_INFINITY) - (b ?? Number.POSITIVE_INFINITY));
      // Of the two ends one may cross before and the other beyond what was read.
      const [before, after] =
        high === null && low != null
          ? low < crossed
            ? [low, null]
            : [null, low]
          : [low ?? null, high ?? null];
      return [{ item, limit, at: crossed, low: before, high: after }];
    });
  });
}

/** The first place where a broken line crosses a height; null where it does not. */
function firstCrossing(x: readonly number[], y: readonly (number | null)[], height: number): number | null {
  for (let i = 1; i < x.length; i += 1) {
    const [start, end] = [y[i - 1], y[i]];
    if (start == null || end == null || (start - height) * (end - height) > 0 || start === end) continue;
    return crossing([x[i - 1] as number, x[i] as number], [start, end], height);
  }
  return null;
}
