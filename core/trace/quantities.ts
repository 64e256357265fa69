/** What can be made of a stretch of a trace. */
export const TRACE_QUANTITIES = [
  'mean',
  'peak',
  'lowest',
  'valueAt',
  'timeTo',
  'within',
  'recovery',
  'slope',
  'fastest',
  'timeConstant',
  'halfLife',
  'area',
] as const;
export type TraceQuantity = (typeof TRACE_QUANTITIES)[number];

/** What is asked of a stretch of a trace. */
export interface TraceQuestion {
  quantity: TraceQuantity;
  /** The level that is waited for, in the unit of the trace. */
  threshold: number;
  /** The band, in the unit of the trace. */
  low: number;
  high: number;
  /** Seconds after the start of the window at which the value is wanted. */
  afterS: number;
  /** What it comes to rest at was taken off. */
  toZero: boolean;
}

/** What comes of it: seconds, units of the trace, or both; with what is odd. */
export interface TraceValue {
  value: number;
  /** Where the question has an interval of its own. */
  interval?: { low: number; high: number };
  /** Why it has none, or what to look at, as sentences. */
  remarks: string[];
  /** A moment that the value was taken at or ends at, s from the start of the window. */
  moment?: number;
  /** The curve that was fitted, over seconds from the start of the window. */
  curve?: (t: number) => number;
}
