import { logGamma } from './index.ts';
import { normalUpper } from './normal.ts';

/** Of finding a root, which is found long before. */
const MOST_STEPS = 60;

/** Nodes and weights of Gauss and Legendre's rule on [−1, 1]; Newton's method on the polynomial. */
function gaussLegendre(count: number): { x: number; weight: number }[] {
  return Array.from({ length: count }, (_, i) => {
    let x = Math.cos((Math.PI * (i + 0.75)) / (count + 0.5));
    let slope = 0;
    for (let step = 0; step < MOST_STEPS; step += 1) {
      let [before, value] = [1, x];
      for (let degree = 2; degree <= count; degree += 1) {
        [before, value] = [value, ((2 * degree - 1) * x * value - (degree - 1) * before) / degree];
      }
      slope = (count * (x * value - before)) / (x * x - 1);
      const change = value / slope;
      x -= change;
      if (Math.abs(change) < 1e-15) break;
    }
    return { x, weight: 2 / ((1 - x * x) * slope * slope) };
  });
}

const [FINE, COARSE] = [gaussLegendre(40), gaussLegendre(28)];

/** Integral over [from, to] by the rule given. */
function integral(nodes: typeof FINE, from: number, to: number, value: (x: number) => number): number {
  const [middle, half] = [(from + to) / 2, (to - from) / 2];
  return half * nodes.reduce((sum, { x, weight }) => sum + weight * value(middle + half * x), 0);
}

/** Beyond this the normal density adds less than 1e-13. */
const FAR = 7.5;

/** Loads, each with how often it is there. */
type Counted = readonly (readonly [load: number, times: number])[];

const counted = (loads: readonly number[]): Counted =>
  [...new Set(loads)].map((load) => [load, loads.filter((other) => other === load).length]);

/** Chance that all differences, in standard errors, lie within reach, their spread known: the common mean integrated out. */
const allWithin = (reach: number, loads: Counted): number =>
  // Both signs of the common mean give the same.
  2 *
  integral(FINE, 0, FAR, (z) => {
    let product = Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI);
    for (const [load, times] of loads) {
      const rest = Math.sqrt(1 - load * load);
      product *= (normalUpper((load * z - reach) / rest) - normalUpper((load * z + reach) / rest)) ** times;
    }
    return product;
  });

/**
 * Chance that none of several differences from one common mean, all with one pooled spread, exceeds c standard errors.
 * @param loads of each of the others, √(n_i/(n_i + n_0)): differences i and j correlate by load_i·load_j
 * @param df degrees of freedom of the pooled spread, ≥ 2; Infinity where it is known
 * @source Dunnett (1955), Journal of the American Statistical Association 50: the common mean and the pooled spread
 *   integrated out, by Gauss and Legendre
 */
export function dunnettWithin(c: number, loads: readonly number[], df: number): number {
  const held = counted(loads);
  if (!Number.isFinite(df)) return allWithin(c, held);
  // The pooled spread over the true one: s = √(χ²/df). Its density falls off on both sides of 1.
  const log = Math.LN2 + (df / 2) * Math.log(df / 2) - logGamma(df / 2);
  const width = 9 / Math.sqrt(2 * df);
  return integral(COARSE, Math.max(1e-9, 1 - width), 1 + width * (df < 5 ? 1.6 : 1), (s) => {
    const density = Math.exp(log + (df - 1) * Math.log(s) - (df * s * s) / 2);
    return density < 1e-16 ? 0 : density * allWithin(c * s, held);
  });
}

/**
 * The c that any of the differences exceeds with the given chance.
 * @example dunnettCritical(0.05, [Math.SQRT1_2, Math.SQRT1_2], 27) // 2.3334
 */
export function dunnettCritical(alpha: number, loads: readonly number[], df: number): number {
  let [low, high] = [0.5, 4];
  const missed = (c: number) => 1 - dunnettWithin(c, loads, df) - alpha;
  while (missed(high) > 0 && high < 1e4) [low, high] = [high, 2 * high];
  let [atLow, atHigh] = [missed(low), missed(high)];
  // False position with its standing end halved (Illinois).
  for (let step = 0; step < MOST_STEPS && high - low > 1e-9 * high; step += 1) {
    const c = (low * atHigh - high * atLow) / (atHigh - atLow);
    const chance = missed(c);
    if (Math.abs(chance) < 1e-11) return c;
    if (chance > 0) [low, atLow, atHigh] = [c, chance, atHigh / 2];
    else [high, atHigh, atLow] = [c, chance, atLow / 2];
  }
  return (low * atHigh - high * atLow) / (atHigh - atLow);
}
