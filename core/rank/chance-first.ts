import type { CompleteRounds } from '../compare/complete-rounds.ts';
import { moments } from '../summary/moments.ts';
import { seededRandom } from '../random/seeded.ts';

export interface ResampleInput {
  /** Kept readings of each item. */
  samples: readonly Float64Array[];
  /** Complete rounds, one row a round: then whole rounds are drawn, so that what they share stays together. */
  rounds: CompleteRounds | undefined;
  /** Turns a mean so that more is better. */
  merit: (mean: number) => number;
  resamples: number;
  seed: number;
}

/** From this many readings on, a resampled mean is drawn from its normal limit instead of reading by reading. */
export const NORMAL_FROM = 500;

/** Lower-triangular root L of a covariance matrix, L·Lᵀ = covariance; rows without variance are left at 0. */
function triangularRoot(covariance: readonly Float64Array[]): Float64Array[] {
  const k = covariance.length;
  const root = Array.from({ length: k }, () => new Float64Array(k));
  for (let i = 0; i < k; i += 1) {
    const row = root[i] as Float64Array;
    for (let j = 0; j <= i; j += 1) {
      const other = root[j] as Float64Array;
      let rest = (covariance[i] as Float64Array)[j] as number;
      for (let c = 0; c < j; c += 1) rest -= (row[c] as number) * (other[c] as number);
      const pivot = other[j] as number;
      row[j] = i === j ? Math.sqrt(Math.max(0, rest)) : pivot > 0 ? rest / pivot : 0;
    }
  }
  return root;
}

/**
 * How often each item comes first when the readings are drawn again with replacement, within items, or by whole
 * rounds. Ties share. From 500 readings of an item (or rounds) on, the resampled means are drawn from the normal
 * distribution to which they then conform.
 * @returns a share from 0 to 1 per item; they sum to 1
 * @source Efron (1979), Annals of Statistics 7; ranks by bootstrap: Goldstein and Spiegelhalter (1996)
 */
export function chanceFirst(input: ResampleInput): number[] {
  const { samples, rounds, merit, resamples, seed } = input;
  const k = samples.length;
  const random = seededRandom(seed);
  const first = new Float64Array(k);
  const means = new Float64Array(k);

  const tally = () => {
    let best = Number.NEGATIVE_INFINITY;
    let winners: number[] = [];
    for (let item = 0; item < k; item += 1) {
      const own = merit(means[item] as number);
      if (own > best) {
        best = own;
        winners = [item];
      } else if (own === best) winners.push(item);
    }
    for (const winner of winners) first[winner] = (first[winner] as number) + 1 / winners.length;
  };

  const large = rounds ? rounds.length >= NORMAL_FROM : samples.every(({ length }) => length >= NORMAL_FROM);
  if (rounds && large) {
    const centre = samples.map((sample) => moments(sample).mean);
    const covariance = Array.from({ length: k }, () => new Float64Array(k));
    for (const round of rounds) {
      for (let i = 0; i < k; i += 1) {
        const row = covariance[i] as Float64Array;
        const deviation = (round[i] as number) - (centre[i] as number);
        for (let j = 0; j <= i; j += 1) {
          row[j] =
            (row[j] as number) +
            (deviation * ((round[j] as number) - (centre[j] as number))) / rounds.length ** 2;
        }
      }
    }
    const root = triangularRoot(covariance);
    const draws = new Float64Array(k);
    for (let resample = 0; resample < resamples; resample += 1) {
      for (let item = 0; item < k; item += 1) draws[item] = random.normal();
      for (let item = 0; item < k; item += 1) {
        let mean = centre[item] as number;
        for (let c = 0; c <= item; c += 1) {
          mean += ((root[item] as Float64Array)[c] as number) * (draws[c] as number);
        }
        means[item] = mean;
      }
      tally();
    }
  } else if (rounds) {
    for (let resample = 0; resample < resamples; resample += 1) {
      means.fill(0);
      for (let draw = 0; draw < rounds.length; draw += 1) {
        const round = rounds[random.below(rounds.length)] as Float64Array;
        for (let item = 0; item < k; item += 1)
          means[item] = (means[item] as number) + (round[item] as number);
      }
      for (let item = 0; item < k; item += 1) means[item] = (means[item] as number) / rounds.length;
      tally();
    }
  } else {
    const limits = samples.map((sample) => {
      const { n, mean, sumOfSquares } = moments(sample);
      return { n, mean, se: Math.sqrt(sumOfSquares) / n };
    });
    for (let resample = 0; resample < resamples; resample += 1) {
      for (let item = 0; item < k; item += 1) {
        const { n, mean, se } = limits[item] as { n: number; mean: number; se: number };
        if (n >= NORMAL_FROM) {
          means[item] = mean + se * random.normal();
          continue;
        }
        const sample = samples[item] as Float64Array;
        let sum = 0;
        for (let draw = 0; draw < n; draw += 1) sum += sample[random.below(n)] as number;
        means[item] = sum / n;
      }
      tally();
    }
  }
  return Array.from(first, (count) => count / resamples);
}
