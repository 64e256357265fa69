import { holm } from '../compare/holm.ts';
import { controlOutOfRange } from './control-range.ts';
import { digitSlip } from './digit-slip.ts';
import { drift } from './drift.ts';
import { firstOfRound } from './first-of-round.ts';
import type { InspectedStudy, Inspection, StudyFinding } from './inspection.ts';
import { capped } from './capped.ts';
import { clipped, otherGain } from './recorded.ts';
import { noResponse } from './no-response.ts';
import { overHundred } from './over-hundred.ts';
import { resolution, withinAccuracy } from './resolution.ts';
import { instrumentChanged, missingCondition, otherConditions } from './sessions.ts';
import { stuck } from './stuck.ts';
import { typedOutside } from './typed-outside.ts';
import { unequalSpread } from './unequal-spread.ts';
import { workedOutOtherwise } from './worked-out-otherwise.ts';

/** What is looked for, the most telling first. */
const INSPECTIONS: readonly Inspection[] = [
  controlOutOfRange,
  typedOutside,
  workedOutOtherwise,
  clipped,
  otherGain,
  overHundred,
  digitSlip,
  stuck,
  capped,
  noResponse,
  drift,
  firstOfRound,
  otherConditions,
  instrumentChanged,
  missingCondition,
  unequalSpread,
  resolution,
  withinAccuracy,
];

/** Level that all tests of a study share: a little below one in twenty, since with few readings they are not exact. */
const LEVEL = 0.04;

/**
 * All that is noticed in the readings of a study. What is a test shares one level with all others of the study, so that
 * a quiet study shows nothing in nineteen cases of twenty.
 * @source Holm (1979), Scandinavian Journal of Statistics 6
 */
export function inspect(study: InspectedStudy): StudyFinding[] {
  const seen = INSPECTIONS.flatMap((inspection) => inspection(study));
  const corrected = holm(seen.map(({ p }) => p));
  return seen.flatMap(({ p, finding }, i) =>
    p === null || (corrected[i] as number) < LEVEL ? [finding()] : [],
  );
}
