import { comparisonMethods } from './comparison.ts';
import { findingMethods } from './findings.ts';
import type { MethodGroup } from './method-entry.ts';
import { planningMethods, scoringMethods } from './planning.ts';
import { recordingMethods } from './recordings.ts';
import { errorMethods, relationMethods } from './relations.ts';
import { screeningMethods } from './screening.ts';
import { summaryMethods } from './summaries.ts';
import { traceMethods } from './traces.ts';

/** Every method, in the order of the work. */
export const METHODS: readonly MethodGroup[] = [
  screeningMethods,
  summaryMethods,
  traceMethods,
  recordingMethods,
  errorMethods,
  findingMethods,
  comparisonMethods,
  relationMethods,
  scoringMethods,
  planningMethods,
];
