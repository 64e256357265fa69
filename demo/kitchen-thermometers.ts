import { runQueue } from '../core/bench/queue.ts';
import { seededRandom } from '../core/random/seeded.ts';
import { THERMOMETERS } from './truths.ts';
import { buildDemo } from './build.ts';

/**
 * Five invented kitchen thermometers in a bath beside a reference, at four temperatures. Planted in it: a thermometer
 * with a lag, read before it has settled; two digits swapped; one whose error grows with the temperature.
 */
export function kitchenThermometers() {
  const bath = [0, 30, 60, 90].map((value) => ({
    name: `${String(value)} °C`,
    value,
    baseline: value === 30,
  }));
  const demo = buildDemo({
    title: 'Kitchen thermometers',
    question: 'Which kitchen thermometer is within one degree of the reference over the whole range?',
    start: '2026-09-19T13:00:00Z',
    tail: '00000000fa06',
    seed: 1907,
    study: {
      rounds: 3,
      timing: { setupS: 15, levelS: 900, roundWaitS: 0, sessionS: 10800, sessionsPerDay: 1 },
      procedure: {
        beforeSession: [
          'Stirrer of the bath running',
          'Reference probe at the middle of the bath',
          'Ice crushed for the 0 °C bath',
        ],
        beforeReading: ['Tip of the probe beside the reference, 5 cm deep'],
        waits: [
          { what: 'Bath steady within 0.1 °C', durationS: 120, when: 'session' },
          { what: 'Probe settles', durationS: 30, when: 'item' },
        ],
      },
      materials: ['Stirred bath', 'Reference thermometer', 'Crushed ice', 'Clamp stand'],
      confounds: [
        { what: 'Depth of the probe', handling: 'held', note: '5 cm' },
        { what: 'Response time', handling: 'recorded', note: 'a slow one is read too early' },
      ],
      hazards: ['heat', 'mains'],
    },
    items: [
      {
        name: 'Brindle P',
        code: 'BP',
        attributes: [
          { name: 'Price', value: 12, unit: 'EUR' },
          { name: 'Stated error', value: 1, unit: '°C' },
        ],
      },
      {
        name: 'Casker 3',
        code: 'C3',
        attributes: [
          { name: 'Price', value: 29, unit: 'EUR' },
          { name: 'Stated error', value: 0.5, unit: '°C' },
        ],
      },
      {
        name: 'Dorrit',
        code: 'DO',
        attributes: [
          { name: 'Price', value: 9, unit: 'EUR' },
          { name: 'Stated error', value: 2, unit: '°C' },
        ],
      },
      {
        name: 'Ellow Mini',
        code: 'EM',
        attributes: [
          { name: 'Price', value: 16, unit: 'EUR' },
          { name: 'Stated error', value: 1, unit: '°C' },
        ],
      },
      {
        name: 'Fennick',
        code: 'FN',
        attributes: [
          { name: 'Price', value: 21, unit: 'EUR' },
          { name: 'Stated error', value: 1, unit: '°C' },
        ],
      },
    ],
    measurands: [
      {
        name: 'Error against the bath',
        form: 'against-reference',
        unit: '°C',
        margin: { kind: 'absolute', value: 0.5 },
        limits: { low: -10, high: 10 },
        spec: { kind: 'absolute', low: -1, high: 1, below: null, share: 95 },
        instrument: {
          name: 'Reference thermometer',
          resolution: 0.1,
          accuracyPercent: null,
          accuracyConstant: 0.1,
          calibratedOn: '2026-06-11',
        },
      },
      {
        name: 'Ease of reading',
        form: 'score',
        margin: { kind: 'absolute', value: 1 },
        settings: { marks: ['hard', 'fair', 'good', 'at a glance'] },
        readingS: 10,
      },
    ],
    factors: [{ name: 'Bath', kind: 'numeric', unit: '°C', levels: bath }],
    conditions: [{ quantity: 'Room temperature', unit: '°C', required: true, tolerableDrift: 2 }],
    claims: [
      {
        measurand: 'Error against the bath',
        order: ['C3', 'BP', 'EM', 'FN', 'DO'],
        source: 'By the error that the makers state',
      },
      {
        measurand: 'Error against the bath',
        item: 'C3',
        value: 0,
        unit: '°C',
        source: 'Calibration note in the box of the Casker 3',
      },
      {
        measurand: 'Error against the bath',
        factor: 'Bath',
        value: 0.3,
        unit: '°C',
        stepSize: 30,
        source: 'Rule of thumb: 0.3 °C more with each 30 °C',
      },
    ],
  });
  const { document, start } = demo;
  const random = seededRandom(20260919);
  const marks = ['hard', 'fair', 'good', 'at a glance'];
  let clock = start;
  const session = demo.startSession(
    clock - 900000,
    { operator: 'Bench 1', instrument: 'Reference thermometer' },
    { 'Room temperature': '21.5' },
  );
  for (const run of runQueue(document)) {
    const { item, measurand, setting, round } = run;
    const probe = THERMOMETERS.find(({ name }) => name === item.name) as (typeof THERMOMETERS)[number];
    if (measurand.form === 'score') {
      clock += 8000;
      const place = Math.min(
        4,
        Math.max(1, probe.ease + (random.unit() < 0.2 ? 1 : 0) - (random.unit() < 0.2 ? 1 : 0)),
      );
      demo.record(run, clock, { mark: marks[place - 1] as string }, session);
      continue;
    }
    clock += 50000 + random.below(15000);
    const bath = (setting[0]?.value ?? 30) + 0.04 * random.normal();
    const settled = bath + probe.offset + (probe.per100 * bath) / 100;
    // Read after half a minute, when a slow probe has not come all the way from the room.
    const come = 21.5 + (settled - 21.5) * (1 - Math.exp(-30 / probe.lagS));
    const indicated = (come + 0.08 * random.normal()).toFixed(1);
    const swapped = item.name === 'Ellow Mini' && round === 2 && setting[0]?.value === 30;
    demo.record(
      run,
      clock,
      {
        reference: bath.toFixed(1),
        indicated: swapped ? indicated.replace(/^(\d)(\d)\.(\d)/, '$1$3.$2') : indicated,
      },
      session,
    );
  }
  demo.endSession(session, clock + 60000, { 'Room temperature': '22.3' });
  return demo;
}
