import { spanText } from '../quantity/clock.ts';
import { counted, formatReading, listed, withUnit, wordFor } from '../quantity/format.ts';
import { median, medianAbsoluteDeviation, sorted } from '../summary/quantile.ts';
import type { TraceValue } from './quantities.ts';
import { type Series, type TimeWindow, within } from './series.ts';

/** Two rows further apart than so many usual steps have a gap between them. */
const GAP = 2.5;
/** A step is a jump where it is so many times what steps usually are, and so large a share of all that changes. */
const JUMP = 10;
const JUMP_OF_RANGE = 0.02;
/** Residuals so many times what the noise makes of them are no noise. */
const MISFIT = 3;
const FEWEST_ROWS = 10;

const steps = (of: Float64Array): Float64Array => of.slice(1).map((value, i) => value - (of[i] as number));

/** The usual time from row to row, s; NaN with fewer than two. */
export const usualStep = (times: Float64Array): number =>
  times.length < 2 ? Number.NaN : median(sorted(steps(times)));

/** Stretches of a window in which nothing was logged: where they begin, and how long they are, s. */
export function gapsOf(times: Float64Array, usual: number): { from: number; lengthS: number }[] {
  const gaps: { from: number; lengthS: number }[] = [];
  for (let i = 1; i < times.length; i += 1) {
    const lengthS = (times[i] as number) - (times[i - 1] as number);
    if (lengthS > GAP * usual) gaps.push({ from: times[i - 1] as number, lengthS });
  }
  return gaps;
}

/** The largest step from row to row, where it is none of the usual ones; gaps aside. */
function jumpOf({ times, values }: Series, usualS: number): { time: number; size: number } | undefined {
  if (values.length < FEWEST_ROWS) return undefined;
  const moves = steps(values);
  const middle = median(sorted(moves));
  const usual = Math.max(1.4826 * medianAbsoluteDeviation(sorted(moves)), smallestMove(moves));
  const [lowest, highest] = values.reduce(
    ([low, high], value) => [Math.min(low, value), Math.max(high, value)],
    [Infinity, -Infinity],
  );
  let best = { time: 0, size: 0 };
  for (let i = 0; i < moves.length; i += 1) {
    const lengthS = (times[i + 1] as number) - (times[i] as number);
    const size = (moves[i] as number) - middle;
    if (lengthS <= GAP * usualS && Math.abs(size) > Math.abs(best.size))
      best = { time: times[i + 1] as number, size };
  }
  const size = Math.abs(best.size);
  return size > JUMP * usual && size > JUMP_OF_RANGE * (highest - lowest) ? best : undefined;
}

/** The smallest change from row to row: the step of the instrument, where it shows. */
const smallestMove = (moves: Float64Array): number => {
  const smallest = moves.reduce(
    (least, move) => (move === 0 ? least : Math.min(least, Math.abs(move))),
    Infinity,
  );
  return Number.isFinite(smallest) ? smallest : 0;
};

/** By how much a fitted curve is off at most, where that is more than the noise of the rows can explain. */
function misfit({ times, values }: Series, from: number, curve: (t: number) => number): number | undefined {
  const residuals = values.map((value, i) => value - curve((times[i] as number) - from));
  const moves = steps(values);
  const rms = (of: Float64Array) => Math.sqrt(of.reduce((sum, x) => sum + x * x, 0) / Math.max(1, of.length));
  const noise = Math.max(rms(steps(moves)) / Math.sqrt(6), smallestMove(moves) / Math.sqrt(12));
  if (rms(residuals) <= MISFIT * noise) return undefined;
  return residuals.reduce((most, residual) => Math.max(most, Math.abs(residual)), 0);
}

/**
 * What to look at before a window of a trace is taken for a reading, each as a sentence.
 * @param series as it is asked, in the unit of the trace
 * @param usual time from row to row of the whole trace, s
 */
export function watchWindow(
  series: Series,
  window: TimeWindow,
  usual: number,
  { curve }: Pick<TraceValue, 'curve'>,
  unit: string,
): string[] {
  const cut = within(series, window);
  const shown = (size: number) => withUnit(formatReading(Number(size.toPrecision(2))), unit);
  const sentences: string[] = [];
  if (cut.times.length < FEWEST_ROWS)
    sentences.push(`Only ${counted(cut.times.length, 'row')} in the window.`);
  const gaps = gapsOf(cut.times, usual);
  if (gaps.length > 0) {
    const lost = gaps.reduce((sum, { lengthS }) => sum + lengthS, 0);
    const where = listed(gaps.slice(0, 3).map(({ from }) => spanText(from)));
    sentences.push(
      `${gaps.length === 1 ? 'A gap' : `${String(gaps.length)} gaps`} of ${spanText(lost)}${wordFor(gaps.length, '', ' in all')}, from ${where}${gaps.length > 3 ? ' and later' : ''}: a straight line stands in.`,
    );
  }
  const jump = jumpOf(cut, usual);
  if (jump) {
    sentences.push(
      `It jumps by ${jump.size > 0 ? '+' : '\u2212'}${shown(Math.abs(jump.size))} at ${spanText(jump.time)}. Did a probe slip?`,
    );
  }
  const off = curve && cut.times.length >= FEWEST_ROWS ? misfit(cut, window.from, curve) : undefined;
  if (off !== undefined)
    sentences.push(
      `It does not follow the fitted curve: it is off by up to ${shown(off)}, more than its noise.`,
    );
  return sentences;
}
