import { factorLevels } from '../plan/grid.ts';
import { formatPlain, withUnit } from '../quantity/format.ts';
import { moments } from '../summary/moments.ts';
import { COMMON, type Inspection, fact } from './inspection.ts';

/** Whatever a factor is set to, the readings stay where they are, to within one step of the display. */
export const noResponse: Inspection = ({ document, measurands }) =>
  factorLevels(document)
    .filter(({ factor, levels }) => factor.kind === 'numeric' && levels.length > 1)
    .flatMap(({ factor, levels }) =>
      measurands.flatMap(({ measurand, cells, step, derived, untested }) => {
        if (derived || untested || step === 0) return [];
        const means = levels.flatMap(({ id }) => {
          const values = cells
            .filter(({ setting }) => setting.split('/').includes(id))
            .flatMap(({ kept }) => kept.map(({ value }) => value as number));
          return values.length > 1 ? [moments(values).mean] : [];
        });
        if (means.length < levels.length) return [];
        const span = Math.max(...means) - Math.min(...means);
        if (span > step) return [];
        return [
          fact({
            id: `no response/${measurand.id}/${factor.id}`,
            kind: 'no response to a factor',
            measurandId: measurand.id,
            message: `${measurand.name} moves by ${withUnit(formatPlain(Number(span.toPrecision(2))), measurand.unit)} over all levels of ${factor.name}, no more than one step of the display.`,
            why: 'A factor that should move the readings and does not was perhaps never set, or the instrument does not see it.',
            todo: `Check one reading at each end of ${factor.name} by hand.`,
            source: COMMON,
            readingIds: [],
          }),
        ];
      }),
    );
