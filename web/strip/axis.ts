import { scaleLinear, scaleLog } from 'd3-scale';
import { suitsRatios } from './layout.ts';

/** An axis of values in px. */
export interface ValueAxis {
  place: (value: number) => number;
  ticks: number[];
  low: number;
  high: number;
  /** Whether equal lengths are equal ratios. */
  ratios: boolean;
}

/** How far, as a share of what the values span, ends of intervals may widen an axis on either side. */
const WIDENING = 0.35;

/**
 * An axis that shows all values, and the ends of intervals as far as they do not push the values together.
 * @param from px of the lowest value
 * @param to px of the highest
 * @param ratios whether equal ratios may be used, where the values suit them
 */
export function valueAxis(
  values: readonly number[],
  ends: readonly number[],
  { from, to, count, ratios: allowed }: { from: number; to: number; count: number; ratios: boolean },
): ValueAxis {
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const ratios = allowed && suitsRatios(values);
  const turn = ratios ? Math.log : (value: number) => value;
  const back = ratios ? Math.exp : (value: number) => value;
  const [bottom, top] = [turn(least), turn(most)];
  const span = top - bottom || Math.abs(top) * 0.1 || 1;
  const reach = ends
    .filter((end) => !ratios || end > 0)
    .map((end) => Math.min(top + WIDENING * span, Math.max(bottom - WIDENING * span, turn(end))));
  const low = back(Math.min(bottom, ...reach) - 0.06 * span);
  const high = back(Math.max(top, ...reach) + 0.06 * span);
  return axisOver({ low, high, ratios }, { from, to, count });
}

/** An axis from a value to another; what lies beyond is placed at its edge. */
export function axisOver(
  { low, high, ratios }: Pick<ValueAxis, 'low' | 'high' | 'ratios'>,
  { from, to, count }: { from: number; to: number; count: number },
): ValueAxis {
  const scale = (ratios ? scaleLog() : scaleLinear()).domain([low, high]).range([from, to]).clamp(true);
  return {
    place: (value) => (ratios && value <= 0 ? from : scale(value)),
    ticks: ticksOf(scale, ratios, count),
    ...{ low, high, ratios },
  };
}

/** Round values along an axis; of an axis of ratios those that are not too near to one another. */
function ticksOf(
  scale: { ticks: (count?: number) => number[]; (value: number): number },
  ratios: boolean,
  count: number,
): number[] {
  const ticks = scale.ticks(count);
  if (!ratios) return ticks;
  const [low, high] = [scale(ticks[0] ?? 1), scale(ticks.at(-1) ?? 1)];
  const least = Math.abs(high - low) / (2.2 * count);
  const kept: number[] = [];
  // Ones, twos and fives first, then what fits between.
  const rank = (tick: number) => ![1, 2, 5].includes(Number(tick.toExponential().split('e')[0]));
  for (const tick of [...ticks].sort((a, b) => Number(rank(a)) - Number(rank(b)) || a - b)) {
    if (kept.every((other) => Math.abs(scale(other) - scale(tick)) >= least)) kept.push(tick);
  }
  return kept.sort((a, b) => a - b);
}

/**
 * Places of labels in px, none nearer to the next than a line, each as near to its mark as that allows.
 * @param wanted places of the marks, from the top or in any order
 */
export function spreadLabels(wanted: readonly number[], line: number, top: number, bottom: number): number[] {
  const order = wanted.map((_, i) => i).sort((a, b) => (wanted[a] as number) - (wanted[b] as number));
  const places = [...wanted];
  let last = Number.NEGATIVE_INFINITY;
  for (const i of order) {
    places[i] = Math.max(wanted[i] as number, last + line, top);
    last = places[i];
  }
  let next = Number.POSITIVE_INFINITY;
  for (const i of [...order].reverse()) {
    places[i] = Math.min(places[i] as number, next - line, bottom);
    next = places[i];
  }
  return places;
}
