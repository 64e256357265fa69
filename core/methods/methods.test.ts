import { readFileSync, readdirSync } from 'node:fs';
import { USUAL_OVER, backgroundOf, findEvents, withoutBackground } from '../sound/events.ts';
import { moments } from '../summary/moments.ts';
import { trimmedMean } from '../summary/trimmed-mean.ts';
import { type SoundLevels, SoundMeter } from '../sound/meter.ts';
import { WeightingFilter } from '../sound/weighting.ts';
import { describe, expect, it } from 'vitest';
import type { TraceQuestion } from '../trace/quantities.ts';
import { traceValue } from '../trace/values.ts';
import { type AnalysisOptions, analyse } from '../analysis/analyse.ts';
import { twoWay } from '../compare/two-way.ts';
import { DESCRIBED_METHODS, describedMethod } from '../compare/described.ts';
import { METHODS as WAYS, pairMethod } from '../compare/methods.ts';
import { PAIR_METHODS } from '../compare/method-names.ts';
import { leastSquares, pearson, spearman } from '../compare/trend.ts';
import { dunnettCritical } from '../distributions/dunnett.ts';
import { rangeCritical } from '../distributions/range.ts';
import { normalUpper } from '../distributions/normal.ts';
import { slipQuestion } from '../bench/slip.ts';
import { holm } from '../compare/holm.ts';
import { referenceRates } from '../error/reference-rate.ts';
import { chanceOfTies } from '../inspections/capped.ts';
import { groupsDiffer, slopeWithin } from '../inspections/residuals.ts';
import { chanceOfRun, shareOfLikeliest } from '../inspections/stuck.ts';
import { largestVariance } from '../inspections/unequal-spread.ts';
import { agreement } from '../error/agreement.ts';
import { deming, passingBablok } from '../error/lines.ts';
import { NEW_STUDY } from '../model/new-study.ts';
import { calibrated } from '../observations/correct.ts';
import { lookLevels } from '../plan/look-levels.ts';
import { readingsNeeded } from '../plan/power.ts';
import { varianceComponents } from '../precision/variance-components.ts';
import { drawPlaces } from '../rank/draws.ts';
import { weightFlips } from '../rank/flips.ts';
import { places } from '../rank/place.ts';
import { possibleValues } from '../rank/ranges.ts';
import { SCORING_WORDS, scored } from '../rank/scores.ts';
import { DESCRIBED_RULES, describedRule } from '../screening/described.ts';
import { SCREENING_RULES, screeningRule } from '../screening/index.ts';
import { uncertaintyBudget } from '../summary/budget.ts';
import { poissonInterval, wilsonInterval } from '../summary/intervals.ts';
import { median, medianAbsoluteDeviation, quantile, sorted } from '../summary/quantile.ts';
import { summarise } from '../summary/summary.ts';
import { uniformity } from '../summary/uniformity.ts';
import rounds from '../reference/rounds.json' with { type: 'json' };
import spectrometer from '../reference/mass-spectrometer.json' with { type: 'json' };
import { METHODS } from './index.ts';
import { methodsPage } from './page.ts';

/** What is asked of a whole trace, evenly spaced. */
function askedOf(values: readonly number[], step: number, question: Partial<TraceQuestion>): number {
  const series = {
    times: Float64Array.from(values, (_, i) => i * step),
    values: Float64Array.from(values),
  };
  const found = traceValue(
    series,
    { from: 0, to: step * (values.length - 1) },
    { quantity: 'mean', threshold: 0, low: 0, high: 0, afterS: 0, toZero: false, ...question },
    '',
  );
  return 'problem' in found ? Number.NaN : found.value;
}

const ALPHA = 0.05;
const EIGHT = [10.1, 10.2, 10.2, 10.3, 10.4, 10.4, 10.5, 13];
const PAIRS = [
  { reference: 10, indicated: 11 },
  { reference: 20, indicated: 19 },
  { reference: 30, indicated: 32 },
  { reference: 40, indicated: 42 },
];
const [X, Y] = [
  [1, 2, 3, 4, 5],
  [2, 4, 5, 4, 5],
];

/** What a rule leaves out of readings, with its statistic and limit. */
const leftOut = (
  name: Parameters<typeof screeningRule>[0],
  values: readonly number[],
  options: Partial<Parameters<ReturnType<typeof screeningRule>['screen']>[1]> = {},
) => screeningRule(name).screen(values, { alpha: ALPHA, ...options }).leftOut;
const judged = (name: Parameters<typeof screeningRule>[0], values: readonly number[], parameter?: number) => {
  const [first] = leftOut(name, values, { parameter: parameter ?? null });
  return [first?.statistic ?? Number.NaN, first?.limit ?? Number.NaN];
};

/** Two items compared by a method, exact to the digit typed. */
const compared = (
  method: AnalysisOptions['method'],
  [a, b]: readonly [readonly number[], readonly number[]],
  inRounds = false,
  margin = 0,
) => {
  const item = (name: string, values: readonly number[]) => ({
    ...{ item: name, values },
    ...(inRounds ? { rounds: values.map((_, round) => round) } : {}),
  });
  const { pairs } = analyse([item('a', a), item('b', b)], {
    ...{ better: { kind: 'higher' }, rule: { name: 'none' }, alpha: ALPHA, resamples: 0, seed: 1 },
    ...{ margin: { kind: 'absolute', value: margin }, resolution: 1e-9, method },
  });
  const [pair] = pairs;
  if (!pair) throw new Error('no pair');
  return pair;
};
const APART = [
  [10, 10.2, 10.4, 10.6],
  [11, 11.2, 11.4, 11.6],
] as const;
const IN_ROUNDS = [
  [10, 12, 9, 14],
  [11.1, 13, 10.2, 15.1],
] as const;
const interval = (pair: ReturnType<typeof compared>) => [pair.low as number, pair.high as number];
const runners = analyse(
  rounds.items.map((item, i) => ({
    ...{
      item,
      values: rounds.rounds.map((row) => row[i] as number),
      rounds: rounds.rounds.map((_, round) => round),
    },
  })),
  {
    ...{ better: { kind: 'lower' }, rule: { name: 'none' }, alpha: ALPHA, resamples: 0, seed: 1 },
    ...{ margin: { kind: 'absolute', value: 0 } },
  },
);
const scores = (school: (typeof SCORING_WORDS)[number]['name'], values: readonly number[]) =>
  scored([{ measurandId: 'm', better: { kind: 'higher' }, hasRatios: true, values }], [1], {
    school,
    missing: 'no-score',
  }).scores as number[];
const verdict = (margin: number) => compared('tamhane-t2', APART, false, margin);
const trimmed = summarise(Float64Array.from([5, 6, 7]), ALPHA, {
  trim: screeningRule('drop-extremes').screen([4, 5, 6, 7, 20], { alpha: ALPHA }).trim,
});

/** What each example gives, computed. */
const FOUND: Record<string, () => readonly (number | string)[]> = {
  'generalized-esd': () => judged('generalized-esd', EIGHT, 2),
  grubbs: () => judged('grubbs', spectrometer.values),
  dixon: () => judged('dixon', [10.1, 10.2, 10.2, 10.3, 12.6]),
  fences: () => {
    const all = sorted(EIGHT);
    const [low, high] = [quantile(all, 0.25), quantile(all, 0.75)];
    expect(leftOut('fences', EIGHT).map(({ index }) => index)).toEqual([7]);
    return [(13 - high) / (high - low)];
  },
  'modified-z': () => judged('modified-z', EIGHT),
  chauvenet: () => {
    const values = [46, 48, 44, 38, 45, 47, 58, 44, 45, 43];
    const { mean, sd } = summarise(values, ALPHA);
    expect(leftOut('chauvenet', values).map(({ index }) => index)).toEqual([6]);
    return [20 * normalUpper((58 - (mean as number)) / (sd as number))];
  },
  peirce: () => {
    // The limit for one doubtful reading stands with the one that is left out.
    return [judged('peirce', [1, 2, 1, 2, 1, 2, 1, 2, 1.5, 9])[1] as number];
  },
  'drop-extremes': () => [trimmed.mean as number, trimmed.se as number],
  trimmed: () => {
    const values = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10];
    const out = new Set(leftOut('trimmed', values).map(({ index }) => index));
    const kept = values.filter((_, i) => !out.has(i));
    return [summarise(kept, ALPHA).mean as number, kept.length];
  },
  plausibility: () => {
    const values = [9.8, 10.1, 101];
    const out = leftOut('plausibility', values, { limits: { low: 5, high: 20 } }).map(({ index }) => index);
    return [values[out[0] as number] as number, summarise(values.slice(0, 2), ALPHA).mean as number];
  },
  mean: () => {
    const { mean, sd, se, interval: about } = summarise([4, 5, 6], ALPHA);
    return [mean as number, sd as number, se as number, ...(about ?? [])];
  },
  'trimmed-mean': () => {
    const readings = Float64Array.of(1, 2, 3, 4, 5, 6, 7, 8, 9, 100);
    return [trimmedMean(readings), moments(readings).mean];
  },
  median: () => {
    const all = sorted([3, 4, 5, 6, 60]);
    return [median(all), medianAbsoluteDeviation(all)];
  },
  'energy-mean': () => [summarise([60, 70], ALPHA, { average: 'energy' }).mean as number],
  resolution: () =>
    [summarise([0.5, 0.5, 0.5], ALPHA, { step: 0.1 }).se as number].map((se) =>
      // The rounding of the mean comes on top: se² = a²/12/3 + a²/12.
      Math.sqrt((se * se) / (1 / 3 + 1)),
    ),
  uncertainty: () => {
    // Mean 100 and s = 2 exactly: 100 ± √3.
    const d = Math.sqrt(3);
    const summary = summarise([100 - d, 100 - d, 100 + d, 100 + d], ALPHA, { step: 1 });
    const stated = { resolution: 1, accuracyPercent: 3, accuracyConstant: null };
    return [uncertaintyBudget(summary, stated, 1, ALPHA)?.combined ?? Number.NaN];
  },
  wilson: () => wilsonInterval(8, 10, ALPHA).map((end) => 100 * end),
  poisson: () => [...poissonInterval(5, ALPHA)],
  'trace-window': () => [
    askedOf([10, 20, 20], 10, { quantity: 'area' }),
    askedOf([10, 20, 20], 10, { quantity: 'mean' }),
    askedOf([10, 20, 20], 10, { quantity: 'timeTo', threshold: 16 }),
  ],
  'trace-slope': () => [askedOf([1, 3, 5, 7], 1, { quantity: 'slope' })],
  'trace-decay': () => [
    askedOf([80, 40, 20, 10, 5, 2.5], 1, { quantity: 'halfLife', toZero: true }),
    askedOf([80, 40, 20, 10, 5, 2.5], 1, { quantity: 'timeConstant', toZero: true }),
  ],
  'sound-levels': () => {
    const meter = new SoundMeter({ weighting: 'Z' }, 48000, 1);
    meter.push([Float64Array.from({ length: 480000 }, (_, k) => Math.sin((2 * Math.PI * k) / 48) / 2)]);
    const { samplePeak, equivalent, exposure } = meter.found()[0] as SoundLevels;
    return [samplePeak, equivalent, exposure].map(Math.abs);
  },
  'sound-weighting': () =>
    (['A', 'C'] as const).map((name) => 80 + new WeightingFilter(name, 48000).decibelsAt(100)),
  'sound-background': () => {
    const found = withoutBackground(60, 52);
    return 'problem' in found ? [] : [found.correction, found.level];
  },
  'sound-events': () => {
    const track = Float32Array.from({ length: 2000 }, (_, i) =>
      (i >= 200 && i < 300) || (i >= 330 && i < 400) ? 45 : 30,
    );
    const threshold = backgroundOf(track) + USUAL_OVER;
    return [threshold, ...findEvents(track, threshold, 0.5).map(({ from, to }) => to - from)];
  },
  elsewhere: () => {
    const there = { kind: 'summary' as const, n: 3, mean: 9, sd: 1, low: null, high: null };
    const { pairs } = analyse(
      [
        { item: 'here', values: [4, 5, 6] },
        { item: 'there', values: [], typed: there },
      ],
      {
        ...{ better: { kind: 'higher' }, rule: { name: 'none' }, alpha: ALPHA, resamples: 0, seed: 1 },
        ...{ margin: { kind: 'absolute', value: 0 }, resolution: 1e-9 },
      },
    );
    return pairs.flatMap(({ difference, low, high }) => [difference, low as number, high as number]);
  },
  uniformity: () => {
    const even = uniformity([8, 10, 12, 10]);
    return [even?.christiansen ?? Number.NaN, even?.lowQuarter ?? Number.NaN];
  },
  corrections: () => [
    calibrated(49.95, [
      { indicated: 0.3, is: 0 },
      { indicated: 99.6, is: 100 },
    ]),
  ],
  precision: () => {
    // Any six batches of five with these mean squares will do.
    const within = [-1, -1, 0, 1, 1].map((x) => x * Math.sqrt(2451.25));
    const between = [-1, -1, -1, 1, 1, 1].map((x) => x * Math.sqrt((11271.5 / 5) * (5 / 6)));
    const values = between.flatMap((mean) => within.map((x) => mean + x));
    const groups = between.flatMap((_, batch) => within.map(() => batch));
    const found = varianceComponents(
      values,
      groups.map(() => 0),
      [{ groups, count: 6 }],
    );
    return [found?.between[0] ?? Number.NaN, found?.residual ?? Number.NaN];
  },
  agreement: () => {
    const found = agreement(PAIRS, ALPHA);
    return [found?.bias ?? Number.NaN, found?.sd ?? Number.NaN, found?.limits?.[1] ?? Number.NaN];
  },
  'relative-error': () => {
    const found = agreement(PAIRS, ALPHA);
    return [100 * (found?.meanRelative ?? Number.NaN), found?.rmse ?? Number.NaN];
  },
  deming: () => {
    const line = deming(PAIRS, ALPHA);
    return [line?.slope ?? Number.NaN, Math.abs(line?.intercept ?? Number.NaN)];
  },
  'passing-bablok': () => [passingBablok(PAIRS, ALPHA)?.slope ?? Number.NaN],
  'within-rounds': () => {
    const pair = compared(undefined, IN_ROUNDS, true);
    expect(pair.verdict).toBe('b ahead');
    return [pair.difference, pair.se as number, ...interval(pair)];
  },
  'own-differences': () => interval(compared('own-differences', IN_ROUNDS, true)),
  rounds: () => [
    runners.tests.blockedAnova?.msResidual ?? Number.NaN,
    runners.tests.blockedAnova?.f ?? Number.NaN,
  ],
  'tamhane-t2': () => {
    const pair = compared('tamhane-t2', APART);
    return [pair.difference, pair.se as number, ...interval(pair)];
  },
  'games-howell': () => interval(compared('games-howell', APART)),
  tukey: () => interval(compared('tukey', APART)),
  dunn: () => [
    compared('dunn', [
      [1, 2, 3],
      [4, 5, 6],
    ]).p as number,
  ],
  'rank-sums': () => [runners.tests.friedman?.chiSquared ?? Number.NaN],
  dunnett: () => [dunnettCritical(ALPHA, [Math.SQRT1_2, Math.SQRT1_2], 27), rangeCritical(ALPHA, 3, 27)],
  verdict: () => {
    expect([verdict(2).verdict, verdict(0.5).verdict, verdict(0.5).matters]).toEqual([
      'same',
      'b ahead',
      'yes',
    ]);
    return interval(verdict(2));
  },
  'place-range': () => {
    const found = places(
      [3, 2, 1],
      [
        { a: 0, b: 1, verdict: 'a ahead' },
        { a: 0, b: 2, verdict: 'a ahead' },
        { a: 1, b: 2, verdict: 'not settled' },
      ],
    );
    return [String(found[0]?.placeLow), `${String(found[1]?.placeLow)}–${String(found[1]?.placeHigh)}`];
  },
  'how-often-first': () => {
    const exactly = (mean: number) => ({ mean, se: 0, df: 1 });
    const worthOf = ([means]: readonly Float64Array[], worth: Float64Array) => {
      worth.set(means as Float64Array);
    };
    const known = [[exactly(0), exactly(1)]];
    return [100 * (drawPlaces({ known, worthOf, draws: 100, seed: 1 }).places[1]?.[0] ?? 0)];
  },
  pearson: () => {
    const found = pearson(X, Y, ALPHA);
    return [found?.r ?? Number.NaN, found?.interval?.[1] ?? Number.NaN];
  },
  spearman: () => [spearman(X, Y) ?? Number.NaN],
  'least-squares': () => {
    const line = leastSquares(X, Y, ALPHA);
    return [line?.slope ?? Number.NaN, line?.slopeInterval?.[1] ?? Number.NaN];
  },
  'two-way': () => {
    const cell = (...values: number[]) => Float64Array.from(values);
    return [
      twoWay([
        [cell(1, 2), cell(3, 4)],
        [cell(2, 3), cell(8, 9)],
      ])?.interaction?.f ?? Number.NaN,
    ];
  },
  // The figures of these were worked out with R 4.2 (t.test, lm, pf, pnorm, qnorm) besides.
  findings: () => holm([0.009, 0.03, 0.2]) as number[],
  drift: () => {
    const item = (cell: string, values: readonly number[], from: number) =>
      values.map((value, i) => ({ cell, value, along: from + 2 * i }));
    const found = slopeWithin([...item('a', [10, 11, 11, 12], 0), ...item('b', [20, 20, 22, 22], 1)]);
    return [found?.slope ?? Number.NaN, found?.p ?? Number.NaN];
  },
  'first-of-round': () => {
    const found = groupsDiffer([1, 2, 0, 2, 1], [0, 0, 1, -1, 0]);
    return [found?.difference ?? Number.NaN, found?.p ?? Number.NaN];
  },
  stuck: () => {
    const equal = shareOfLikeliest(1, 0.5);
    return [equal, chanceOfRun(4, 10, equal)];
  },
  capped: () => {
    // Their spread is 1 exactly.
    const values = Array.from({ length: 20 }, (_, i) => (i % 2 === 0 ? 1 : -1) * Math.sqrt(19 / 20));
    const chance = chanceOfTies(values, 4, 0.1);
    return [chance, 2 * chance];
  },
  'unequal-spread': () => [largestVariance([1, 1, 4].map((variance) => ({ variance, df: 4 })))],
  'digit-slip': () => {
    const readings = [10.1, 10.2, 10.4, 10.3];
    const context = { unit: '', limits: { low: null, high: null }, resolution: null, itemName: 'a' };
    const slip = slipQuestion(102, { ...context, ofItem: readings, all: readings });
    expect(slip?.kind).toBe('decimal point');
    return [slip?.suggestion ?? Number.NaN];
  },
  'reference-rate': () => {
    const read = [40, 50, 52].map((reference, i) => ({ stretch: '', time: i * 120_000, reference }));
    return [referenceRates(read)[1] ?? Number.NaN];
  },
  span: () => scores('span', [4, 6, 9]),
  ratio: () => scores('ratio', [4, 6, 8]),
  standard: () => scores('standard', [4, 6, 8]).slice(1),
  points: () => scores('points', [4, 6, 6]).slice(0, 2),
  'scored-range': () => {
    const ranged = {
      ...{ better: { kind: 'higher' as const }, hasRatios: true, values: [4, 6, 10] },
      ranges: [null, null, { low: 8, high: 12 }],
    };
    const found = possibleValues([ranged], [1], [ranged.values]).map(([values]) =>
      scores('span', values as number[]),
    );
    const [ofSix, ofRange] = [1, 2].map((item) => found.map((each) => each[item] as number));
    return [Math.min(...(ofSix ?? [])), Math.max(...(ofSix ?? [])), ...new Set(ofRange)];
  },
  flips: () => {
    const scaled = [Float64Array.from([1, 0]), Float64Array.from([0, 1])];
    const ids = ['m', 'n'];
    const criteria = ids.map((measurandId) => ({ measurandId }));
    const [flip] = weightFlips(criteria, scaled, ids, [0.6, 0.4]);
    return [flip?.down?.share ?? Number.NaN];
  },
  'readings-needed': () => {
    const n = readingsNeeded(0.9, { difference: 1, sd: 1, alpha: ALPHA }) ?? Number.NaN;
    return [n, Math.ceil(n)];
  },
  looks: () => lookLevels([0.5, 0.75, 1], ALPHA, NEW_STUDY.looks.spending),
};

/** A figure as it is printed with as many decimals as the example prints. */
const asPrinted = (value: number | string, printed: string): string =>
  typeof value === 'string' ? value : value.toFixed(printed.split('.')[1]?.length ?? 0);

const entries = METHODS.flatMap((group) => group.entries);

describe('the methods in words', () => {
  it.each(entries)('show an example that comes out as it says: $name', ({ name, example }) => {
    const found = FOUND[name]?.() ?? [];
    expect(found.length).toBeGreaterThanOrEqual(example.figures.length);
    expect(example.figures.map((figure, i) => asPrinted(found[i] ?? Number.NaN, figure))).toEqual(
      example.figures,
    );
    for (const figure of example.figures) expect(example.gives).toContain(figure);
  });
  it('stand there once each, with nothing missing', () => {
    const names = entries.map(({ name }) => name);
    expect(new Set(names).size).toBe(names.length);
    const rules = SCREENING_RULES.filter(({ keepsAll }) => !keepsAll).map(({ name }) => name);
    for (const name of [...rules, ...PAIR_METHODS, ...SCORING_WORDS.map((words) => words.name)])
      expect(names).toContain(name);
    for (const name of PAIR_METHODS) {
      const entry = entries.find((written) => written.name === name);
      // One method has one source, wherever it is named.
      for (const year of pairMethod(name).source.match(/\d{4}/g) ?? []) expect(entry?.source).toContain(year);
    }
  });
  it('explain every finding that leads to them', () => {
    const folder = new URL('../inspections/', import.meta.url);
    const named = readdirSync(folder).flatMap((file) =>
      [...readFileSync(new URL(file, folder), 'utf8').matchAll(/ method: '([^']+)'/g)].map(
        (found) => found[1],
      ),
    );
    expect(named.length).toBeGreaterThan(5);
    for (const name of named) expect(entries.map((entry) => entry.name)).toContain(name);
  });
  it('have the same words where pages speak of them without working anything out', () => {
    // What can be done with them is no part of it.
    const inWords = (list: readonly object[]): unknown => JSON.parse(JSON.stringify(list));
    expect(DESCRIBED_RULES).toEqual(inWords(SCREENING_RULES));
    expect(DESCRIBED_METHODS).toEqual(inWords(WAYS));
    expect(describedRule('grubbs').label).toBe(screeningRule('grubbs').label);
    expect(describedMethod('dunn').source).toBe(pairMethod('dunn').source);
    expect(() => describedRule('coin' as never)).toThrow('no screening rule is called “coin”');
    expect(() => describedMethod('coin' as never)).toThrow('no way of comparing is called “coin”');
  });
  it('are the text of docs/methods.md', () => {
    expect(readFileSync(new URL('../../docs/methods.md', import.meta.url), 'utf8')).toBe(methodsPage());
  });
});
