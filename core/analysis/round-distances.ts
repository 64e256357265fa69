import type { Observation } from '../observations/observation.ts';
import { roundCentres } from '../screening/round-centres.ts';

/** Figures of a distance that are shown: enough for any reading, and free of what is lost in taking the difference. */
const FIGURES = 6;

/**
 * How far each reading of a setting is from the median of its round, which is what a rule judges in rounds. Medians are of
 * the readings that a rule judges: those that were left out by hand have a distance, and no part in it.
 * @returns by the id of the reading, in its unit; undefined where rounds are not shared
 */
export function roundDistances(readings: readonly Observation[]): Map<string, number> | undefined {
  const judged = readings.filter(
    ({ use, value, sharesRound }) =>
      value !== null && sharesRound && (use.is === 'kept' || use.by === 'rule'),
  );
  const centres = roundCentres([
    { values: judged.map(({ value }) => value as number), rounds: judged.map(({ round }) => round) },
  ]);
  if (!centres) return undefined;
  const distances = new Map<string, number>();
  for (const { id, value, round, sharesRound } of readings) {
    const centre = sharesRound ? centres.get(round) : undefined;
    if (value !== null && centre !== undefined)
      distances.set(id, Number((value - centre).toPrecision(FIGURES)));
  }
  return distances;
}
