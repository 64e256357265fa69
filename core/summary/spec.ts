import { wilsonInterval } from './intervals.ts';
import type { Direction, Limits, Spec } from '../model/parts.ts';

/** What a reading has besides its value that a spec may ask about. */
export interface SpecReading {
  /** In the measurand's unit; an error where it is read against a reference. */
  value: number;
  /** What the reference said, in the same unit; null where there is none. */
  reference: number | null;
}

/**
 * The limits that a spec sets to one reading, in the unit of its value.
 * @returns undefined where it sets none: per cent of a target or a reference that is 0 or is not there
 */
export function specLimits(
  { kind, low, high, below }: Spec,
  { kind: direction, target }: Direction,
  { reference }: Pick<SpecReading, 'reference'>,
): Limits | undefined {
  if (below && reference !== null && reference < below.split) {
    return { low: -below.within, high: below.within };
  }
  if (kind === 'absolute') return { low, high };
  const of = reference ?? (direction === 'nearest' ? target : null);
  if (of === null || of === 0) return undefined;
  const share = Math.abs(of) / 100;
  const turned = (percent: number | null) => (percent === null ? null : percent * share);
  if (reference !== null) return { low: turned(low), high: turned(high) };
  return {
    low: low === null ? null : of + low * share,
    high: high === null ? null : of + high * share,
  };
}

export type SpecVerdict = 'keeps' | 'does not keep' | 'not settled';

export interface WithinSpec {
  /** Readings that could be held against it. */
  n: number;
  within: number;
  /** Share within, 0 to 1, with its 95 % interval; null without a reading. */
  share: number | null;
  interval: readonly [number, number] | null;
  /** Whether the share is as large as asked for, as far as so many readings can say. */
  verdict: SpecVerdict | null;
}

/**
 * How many readings keep to a spec, and whether that is enough.
 * @param readings values in the measurand's unit; those that no limit can be set to are not counted
 * @param alpha 1 − coverage of the interval
 * @source Wilson (1927), JASA 22, for the interval; ISO 15197:2013 is the case ± 0.83 mmol/l below 5.55 mmol/l, ± 15 %
 *   from there on, 95 % within
 */
export function withinSpec(
  readings: readonly SpecReading[],
  spec: Spec,
  direction: Direction,
  alpha: number,
): WithinSpec {
  let n = 0;
  let within = 0;
  for (const reading of readings) {
    const limits = specLimits(spec, direction, reading);
    if (!limits) continue;
    n += 1;
    const slack = 1e-9 * Math.max(1, Math.abs(reading.value));
    const above = limits.low === null || reading.value >= limits.low - slack;
    if (above && (limits.high === null || reading.value <= limits.high + slack)) within += 1;
  }
  if (n === 0) return { n, within, share: null, interval: null, verdict: null };
  const interval = wilsonInterval(within, n, alpha);
  const asked = spec.share / 100;
  const verdict =
    asked >= 1
      ? within < n
        ? 'does not keep'
        : 'not settled'
      : interval[0] >= asked
        ? 'keeps'
        : interval[1] < asked
          ? 'does not keep'
          : 'not settled';
  return { n, within, share: within / n, interval, verdict };
}
