import type { Anova } from '../compare/anova.ts';
import { type Better, merit } from '../compare/better.ts';
import { type Blocks, blocksOf, completeRounds, leastSquaresMeans } from '../compare/blocks.ts';
import type { BlockedAnova } from '../compare/complete-rounds.ts';
import { type Comparison, type PairDifference, allPairs, bare } from '../compare/method.ts';
import type { PairMethodName } from '../compare/method-names.ts';
import { pairMethod } from '../compare/methods.ts';
import { criticalOfPairs } from '../compare/methods/tamhane-t2.ts';
import { centreOf, elsewherePairs, sharedLevel } from '../compare/elsewhere.ts';
import { type Sample, locate } from '../compare/sample.ts';
import type { Verdict } from '../compare/verdict.ts';
import { findings } from '../findings/index.ts';
import type { Finding } from '../findings/finding.ts';
import type { Margin } from '../model/parts.ts';
import { type Known, drawPlaces } from '../rank/draws.ts';
import { places } from '../rank/place.ts';
import type { LeftOut, ScreeningRule } from '../screening/rule.ts';
import type { ScreenedSample } from '../screening/screen.ts';
import { counted, listed, wordFor } from '../quantity/format.ts';
import { type Summary, summarise } from '../summary/summary.ts';
import type { Typed } from '../summary/typed.ts';
import { type Budget, type Stated, uncertaintyBudget } from '../summary/budget.ts';
import { type Doubt, type Doubts, NO_DOUBT, doubtOfEach } from './doubt.ts';
import { elsewhereOf } from './elsewhere.ts';
import { judgePairs } from './judged-pairs.ts';
import { testsOfAll } from './tests-of-all.ts';

/** Readings of one item with what a rule made of them. */
export interface ScreenedReadings {
  item: string;
  values: ArrayLike<number>;
  /** NaN for a reading that belongs to no round. */
  rounds?: ArrayLike<number> | undefined;
  screening: ScreenedSample;
  /** What corrections leave open about the mean of those that count. */
  doubts?: Doubts | undefined;
  /** What is known of it from elsewhere, used where no reading counts. */
  typed?: Typed | undefined;
}

export interface CompareOptions {
  better: Better;
  rule: ScreeningRule;
  /** 1 − coverage of the intervals and level of the rules, 0 < alpha < 1. */
  alpha: number;
  /** Level of the pairs' intervals where it is another one, at a planned look; alpha when left out. */
  pairAlpha?: number | undefined;
  margin: Margin;
  /** undefined: within rounds where two items share two of them, else Tamhane's T2. */
  method?: PairMethodName | undefined;
  /** “energy”: the readings are levels in decibels. */
  average?: 'energy' | undefined;
  /** Readings are ordered marks: no rule touches them, and they are compared by rank. */
  ranksOnly?: boolean | undefined;
  /** The values are exact figures and no readings: there is nothing uncertain about them. */
  exact?: boolean | undefined;
  step: number;
  resamples: number;
  seed: number;
  unit?: string;
  /** Expanded uncertainty of one reading at a value by the instrument's stated accuracy, where it is stated. */
  accuracy?: ((reading: number) => number | undefined) | undefined;
  /** What is stated of the instrument, where what the means are uncertain by is asked for. */
  instrument?: Stated | undefined;
}

export interface AnalysedItem {
  item: string;
  /** All readings, the left-out ones included. */
  n: number;
  leftOut: LeftOut[];
  /** Whether readings were judged by their distance from their round's median. */
  judged: 'reading' | 'distance';
  /** Why the rule was not applied, where it was not. */
  notScreened: string | undefined;
  summary: Summary;
  /** What it is placed by: the mean, the least-squares mean where rounds have gaps, or the mean rank of marks. */
  placedBy: number | null;
  /** What it is known by from elsewhere, where no reading counts. */
  typed?: Typed;
  /** What corrections leave open about the mean. */
  doubt: Doubt;
  /** What the mean is uncertain by; undefined where nobody asked, and of exact figures, marks and what is known from elsewhere. */
  budget?: Budget | undefined;
  /** What is known of that; null where no spread is: one reading, or marks in an order. */
  known: Known | null;
}

export interface AnalysedPair extends PairDifference, Verdict {
  /** How many more readings of each of the two would be likely (80 %) to settle an unsettled pair. */
  moreReadings: number | undefined;
}

export interface RankedItem {
  /** Index of the item. */
  index: number;
  place: number;
  placeLow: number;
  placeHigh: number;
  chanceFirst: number | null;
  /** Share of the draws in which it takes each place, from the first. */
  placeShares: readonly number[] | null;
}

/** Something to know about how the readings were treated. */
export interface Remark {
  about: 'screening' | 'comparison' | 'means' | 'draws' | 'tests';
  text: string;
}

export interface Analysis {
  items: AnalysedItem[];
  tests: {
    anova?: Anova;
    welchAnova?: { f: number; df1: number; df2: number; p: number };
    kruskalWallis?: { h: number; df: number; p: number };
    friedman?: { chiSquared: number; df: number; p: number };
    blockedAnova?: BlockedAnova;
  };
  method: PairMethodName;
  /** The values are exact figures, and no method was needed. */
  exact: boolean;
  /** Placed by mean ranks: the values are ordered marks. */
  ranksOnly: boolean;
  /** Level that the intervals of the pairs hold together. */
  pairAlpha: number;
  /** Step of the readings, in their unit; 0 where none is known. */
  step: number;
  /** The margin in the readings' unit. */
  margin: number;
  /** Indices a and b are of `items`. */
  pairs: AnalysedPair[];
  /** Best first; items without a reading that counts are not in it. */
  ranking: RankedItem[];
  findings: Finding[];
  remarks: Remark[];
}

type KeptOptions = Pick<CompareOptions, 'alpha' | 'average' | 'step' | 'exact'> &
  Partial<Pick<CompareOptions, 'better'>>;

const without = (values: ArrayLike<number>, out: ReadonlySet<number>): Float64Array =>
  Float64Array.from(values).filter((_, i) => !out.has(i));

/** Exact figures differ by what they differ by. */
const exactComparison = (samples: readonly Sample[]): Comparison => ({
  pairs: allPairs(samples.length).map(([a, b]) => {
    const [left, right] = [samples[a]?.summary.mean ?? Number.NaN, samples[b]?.summary.mean ?? Number.NaN];
    const difference = right - left;
    const sum = { estimate: left + right, se: 0, low: left + right, high: left + right };
    return { ...bare(a, b, difference), se: 0, low: difference, high: difference, critical: 0, sum };
  }),
});

/** The way of comparing that suits the readings, where none was asked for; with why, where it is not the usual one. */
function suitedMethod(
  samples: readonly Sample[],
  blocks: Blocks | undefined,
  options: CompareOptions,
): { name: PairMethodName; reason?: string } {
  if (options.ranksOnly) {
    return { name: blocks && completeRounds(blocks).length > 1 ? 'rank-sums' : 'dunn' };
  }
  if (!blocks) return { name: 'tamhane-t2' };
  if (options.average === 'energy') {
    return {
      name: 'tamhane-t2',
      reason:
        'Levels are averaged by energy, whose differences do not add up within rounds, so the pairs go by T2.',
    };
  }
  if (samples.some(({ trim }) => trim !== undefined)) {
    return {
      name: 'tamhane-t2',
      reason: `${options.rule.label} leaves gaps in the rounds on purpose, so the pairs go by T2, in Yuen’s form.`,
    };
  }
  return { name: 'within-rounds' };
}

function compareBy(
  samples: readonly Sample[],
  blocks: Blocks | undefined,
  options: CompareOptions,
  remarks: Remark[],
): { comparison: Comparison; method: PairMethodName } {
  const suited = suitedMethod(samples, blocks, options);
  const name = options.method ?? suited.name;
  const method = pairMethod(name);
  if (options.method === undefined && suited.reason !== undefined) {
    remarks.push({ about: 'comparison', text: suited.reason });
  }
  if (samples.length < 2) return { comparison: { pairs: [] }, method: name };
  if (method.needsRounds && !blocks) {
    throw new RangeError(`“${method.label}” does not apply: no two items were read together in two rounds.`);
  }
  const comparison = options.exact
    ? exactComparison(samples)
    : method.compare({ samples, blocks, alpha: options.pairAlpha ?? options.alpha });
  if (method.needsRounds && comparison.pairs.some(({ inRounds, se }) => !inRounds && se !== null)) {
    remarks.push({
      about: 'comparison',
      text: 'Items that do not share two rounds are compared by Welch’s t, so what drifted between their rounds counts as spread.',
    });
  }
  return { comparison, method: name };
}

/** What each item is placed by, and whether that is its plain mean. */
function placedBy(
  samples: readonly Sample[],
  blocks: Blocks | undefined,
  method: PairMethodName,
  comparison: Comparison,
  /** Readings that belong to no round. */
  outside: number,
  remarks: Remark[],
): number[] {
  if (comparison.meanRanks) return [...comparison.meanRanks];
  const means = samples.map(({ summary }) => summary.mean as number);
  if (!pairMethod(method).needsRounds || !blocks) return means;
  const adjusted = leastSquaresMeans(blocks);
  if (!adjusted || adjusted.some(Number.isNaN)) return means;
  if (outside > 0) {
    remarks.push({
      about: 'means',
      text: `${counted(outside, 'reading')} of added runs ${wordFor(outside, 'belongs', 'belong')} to no round and ${wordFor(outside, 'counts', 'count')} in the summary only.`,
    });
  }
  const moved = samples.filter(({ summary: { mean, se } }, i) => {
    const by = Math.abs((adjusted[i] as number) - (mean as number));
    return by > 1e-9 * Math.max(Math.abs(mean as number), se ?? 0);
  });
  if (moved.length === 0) return means;
  remarks.push({
    about: 'means',
    text: `The means are not of the same rounds, so ${listed(moved.map(({ item }) => item))} ${wordFor(moved.length, 'is', 'are')} placed by what the mean would be with every item in every round.`,
  });
  return [...adjusted];
}

/**
 * The kept readings of every item, and the round of each.
 * @param options.better what corrections leave open cancels between items, but not where sums are compared; when it is
 *   left out nothing cancels
 */
export function keptOf(
  readings: readonly ScreenedReadings[],
  { alpha, average, step, exact, better }: KeptOptions,
): { samples: Sample[]; rounds: (Float64Array | undefined)[]; doubts: Doubt[] } {
  const rounds: (Float64Array | undefined)[] = [];
  const doubts = doubtOfEach(
    readings.map((ofItem) => ofItem.doubts),
    better !== undefined && better.kind !== 'nearest',
  );
  const samples = readings.map(({ item, values, rounds: read, screening }, i): Sample => {
    const out = new Set(screening.leftOut.map(({ index }) => index));
    const kept = without(values, out);
    rounds.push(read ? without(read, out) : undefined);
    const { trim } = screening;
    const summary = summarise(kept, alpha, { trim, average, step: exact ? 0 : step });
    return { item, kept, summary, step, trim, average, doubt: doubts[i]?.ofDifferences as number };
  });
  return { samples, rounds, doubts };
}

/** Items to which the rule was not applied, with why. */
const screeningRemarks = (readings: readonly ScreenedReadings[], { rule }: CompareOptions): Remark[] =>
  readings.flatMap(({ item, values, screening: { notAvailable } }) =>
    notAvailable !== undefined && values.length > 0
      ? [
          {
            about: 'screening',
            text: `${rule.label} was not applied to ${item}: it ${notAvailable}.`,
          } as const,
        ]
      : [],
  );

/** The margin in the readings' unit: per cent is of the best item, or of the target. */
function marginOf({ margin, better }: CompareOptions, best: number | undefined): number {
  if (margin.kind === 'absolute') return margin.value;
  return (margin.value / 100) * Math.abs(better.kind === 'nearest' ? better.target : (best ?? 0));
}

/** Items from first to last; index is the place among those that are compared. */
function rankingOf(
  merits: readonly number[],
  pairs: readonly AnalysedPair[],
  chances: number[][] | undefined,
): RankedItem[] {
  return places(merits, pairs)
    .map((place, index) => ({
      ...place,
      index,
      chanceFirst: chances?.[index]?.[0] ?? null,
      placeShares: chances?.[index] ?? null,
    }))
    .sort((x, y) => x.place - y.place || (merits[y.index] as number) - (merits[x.index] as number));
}

/** What the mean of a sample is uncertain by, where the instrument is known and the mean is one. */
const budgetOf = (
  { summary }: Sample,
  doubt: Doubt,
  { instrument, step, alpha, exact, ranksOnly }: CompareOptions,
): Budget | undefined =>
  instrument && !exact && !ranksOnly
    ? uncertaintyBudget(summary, instrument, step, alpha, doubt.ofMean)
    : undefined;

/** What is odd about what was read; nothing is about figures from elsewhere. */
function oddIn(
  readings: readonly ScreenedReadings[],
  sampleOf: (i: number) => Sample,
  { exact = false, rule, unit = '', step }: CompareOptions,
): Analysis['findings'] {
  if (exact) return [];
  const items = readings.flatMap(({ item, values, screening }, i) => {
    const { kept, typed } = sampleOf(i);
    if (typed) return [];
    return [{ item, values, kept, screened: screening.notAvailable === undefined && !rule.keepsAll }];
  });
  return findings({ items, unit, step });
}

/** The comparison of what was read here, with the pairs in which one is from elsewhere. */
const withElsewhere = (
  comparison: Comparison,
  compared: readonly Sample[],
  { read, levels }: { read: number; levels: ReturnType<typeof sharedLevel> },
): Comparison => ({
  criticalAt: criticalOfPairs(read, levels.read),
  ...comparison,
  pairs: [
    ...comparison.pairs,
    ...(compared.length > read ? elsewherePairs(compared, levels.elsewhere) : []),
  ].sort((x, y) => x.a - y.a || x.b - y.b),
});

/** An item, and what screening said of it. */
const screenedItem = ({ item, values, screening }: ScreenedReadings) => ({
  item,
  n: values.length,
  leftOut: screening.leftOut,
  judged: screening.judged,
  notScreened: screening.notAvailable,
});

/** Summary, comparison and ranking of readings that were screened. Indices in the result are of `readings`. */
export function compareScreened(readings: readonly ScreenedReadings[], options: CompareOptions): Analysis {
  const { better, step, exact = false } = options;
  const pairAlpha = options.pairAlpha ?? options.alpha;
  const { samples, rounds, doubts } = keptOf(readings, options);
  const remarks = screeningRemarks(readings, options);

  // From here on only items with a reading that counts, and behind them those from elsewhere; `index` leads back to all.
  const readHere = samples.flatMap(({ kept }, i) => (kept.length > 0 ? [i] : []));
  const elsewhere = elsewhereOf(readings, samples, options, remarks);
  const index = [...readHere, ...elsewhere.map(({ place }) => place)];
  const back = (place: number) => index[place] as number;
  const read = readHere.map((i) => samples[i] as Sample);
  const compared = [...read, ...elsewhere.map(({ sample }) => sample)];
  const levels = sharedLevel(read.length, elsewhere.length, pairAlpha);
  const keptRounds = readHere.map((i) => rounds[i]);
  const keptReadings = read.map(({ kept }) => kept);
  const blocks = exact ? undefined : blocksOf(keptReadings, keptRounds);
  const { comparison, method } = compareBy(read, blocks, { ...options, pairAlpha: levels.read }, remarks);
  const outside = keptRounds.reduce(
    (sum, ofItem) => (ofItem ? sum + ofItem.filter(Number.isNaN).length : sum),
    0,
  );
  const located = [
    ...placedBy(read, blocks, method, comparison, outside, remarks),
    ...elsewhere.map(({ sample }) => centreOf(sample)),
  ];
  const all = withElsewhere(comparison, compared, { read: read.length, levels });
  const direction: Better = options.ranksOnly && better.kind === 'nearest' ? { kind: 'higher' } : better;
  const merits = located.map((value) => merit(value, direction));
  const margin = marginOf(options, located[merits.indexOf(Math.max(...merits))]);
  const judging = { ...options, better: direction, margin, pairAlpha };
  const pairs = judgePairs(compared, all, located, judging);
  const known = compared.map((sample, i) => knownOf(sample, located[i] as number, comparison, i, options));
  const chances = drawn(compared, known, options, remarks);
  const ranking = better.kind === 'unranked' ? [] : rankingOf(merits, pairs, chances);
  const sampleOf = (i: number) => (compared[index.indexOf(i)] ?? samples[i]) as Sample;

  return {
    items: readings.map((ofItem, i) => ({
      ...screenedItem(ofItem),
      summary: sampleOf(i).summary,
      placedBy: located[index.indexOf(i)] ?? null,
      ...typedOf(compared[index.indexOf(i)]),
      doubt: doubts[i] ?? NO_DOUBT,
      budget: budgetOf(samples[i] as Sample, doubts[i] ?? NO_DOUBT, options),
      known: known[index.indexOf(i)] ?? null,
    })),
    tests: exact ? {} : testsOfAll(read, blocks, remarks),
    method,
    exact,
    ranksOnly: comparison.meanRanks !== undefined,
    pairAlpha,
    step,
    margin,
    pairs: pairs.map((pair) => ({ ...pair, a: back(pair.a), b: back(pair.b) })),
    ranking: ranking.map((entry) => ({ ...entry, index: back(entry.index) })),
    findings: oddIn(readings, sampleOf, options),
    remarks,
  };
}

const typedOf = (sample: Sample | undefined): Pick<AnalysedItem, 'typed'> =>
  sample?.typed ? { typed: sample.typed } : {};

/** What is known of what an item is placed by. */
function knownOf(
  sample: Sample,
  mean: number,
  { spread, meanRanks }: Comparison,
  item: number,
  { exact }: CompareOptions,
): Known | null {
  if (exact) return { mean, se: 0, df: Number.POSITIVE_INFINITY };
  if (meanRanks || sample.summary.n < 2) return null;
  const { varianceOfMean, df: dfOfMean } = locate(sample);
  const { variance, df } = spread?.[item] ?? { variance: varianceOfMean, df: dfOfMean };
  return { mean, se: Math.sqrt(variance), df: Math.max(1, df) };
}

/** How often each item takes each place, where that can be said of all of them. */
function drawn(
  samples: readonly Sample[],
  known: readonly (Known | null)[],
  { better, exact, ranksOnly, resamples, seed }: CompareOptions,
  remarks: Remark[],
): number[][] | undefined {
  if (better.kind === 'unranked' || exact || ranksOnly || resamples === 0 || samples.length < 2)
    return undefined;
  const ranges = samples.filter(({ typed }) => typed?.kind === 'range');
  if (ranges.length > 0) {
    remarks.push({
      about: 'draws',
      text: `How often each comes first is not said: of ${listed(ranges.map(({ item }) => item))} a range is known, and not how likely what in it is.`,
    });
    return undefined;
  }
  const single = samples.filter((_, i) => known[i] === null);
  if (single.length > 0) {
    remarks.push({
      about: 'draws',
      text: `How often each comes first is not said: ${listed(single.map(({ item }) => item))} ${wordFor(single.length, 'has', 'have')} a single reading, which shows no spread.`,
    });
    return undefined;
  }
  return drawPlaces({
    known: [known],
    worthOf: ([means], worth) => {
      (means as Float64Array).forEach((mean, item) => {
        worth[item] = merit(mean, better);
      });
    },
    draws: resamples,
    seed,
  }).places;
}
