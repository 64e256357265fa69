import type { Finding, Inspect, Inspected } from './finding.ts';
import { oddOne } from './odd-one.ts';
import { oneReading } from './one-reading.ts';
import { unbalancedCounts } from './unbalanced-counts.ts';

const INSPECTIONS: readonly Inspect[] = [oddOne, oneReading, unbalancedCounts];

/** All that is noticed about a set of readings. */
export const findings = (inspected: Inspected): Finding[] =>
  INSPECTIONS.flatMap((inspect) => inspect(inspected));
