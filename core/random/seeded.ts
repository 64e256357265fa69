import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import type { RandomGenerator } from 'pure-rand/types/RandomGenerator';
import { uniformInt } from 'pure-rand/distribution/uniformInt';

/** A seeded source of random draws: the same seed gives the same draws on every machine. */
export interface SeededRandom {
  /** A whole number from 0 to n − 1, each equally likely. */
  below(n: number): number;
  /** A number in (0, 1), from 32 random bits. */
  unit(): number;
  /** A draw of the standard normal distribution (Box and Muller 1958). */
  normal(): number;
}

/** 2^32 divided by the golden ratio, odd: its multiples lie far apart. */
const GOLDEN = 0x9e3779b1;
/** The first draws still show how the generator's state was filled from 32 bits. */
const FIRST_DRAWS = 8;

/**
 * Mixes a number, so that numbers near each other give results that have nothing to do with each other.
 * @param number whole
 * @returns a whole number, 0 ≤ result < 2^32, another for each of the 2^32 numbers
 * @source Appleby’s finalizer of MurmurHash3 (from memory)
 */
export function mixed(number: number): number {
  let bits = number | 0;
  bits = Math.imul(bits ^ (bits >>> 16), 0x85ebca6b);
  bits = Math.imul(bits ^ (bits >>> 13), 0xc2b2ae35);
  return (bits ^ (bits >>> 16)) >>> 0;
}

/**
 * Draws from one seed alone. Streams of near numbers begin alike, or opposite: what draws from many streams of one
 * seed takes mixedRandom.
 * @param seed whole number, 0 ≤ seed < 2^32
 * @param stream a second number that makes a separate sequence from the same seed
 */
export const seededRandom = (seed: number, stream = 0): SeededRandom =>
  drawsOf(xoroshiro128plus((seed ^ Math.imul(stream, GOLDEN)) | 0));

/**
 * Draws that have nothing to do with those of other streams of the same seed, nor with those of other seeds.
 * @param seed whole number, 0 ≤ seed < 2^32
 * @param stream a round's number, say
 */
export function mixedRandom(seed: number, stream: number): SeededRandom {
  const generator = xoroshiro128plus(mixed(mixed(seed + GOLDEN) + Math.imul(stream, GOLDEN)));
  for (let draw = 0; draw < FIRST_DRAWS; draw += 1) generator.next();
  return drawsOf(generator);
}

function drawsOf(generator: RandomGenerator): SeededRandom {
  const unit = () => ((generator.next() >>> 0) + 0.5) / 4294967296;
  let spare: number | undefined;
  return {
    below: (n) => uniformInt(generator, 0, n - 1),
    unit,
    normal: () => {
      if (spare !== undefined) {
        const kept = spare;
        spare = undefined;
        return kept;
      }
      const radius = Math.sqrt(-2 * Math.log(unit()));
      const angle = 2 * Math.PI * unit();
      spare = radius * Math.sin(angle);
      return radius * Math.cos(angle);
    },
  };
}

/** A shuffled copy (Fisher and Yates 1938; Durstenfeld 1964), every order equally likely. */
export function shuffled<T>(values: readonly T[], random: SeededRandom): T[] {
  const result = [...values];
  for (let last = result.length - 1; last > 0; last -= 1) {
    const chosen = random.below(last + 1);
    const held = result[last] as T;
    result[last] = result[chosen] as T;
    result[chosen] = held;
  }
  return result;
}
