const TINY = 1e-300;
const PRECISION = 1e-16;
/** The continued fraction needs about √max(a, b) steps; this is enough for a hundred million degrees of freedom. */
const MOST_STEPS = 20000;

/** Continued fraction of the incomplete beta function, for x < (a + 1)/(a + b + 2). */
function fraction(x: number, a: number, b: number): number {
  const atLeast = (value: number) => (Math.abs(value) < TINY ? TINY : value);
  let c = 1;
  let d = 1 / atLeast(1 - ((a + b) * x) / (a + 1));
  let result = d;
  for (let m = 1; m <= MOST_STEPS; m += 1) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / atLeast(1 + even * d);
    c = atLeast(1 + even / c);
    result *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / atLeast(1 + odd * d);
    c = atLeast(1 + odd / c);
    const change = d * c;
    result *= change;
    if (Math.abs(change - 1) < PRECISION) break;
  }
  return result;
}

/**
 * Upper tail of the beta distribution at u/(u + v), that is I_{v/(u + v)}(b, a). Given as two amounts, so that neither
 * end loses its digits.
 * @param u at least 0
 * @param v above 0
 * @param a first shape, above 0
 * @param b second shape, above 0
 * @param lnBeta logarithm of the complete beta function of a and b
 * @source continued fraction DLMF 8.17.22 by Lentz's method, as modified by Thompson and Barnett (1986)
 */
export function betaUpper(u: number, v: number, a: number, b: number, lnBeta: number): number {
  const [x, y] = [v / (u + v), u / (u + v)];
  if (y === 0) return 1;
  if (x === 0) return 0;
  const front = Math.exp(b * Math.log(x) + a * Math.log(y) - lnBeta);
  return x < (b + 1) / (a + b + 2)
    ? (front * fraction(x, b, a)) / b
    : Math.max(0, 1 - (front * fraction(y, a, b)) / a);
}
