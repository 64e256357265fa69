import { createHash } from 'node:crypto';
import { runQueue } from '../core/bench/queue.ts';
import { readTrace } from '../core/formats/trace-csv.ts';
import { workOut } from '../core/formats/trace-reading.ts';
import { traceParts } from '../core/forms/trace.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { seededRandom } from '../core/random/seeded.ts';
import { type Probe, loggedTable } from '../instruments/logger.ts';
import { FLASKS } from './truths.ts';
import { buildDemo } from './build.ts';
import { FLASK_ITEMS, type FlaskTest } from './vacuum-flasks.ts';

const NIGHT_MS = 86400000;
const [NIGHT_S, PERIOD_S] = [28800, 120];
const SETTINGS = { quantity: 'timeConstant', readUnit: '°C', timeUnit: 'h', rest: 'column' };
const ROOM = 'Room';
const WINDOW = { from: 1800, to: NIGHT_S };

/** A demo study with what its loggers wrote, by the names of the kept files. */
export interface LoggedDemo {
  document: StudyDocument;
  files: Map<string, string>;
}

interface LoggedTest extends Omit<FlaskTest, 'unread'> {
  nights: number;
  /** What went wrong: a lid left loose from a time on, a probe that slipped, a logger that was silent. */
  loose?: { flask: string; night: number; fromS: number };
  slipped?: { flask: string; night: number; atS: number; byC: number };
  silent?: { night: number; from: number; to: number };
}

/** Water in a flask, minute by minute: what it loses goes with its heat above the room. */
function water(hot: number, tauS: number, room: (t: number) => number, loose?: { fromS: number }) {
  const temperatures = [hot];
  for (let minute = 1; minute * 60 <= NIGHT_S; minute += 1) {
    const before = temperatures[minute - 1] as number;
    const tau = loose && minute * 60 > loose.fromS ? tauS / 2.2 : tauS;
    temperatures.push(before - ((before - room(minute * 60)) * 60) / tau);
  }
  return (t: number) => temperatures[Math.min(temperatures.length - 1, Math.round(t / 60))] as number;
}

function loggedTest(test: LoggedTest): LoggedDemo {
  const { title, question, start: first, tail, seed, airC, share, nights, loose, slipped, silent } = test;
  const demo = buildDemo({
    ...{ title, question, start: first, tail, seed },
    study: {
      rounds: nights,
      timing: { setupS: 60, levelS: 0, roundWaitS: 57600, sessionS: 36000, sessionsPerDay: 1 },
      procedure: {
        beforeSession: ['Flasks warmed through with hot water, and emptied', 'A probe through each stopper'],
        beforeReading: [],
        waits: [{ what: 'eight hours logged', durationS: NIGHT_S, when: 'session' }],
      },
      materials: ['Logger with six probes', 'Kettle, 2 L', 'Tray'],
      confounds: [{ what: 'Warmth of the room', handling: 'recorded', note: 'the sixth probe' }],
      hazards: ['heat'],
    },
    items: FLASK_ITEMS,
    measurands: [
      {
        name: 'Time constant',
        form: 'trace',
        unit: 'h',
        settings: SETTINGS,
        direction: { kind: 'higher', target: null },
        margin: { kind: 'absolute', value: 1 },
        limits: { low: 1, high: 100 },
        instrument: {
          name: 'Logger with six probes',
          resolution: null,
          accuracyPercent: null,
          accuracyConstant: null,
          calibratedOn: '2026-05-20',
        },
      },
    ],
  });
  const { document, start } = demo;
  const random = seededRandom(seed);
  const files = new Map<string, string>();
  const queue = runQueue(document);
  const [measurand] = document.measurands;
  for (let night = 1; night <= nights; night += 1) {
    const evening = start + (night - 1) * NIGHT_MS;
    const session = demo.startSession(
      evening,
      { operator: 'Bench 1', instrument: 'Logger with six probes' },
      {},
    );
    const air = airC + 0.3 * random.normal();
    const room = (t: number) => air - (0.6 * t) / NIGHT_S + 0.15 * Math.sin(t / 1700);
    const probes: Probe[] = FLASKS.map((flask) => {
      const tau = (-NIGHT_S / Math.log(flask[share])) * (1 + 0.012 * random.normal());
      const isLoose = loose?.night === night && loose.flask === flask.name;
      const inside = water(94.6 + 0.5 * random.normal(), tau, room, isLoose ? loose : undefined);
      const slips = slipped?.night === night && slipped.flask === flask.name ? slipped : undefined;
      return {
        name: flask.name,
        truth: (t: number) => inside(t) - (slips && t >= slips.atS ? slips.byC : 0),
      };
    });
    const text = loggedTable([...probes, { name: ROOM, truth: room }], {
      ...{ unit: '°C', startMs: evening + 600000, lengthS: NIGHT_S, periodS: PERIOD_S, random },
      ...{ noise: 0.06, resolution: 0.1, driftPerDay: 0.1, dropouts: 0.002 },
      silent: silent?.night === night ? [silent] : [],
    });
    const name = `${createHash('sha256').update(text).digest('hex')}.csv`;
    files.set(name, text);
    const morning = evening + 1000 * NIGHT_S + 1200000;
    const file = demo.keepFile(`night-${String(night)}.csv`, name, Buffer.byteLength(text), morning);
    const trace = readTrace(text);
    const less = `${ROOM} (°C)`;
    for (const [i, { name: flask }] of FLASKS.entries()) {
      const run = queue.find(({ round, item }) => round === night && item.name === flask);
      const column = `${flask} (°C)`;
      const found = workOut(trace, { column, less }, WINDOW, SETTINGS);
      if (!run || !measurand || 'problem' in found)
        throw new Error(`${flask}, night ${String(night)}: no value`);
      const texts = traceParts(found, WINDOW, { fileId: file.id, column, less }, SETTINGS);
      demo.record(run, morning + 1000 * (i + 1), texts, session, 'recording');
    }
    demo.endSession(session, morning + 60000, {});
  }
  demo.inOrder();
  return { document, files };
}

/**
 * The flasks logged overnight in June. Planted in it: a lid left loose, so that one curve follows no single decay; a probe
 * that slipped, which shows as a jump; and a logger that was silent for half an hour.
 */
export const loggedFlasks = () =>
  loggedTest({
    title: 'Vacuum flasks, logged overnight',
    question: 'Which flask cools most slowly?',
    start: '2026-06-15T20:00:00Z',
    tail: '00000000fa2f',
    seed: 615,
    airC: 21,
    share: 'kept',
    nights: 5,
    loose: { flask: 'Tamsel', night: 2, fromS: 10800 },
    slipped: { flask: 'Velt 1', night: 4, atS: 15120, byC: 7 },
    silent: { night: 3, from: 18000, to: 19800 },
  });

/** The same flasks logged again in November, in a colder room: one has lost its vacuum. */
export function loggedFlasksAgain(): LoggedDemo {
  const made = loggedTest({
    title: 'Vacuum flasks, logged again',
    question: 'Do they still cool as slowly as in June?',
    start: '2026-11-16T20:00:00Z',
    tail: '00000000fa3f',
    seed: 1116,
    airC: 14,
    share: 'later',
    nights: 4,
  });
  const { study } = loggedFlasks().document;
  made.document.study.earlier = [{ studyId: study.id, title: study.title, matches: [] }];
  return made;
}
