import { createHash } from 'node:crypto';
import { runQueue } from '../core/bench/queue.ts';
import { eachBlock } from '../core/formats/recording.ts';
import { soundParts, soundValue } from '../core/formats/recording-value.ts';
import { type ReadAt, wavHead } from '../core/formats/wav.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { seededRandom } from '../core/random/seeded.ts';
import { USUAL_APART_S, USUAL_OVER, backgroundOf, findEvents } from '../core/sound/events.ts';
import { TrackMeter } from '../core/sound/track.ts';
import { type Source, recordedWav } from '../instruments/recorder.ts';
import { buildDemo } from './build.ts';
import { FANS } from './truths.ts';

const SETTINGS = { quantity: 'equivalent', weighting: 'A' };
const RATE = 48000;
/** The calibrator’s tone comes first, then a fan after the other, s. */
const [TONE_FROM, TONE_TO, FIRST_FAN, FAN_S, EACH_S] = [0.5, 3.5, 5.5, 3, 4.7];
const TONE_LEVEL = 94;
/** What of a fan is measured: from when it has run up. */
const [AFTER_S, LENGTH_S] = [0.5, 2.3];
const DAY_MS = 86400000;

/** What was different in a round. */
interface RoundOf {
  /** What a sample of 1 is, dB: the gain was moved before the third round. */
  fullScale: number;
  /** The room, dB(A): a lorry waits before the window in the third round. */
  background: number;
  /** A dog barks after so many fans. */
  barksAfter?: number;
}
const ROUNDS: readonly RoundOf[] = [
  { fullScale: 104, background: 30 },
  { fullScale: 104, background: 31, barksAfter: 3 },
  { fullScale: 101, background: 36.5 },
];

/** Everything that sounds in a round: the fans in their order. */
function soundsOf(levels: readonly number[], { barksAfter }: RoundOf): Source[] {
  const fans = levels.map((level, i): Source => {
    const from = FIRST_FAN + i * EACH_S + (barksAfter !== undefined && i >= barksAfter ? 2 : 0);
    return { kind: 'rush', from, to: from + FAN_S, level, rampS: 0.08 };
  });
  const before = barksAfter === undefined ? undefined : fans[barksAfter];
  return [
    { kind: 'tone', from: TONE_FROM, to: TONE_TO, level: TONE_LEVEL },
    ...fans,
    ...(before ? [{ kind: 'bark', from: before.from - 1.9, to: before.from - 1.6, level: 68 } as const] : []),
  ];
}

/** What sounds in a recording, as the page finds it. */
async function heardIn(bytes: Uint8Array) {
  const read: ReadAt = (from, length) => Promise.resolve(bytes.subarray(from, from + length));
  const head = await wavHead(read, bytes.length);
  const meter = new TrackMeter({ weighting: 'A' }, head.sampleRate, head.frames);
  await eachBlock(read, head, [0], { first: 0, last: head.frames }, ([samples]) => {
    if (samples) meter.push(samples);
  });
  const track = meter.track();
  return { read, sounds: findEvents(track, backgroundOf(track) + USUAL_OVER, USUAL_APART_S) };
}

/** A demo study with its recordings, by the names of the kept files. */
export interface RecordedDemo {
  document: StudyDocument;
  files: Map<string, Uint8Array>;
}

/**
 * The fans’ sound as one recording for each round. Planted in it: a dog between two fans, a lorry that brings the background
 * near the quietest one, and a gain that was moved before the last round, which its own calibrator’s tone makes good.
 */
export async function recordedFans(): Promise<RecordedDemo> {
  const demo = buildDemo({
    ...{ title: 'Fan noise, recorded', question: 'Which desk fan is the quietest?' },
    ...{ start: '2026-10-05T18:00:00Z', tail: '00000000fa4f', seed: 1005 },
    study: {
      rounds: ROUNDS.length,
      timing: { setupS: 20, levelS: 0, roundWaitS: 300, sessionS: 1800, sessionsPerDay: 1 },
      procedure: {
        beforeSession: [
          'Doors and windows shut',
          'Microphone at one metre, hub height',
          'Recorder’s gain taped',
        ],
        beforeReading: ['Fan at full speed', 'Nobody moves'],
        waits: [],
      },
      materials: ['Sound recorder', 'Calibrator, 94 dB at 1 kHz', 'Tripod', 'Tape measure'],
      confounds: [
        { what: 'Sounds from outside', handling: 'recorded', note: 'heard in the recording' },
        { what: 'Gain of the recorder', handling: 'recorded', note: 'a calibrator’s tone before each round' },
      ],
      hazards: ['mains', 'cutting'],
    },
    items: FANS.map(({ name, code, price }) => ({
      name,
      code,
      attributes: [{ name: 'Price', value: price, unit: 'EUR' }],
    })),
    measurands: [
      {
        name: 'Sound level',
        form: 'recording',
        unit: 'dB',
        settings: SETTINGS,
        margin: { kind: 'absolute', value: 1 },
        limits: { low: 20, high: 100 },
        instrument: {
          name: 'Sound recorder',
          resolution: null,
          accuracyPercent: null,
          accuracyConstant: 1,
          calibratedOn: null,
        },
      },
    ],
  });
  const { document, start } = demo;
  const random = seededRandom(1005);
  const files = new Map<string, Uint8Array>();
  const queue = runQueue(document);
  for (const [i, about] of ROUNDS.entries()) {
    const evening = start + i * DAY_MS;
    const session = demo.startSession(evening, { operator: 'Bench 2', instrument: 'Sound recorder' }, {});
    const runs = queue.filter(({ round }) => round === i + 1);
    const levels = runs.map(
      ({ item }) => (FANS.find(({ name }) => name === item.name)?.levelDb ?? 50) + 0.3 * random.normal(),
    );
    const lengthS = FIRST_FAN + runs.length * EACH_S + (about.barksAfter === undefined ? 1 : 3);
    const bytes = recordedWav(soundsOf(levels, about), {
      ...{ sampleRate: RATE, lengthS, random: seededRandom(1005, i + 1) },
      ...{ fullScale: about.fullScale, background: about.background },
    });
    const name = `${createHash('sha256').update(bytes).digest('hex')}.wav`;
    files.set(name, bytes);
    const after = evening + 900000;
    const file = demo.keepFile(`round-${String(i + 1)}.wav`, name, bytes.length, after);
    const tone = { from: TONE_FROM + 0.5, to: TONE_TO - 0.5 };
    const calibration = demo.calibrate(
      { instrument: 'Sound recorder', fullScale: about.fullScale },
      { fileId: file.id, channel: 1, toneFrom: tone.from, toneTo: tone.to, toneLevel: TONE_LEVEL },
      after,
    );
    const { read, sounds } = await heardIn(bytes);
    const fans = sounds.filter(({ from, to }) => from > TONE_TO && to - from > 1);
    for (const [place, run] of runs.entries()) {
      const { from, background } = fans[place] ?? { from: 0, background: undefined };
      const begins = Number((from + AFTER_S).toFixed(3));
      const window = { from: begins, to: Number((begins + LENGTH_S).toFixed(3)) };
      const asked = { channel: 1, window, quiet: background, fullScale: calibration.fullScale };
      const found = await soundValue(read, bytes.length, asked, SETTINGS);
      if ('problem' in found) throw new Error(`${run.item.name}, round ${String(i + 1)}: ${found.problem}`);
      const texts = soundParts(found, asked, { fileId: file.id, calibrationId: calibration.id }, SETTINGS);
      demo.record(run, after + 1000 * (place + 1), texts, session, 'recording');
    }
    demo.endSession(session, after + 60000, {});
  }
  demo.inOrder();
  return { document, files };
}
