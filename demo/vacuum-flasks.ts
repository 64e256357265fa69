import { runQueue } from '../core/bench/queue.ts';
import type { Measurand } from '../core/model/parts.ts';
import { seededRandom } from '../core/random/seeded.ts';
import { FLASKS } from './truths.ts';
import { buildDemo } from './build.ts';

/** The flasks as a plan lists them. */
export const FLASK_ITEMS = FLASKS.map(({ name, code, price, massKg }) => ({
  ...{ name, code },
  attributes: [
    { name: 'Price', value: price, unit: 'EUR' },
    { name: 'Mass', value: massKg, unit: 'kg' },
  ],
}));

const NIGHT_MS = 86400000;

const THERMOMETER: Measurand['instrument'] = {
  name: 'Bath thermometer',
  resolution: 0.1,
  accuracyPercent: null,
  accuracyConstant: 0.3,
  calibratedOn: '2026-05-20',
};

/** How one of the two tests went: the same flasks, the same nights' work, another season. */
export interface FlaskTest {
  title: string;
  question: string;
  start: string;
  tail: string;
  seed: number;
  airC: number;
  share: 'kept' | 'later';
  /** A night on which nobody read the air temperature. */
  unread?: number;
}

/** Five flasks filled hot and opened eight hours later, one fill a night. */
function flaskTest({ title, question, start: first, tail, seed, airC, share, unread }: FlaskTest) {
  const demo = buildDemo({
    ...{ title, question, start: first, tail, seed },
    study: {
      rounds: 4,
      timing: { setupS: 40, levelS: 0, roundWaitS: 57600, sessionS: 36000, sessionsPerDay: 1 },
      procedure: {
        beforeSession: [
          'Flasks warmed through with hot water, and emptied',
          'Thermometer in the same hand, same depth',
        ],
        beforeReading: ['Stirred once'],
        waits: [{ what: 'eight hours closed', durationS: 28800, when: 'session' }],
      },
      materials: ['Thermometer', 'Kettle, 2 L', 'Tray'],
      confounds: [
        { what: 'Warmth of the room', handling: 'recorded', note: 'air temperature each night' },
        { what: 'How full each is', handling: 'held', note: 'to the mark under the stopper' },
      ],
      hazards: ['heat'],
    },
    items: FLASK_ITEMS,
    measurands: [
      {
        name: 'Water after 8 h',
        form: 'value',
        unit: '°C',
        direction: { kind: 'higher', target: null },
        margin: { kind: 'absolute', value: 1 },
        limits: { low: 5, high: 100 },
        instrument: THERMOMETER,
      },
      {
        name: 'Water at start',
        form: 'value',
        unit: '°C',
        direction: { kind: 'unranked', target: null },
        limits: { low: 50, high: 100 },
        instrument: THERMOMETER,
      },
      {
        name: 'Heat kept',
        form: 'value',
        unit: '%',
        expression: '(water_after_8_h - air_temperature) / (water_at_start - air_temperature)',
        direction: { kind: 'higher', target: null },
        margin: { kind: 'absolute', value: 2 },
      },
    ],
    conditions: [
      {
        quantity: 'Air temperature',
        unit: '°C',
        required: true,
        tolerableDrift: 3,
        limits: { low: 5, high: 30 },
      },
    ],
  });
  const { document, start } = demo;
  const random = seededRandom(seed);
  const queue = runQueue(document);
  for (let night = 1; night <= document.study.rounds; night += 1) {
    const evening = start + (night - 1) * NIGHT_MS;
    const air = airC + 0.3 * random.normal();
    const read = night === unread ? {} : { 'Air temperature': air.toFixed(1) };
    const session = demo.startSession(evening, { operator: 'Bench 1', instrument: 'Bath thermometer' }, read);
    const filled = new Map<string, number>();
    const runs = queue.filter(({ round }) => round === night);
    runs
      .filter(({ measurand }) => measurand.name === 'Water at start')
      .forEach((run, i) => {
        const water = 94.6 + 0.5 * random.normal();
        filled.set(run.item.name, water);
        demo.record(run, evening + 600000 + 60000 * i, { value: water.toFixed(1) }, session);
      });
    runs
      .filter(({ measurand }) => measurand.name === 'Water after 8 h')
      .forEach((run, i) => {
        const flask = FLASKS.find(({ name }) => name === run.item.name) as (typeof FLASKS)[number];
        const hot = filled.get(run.item.name) as number;
        const water = air + (hot - air) * (flask[share] + 0.002 * random.normal());
        demo.record(run, evening + 29400000 + 60000 * i, { value: water.toFixed(1) }, session);
      });
    const end = night === unread ? {} : { 'Air temperature': (air - 0.4).toFixed(1) };
    demo.endSession(session, evening + 30000000, end);
    if (night === unread) {
      demo.note('Air temperature not read this night', evening + 30000000, { sessionId: session.id });
    }
  }
  demo.inOrder();
  return document;
}

/**
 * Five invented vacuum flasks, tested in June. Planted in it: a night on which nobody read the air temperature, and two
 * flasks that are practically the same.
 */
export const vacuumFlasks = () =>
  flaskTest({
    title: 'Vacuum flasks',
    question: 'Which flask keeps tea hot until morning?',
    start: '2026-06-08T20:00:00Z',
    tail: '00000000fa0f',
    seed: 608,
    airC: 22,
    share: 'kept',
    unread: 3,
  });

/**
 * The same flasks in November. Planted in it: a colder room, in which every flask ends colder, and one flask that has
 * lost its vacuum, which alone keeps less of its heat.
 */
export function vacuumFlasksAgain() {
  const document = flaskTest({
    title: 'Vacuum flasks, five months on',
    question: 'Do they still keep what they kept in June?',
    start: '2026-11-09T20:00:00Z',
    tail: '00000000fa1f',
    seed: 1109,
    airC: 13,
    share: 'later',
  });
  const { study } = vacuumFlasks();
  document.study.earlier = [{ studyId: study.id, title: study.title, matches: [] }];
  return document;
}
