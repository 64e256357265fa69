/**
 * Makes demo/desk-fans.json: six invented desk fans, air speed at one metre, eight rounds, taken through the same
 * run order and reading form as at the bench. Planted in it: two misreads (a digit slip and two digits swapped), two
 * fans that are practically the same, one clear winner, one misfire.
 *
 *   npm run demo:make
 */
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { value } from '../core/forms/value.ts';
import { NEW_STUDY } from '../core/model/new-study.ts';
import type { Decision, Item, Measurand, Reading } from '../core/model/parts.ts';
import { STUDY_FORMAT, STUDY_FORMAT_VERSION, type StudyDocument } from '../core/model/study-document.ts';
import { runQueue } from '../core/plan/queue.ts';
import { seededRandom } from '../core/random/seeded.ts';

const START = Date.parse('2026-09-12T09:30:00Z');
const random = seededRandom(20260912);

let made = 0;
/** Ids in the form of UUID version 7 that are the same each time: time, counter, and a fixed tail. */
function demoId(at: number): string {
  made += 1;
  const time = at.toString(16).padStart(12, '0');
  const counter = made.toString(16).padStart(3, '0');
  return `${time.slice(0, 8)}-${time.slice(8)}-7${counter}-8b0d-00000000fa05`;
}

const FANS = [
  { name: 'Brunnow', code: 'BR', mean: 3.19, sd: 0.036, price: 34 },
  { name: 'Calvessa 2', code: 'C2', mean: 3.42, sd: 0.021, price: 49 },
  { name: 'Dappelin', code: 'DA', mean: 3.05, sd: 0.018, price: 27 },
  { name: 'Fenwhir', code: 'FE', mean: 3.185, sd: 0.03, price: 41 },
  { name: 'Merrowick', code: 'ME', mean: 3.025, sd: 0.02, price: 22 },
  { name: 'Quillop S', code: 'QS', mean: 2.71, sd: 0.024, price: 18 },
] as const;

/** What was settled before the first reading. */
const PLAN: Partial<StudyDocument['study']> = {
  timing: { readingS: 20, setupS: 25, roundWaitS: 60, sessionS: 5400, sessionsPerDay: 1 },
  procedure: {
    beforeSession: [
      'Doors and windows shut',
      'Tripod at one metre from the grille, vane at hub height',
      'Anemometer on for two minutes',
    ],
    beforeReading: ['Fan at full speed for 30 s', 'Nobody between fan and meter', 'Read the mean over 10 s'],
    waits: [{ what: 'Fan runs up to speed', durationS: 30 }],
  },
  materials: ['Vane anemometer', 'Tripod', 'Tape measure', 'Thermometer for the room'],
  confounds: [
    { what: 'Height of the hub', handling: 'held', note: 'vane moved to each hub' },
    { what: 'Mains voltage', handling: 'recorded', note: '' },
    { what: 'Shape of the grille', handling: 'accepted', note: 'part of the product' },
  ],
  hazards: ['mains', 'cutting'],
};

const studyId = demoId(START - 3600000);
const created = new Date(START - 3600000).toISOString();
const stamp = { studyId, version: 1, createdAt: created, updatedAt: created };

const items = FANS.map(({ name, code, price }, i): Item => ({
  id: demoId(START - 3500000 + i * 1000),
  ...stamp,
  name,
  code,
  mark: i,
  role: 'candidate',
  class: '',
  attributes: [{ name: 'Price', value: price, unit: 'EUR' }],
  position: i + 1,
}));
const airSpeed: Measurand = {
  id: demoId(START - 3400000),
  ...stamp,
  name: 'Air speed at one metre',
  unit: 'm/s',
  form: 'value',
  direction: { kind: 'higher', target: null },
  margin: { kind: 'absolute', value: 0.1 },
  limits: { low: 0.5, high: 8 },
  instrument: {
    name: 'Vane anemometer',
    resolution: 0.01,
    accuracyPercent: 2,
    accuracyConstant: 0.02,
    calibratedOn: '2026-03-02',
  },
  rule: { name: 'generalized-esd', parameter: null },
  position: 1,
};
const document: StudyDocument = {
  format: STUDY_FORMAT,
  formatVersion: STUDY_FORMAT_VERSION,
  study: {
    id: studyId,
    version: 1,
    createdAt: created,
    updatedAt: created,
    title: 'Desk fans',
    question: 'Which desk fan moves the most air at one metre, at full speed?',
    ...NEW_STUDY,
    ...PLAN,
    rounds: 8,
    seed: 4680,
  },
  items,
  measurands: [airSpeed],
  factors: [],
  levels: [],
  conditions: [
    {
      id: demoId(START - 3300000),
      ...stamp,
      quantity: 'Air temperature',
      unit: '°C',
      required: true,
      tolerableDrift: 1,
      limits: { low: 15, high: 30 },
      position: 1,
    },
  ],
  sessions: [],
  rounds: [],
  readings: [],
  decisions: [],
  changes: [],
};

/** Typed instead of what the meter showed. */
const MISREADS: Record<string, string> = { 'Calvessa 2/3': '2.31', 'Merrowick/6': '3.90' };

let clock = START;
for (const { item, measurand, round, place } of runQueue(document)) {
  const fan = FANS.find(({ name }) => name === item.name) as (typeof FANS)[number];
  const shown = (fan.mean + fan.sd * random.normal()).toFixed(2);
  const record = (text: string): Reading => {
    clock += 35000 + random.below(25000);
    const at = new Date(clock).toISOString();
    const read = value.read({ value: text }, measurand);
    if ('problem' in read) throw new Error(read.problem);
    const reading: Reading = {
      id: demoId(clock),
      ...stamp,
      createdAt: at,
      updatedAt: at,
      itemId: item.id,
      measurandId: measurand.id,
      sessionId: null,
      round,
      place,
      levels: [],
      parts: read.parts,
      source: 'typed',
      takenAt: at,
      note: '',
      photo: null,
    };
    document.readings.push(reading);
    return reading;
  };
  if (item.name === 'Dappelin' && round === 2) {
    const misfire = record('2.48');
    const at = new Date(clock + 4000).toISOString();
    const decision: Decision = {
      id: demoId(clock + 4000),
      ...stamp,
      createdAt: at,
      updatedAt: at,
      action: 'misfire',
      readingId: misfire.id,
      run: null,
      reason: 'Door opened during the reading',
      decidedAt: at,
    };
    document.decisions.push(decision);
  }
  record(MISREADS[`${item.name}/${String(round)}`] ?? shown);
}

writeFileSync(
  fileURLToPath(new URL('./desk-fans.json', import.meta.url)),
  `${JSON.stringify(document, null, 1)}\n`,
);
