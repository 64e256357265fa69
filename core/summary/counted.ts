import { poissonInterval, wilsonInterval } from './intervals.ts';

/** Between which values a quantity is likely to lie, and what such an interval is called. */
export interface NamedInterval {
  low: number;
  high: number;
  method: string;
}

/** What was counted, from which its own statistics give an interval. */
export interface Counted {
  /** How many there were, a whole number. */
  events: number;
  /** How many there could have been, at least one and at least as many; undefined where nothing bounds them. */
  of?: number;
  /** The value of one event, or of a share of 1 where `of` is given. */
  worth: number;
}

/**
 * An interval for what was counted: Wilson's for so many of so many, Poisson's where nothing bounds them.
 * @param alpha 1 − coverage, 0 < alpha < 1
 * @returns ends in the unit of the value
 * @example countedInterval({ events: 8, of: 10, worth: 100 }, 0.05) // 49.0 to 94.3, “Wilson interval”
 */
export function countedInterval({ events, of, worth }: Counted, alpha: number): NamedInterval {
  const [low, high] = of === undefined ? poissonInterval(events, alpha) : wilsonInterval(events, of, alpha);
  return {
    low: low * worth,
    high: high * worth,
    method: of === undefined ? 'exact Poisson interval' : 'Wilson interval',
  };
}
