import { formatPlain, withUnit } from '../quantity/format.ts';
import { statedAccuracy } from '../summary/instrument-uncertainty.ts';
import { moments } from '../summary/moments.ts';
import { COMMON, type Inspection, fact } from './inspection.ts';

const figure = (value: number) => formatPlain(Number(value.toPrecision(2)));

/** The step of the readings is no finer than the margin. */
export const resolution: Inspection = ({ measurands }) =>
  measurands.flatMap(({ measurand, step, derived, untested }) => {
    const { margin, unit, name, id } = measurand;
    if (derived || untested || margin.kind !== 'absolute' || margin.value === 0 || step <= margin.value)
      return [];
    return [
      fact({
        id: `resolution/${id}`,
        kind: 'resolution too coarse for the margin',
        measurandId: id,
        message: `${name} was read in steps of ${withUnit(figure(step), unit)}, and the margin is ${withUnit(figure(margin.value), unit)}.`,
        why: 'A difference that matters is smaller than one step of the display.',
        todo: 'Read with a finer instrument, or widen the margin.',
        source: COMMON,
        readingIds: [],
      }),
    ];
  });

/** Every difference between the items is smaller than what the instrument is good for. */
export const withinAccuracy: Inspection = ({ measurands, items }) =>
  measurands.flatMap(({ measurand, cells, derived, untested }) => {
    // Who does not rank the items asks for no difference between them.
    if (derived || untested || measurand.direction.kind === 'unranked') return [];
    const settings = [...new Set(cells.map(({ setting }) => setting))];
    const spans = settings.flatMap((setting) => {
      const means = cells.flatMap(({ itemId, setting: where, kept }) =>
        where === setting && kept.length > 0 && items.get(itemId)?.role !== 'control'
          ? [moments(kept.map(({ value }) => value as number)).mean]
          : [],
      );
      return means.length < 2
        ? []
        : [{ span: Math.max(...means) - Math.min(...means), at: Math.max(...means.map(Math.abs)) }];
    });
    const widest = spans.reduce<(typeof spans)[number] | undefined>(
      (most, group) => (most === undefined || group.span > most.span ? group : most),
      undefined,
    );
    const accuracy = widest && statedAccuracy(measurand.instrument, widest.at);
    if (!widest || accuracy === undefined || widest.span >= Math.SQRT2 * accuracy) return [];
    const { unit, name, id } = measurand;
    return [
      fact({
        id: `within accuracy/${id}`,
        kind: 'difference smaller than the instrument’s uncertainty',
        measurandId: id,
        message: `The items differ by ${withUnit(figure(widest.span), unit)} in ${name} at the most; one reading of the instrument is good to ± ${withUnit(figure(accuracy), unit)}.`,
        why: 'What is told apart here holds only as far as the instrument is wrong in the same way for every item.',
        todo: 'Read all items with the same instrument on the same day, or with a better one.',
        source: 'GUM, JCGM 100:2008, 4.3.7',
        readingIds: [],
      }),
    ];
  });
