import { runQueue } from '../core/bench/queue.ts';
import { seededRandom } from '../core/random/seeded.ts';
import { AERATORS, flowAt } from './truths.ts';
import { buildDemo } from './build.ts';

/** The flow meter shows no more than this, L/min. */
const FLOW_CAP = 12;

/**
 * Five invented tap aerators at three pressures. Planted in it: a flow meter that is capped (the open tap reads the same
 * again and again at 2 and 3 bar, while the jug tells the truth), a decimal point that was not typed, a required
 * condition that was forgotten at the end, two aerators that change places between 1 and 3 bar.
 */
export function tapAerators() {
  const demo = buildDemo({
    title: 'Tap aerators',
    question: 'Which aerator saves the most water without a weak jet, from 1 to 3 bar?',
    start: '2026-07-04T10:00:00Z',
    tail: '00000000fa08',
    seed: 6123,
    study: {
      rounds: 3,
      timing: { setupS: 40, levelS: 60, roundWaitS: 0, sessionS: 7200, sessionsPerDay: 1 },
      procedure: {
        beforeSession: ['Water runs until it is cold', 'Gauge reads 0 with the tap shut'],
        beforeReading: ['Pressure set with the tap running', 'Nothing else drawn in the house'],
        waits: [{ what: 'Flow steadies', durationS: 10, when: 'item' }],
      },
      materials: ['Flow meter', 'Pressure gauge with valve', 'One-litre jug', 'Sealing rings'],
      confounds: [{ what: 'Water temperature', handling: 'recorded', note: '' }],
      hazards: ['stored-energy'],
    },
    items: [
      { name: 'No aerator', code: 'NO', role: 'baseline' },
      { name: 'Glint 5', code: 'G5', attributes: [{ name: 'Rated flow', value: 5, unit: 'L/min' }] },
      { name: 'Halvard', code: 'HV', attributes: [{ name: 'Rated flow', value: 6, unit: 'L/min' }] },
      { name: 'Jettik', code: 'JT', attributes: [{ name: 'Rated flow', value: 6, unit: 'L/min' }] },
      { name: 'Korre Eco', code: 'KE', attributes: [{ name: 'Rated flow', value: 4, unit: 'L/min' }] },
    ],
    measurands: [
      {
        name: 'Flow',
        form: 'value',
        unit: 'L/min',
        direction: { kind: 'lower', target: null },
        margin: { kind: 'absolute', value: 0.3 },
        limits: { low: 0.5, high: 25 },
        instrument: {
          name: 'Flow meter',
          resolution: 0.1,
          accuracyPercent: 3,
          accuracyConstant: null,
          calibratedOn: '2026-01-20',
        },
      },
      {
        name: 'Time to fill the jug',
        form: 'timed',
        margin: { kind: 'absolute', value: 1 },
        limits: { low: 1, high: 120 },
        readingS: 40,
      },
    ],
    factors: [
      {
        name: 'Pressure',
        kind: 'numeric',
        unit: 'bar',
        levels: [1, 2, 3].map((value) => ({ name: `${String(value)} bar`, value, baseline: value === 1 })),
      },
    ],
    conditions: [{ quantity: 'Water temperature', unit: '°C', required: true, tolerableDrift: 2 }],
    claims: [
      { measurand: 'Flow', item: 'G5', value: 5, unit: 'L/min', source: 'Ring of the Glint 5' },
      { measurand: 'Flow', item: 'KE', value: 1.06, unit: 'gal/min', source: 'Packet of the Korre Eco' },
      {
        measurand: 'Flow',
        factor: 'Pressure',
        value: 1.5,
        unit: 'L/min',
        source: 'Rule of thumb: each bar adds 1.5 L/min',
      },
    ],
  });
  const { document, start } = demo;
  const random = seededRandom(20260704);
  let clock = start;
  let session = demo.startSession(
    clock - 600000,
    { operator: 'Bench 2', instrument: 'Flow meter' },
    { 'Water temperature': '12.4' },
  );
  for (const run of runQueue(document)) {
    const { item, measurand, round, setting } = run;
    const aerator = AERATORS.find(({ name }) => name === item.name) as (typeof AERATORS)[number];
    const bar = setting[0]?.value ?? 1;
    const flow = flowAt(aerator, bar);
    if (
      round === 3 &&
      session.endedAt === null &&
      session.continuesId === null &&
      document.sessions.length === 1
    ) {
      // The water temperature at the end was forgotten, and the last round went on after lunch.
      demo.endSession(session, clock + 60000, {});
      clock += 5400000;
      session = demo.startSession(
        clock,
        { operator: 'Bench 2', instrument: 'Flow meter' },
        { 'Water temperature': '13.1' },
      );
    }
    clock += 45000 + random.below(20000);
    if (measurand.form === 'timed') {
      const seconds = 60 / flow + 0.18 * random.normal();
      demo.record(run, clock, { time: seconds.toFixed(2) }, session);
      continue;
    }
    const shown = Math.min(FLOW_CAP, flow + 0.07 * random.normal()).toFixed(1);
    const slipped = item.name === 'Korre Eco' && bar === 2 && round === 2;
    demo.record(run, clock, { value: slipped ? shown.replace('.', '') : shown }, session);
  }
  demo.endSession(session, clock + 60000, { 'Water temperature': '13.0' });
  return demo;
}
