import { type Better, merit } from './better.ts';
import type { Contrast, PairDifference } from './method.ts';

export type VerdictWord = 'a ahead' | 'b ahead' | 'same' | 'not settled' | 'too few';
export type Matters = 'yes' | 'no' | 'unsure';
type Interval = readonly [number, number];

export interface Verdict {
  verdict: VerdictWord;
  /** Whether the difference is beyond the margin. */
  matters: Matters;
  /** Interval of a's advantage over b in the better direction; null where there is none. */
  advantage: Interval | null;
  /** a's advantage; by mean ranks where the method goes by ranks. */
  lead: number;
  /** Any larger margin makes them practically the same; none where no margin does. */
  sameAbove?: number;
  /** Single readings that lie closer together than the instrument can tell apart. */
  withinAccuracy?: true;
}

export interface VerdictInput {
  pair: PairDifference;
  means: readonly [number, number];
  /** Kept readings of a and of b. */
  counts: readonly [number, number];
  better: Better;
  /** Smallest difference that matters, in the readings' unit, ≥ 0. */
  margin: number;
  alpha: number;
  /** Variance of both means' rounding, which does not average out: step²/6; 0 where no step is known. */
  rounding?: number;
  /** Expanded uncertainty of one reading by the instrument's stated accuracy, where it is stated. */
  accuracy?: number | undefined;
  /** The values are exact figures, not readings. */
  exact?: boolean;
}

/** a's advantage, with its interval and one that carries the rounding too. */
interface Advantage {
  lead: number;
  interval: Interval;
  /** Decides whether it is the same, or matters. */
  wide: Interval;
  /** Where there is more than one condition to be ahead: whether all of them hold. */
  clear: 'a' | 'b' | undefined;
}

const flip = ([low, high]: Interval): Interval => [-high, -low];
const widened = (interval: Interval, by: number): Interval => [interval[0] - by, interval[1] + by];
const sideOf = ([low, high]: Interval): 1 | -1 | 0 => (low > 0 ? 1 : high < 0 ? -1 : 0);

/** How much wider an interval becomes when the rounding of both means is added to its standard error. */
function widening({ se, low, high }: { se: number; low: number; high: number }, rounding: number): number {
  if (rounding === 0) return 0;
  const half = (high - low) / 2;
  return se > 0 ? (half / se) * (Math.sqrt(se * se + rounding) - se) : 0;
}

function directed(pair: PairDifference & Contrast, better: Better, rounding: number): Advantage {
  const gap: Interval = [pair.low, pair.high];
  const [lead, interval] = better.kind === 'lower' ? [pair.difference, gap] : [-pair.difference, flip(gap)];
  const side = sideOf(interval);
  return {
    lead,
    interval,
    wide: widened(interval, widening(pair, rounding)),
    clear: side === 0 ? undefined : side > 0 ? 'a' : 'b',
  };
}

/**
 * Nearer to a target T: b's distance less a's is the smaller of |b − a| and |a + b − 2T|, and its sign is that of their
 * product, so a is nearer for sure only if both differ from 0 on sides that agree.
 */
function nearer(pair: PairDifference & Contrast, sum: Contrast, target: number, rounding: number): Advantage {
  const gap: Interval = [pair.low, pair.high];
  const beyond: Interval = [sum.low - 2 * target, sum.high - 2 * target];
  const [d, s] = [pair.difference, sum.estimate - 2 * target];
  const lead = Math.sign(d * s) * Math.min(Math.abs(d), Math.abs(s));
  const [closer, other] = Math.abs(d) <= Math.abs(s) ? [gap, beyond] : [beyond, gap];
  const by = Math.abs(d) <= Math.abs(s) ? widening(pair, rounding) : widening(sum, rounding);
  const otherSide = sideOf(other);
  const reach = Math.max(Math.abs(closer[0]), Math.abs(closer[1]));
  const interval: Interval = otherSide === 1 ? closer : otherSide === -1 ? flip(closer) : [-reach, reach];
  const product = sideOf(gap) * sideOf(beyond);
  return {
    lead,
    interval,
    wide: widened(interval, by),
    clear: product === 0 ? undefined : product > 0 ? 'a' : 'b',
  };
}

/**
 * What the readings support about two items, from the simultaneous interval D of a's advantage and the margin M:
 * the same if D lies within (−M, M); else ahead if D excludes 0, and it matters if D lies beyond M; else not
 * settled. Whether it is the same or matters is decided by D with the rounding of both means added. With a single
 * reading the instrument's accuracy U decides (ahead if |d| > √2·U), or nothing does. Near a target, both b − a and
 * a + b − 2T must exclude 0 on sides that agree.
 * @source interval inclusion for equivalence: Schuirmann (1987); comparison of two results: GUM, JCGM 100
 */
export function verdictOf(input: VerdictInput): Verdict {
  const { pair, means, counts, better, margin, alpha, rounding = 0, accuracy, exact = false } = input;
  const plainLead = merit(means[0], better) - merit(means[1], better);
  const ahead = (value: number): VerdictWord => (value > 0 ? 'a ahead' : 'b ahead');
  if (!exact && Math.min(...counts) < 2) {
    const clear = accuracy !== undefined && Math.abs(plainLead) > Math.SQRT2 * accuracy;
    return {
      verdict: clear ? ahead(plainLead) : 'too few',
      matters: 'unsure',
      advantage: null,
      lead: plainLead,
      ...(accuracy !== undefined && !clear ? { withinAccuracy: true as const } : {}),
    };
  }
  if (pair.low === null || pair.high === null || pair.se === null) {
    // A rank test gives no interval: it can say who is ahead, not whether by more than the margin.
    const { rankDifference } = pair;
    const lead =
      rankDifference === undefined ? plainLead : better.kind === 'lower' ? rankDifference : -rankDifference;
    const settled = pair.p !== null && pair.p < alpha && lead !== 0;
    return { verdict: settled ? ahead(lead) : 'not settled', matters: 'unsure', advantage: null, lead };
  }
  const whole = { ...pair, estimate: pair.difference, se: pair.se, low: pair.low, high: pair.high };
  const { lead, interval, wide, clear } =
    better.kind === 'nearest'
      ? nearer(whole, pair.sum ?? { ...whole, estimate: means[0] + means[1] }, better.target, rounding)
      : directed(whole, better, rounding);
  const sameAbove = Math.max(-wide[0], wide[1]);
  const found = { advantage: interval, lead, ...(Number.isFinite(sameAbove) ? { sameAbove } : {}) };
  if (margin > sameAbove) return { verdict: 'same', matters: 'no', ...found };
  if (clear !== undefined) {
    const beyond = clear === 'a' ? wide[0] : -wide[1];
    return {
      verdict: clear === 'a' ? 'a ahead' : 'b ahead',
      // Without a margin any lead matters.
      matters: margin === 0 || beyond > margin ? 'yes' : 'unsure',
      ...found,
    };
  }
  return { verdict: 'not settled', matters: 'unsure', ...found };
}
