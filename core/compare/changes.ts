import type { Margin, Measurand } from '../model/parts.ts';
import { statedAccuracy } from '../summary/instrument-uncertainty.ts';
import { roundingVariance } from '../summary/step.ts';
import { type Blocks, type RoundDifferences, blocksOf, roundDifferences } from './blocks.ts';
import { spreadOfPair } from './independent.ts';
import { sharedPair } from './in-rounds.ts';
import { type PairDifference, bare } from './method.ts';
import { moderation } from './moderation.ts';
import { type Location, type Sample, locate } from './sample.ts';
import { verdictOf } from './verdict.ts';
import { byT, contrast, welch } from './welch-pair.ts';

/** The readings of one item at one level. */
export interface LevelSample {
  sample: Sample;
  /** Round of each reading that is kept, NaN for one that belongs to none; undefined where rounds share nothing. */
  rounds: Float64Array | undefined;
}

export interface ChangesOptions {
  /** Which levels are compared: indices of the level that a change starts from, and of the level that it leads to. */
  pairs: readonly (readonly [from: number, to: number])[];
  /** Chance that any interval of any item misses, 0 < alpha < 1. */
  alpha: number;
  /** Whether a change is worked out within the rounds that both levels share, so that what drifts cancels. */
  withinRounds: boolean;
}

/** Two levels of one item, before the interval is known. */
interface Task {
  item: number;
  from: number;
  to: number;
}

/** As many free changes as this lend each other all that pairs of items would; fewer lend less. */
const ENOUGH_TO_LEND = 10;

/**
 * What the variances of changes lend each other. Of L levels L − 1 changes are free. A few variances cannot tell that one
 * of them is another kind than the rest, nor can two rounds: where one item scatters ten times as wide as the others, it
 * would be said to change in up to 9 % of studies in which nothing does (our simulation).
 */
function lentToChanges(
  items: readonly (readonly (LevelSample | undefined)[])[],
  blocks: readonly (Blocks | undefined)[],
  shared: readonly RoundDifferences[],
  floor: number,
): { lent: number; s0: number } {
  const free = items.reduce((sum, levels) => sum + Math.max(0, levels.filter(Boolean).length - 1), 0);
  const rounds = Math.max(...blocks.flatMap((of) => of?.rounds ?? []));
  if (rounds < 3) return { lent: 0, s0: 0 };
  const { lent, s0 } = moderation(
    shared.map(({ variance }) => Math.max(variance, floor)),
    shared.map(({ n }) => n - 1),
    { rounds, items: free },
  );
  return { lent: lent * Math.min(1, free / ENOUGH_TO_LEND), s0 };
}

/**
 * What each item’s values change by from one level to another: within rounds where two of them are shared, with
 * variances that lend each other strength over all items and levels; else by Welch’s t. All intervals hold at once
 * (Šidák over every change that can be judged).
 * @param items of each item its readings level by level, in one unit; undefined where there are none
 * @returns of each item the changes in the order of the pairs: a is the level from, b the level to; undefined where
 *   either has no reading
 * @source as compareInRounds: Smyth (2004); Welch (1947); Šidák (1967)
 */
export function levelChanges(
  items: readonly (readonly (LevelSample | undefined)[])[],
  { pairs, alpha, withinRounds }: ChangesOptions,
): (PairDifference | undefined)[][] {
  const blocks = items.map((levels) =>
    withinRounds
      ? blocksOf(
          levels.map((level) => level?.sample.kept ?? new Float64Array()),
          levels.map((level) => level?.rounds),
        )
      : undefined,
  );
  const steps = items.flatMap((levels) => levels.map((level) => level?.sample.step ?? 0));
  const floor = 2 * roundingVariance(Math.max(0, ...steps));
  const sharedOf = ({ item, from, to }: Task) => {
    const rounds = blocks[item];
    const differences = rounds && roundDifferences(rounds, from, to);
    return differences && differences.n >= 2 ? differences : undefined;
  };
  const tasks = items.flatMap((levels, item) =>
    pairs.flatMap(([from, to]): Task[] => (levels[from] && levels[to] ? [{ item, from, to }] : [])),
  );
  const enough = ({ item, from, to }: Task) =>
    [from, to].every((level) => (items[item]?.[level]?.sample.kept.length as number) >= 2);
  const m = Math.max(1, tasks.filter(enough).length);
  const spreading = tasks.flatMap((task) => {
    const shared = sharedOf(task);
    return shared && Math.max(shared.variance, floor) > 0 ? [shared] : [];
  });
  const { lent, s0 } = lentToChanges(items, blocks, spreading, floor);
  const changeOf = (task: Task): PairDifference => {
    const { item, from, to } = task;
    const [left, right] = [from, to].map((level) => locate((items[item]?.[level] as LevelSample).sample)) as [
      Location,
      Location,
    ];
    const shared = sharedOf(task);
    const doubt = left.doubtVariance + right.doubtVariance;
    if (shared) return sharedPair(from, to, shared, { lent, s0, floor, doubt, alpha, m });
    const difference = right.mean - left.mean;
    if (left.n < 2 || right.n < 2) return bare(from, to, difference);
    const { se, df } = welch(left, right);
    const tested = byT(difference, se, df, alpha, m);
    return {
      ...{ a: from, b: to, difference },
      ...tested,
      ...spreadOfPair(left, right),
      ...(tested.critical === null ? {} : { sum: contrast(left.mean + right.mean, se, tested.critical) }),
    };
  };
  return items.map((levels, item) =>
    pairs.map(([from, to]) => (levels[from] && levels[to] ? changeOf({ item, from, to }) : undefined)),
  );
}

/** The changes that a page shows: from the baseline to each level, and from each to the next, each once. */
export function changesShown(levels: number, baseline: number): [number, number][] {
  const shown = new Map<string, [number, number]>();
  for (let level = 0; level < levels; level += 1) {
    if (level !== baseline) shown.set(`${String(baseline)}/${String(level)}`, [baseline, level]);
  }
  for (let level = 1; level < levels; level += 1) {
    const known = shown.has(`${String(level)}/${String(level - 1)}`);
    if (!known) shown.set(`${String(level - 1)}/${String(level)}`, [level - 1, level]);
  }
  return [...shown.values()];
}

export type ChangeVerdict = 'rises' | 'falls' | 'same' | 'not settled' | 'too few';

/** What a change is judged by, beside the change itself. */
export interface ChangeInput {
  /** a is what it starts from, b what it leads to. */
  pair: PairDifference;
  /** Means and kept readings at the start and at the end. */
  means: readonly [start: number, end: number];
  counts: readonly [start: number, end: number];
  margin: Margin;
  /** The margin in the readings' unit, where it is of something else than the start. */
  absoluteMargin?: number | undefined;
  alpha: number;
  /** Variance of both means' rounding, which does not average out. */
  rounding: number;
  instrument: Measurand['instrument'];
}

/** What the readings support of a change: the verdict of a pair, in which the end stands against the start. */
export function changeVerdict({
  pair,
  means: [start, end],
  counts: [before, after],
  margin,
  absoluteMargin,
  alpha,
  rounding,
  instrument,
}: ChangeInput): { verdict: ChangeVerdict; withinAccuracy: boolean } {
  const { verdict, withinAccuracy } = verdictOf({
    // The end stands first: it is “ahead” where the values rise.
    pair: turnedRound(pair),
    means: [end, start],
    counts: [after, before],
    better: { kind: 'higher' },
    margin:
      absoluteMargin ?? (margin.kind === 'absolute' ? margin.value : (margin.value / 100) * Math.abs(start)),
    alpha,
    rounding,
    accuracy: statedAccuracy(instrument, Math.max(Math.abs(start), Math.abs(end))),
  });
  return {
    verdict: verdict === 'a ahead' ? 'rises' : verdict === 'b ahead' ? 'falls' : verdict,
    withinAccuracy: withinAccuracy ?? false,
  };
}

/** A pair the other way round. */
export const turnedRound = (pair: PairDifference): PairDifference => ({
  ...pair,
  ...{ a: pair.b, b: pair.a, difference: -pair.difference },
  low: pair.high === null ? null : -pair.high,
  high: pair.low === null ? null : -pair.low,
});
