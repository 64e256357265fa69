import { formatReading, withUnit } from '../quantity/format.ts';
import { moments } from '../summary/moments.ts';
import type { Inspection } from './inspection.ts';
import { residuals, slopeWithin } from './residuals.ts';

/** With fewer readings a drift is not looked for. */
const FEWEST = 12;

/** Readings rise or fall along the run order, whatever item they are of. */
export const drift: Inspection = ({ measurands }) =>
  measurands.flatMap((inspected) => {
    const { measurand, derived, untested } = inspected;
    if (derived || untested) return [];
    const { residuals: left } = residuals(inspected);
    if (left.length < FEWEST) return [];
    const found = slopeWithin(
      left.map(({ observation, value }, along) => ({
        cell: `${observation.setting}/${observation.itemId}`,
        along,
        value,
      })),
    );
    if (!found) return [];
    return [
      {
        p: found.p,
        finding: () => {
          const third = Math.floor(left.length / 3);
          const mean = (part: typeof left) => moments(part.map(({ value }) => value)).mean;
          const moved = mean(left.slice(-third)) - mean(left.slice(0, third));
          const figure = withUnit(formatReading(Number(Math.abs(moved).toPrecision(2))), measurand.unit);
          return {
            id: `drift/${measurand.id}`,
            kind: 'drift',
            measurandId: measurand.id,
            message: `${measurand.name} ${moved > 0 ? 'rises' : 'falls'} along the run order: the last third reads ${figure} ${moved > 0 ? 'higher' : 'lower'} than the first.`,
            why: 'Something changed while you read: warmth, wear, a battery. Items read late are not read as the early ones were.',
            todo: 'Compare within rounds, where a drift cancels; look for its cause before the next session.',
            source: 'slope within items, tested with all findings of the study at 0.05 together',
            method: 'drift',
            readingIds: [],
          };
        },
      },
    ];
  });
