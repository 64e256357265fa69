import { formatReading, withUnit } from '../quantity/format.ts';
import type { Inspection } from './inspection.ts';
import { groupsDiffer, residuals } from './residuals.ts';

/** With fewer rounds nothing can be said of their first readings. */
const FEWEST = 5;

/** The first reading of each round, or of each session, differs from the others. */
export const firstOfRound: Inspection = ({ measurands }) =>
  measurands.flatMap((inspected) => {
    const { measurand, derived, untested } = inspected;
    if (derived || untested) return [];
    const { residuals: left } = residuals(inspected);
    return (['round', 'session'] as const).flatMap((what) => {
      const seen = new Set<string>();
      const [first, rest]: [number[], number[]] = [[], []];
      for (const { observation, value } of left) {
        if (what === 'round' && !observation.sharesRound) continue;
        const key =
          what === 'round'
            ? `${observation.setting}/${String(observation.round)}`
            : (observation.sessionId ?? '');
        if (seen.has(key)) rest.push(value);
        else {
          seen.add(key);
          first.push(value);
        }
      }
      const found = first.length >= FEWEST && rest.length >= FEWEST ? groupsDiffer(first, rest) : undefined;
      if (!found) return [];
      return [
        {
          p: found.p,
          finding: () => ({
            id: `first of a ${what}/${measurand.id}`,
            kind: `first of a ${what}`,
            measurandId: measurand.id,
            message: `The first reading of a ${what} is ${found.difference > 0 ? 'higher' : 'lower'} than the others, by ${withUnit(formatReading(Number(Math.abs(found.difference).toPrecision(2))), measurand.unit)} of ${measurand.name} on average.`,
            why: `What comes first meets a cold instrument, or a hand that is not warmed up; the item that it falls on pays for it.`,
            todo: `Take one reading before each ${what} that does not count, or let the order shuffle.`,
            source: 'Welch’s test of first against later, within the level of all findings',
            method: 'first-of-round',
            readingIds: [],
          }),
        },
      ];
    });
  });
