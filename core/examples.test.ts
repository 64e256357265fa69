import { describe, expect, it } from 'vitest';
import { ranks } from './compare/ranks.ts';
import { swappedDigits } from './bench/slip.ts';
import { identifierOf } from './expression/names.ts';
import { proposeCode } from './plan/code.ts';
import { planDuration } from './plan/duration.ts';
import { power, readingsNeeded } from './plan/power.ts';
import { williamsSquare } from './plan/williams.ts';
import { clockText } from './quantity/clock.ts';
import { decimalsFor, formatReading } from './quantity/format.ts';
import { parseQuantity } from './quantity/parse.ts';
import { convert } from './quantity/units.ts';
import { extremeDeviateLimit } from './screening/extreme-deviates.ts';
import { energyMean } from './summary/energy.ts';
import { poissonInterval, wilsonInterval } from './summary/intervals.ts';
import { uniformity } from './summary/uniformity.ts';
import { instrumentUncertainty } from './summary/instrument-uncertainty.ts';
import { moments } from './summary/moments.ts';
import { quantile } from './summary/quantile.ts';
import { summarise } from './summary/summary.ts';

describe('the example in each docstring holds', () => {
  it.each<[string, () => unknown, unknown]>([
    ['moments', () => moments([1, 2, 3]), { n: 3, mean: 2, sumOfSquares: 2 }],
    ['clockText', () => clockText(258.63), '4:18.6'],
    ['quantile', () => quantile([1, 2, 3, 4], 0.25), 1.75],
    [
      'summarise',
      () => summarise([4, 5, 6], 0.05).interval?.map((x) => Number(x.toFixed(3))),
      [2.516, 7.484],
    ],
    ['extremeDeviateLimit', () => Number(extremeDeviateLimit(8, 0.05).toFixed(4)), 2.1266],
    [
      'ranks',
      () => ({ ...ranks([10, 20, 20]), ranks: [...ranks([10, 20, 20]).ranks] }),
      { ranks: [1, 2.5, 2.5], ties: 6 },
    ],
    [
      'instrumentUncertainty',
      () =>
        Number(
          instrumentUncertainty(
            { resolution: 0.1, accuracyPercent: null, accuracyConstant: null },
            1,
          )?.toFixed(4),
        ),
      0.0577,
    ],
    ['parseQuantity', () => parseQuantity('12,5 m/s', 'm/s'), { number: 12.5, plain: true }],
    ['decimalsFor', () => decimalsFor(0.0374), 3],
    ['proposeCode', () => proposeCode('Larch 3', ['L']), 'L3'],
    ['swappedDigits', () => swappedDigits(3.9, 2), [9.3, 3.09]],
    ['uniformity', () => uniformity([8, 10, 12, 10])?.christiansen, 90],
    ['energyMean', () => Number(energyMean(Float64Array.of(60, 70)).mean.toFixed(2)), 67.4],
    ['wilsonInterval', () => wilsonInterval(8, 10, 0.05).map((x) => Number(x.toFixed(3))), [0.49, 0.943]],
    ['poissonInterval', () => poissonInterval(10, 0.05).map((x) => Number(x.toFixed(3))), [4.795, 18.39]],
    ['identifierOf', () => identifierOf('Air speed, 1 m'), 'air_speed_1_m'],
    ['formatReading', () => [formatReading(1013.25), formatReading(100 / 3)], ['1013.25', '33.33']],
    ['convert', () => convert(1, 'in', 'mm'), 25.4],
    ['williamsSquare', () => williamsSquare(4)[0], [0, 1, 3, 2]],
    ['power', () => Number(power(10, { difference: 1.5, sd: 1, alpha: 0.05 }).toFixed(4)), 0.887],
    ['readingsNeeded', () => Math.ceil(readingsNeeded(0.9, { difference: 1, sd: 1, alpha: 0.05 }) ?? 0), 23],
    [
      'planDuration',
      () =>
        planDuration(
          {
            rounds: 8,
            itemChanges: 48,
            levelChanges: 0,
            readings: [{ measurand: 'Pull', count: 48, eachS: 20 }],
          },
          {
            setupS: 25,
            levelS: 0,
            roundWaitS: 0,
            sessionS: 7200,
            sessionsPerDay: 1,
            waitS: { session: 0, item: 0, reading: 0 },
          },
        ).totalS,
      36 * 60,
    ],
  ])('%s', (_name, work, expected) => {
    expect(work()).toEqual(expected);
  });
});
