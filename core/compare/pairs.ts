import {
  normalUpper,
  studentizedRangeQuantileUpper,
  studentizedRangeUpper,
  tQuantileUpper,
  tTwoSided,
} from '../distributions/index.ts';
import { type CompleteRounds, blockedAnova } from './complete-rounds.ts';
import { ranks } from './ranks.ts';
import { type Location, type Sample, locate } from './sample.ts';

export const PAIR_METHODS = ['tamhane-t2', 'games-howell', 'tukey', 'rounds', 'dunn'] as const;
export type PairMethodName = (typeof PAIR_METHODS)[number];

/** The difference of two items, with an interval that holds for all pairs of the study at once. */
export interface PairDifference {
  /** Indices of the two items. */
  a: number;
  b: number;
  /** mean(b) − mean(a), in the readings' unit. */
  difference: number;
  se: number | null;
  df: number | null;
  p: number | null;
  low: number | null;
  high: number | null;
}

/** What a pairwise method is given. */
export interface PairInput {
  samples: readonly Sample[];
  rounds: CompleteRounds | undefined;
  alpha: number;
}

export interface PairMethod {
  name: PairMethodName;
  label: string;
  /** Why it is used, in one sentence for the tester. */
  because: string;
  compare(input: PairInput): PairDifference[];
  /** Half-width of the interval in units of √(s_a² + s_b²), if each item had n readings; used to plan ahead. */
  criticalAt?(n: number, items: number, alpha: number): { critical: number; df: number };
}

const bare = (a: number, b: number, difference: number): PairDifference => ({
  a,
  b,
  difference,
  se: null,
  df: null,
  p: null,
  low: null,
  high: null,
});

function eachPair(
  samples: readonly Sample[],
  one: (a: Location, b: Location) => Omit<PairDifference, 'a' | 'b' | 'difference'> | undefined,
): PairDifference[] {
  const locations = samples.map(locate);
  const pairs: PairDifference[] = [];
  for (let a = 0; a < locations.length; a += 1) {
    for (let b = a + 1; b < locations.length; b += 1) {
      const left = locations[a] as Location;
      const right = locations[b] as Location;
      const difference = right.mean - left.mean;
      const enough = left.n > 1 && right.n > 1;
      const found = enough ? one(left, right) : undefined;
      pairs.push(found ? { a, b, difference, ...found } : bare(a, b, difference));
    }
  }
  return pairs;
}

/** Standard error and degrees of freedom of a difference (Welch 1947; Satterthwaite 1946). */
function welch(a: Location, b: Location): { se: number; df: number } {
  const variance = a.varianceOfMean + b.varianceOfMean;
  const denominator = a.varianceOfMean ** 2 / a.df + b.varianceOfMean ** 2 / b.df;
  return {
    se: Math.sqrt(variance),
    // Without any spread the readings say nothing on df; the pooled count stands in.
    df: denominator > 0 ? variance ** 2 / denominator : a.df + b.df,
  };
}

/** Interval and p of a difference where neither item shows any spread: the difference itself. */
const spreadless = (difference: number, df: number) => ({
  se: 0,
  df,
  p: difference === 0 ? 1 : 0,
  low: difference,
  high: difference,
});

/**
 * Tamhane's T2: Welch's t with Šidák's correction over all m pairs; Yuen's t under a trimming rule.
 * @source Tamhane (1979), Journal of the American Statistical Association 74; Šidák (1967)
 */
const tamhaneT2: PairMethod = {
  name: 'tamhane-t2',
  label: 'Tamhane’s T2',
  because: 'It allows each item its own spread and keeps its promise with few readings.',
  compare({ samples, alpha }) {
    const m = (samples.length * (samples.length - 1)) / 2;
    const each = -Math.expm1(Math.log1p(-alpha) / m);
    return eachPair(samples, (a, b) => {
      const difference = b.mean - a.mean;
      const { se, df } = welch(a, b);
      if (se === 0) return spreadless(difference, df);
      const half = tQuantileUpper(each / 2, df) * se;
      const p = -Math.expm1(m * Math.log1p(-tTwoSided(difference / se, df)));
      return { se, df, p, low: difference - half, high: difference + half };
    });
  },
  criticalAt(n, items, alpha) {
    const m = (items * (items - 1)) / 2;
    const df = 2 * (n - 1);
    return { critical: tQuantileUpper(-Math.expm1(Math.log1p(-alpha) / m) / 2, df), df };
  },
};

/** The library has no studentized range below two degrees of freedom, and two items need none. */
const rangeUpper = (t: number, groups: number, df: number) =>
  groups === 2 ? tTwoSided(t, df) : studentizedRangeUpper(Math.abs(t) * Math.SQRT2, groups, df);
const rangeCritical = (alpha: number, groups: number, df: number) =>
  groups === 2
    ? tQuantileUpper(alpha / 2, df)
    : studentizedRangeQuantileUpper(alpha, groups, df) / Math.SQRT2;

/** p and interval of a difference by the studentized range over all items. */
function byRange(difference: number, se: number, df: number, items: number, alpha: number) {
  if (se === 0) return spreadless(difference, df);
  if (items > 2 && df < 2) return { se, df, p: null, low: null, high: null };
  const half = rangeCritical(alpha, items, df) * se;
  const p = rangeUpper(difference / se, items, df);
  return { se, df, p, low: difference - half, high: difference + half };
}

/**
 * Games–Howell: Welch's t against the studentized range.
 * @source Games and Howell (1976), Journal of Educational Statistics 1
 */
const gamesHowell: PairMethod = {
  name: 'games-howell',
  label: 'Games–Howell',
  because:
    'It allows each item its own spread; with fewer than 7 readings it calls somebody ahead too often.',
  compare({ samples, alpha }) {
    return eachPair(samples, (a, b) => {
      const { se, df } = welch(a, b);
      return byRange(b.mean - a.mean, se, df, samples.length, alpha);
    });
  },
};

/**
 * Tukey's honestly significant difference, equal spread assumed (Tukey–Kramer where counts differ).
 * @source Tukey (1953); Kramer (1956), Biometrics 12
 */
const tukey: PairMethod = {
  name: 'tukey',
  label: 'Tukey’s HSD',
  because: 'It assumes that all items spread alike.',
  compare({ samples, alpha }) {
    const locations = samples.map(locate);
    const df = locations.reduce((sum, { n }) => sum + Math.max(0, n - 1), 0);
    const pooled =
      locations.reduce((sum, { n, varianceOfMean }) => sum + (n > 1 ? (n - 1) * n * varianceOfMean : 0), 0) /
      df;
    return eachPair(samples, (a, b) =>
      byRange(b.mean - a.mean, Math.sqrt(pooled * (1 / a.n + 1 / b.n)), df, samples.length, alpha),
    );
  },
};

/**
 * Differences within complete rounds: the studentized range on the residual of the two-way analysis.
 * @source Tukey (1953); randomized blocks, Fisher (1935)
 */
const rounds: PairMethod = {
  name: 'rounds',
  label: 'Rounds',
  because: 'Every item was read in every round, so what drifted between rounds cancels.',
  compare({ samples, rounds: matrix, alpha }) {
    const blocked = matrix && blockedAnova(matrix);
    if (!matrix || !blocked) throw new RangeError('the method “rounds” needs two complete rounds or more');
    const se = Math.sqrt((2 * blocked.msResidual) / matrix.length);
    return eachPair(samples, (a, b) => byRange(b.mean - a.mean, se, blocked.df2, samples.length, alpha));
  },
  criticalAt(n, items, alpha) {
    const df = (n - 1) * (items - 1);
    return { critical: df < 2 ? Number.POSITIVE_INFINITY : rangeCritical(alpha, items, df), df };
  },
};

/**
 * Dunn's test on mean ranks with Holm's correction. Gives p-values and no interval.
 * @source Dunn (1964), Technometrics 6; Holm (1979), Scandinavian Journal of Statistics 6
 */
const dunn: PairMethod = {
  name: 'dunn',
  label: 'Dunn',
  because: 'It compares ranks only, for readings that are marks in an order.',
  compare({ samples }) {
    const pooled = Float64Array.from(samples.flatMap(({ kept }) => [...kept]));
    const n = pooled.length;
    const ranked = ranks(pooled);
    const variance = (n * (n + 1)) / 12 - ranked.ties / (12 * (n - 1));
    let offset = 0;
    const meanRanks = samples.map(({ kept }) => {
      const own = ranked.ranks.subarray(offset, offset + kept.length);
      offset += kept.length;
      return own.reduce((sum, rank) => sum + rank, 0) / kept.length;
    });
    const pairs: PairDifference[] = [];
    for (let a = 0; a < samples.length; a += 1) {
      for (let b = a + 1; b < samples.length; b += 1) {
        const [left, right] = [samples[a] as Sample, samples[b] as Sample];
        const pair = bare(a, b, (right.summary.mean ?? Number.NaN) - (left.summary.mean ?? Number.NaN));
        const se = Math.sqrt(variance * (1 / left.kept.length + 1 / right.kept.length));
        if (se > 0 && Number.isFinite(se)) {
          const z = ((meanRanks[b] as number) - (meanRanks[a] as number)) / se;
          pair.p = Math.min(1, 2 * normalUpper(Math.abs(z)));
        }
        pairs.push(pair);
      }
    }
    const known = pairs.filter(({ p }) => p !== null).sort((x, y) => (x.p as number) - (y.p as number));
    let floor = 0;
    known.forEach((pair, i) => {
      floor = Math.max(floor, Math.min(1, (pair.p as number) * (known.length - i)));
      pair.p = floor;
    });
    return pairs;
  },
};

const METHODS: Record<PairMethodName, PairMethod> = {
  'tamhane-t2': tamhaneT2,
  'games-howell': gamesHowell,
  tukey,
  rounds,
  dunn,
};

export const pairMethod = (name: PairMethodName): PairMethod => METHODS[name];
