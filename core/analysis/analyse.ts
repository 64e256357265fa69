import { type Anova, anova } from '../compare/anova.ts';
import { type Better, merit } from '../compare/better.ts';
import {
  type BlockedAnova,
  type CompleteRounds,
  blockedAnova,
  friedman,
} from '../compare/complete-rounds.ts';
import { kruskalWallis } from '../compare/kruskal-wallis.ts';
import { type PairDifference, type PairMethodName, pairMethod } from '../compare/pairs.ts';
import { type Sample, locate } from '../compare/sample.ts';
import { type Verdict, verdictOf } from '../compare/verdict.ts';
import { welchAnova } from '../compare/welch-anova.ts';
import { findings } from '../findings/index.ts';
import type { Finding } from '../findings/finding.ts';
import type { Margin } from '../model/parts.ts';
import { NORMAL_FROM, chanceFirst } from '../rank/chance-first.ts';
import { places } from '../rank/place.ts';
import { readingsToSettle } from '../rank/readings-to-settle.ts';
import { screeningRule } from '../screening/index.ts';
import type { LeftOut, RuleName } from '../screening/rule.ts';
import { energyOf, levelOf } from '../summary/energy.ts';
import { type Summary, summarise } from '../summary/summary.ts';

/** Readings of one item: values in one unit, in the order taken, and the round of each where there are rounds. */
export interface ItemReadings {
  item: string;
  values: ArrayLike<number>;
  rounds?: ArrayLike<number>;
  /** Indices of readings that the tester keeps whatever the rule says; a rule that always cuts cuts them too. */
  insisted?: ReadonlySet<number>;
}

export interface AnalysisOptions {
  better: Better;
  rule: { name: RuleName; parameter?: number | null };
  /** 1 − coverage of the intervals and level of the rules, 0 < alpha < 1. */
  alpha: number;
  margin: Margin;
  /** undefined: rounds where every round has every item once, else Tamhane's T2. */
  method?: PairMethodName | undefined;
  /** “energy”: the readings are levels in decibels. */
  average?: 'energy' | undefined;
  resamples: number;
  seed: number;
  unit?: string;
  /** Expanded uncertainty of one reading of the instrument at a value, where it is stated. */
  instrumentUncertainty?: (reading: number) => number | undefined;
}

export interface AnalysedItem {
  item: string;
  /** All readings, the left-out ones included. */
  n: number;
  leftOut: LeftOut[];
  /** Why the rule was not applied, where it was not. */
  notScreened: string | undefined;
  summary: Summary;
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
  /** The margin in the readings' unit. */
  margin: number;
  /** Indices a and b are of `items`. */
  pairs: AnalysedPair[];
  /** Best first; items without a reading that counts are not in it. */
  ranking: RankedItem[];
  findings: Finding[];
  notes: string[];
}

function without(values: ArrayLike<number>, out: ReadonlySet<number>): Float64Array {
  const kept = new Float64Array(values.length - out.size);
  let next = 0;
  for (let i = 0; i < values.length; i += 1) {
    if (out.size > 0 && out.has(i)) continue;
    kept[next] = values[i] as number;
    next += 1;
  }
  return kept;
}

function hasGap(cells: Float64Array): boolean {
  for (let i = 0; i < cells.length; i += 1) if (Number.isNaN(cells[i])) return true;
  return false;
}

/** The readings that count as a matrix of rounds, or why they do not make one. */
function completeRounds(
  samples: readonly Sample[],
  keptRounds: readonly (Float64Array | undefined)[],
): { rounds?: CompleteRounds; reason?: string } {
  if (samples.length < 2 || keptRounds.some((own) => own === undefined)) return {};
  const columns = keptRounds as readonly Float64Array[];
  const numbers = new Map<number, number>();
  for (const round of columns[0] as Float64Array) if (!numbers.has(round)) numbers.set(round, numbers.size);
  if (numbers.size < 2) return { reason: 'There are fewer than two rounds.' };
  const reason = 'Not every round has every item once among the readings that count.';
  if (columns.some(({ length }) => length !== numbers.size)) return { reason };
  const k = samples.length;
  const flat = new Float64Array(numbers.size * k).fill(Number.NaN);
  for (let item = 0; item < k; item += 1) {
    const own = columns[item] as Float64Array;
    const { kept } = samples[item] as Sample;
    for (let i = 0; i < own.length; i += 1) {
      const row = numbers.get(own[i] as number);
      if (row === undefined) return { reason };
      flat[row * k + item] = kept[i] as number;
    }
  }
  const rows = Array.from({ length: numbers.size }, (_, row) => flat.subarray(row * k, (row + 1) * k));
  if (hasGap(flat)) return { reason };
  return { rounds: rows };
}

/**
 * The way from readings to a ranking: screening, summary, comparison, ranking. A pure function of plain data.
 * @param readings of each item; items are ranked against each other, so give one class at a time
 * @throws RangeError when a method is asked for that the readings do not allow
 */
export function analyse(readings: readonly ItemReadings[], options: AnalysisOptions): Analysis {
  const { better, alpha } = options;
  const rule = screeningRule(options.rule.name);
  const notes: string[] = [];

  const samples: Sample[] = [];
  const keptRounds: (Float64Array | undefined)[] = [];
  const items = readings.map(({ item, values, rounds, insisted }): AnalysedItem => {
    const {
      leftOut: judged,
      notAvailable,
      trim,
    } = rule.screen(values, {
      alpha,
      parameter: options.rule.parameter ?? null,
    });
    const leftOut = trim ? judged : judged.filter(({ index }) => !insisted?.has(index));
    const out = new Set(leftOut.map(({ index }) => index));
    const kept = without(values, out);
    const summary = summarise(kept, alpha, trim, options.average);
    samples.push({ item, kept, summary, trim, average: options.average });
    keptRounds.push(rounds ? without(rounds, out) : undefined);
    if (notAvailable) notes.push(`${rule.label} was not applied to ${item}: ${notAvailable}.`);
    return { item, n: values.length, leftOut, notScreened: notAvailable, summary };
  });

  // From here on only items with a reading that counts; `index` leads back to all items.
  const index = samples.flatMap(({ kept }, i) => (kept.length > 0 ? [i] : []));
  const compared = index.map((i) => samples[i] as Sample);
  const merits = compared.map(({ summary }) => merit(summary.mean as number, better));
  const ranked = better.kind !== 'unranked';

  const blocks = completeRounds(
    compared,
    index.map((i) => keptRounds[i]),
  );
  const trimming = samples.some(({ trim }) => trim !== undefined);
  const opposite = better.kind === 'nearest';
  const energy = options.average === 'energy';
  let method = options.method;
  if (method === 'rounds' && !blocks.rounds) {
    throw new RangeError(
      `The method “rounds” does not apply. ${blocks.reason ?? 'There is no round column.'}`,
    );
  }
  if (!method) {
    method = blocks.rounds && !trimming && !opposite && !energy ? 'rounds' : 'tamhane-t2';
    if (blocks.reason) notes.push(`${blocks.reason} So the pairs are compared by Tamhane’s T2.`);
  }

  const best = merits.length > 0 ? merits.indexOf(Math.max(...merits)) : -1;
  const bestMean = compared[best]?.summary.mean ?? 0;
  const margin =
    options.margin.kind === 'absolute'
      ? options.margin.value
      : (options.margin.value / 100) * Math.abs(bestMean);

  const differences =
    compared.length > 1
      ? pairMethod(method).compare({ samples: compared, rounds: blocks.rounds, alpha })
      : [];
  const residual = blocks.rounds ? blockedAnova(blocks.rounds) : undefined;
  const pairs = differences.map((pair): AnalysedPair => {
    const [a, b] = [compared[pair.a] as Sample, compared[pair.b] as Sample];
    const means = [a.summary.mean as number, b.summary.mean as number] as const;
    const verdict = verdictOf({
      pair,
      means,
      counts: [a.kept.length, b.kept.length],
      better,
      margin,
      alpha,
      instrumentUncertainty: options.instrumentUncertainty?.(
        Math.max(Math.abs(means[0]), Math.abs(means[1])),
      ),
    });
    const unsettled = ranked && verdict.verdict === 'not settled';
    const varianceSum =
      method === 'rounds' && residual
        ? 2 * residual.msResidual
        : locate(a).varianceOfMean * a.kept.length + locate(b).varianceOfMean * b.kept.length;
    const readings = Math.min(a.kept.length, b.kept.length);
    const enough = unsettled
      ? readingsToSettle({
          difference: verdict.lead,
          margin,
          varianceSum,
          items: compared.length,
          method,
          alpha,
          readings,
        })
      : undefined;
    return {
      ...pair,
      ...verdict,
      a: index[pair.a] as number,
      b: index[pair.b] as number,
      moreReadings: enough === undefined ? undefined : enough - readings,
    };
  });

  const resampling = ranked && options.resamples > 0 && compared.length > 1;
  const rounds = blocks.rounds;
  const chances = resampling
    ? chanceFirst({
        // Levels are resampled as energies, so that their mean is the mean level.
        samples: energy ? compared.map(({ kept }) => kept.map(energyOf)) : compared.map(({ kept }) => kept),
        rounds: energy ? rounds?.map((round) => round.map(energyOf)) : rounds,
        merit: (mean) => merit(energy ? levelOf(mean) : mean, better),
        resamples: options.resamples,
        seed: options.seed,
      })
    : undefined;
  if (chances && compared.some(({ kept }) => kept.length >= NORMAL_FROM)) {
    notes.push(
      `From ${String(NORMAL_FROM)} readings of an item on, resampled means are drawn from their normal limit.`,
    );
  }
  const positions = places(
    merits,
    differences.map(({ a, b }, i) => ({ a, b, verdict: (pairs[i] as AnalysedPair).verdict })),
  );
  const ranking = ranked
    ? positions
        .map((place, i) => ({
          ...place,
          index: index[i] as number,
          chanceFirst: chances ? (chances[i] as number) : null,
        }))
        .sort((x, y) => x.place - y.place)
    : [];

  const groups = compared.map(({ kept }) => kept);
  const tests: Analysis['tests'] = {};
  if (compared.length > 1) {
    const classical = anova(groups);
    const welch = welchAnova(compared.map(locate));
    const kruskal = kruskalWallis(groups);
    if (classical) tests.anova = classical;
    if (welch) tests.welchAnova = welch;
    else notes.push('Welch’s test is not available, because an item has one reading or no spread.');
    if (kruskal) tests.kruskalWallis = kruskal;
    if (rounds) {
      const ranksInRounds = friedman(rounds);
      if (ranksInRounds) tests.friedman = ranksInRounds;
      if (residual) tests.blockedAnova = residual;
    }
  }

  return {
    items,
    tests,
    method,
    margin,
    pairs,
    ranking,
    findings: findings({
      items: readings.map(({ item, values }, i) => ({
        item,
        values,
        kept: (samples[i] as Sample).kept.length,
      })),
      unit: options.unit ?? '',
    }),
    notes,
  };
}
