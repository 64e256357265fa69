import { decibels } from '../../core/sound/decibels.ts';
import { findEvents, withoutBackground } from '../../core/sound/events.ts';
import { LevelMeter, SoundMeter } from '../../core/sound/meter.ts';
import { TrackMeter } from '../../core/sound/track.ts';
import { toneFrequency } from '../../core/sound/tone.ts';
import { StudyDocument } from '../../core/model/study-document.ts';
import { RULE_JUDGES, RULE_LEVELS, RULE_NAMES } from '../../core/model/words.ts';
import { alikeDf, differenceSeen, power, readingsNeeded } from '../../core/plan/power.ts';
import { lookLevels } from '../../core/plan/look-levels.ts';
import { planDuration } from '../../core/plan/duration.ts';
import { varianceComponents } from '../../core/precision/variance-components.ts';
import { type SeededRandom, mixedRandom } from '../../core/random/seeded.ts';
import { screeningRule } from '../../core/screening/index.ts';
import { screenSamples } from '../../core/screening/screen.ts';
import { bootstrapInterval } from '../../core/summary/bootstrap.ts';
import { uncertaintyBudget } from '../../core/summary/budget.ts';
import { median } from '../../core/summary/quantile.ts';
import { summarise } from '../../core/summary/summary.ts';
import { uniformity } from '../../core/summary/uniformity.ts';
import { TRACE_QUANTITIES } from '../../core/trace/quantities.ts';
import { type Series, cutTo, less, seriesOf, valueAt } from '../../core/trace/series.ts';
import { thinned } from '../../core/trace/thin.ts';
import { traceValue } from '../../core/trace/values.ts';
import { usualStep, watchWindow } from '../../core/trace/watch.ts';
import { each } from './said.ts';
import { printed, read, typed } from './typed-answers.ts';

/** A sample of seeded chance, with a stray reading or two. */
const sample = (random: SeededRandom, n: number, strays: number): number[] =>
  Array.from({ length: n }, (_, i) =>
    Number((10 + random.normal() + (i < strays ? 4 + 3 * i : 0)).toFixed(2)),
  );

/** Samples of seeded chance. */
const samplesOf = (random: SeededRandom): number[][] =>
  [0, 1, 2, 3, 4, 5, 6, 7, 10, 15, 30].flatMap((n) => [0, 1, 2].map((strays) => sample(random, n, strays)));

/** Samples as each rule screens them. */
function* screened(samples: readonly number[][]): Generator<[string, unknown]> {
  for (const name of RULE_NAMES) {
    yield [
      `screened by ${name}`,
      each(RULE_LEVELS, RULE_JUDGES, (level, judges) =>
        [null, 0.5, 2, 8].map((parameter) =>
          screenSamples(
            samples.map((values, i) => ({
              ...{ values, setting: String(i % 2), compared: i % 3 > 0 },
              rounds: i % 4 === 0 ? undefined : values.map((_, round) => round),
              insisted: new Set(i % 5 === 0 ? [0] : []),
            })),
            {
              ...{ rule: screeningRule(name), parameter, alpha: 0.05, level, judges },
              ...{ step: 0.01, limits: { low: 8, high: 13 }, strict: parameter === null },
            },
          ),
        ),
      ),
    ];
  }
}

/** Samples summed up, and how far off they may be. */
function* summedUp(samples: readonly number[][]): Generator<[string, unknown]> {
  const accurate = { accuracyPercent: 2, accuracyConstant: 0.1, resolution: 0.1 };
  const vague = { accuracyPercent: null, accuracyConstant: null, resolution: null };
  yield [
    'summed up',
    each(samples, [0, 0.5, 5], (values, step) => {
      const summary = summarise(values, 0.05, { step });
      return [
        summary,
        summarise(values, 0.05, { average: 'energy' }),
        summarise(values, 0.05, { trim: { perEnd: 1, of: values.length + 2 } }),
        uncertaintyBudget(summary, accurate, step, 0.05, 0.2),
        uncertaintyBudget(summary, vague, step, 0.05),
        bootstrapInterval(values, median, { alpha: 0.05, seed: 3 }),
        uniformity(values),
      ];
    }),
  ];
}

/** How much is to be read, when it may be looked at, and how long it takes. */
function* planned(): Generator<[string, unknown]> {
  yield [
    'power',
    each([2, 3, 5, 8, 20], [0.2, 1, 3], (n, difference) => {
      const input = { difference, sd: 1, alpha: 0.05 };
      return [power(n, input), power(n, { ...input, df: alikeDf(4) }), differenceSeen(n, 0.8, input)];
    }),
  ];
  yield [
    'readings needed',
    each([0.5, 0.8, 0.95], [0.2, 1, 3], (chance, difference) =>
      readingsNeeded(chance, { difference, sd: 1, alpha: 0.05 }),
    ),
  ];
  yield [
    'looks',
    each([[2, 4], [1, 2, 3], [5]], ['late', 'even'] as const, (after, spending) =>
      lookLevels(
        after.map((n) => n / 6),
        0.05,
        spending,
      ),
    ),
  ];
  const work = {
    rounds: 3,
    itemChanges: 9,
    levelChanges: 4,
    readings: [{ measurand: 'Pull', eachS: 40, count: 27 }],
  };
  const waits = { session: 600, item: 20, reading: 5 };
  const timing = { setupS: 10, levelS: 60, roundWaitS: 30, sessionS: 1800, sessionsPerDay: 2 };
  yield [
    'durations',
    [
      planDuration(work, { ...timing, waitS: waits }),
      planDuration(
        { ...work, readings: [] },
        { ...timing, sessionS: 60, waitS: { session: 0, item: 0, reading: 0 } },
      ),
    ],
  ];
}

/** What groupings of readings scatter by. */
function* components(): Generator<[string, unknown]> {
  const random = mixedRandom(20260712, 2);
  const cells = Array.from({ length: 24 }, (_, i) => i % 3);
  const groupings = [
    { groups: cells.map((_, i) => Math.floor(i / 6)), count: 4 },
    { groups: cells.map((_, i) => Math.floor(i / 2) % 6), count: 6 },
  ];
  yield [
    'components',
    [0, 0.5, 3].map((by) => {
      const values = cells.map((cell) => cell + random.normal());
      for (const { groups, count } of groupings) {
        const moved = Array.from({ length: count }, () => by * random.normal());
        groups.forEach((group, i) => {
          values[i] = (values[i] ?? 0) + (moved[group] ?? 0);
        });
      }
      return [
        varianceComponents(values, cells, groupings.slice(0, 1)),
        varianceComponents(values, cells, groupings),
      ];
    }),
  ];
}

/** Shapes of what a logger may write down. */
const SHAPES: Readonly<Record<string, (t: number) => number>> = {
  cooling: (t) => 20 + 70 * Math.exp(-t / 1800),
  warming: (t) => 80 - 60 * Math.exp(-t / 900),
  toZero: (t) => 50 * Math.exp(-t / 1200),
  line: (t) => 5 + 0.01 * t,
  flat: () => 7,
  dip: (t) => 30 - (t > 1200 && t < 2400 ? 8 : 0),
  wave: (t) => 20 + 5 * Math.sin(t / 300),
  slip: (t) => 40 - 0.001 * t - (t > 2000 ? 6 : 0),
};

/** Traces of seeded chance. */
function* traced(): Generator<[string, unknown]> {
  for (const [name, shape] of Object.entries(SHAPES)) {
    for (const noise of [0, 0.05]) {
      const random = mixedRandom(77, noise > 0 ? 1 : 2);
      const there = (i: number) => noise === 0 || (i % 97 !== 13 && (i < 150 || i > 165));
      const times = Float64Array.from(
        Array.from({ length: 361 }, (_, i) => 10 * i).filter((_, i) => there(i)),
      );
      const values = times.map((t) => Number((shape(t) + noise * random.normal()).toFixed(2)));
      const series: Series = seriesOf(times, values);
      const windows = [
        ...[
          { from: 0, to: 3600 },
          { from: 605, to: 2995 },
          { from: 100, to: 130 },
          { from: 2000, to: 1000 },
        ],
        ...[
          { from: -5, to: 10 },
          { from: 3000, to: 4000 },
          { from: 101, to: 104 },
        ],
      ];
      const asked = { threshold: 28, low: 22, high: 41, afterS: 450 };
      yield [
        `${name}, noise ${String(noise)}`,
        windows.map((window) => [
          each(TRACE_QUANTITIES, [false, true], (quantity, toZero) => {
            const found = traceValue(series, window, { ...asked, quantity, toZero }, '°C');
            if ('problem' in found) return found;
            const { curve, ...rest } = found;
            const watched = watchWindow(
              series,
              window,
              usualStep(times),
              { ...(curve ? { curve } : {}) },
              '°C',
            );
            return [rest, curve?.(100), watched];
          }),
          [3, 40].map((columns) => thinned(series, window, columns)),
        ]),
      ];
      const other = seriesOf(
        times.map((t) => t + 5),
        values.map((value) => value / 2),
      );
      yield [
        `${name}, noise ${String(noise)}, less another`,
        [less(series, other), cutTo(series, { from: 15, to: 95 })],
      ];
      yield [
        `${name}, noise ${String(noise)}, at times`,
        [-1, 0, 4, 10, 3599, 3600].map((t) => valueAt(series, t)),
      ];
    }
  }
}

/** Sounds: what is heard of tones and of noise that comes and goes. */
function* heard(): Generator<[string, unknown]> {
  const RATE = 8000;
  const random = mixedRandom(5, 1);
  const noise = Float64Array.from({ length: 6 * RATE }, (_, i) => {
    const loud = i % (2 * RATE) > RATE && i % (2 * RATE) < 1.4 * RATE;
    return (loud ? 0.3 : 0.004) * random.normal() + (i === 12345 ? 1 : 0);
  });
  const tone = noise.map((_, i) => 0.5 * Math.sin((2 * Math.PI * 1000 * i) / RATE));
  for (const weighting of ['A', 'C', 'Z'] as const) {
    const meter = new SoundMeter({ weighting }, RATE, 2);
    for (let from = 0; from < noise.length; from += 5000)
      meter.push([noise.subarray(from, from + 5000), tone.subarray(from, from + 5000)]);
    const banded = new LevelMeter({ weighting, band: '1000' }, RATE, 1);
    banded.push([tone]);
    yield [`levels ${weighting}`, [meter.found(), banded.found()]];
  }
  const track = new TrackMeter({ weighting: 'A' }, RATE, noise.length);
  track.push(noise);
  const levels = track.track();
  yield [
    'events',
    each([-60, -40, -20], [0, 0.1, 0.7], (threshold, apart) => findEvents(levels, threshold, apart)),
  ];
  yield [
    'tones',
    [toneFrequency(tone.subarray(0, 4000), RATE), toneFrequency(noise.subarray(0, 4000), RATE)],
  ];
  yield ['less the background', [0, 3, 6, 8, 15, 15.1, 40].map((by) => withoutBackground(60 + by, 60))];
  yield ['decibels', [0, 1, 0.5].map(decibels)];
}

/** What single pieces say of words, figures, traces, tables and sounds, question by question. */
export function* singleAnswers(): Generator<[string, unknown]> {
  yield ['schema', StudyDocument];
  yield* typed();
  yield* printed();
  const samples = samplesOf(mixedRandom(20260712, 1));
  yield* screened(samples);
  yield* summedUp(samples);
  yield* planned();
  yield* components();
  yield* traced();
  yield* read();
  yield* heard();
}
