import isEqual from 'lodash/isEqual.js';
import { median } from '../summary/quantile.ts';
import { levelOfEach } from '../distributions/several.ts';
import type { Limits } from '../model/parts.ts';
import { roundCentres } from './round-centres.ts';
import type { LeftOut, Screening, ScreeningRule } from './rule.ts';

/** One sample of a study: the readings of one item at one setting that were not left out by hand. */
export interface SampleToScreen {
  values: ArrayLike<number>;
  /** Round of each reading, NaN for one that belongs to none; undefined where rounds share nothing. */
  rounds?: ArrayLike<number> | undefined;
  /** Readings of one setting share their rounds. */
  setting: string;
  /** Indices that the tester keeps whatever the rule says. */
  insisted?: ReadonlySet<number> | undefined;
  /** Whether it is compared with others; one that is not does not count among the samples of the study. */
  compared: boolean;
}

export interface ScreenedSample extends Screening {
  /** What was judged: the reading itself, or its distance from the median of its round. */
  judged: 'reading' | 'distance';
}

/** What rules made of a sample. */
interface Remembered {
  /** Its distances, as they were judged last. */
  distance: Float64Array | undefined;
  /** By what a rule was asked. */
  found: Map<string, ScreenedSample>;
}

/** By the values of a sample, which do not change. */
export type ScreenMemory = WeakMap<ArrayLike<number>, Remembered>;

export interface ScreenOptions {
  rule: ScreeningRule;
  parameter: number | null;
  /** Level of the rule, shared by all samples of the study or each one's own. */
  alpha: number;
  level: 'study' | 'sample';
  judges: 'reading' | 'distance';
  /** Step of the readings, in their unit; 0 where none is known. */
  step: number;
  /** What the plan calls plausible. */
  limits?: Limits | undefined;
  /** The study is looked at more than once. */
  strict?: boolean | undefined;
  /** How many samples of the study share the level, where not all of them are here. */
  shared?: number | undefined;
  /** Samples that were screened before in the same way are not screened again: the same values hold the same insisted ones. */
  memory?: ScreenMemory | undefined;
}

/**
 * Distances within rounds are judged at this share of the level, since those of two or three items mirror each other;
 * and so are readings of a study that is looked at more than once, since each look asks the rule again.
 */
const STRICT_SHARE = 0.4;

/** Readings within this many steps of the median of what is kept are never left out by a statistical rule. */
const STEPS = 2;

/** Distance of every reading from the median of its round; NaN where its round is not shared. */
function distances(samples: readonly SampleToScreen[]): Float64Array[] | undefined {
  const centres = roundCentres(samples);
  if (!centres) return undefined;
  return samples.map(({ values, rounds: roundOf }) =>
    Float64Array.from(
      values,
      (value, i) => value - (centres.get(roundOf ? (roundOf[i] as number) : Number.NaN) ?? Number.NaN),
    ),
  );
}

/** Gives back what lies within two steps of the median of what is kept, again until nothing changes. */
function guardSteps(values: ArrayLike<number>, leftOut: readonly LeftOut[], step: number): LeftOut[] {
  let out = [...leftOut];
  while (out.length > 0) {
    const indices = new Set(out.map(({ index }) => index));
    const kept = Float64Array.from(values).filter((_, i) => !indices.has(i));
    const centre = median(kept.sort());
    const beyond = out.filter(
      ({ index }) => Math.abs((values[index] as number) - centre) > STEPS * step * (1 + 1e-9),
    );
    if (beyond.length === out.length) break;
    out = beyond;
  }
  return out;
}

/** What is made of a sample by a rule that judges nothing. */
const KEPT: ScreenedSample = { leftOut: [], judged: 'reading' };

function placesJudged(distance: Float64Array): number[] {
  const places: number[] = [];
  distance.forEach((value, i) => (Number.isNaN(value) ? undefined : places.push(i)));
  return places;
}

type OneAsked = Pick<ScreenOptions, 'rule' | 'parameter' | 'alpha' | 'step' | 'limits'>;

function screenOne(
  sample: SampleToScreen,
  distance: Float64Array | undefined,
  { rule, parameter, alpha, step, limits }: OneAsked,
): ScreenedSample {
  const judged = distance ? 'distance' : 'reading';
  // A reading whose round nobody shares has no distance: it is not judged.
  const places = distance?.some(Number.isNaN) ? placesJudged(distance) : undefined;
  const values = distance ? (places?.map((i) => distance[i] as number) ?? distance) : sample.values;
  const { leftOut, ...rest } = rule.screen(values, { alpha, parameter, ...(limits ? { limits } : {}) });
  if (rule.alwaysCuts) return { leftOut, ...rest, judged };
  const guarded = step > 0 && !rule.byItself ? guardSteps(values, leftOut, step) : leftOut;
  return {
    ...rest,
    judged,
    leftOut: guarded
      .map((out) => (places ? { ...out, index: places[out.index] as number } : out))
      .filter(({ index }) => !sample.insisted?.has(index)),
  };
}

/** The same, remembered. */
function screenOnce(
  sample: SampleToScreen,
  distance: Float64Array | undefined,
  asked: OneAsked,
  memory: ScreenMemory,
): ScreenedSample {
  let remembered = memory.get(sample.values);
  if (!remembered || (distance && remembered.distance && !isEqual(remembered.distance, distance)))
    remembered = { distance, found: new Map() };
  remembered.distance ??= distance;
  memory.set(sample.values, remembered);
  const { rule, parameter, alpha, step, limits } = asked;
  const question = JSON.stringify([rule.name, parameter, alpha, step, limits, distance !== undefined]);
  const found = remembered.found.get(question) ?? screenOne(sample, distance, asked);
  remembered.found.set(question, found);
  return found;
}

/**
 * Applies one rule to all samples of a study. A test's level is shared by the samples that are compared, so that a clean
 * study loses a reading in one case of twenty, whatever its size. Where items of a setting share rounds, a reading can
 * be judged by its distance from the median of its round, so that what drifts between rounds hides no misread.
 * @returns one screening per sample, in order; indices are of the sample's readings
 * @source level of each: Šidák (1967); distances within rounds and steps: our simulation, docs/checks.md
 */
export function screenSamples(samples: readonly SampleToScreen[], options: ScreenOptions): ScreenedSample[] {
  const { rule, parameter, alpha, level, judges, step, limits, strict = false, shared: given } = options;
  if (rule.keepsAll) return samples.map(() => KEPT);
  const shared = given ?? samples.filter(({ compared, values }) => compared && values.length > 0).length;
  const each = (of: number) => (rule.tests && level === 'study' ? levelOfEach(of, Math.max(1, shared)) : of);
  const bySetting = new Map<string, number[]>();
  samples.forEach(({ setting }, i) => bySetting.set(setting, [...(bySetting.get(setting) ?? []), i]));
  const result: ScreenedSample[] = [];
  for (const indices of bySetting.values()) {
    const group = indices.map((i) => samples[i] as SampleToScreen);
    const byDistance =
      judges === 'distance' && !rule.alwaysCuts && !rule.byItself ? distances(group) : undefined;
    const ruleAlpha = each((byDistance || strict) && rule.tests ? STRICT_SHARE * alpha : alpha);
    const asked = { rule, parameter, alpha: ruleAlpha, step, limits };
    indices.forEach((i, within) => {
      const [sample, distance] = [group[within] as SampleToScreen, byDistance?.[within]];
      result[i] = options.memory
        ? screenOnce(sample, distance, asked, options.memory)
        : screenOne(sample, distance, asked);
    });
  }
  return result;
}
