import { cellName } from '../core/forms/grid.ts';
import { runQueue } from '../core/bench/queue.ts';
import { seededRandom } from '../core/random/seeded.ts';
import { SPRINKLERS } from './truths.ts';
import { buildDemo } from './build.ts';

/** The flow meter reads high until its bearing is warm: share, and the time in which it fades to a third. */
const WARM_UP = { excess: 0.06, tauS: 2400 };

/**
 * Four invented lawn sprinklers on a 5 × 5 grid of catch cups. Planted in it: a flow meter that warms up, a clogged nozzle
 * in one round, a cup that was knocked over, wind that rises above the limit, pressure that sinks.
 */
export function lawnSprinklers() {
  const demo = buildDemo({
    title: 'Lawn sprinklers',
    question: 'Which sprinkler waters a small lawn most evenly?',
    start: '2026-06-27T06:30:00Z',
    tail: '00000000fa07',
    seed: 2525,
    study: {
      rounds: 4,
      timing: { setupS: 300, levelS: 0, roundWaitS: 0, sessionS: 14400, sessionsPerDay: 1 },
      procedure: {
        beforeSession: [
          'Catch cups level, 1 m apart, empty',
          'Pressure at the tap 2 bar',
          'Wind under 4 m/s',
        ],
        beforeReading: ['Sprinkler at the middle of the grid', 'Tap shut before the cups are read'],
        waits: [{ what: 'Sprinkler runs', durationS: 900, when: 'item' }],
      },
      materials: ['25 catch cups', 'Measuring cylinder', 'Pressure gauge', 'Hand anemometer', 'Timer'],
      confounds: [
        { what: 'Wind', handling: 'recorded', note: 'wait above 4 m/s' },
        { what: 'Pressure at the tap', handling: 'held', note: '2 bar' },
      ],
      hazards: ['stored-energy'],
    },
    items: [
      { name: 'Arvo 360', code: 'A3', attributes: [{ name: 'Price', value: 14, unit: 'EUR' }] },
      { name: 'Brookle', code: 'BK', attributes: [{ name: 'Price', value: 32, unit: 'EUR' }] },
      { name: 'Cassin', code: 'CS', attributes: [{ name: 'Price', value: 19, unit: 'EUR' }] },
      { name: 'Dewlo', code: 'DW', attributes: [{ name: 'Price', value: 24, unit: 'EUR' }] },
    ],
    measurands: [
      {
        name: 'Evenness',
        form: 'grid',
        unit: '%',
        settings: { rows: 5, columns: 5, statistic: 'christiansen', readUnit: 'mL' },
        margin: { kind: 'absolute', value: 3 },
        limits: { low: 0, high: 100 },
        instrument: {
          name: 'Measuring cylinder',
          resolution: 1,
          accuracyPercent: null,
          accuracyConstant: 1,
          calibratedOn: null,
        },
      },
      {
        name: 'Water used',
        form: 'value',
        unit: 'L/min',
        direction: { kind: 'lower', target: null },
        margin: { kind: 'percent', value: 5 },
        limits: { low: 1, high: 40 },
      },
    ],
    conditions: [
      { quantity: 'Wind', unit: 'm/s', required: true, limits: { low: null, high: 4 } },
      { quantity: 'Pressure at the tap', unit: 'bar', required: true, tolerableDrift: 0.2 },
      { quantity: 'Lawn', kind: 'word', unit: '', words: ['dry', 'damp', 'wet'] },
    ],
    claims: [
      { measurand: 'Evenness', item: 'BK', value: 85, unit: '%', source: 'Leaflet of the Brookle' },
      { measurand: 'Evenness', order: ['BK', 'DW', 'CS', 'A3'], source: 'By price' },
    ],
  });
  const { document, start } = demo;
  const random = seededRandom(20260627);
  let clock = start;
  const about = { operator: 'Garden', instrument: 'Measuring cylinder' };
  const session = demo.startSession(clock - 600000, about, {
    ...{ Wind: '1.8', 'Pressure at the tap': '2.0' },
    Lawn: 'dry',
  });
  for (const run of runQueue(document)) {
    const { item, measurand, round } = run;
    const sprinkler = SPRINKLERS.find(({ name }) => name === item.name) as (typeof SPRINKLERS)[number];
    if (measurand.form !== 'grid') {
      clock += 60000;
      const onS = (clock - start) / 1000;
      const flow =
        sprinkler.flow * (1 + WARM_UP.excess * Math.exp(-onS / WARM_UP.tauS)) + 0.08 * random.normal();
      demo.record(run, clock, { value: flow.toFixed(1) }, session);
      continue;
    }
    clock += 1080000 + random.below(60000);
    const cups: Record<string, string> = {};
    for (let row = 0; row < 5; row += 1) {
      for (let column = 0; column < 5; column += 1) {
        const away = Math.hypot(row - 2, column - 2) / Math.hypot(2, 2);
        const clogged = item.name === 'Cassin' && round === 3 && row >= 3 && column <= 1;
        const share = (1 - (1 - sprinkler.rim) * away) * (1 + sprinkler.ragged * random.normal());
        const millilitres = Math.max(0, sprinkler.middleMl * share * (clogged ? 0.25 : 1));
        cups[cellName(row, column)] = millilitres.toFixed(0);
      }
    }
    // A cup that a bird knocked over was left empty.
    if (item.name === 'Dewlo' && round === 2) cups[cellName(0, 4)] = '';
    const reading = demo.record(run, clock, cups, session);
    if (item.name === 'Dewlo' && round === 2)
      demo.note('Cup 1/5 knocked over', clock + 1000, { readingId: reading.id });
    if (item.name === 'Cassin' && round === 3) {
      demo.note('A nozzle looked clogged', clock + 1000, { readingId: reading.id });
    }
    if (round === 3) demo.readConditions(session, 'during', clock, { Wind: '3.4' });
  }
  demo.endSession(session, clock + 120000, {
    ...{ Wind: '4.6', 'Pressure at the tap': '1.7' },
    Lawn: 'damp',
  });
  return demo;
}
