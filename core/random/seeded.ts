import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
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

/**
 * @param seed whole number, 0 ≤ seed < 2^32
 * @param stream a second number that makes a separate sequence from the same seed (a round's number, say)
 */
export function seededRandom(seed: number, stream = 0): SeededRandom {
  // An odd multiplier (2^32 divided by the golden ratio) spreads neighbouring streams apart.
  const generator = xoroshiro128plus((seed ^ Math.imul(stream, 0x9e3779b1)) | 0);
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
