import { runQueue } from '../core/bench/queue.ts';
import { seededRandom } from '../core/random/seeded.ts';
import { SIEVES } from './truths.ts';
import { buildDemo } from './build.ts';

/**
 * Four invented flour sieves, by the mass fed and recovered. Planted in it: a yield over 100 %, two sieves that are
 * practically the same, humidity that moves by more than is tolerable.
 */
export function flourSieves() {
  const demo = buildDemo({
    title: 'Flour sieves',
    question: 'Which sieve passes the most flour in a minute, and leaves the fewest lumps?',
    start: '2026-08-08T15:00:00Z',
    tail: '00000000fa09',
    seed: 808,
    study: {
      rounds: 5,
      runOrder: 'balanced-square',
      timing: { setupS: 60, levelS: 0, roundWaitS: 0, sessionS: 7200, sessionsPerDay: 1 },
      procedure: {
        beforeSession: ['Flour from one bag, stirred', 'Balance level and zeroed'],
        beforeReading: ['Sieve brushed clean', 'One minute by the timer, the same stroke'],
        waits: [],
      },
      materials: ['Balance', 'Two bowls', 'Brush', 'Flour, 3 kg', 'Timer'],
      confounds: [
        { what: 'Damp of the flour', handling: 'recorded', note: 'humidity of the room' },
        {
          what: 'Flour left in the mesh',
          handling: 'held',
          note: 'brushed; a balanced order shows what is left',
        },
      ],
      hazards: ['dust', 'food'],
    },
    items: [
      { name: 'Grann', code: 'GR', attributes: [{ name: 'Mesh', value: 0.8, unit: 'mm' }] },
      { name: 'Holm 40', code: 'H4', attributes: [{ name: 'Mesh', value: 0.6, unit: 'mm' }] },
      { name: 'Ivel', code: 'IV', attributes: [{ name: 'Mesh', value: 1, unit: 'mm' }] },
      { name: 'Jonna', code: 'JO', attributes: [{ name: 'Mesh', value: 0.7, unit: 'mm' }] },
    ],
    measurands: [
      {
        name: 'Flour through',
        form: 'fed-recovered',
        settings: { readUnit: 'g', counted: false, chained: false },
        margin: { kind: 'absolute', value: 2 },
        limits: { low: 20, high: 105 },
        instrument: {
          name: 'Balance',
          resolution: 0.1,
          accuracyPercent: null,
          accuracyConstant: 0.2,
          calibratedOn: '2026-04-30',
        },
      },
      {
        name: 'Lumps left',
        form: 'count',
        direction: { kind: 'lower', target: null },
        margin: { kind: 'absolute', value: 2 },
        limits: { low: 0, high: 200 },
        readingS: 30,
      },
    ],
    conditions: [
      { quantity: 'Humidity', unit: '%', required: true, tolerableDrift: 5, limits: { low: 20, high: 70 } },
    ],
    claims: [
      { measurand: 'Flour through', order: ['IV', 'GR', 'JO', 'H4'], source: 'By mesh: the wider, the more' },
      {
        measurand: 'Flour through',
        attribute: 'Mesh',
        value: 5,
        unit: '%',
        stepSize: 0.1,
        source: 'Rule of thumb: 5 % more for each 0.1 mm',
      },
    ],
  });
  const { document, start } = demo;
  const random = seededRandom(20260808);
  let clock = start;
  const session = demo.startSession(
    clock - 420000,
    { operator: 'Bench 2', instrument: 'Balance' },
    { Humidity: '46' },
  );
  for (const run of runQueue(document)) {
    const { item, measurand, round } = run;
    const sieve = SIEVES.find(({ name }) => name === item.name) as (typeof SIEVES)[number];
    clock += 55000 + random.below(30000);
    if (measurand.form === 'count') {
      const lumps = Math.max(0, Math.round(sieve.lumps + Math.sqrt(sieve.lumps) * random.normal()));
      demo.record(run, clock, { count: String(lumps) }, session);
      continue;
    }
    const fed = 200 + 0.3 * random.normal();
    const share = sieve.yield + sieve.sd * random.normal();
    // The mesh was not brushed: what the last sieve left in it came through with the next feed.
    const unbrushed = item.name === 'Ivel' && round === 4 ? 13 : 0;
    demo.record(
      run,
      clock,
      { fed: fed.toFixed(1), recovered: ((fed * share) / 100 + unbrushed).toFixed(1) },
      session,
    );
  }
  demo.note('Mesh of the Ivel not brushed before round 4', clock, { sessionId: session.id });
  demo.endSession(session, clock + 60000, { Humidity: '53' });
  return demo;
}
