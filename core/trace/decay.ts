import { tQuantileUpper } from '../distributions/index.ts';
import { type Curve, type CurveFit, fitCurve } from './least-squares.ts';
import type { Series } from './series.ts';

/** More rows than this settle no starting point better. */
const ENOUGH_TO_START = 400;
const STARTS = 60;
/** A time constant of so many windows is a straight line as far as anybody can see; where it comes to rest, or not. */
const MOST_WINDOWS = { toRest: 10, toZero: 1000 };
/** Fewer independent residuals than this give no interval. */
const FEWEST_INDEPENDENT = 8;

/**
 * c + a·exp(−t/τ) of the parameters ln τ, a and c: the logarithm keeps τ above 0. Without a third parameter it comes to
 * rest at 0.
 */
const decay: Curve = (t, parameters, gradient) => {
  const share = t / Math.exp(parameters[0] as number);
  const part = Math.exp(-share);
  const a = parameters[1] as number;
  if (gradient) {
    gradient[0] = a * part * share;
    gradient[1] = part;
    if (gradient.length > 2) gradient[2] = 1;
  }
  return a * part + (parameters[2] ?? 0);
};

export interface Decay {
  /** Time constant, s. */
  tau: number;
  /** An interval for it; undefined where the residuals are too few, or hang together too long. */
  interval: { low: number; high: number } | undefined;
  /** The curve at a time after the start of the window. */
  height: (t: number) => number;
}

/** The best straight fit of a and c for a given τ: its squares, and the two. */
function straightFit(times: Float64Array, values: Float64Array, tau: number, toZero: boolean) {
  let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
  for (let i = 0; i < times.length; i += 1) {
    const x = Math.exp(-(times[i] as number) / tau);
    const y = values[i] as number;
    n += 1;
    sx += x;
    sy += y;
    sxx += x * x;
    sxy += x * y;
  }
  const a = toZero ? sxy / sxx : (n * sxy - sx * sy) / (n * sxx - sx * sx);
  const c = toZero ? 0 : (sy - a * sx) / n;
  let squares = 0;
  for (let i = 0; i < times.length; i += 1)
    squares += ((values[i] as number) - c - a * Math.exp(-(times[i] as number) / tau)) ** 2;
  return { squares, a, c };
}

/** Some of the rows, evenly chosen. */
const some = (from: Float64Array): Float64Array => {
  const step = Math.max(1, Math.floor(from.length / ENOUGH_TO_START));
  return from.filter((_, i) => i % step === 0);
};

/** How like their neighbours residuals are: the correlation of each with the next. */
function neighbourCorrelation(residuals: Float64Array): number {
  let [products, squares] = [0, 0];
  for (let i = 0; i < residuals.length; i += 1) {
    const residual = residuals[i] as number;
    squares += residual * residual;
    if (i > 0) products += residual * (residuals[i - 1] as number);
  }
  return squares === 0 ? 0 : products / squares;
}

/**
 * How many standard errors the interval of a slowly changing parameter reaches to either side, where residuals are like
 * their neighbours: it grows by √((1 + r)/(1 − r)), and n residuals are worth n·(1 − r)/(1 + r) independent ones.
 * @returns undefined where these are too few
 * @source a first-order autoregression: variance of a mean times (1 + r)/(1 − r)
 */
export function multipleOf(residuals: Float64Array, parameters: number, alpha: number): number | undefined {
  const r = Math.max(0, Math.min(0.9999, neighbourCorrelation(residuals)));
  const worth = (residuals.length * (1 - r)) / (1 + r);
  if (worth < FEWEST_INDEPENDENT) return undefined;
  return Math.sqrt((1 + r) / (1 - r)) * tQuantileUpper(alpha / 2, worth - parameters);
}

/**
 * Fits an exponential decay by nonlinear least squares.
 * @param series times in seconds from the start of the window
 * @param toZero what it comes to rest at is known and was taken off
 * @returns the decay, or a sentence why there is none
 */
export function fitDecay(
  { times, values }: Series,
  toZero: boolean,
  alpha: number,
): Decay | { problem: string } {
  const parameters = toZero ? 2 : 3;
  if (times.length < parameters + 3)
    return { problem: `A time constant needs ${String(parameters + 3)} rows in the window at least.` };
  const span = (times[times.length - 1] as number) - (times[0] as number);
  if (values.every((value) => value === values[0]))
    return { problem: 'It does not change in the window, so that it has no time constant.' };
  const [someTimes, someValues] = [some(times), some(values)];
  const shortest = span / Math.max(10, times.length);
  const longest = span * (toZero ? MOST_WINDOWS.toZero : MOST_WINDOWS.toRest);
  let best = { squares: Infinity, tau: span, a: 0, c: 0 };
  for (let i = 0; i < STARTS; i += 1) {
    const tau = shortest * ((10 * longest) / shortest) ** (i / (STARTS - 1));
    const found = straightFit(someTimes, someValues, tau, toZero);
    if (found.squares < best.squares) best = { ...found, tau };
  }
  const fit: CurveFit | undefined = fitCurve(times, values, decay, [
    Math.log(best.tau),
    best.a,
    ...(toZero ? [] : [best.c]),
  ]);
  const [logTau = Number.NaN, a = Number.NaN, c = 0] = fit?.parameters ?? [];
  const tau = Math.exp(logTau);
  if (!fit || !(tau < longest)) {
    return {
      problem: 'The window is too straight for a time constant: nothing says where it would come to rest.',
    };
  }
  if (tau < shortest) return { problem: 'It is over before the second row: log faster.' };
  const height = (t: number) => c + a * Math.exp(-t / tau);
  const residuals = values.map((value, i) => value - height(times[i] as number));
  const multiple = multipleOf(residuals, parameters, alpha);
  const half = multiple === undefined ? Number.NaN : multiple * (fit.sds[0] as number);
  return {
    tau,
    height,
    interval: Number.isFinite(half) ? { low: tau * Math.exp(-half), high: tau * Math.exp(half) } : undefined,
  };
}
