import { type ChangeVerdict, changeVerdict } from '../compare/changes.ts';
import { bare } from '../compare/method.ts';
import { percentOf } from '../compare/ratio.ts';
import type { Location } from '../compare/sample.ts';
import { leastSquares, spearman } from '../compare/trend.ts';
import { byT, welch } from '../compare/welch-pair.ts';
import { type Agreement, agreement } from '../error/agreement.ts';
import { tQuantileUpper } from '../distributions/index.ts';
import { levelOfEach } from '../distributions/several.ts';
import { ALPHA } from '../model/alpha.ts';
import { byText, itemsInOrder } from '../model/in-order.ts';
import type { Item, Measurand } from '../model/parts.ts';
import type { EarlierTest } from '../model/study.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { convert } from '../quantity/units.ts';
import { median, sorted } from '../summary/quantile.ts';
import { roundingVariance } from '../summary/step.ts';
import type { Occasion, OccasionFigure, OccasionMeasurand, OccasionSetting } from './occasion.ts';
import { hasPercent } from './over-levels.ts';
import { screenedOf } from './observed.ts';

/** What an item changed by since an earlier test, in the unit of the measurand as it is now. */
export interface TestChange {
  difference: number;
  /** Holds with all others at once; null where a spread is not known. */
  interval: readonly [number, number] | null;
  percent: number | null;
  percentInterval: readonly [number, number] | null;
  verdict: ChangeVerdict;
  withinAccuracy: boolean;
  /**
   * What it changed by beyond the median change of the others; null with fewer than two others. It stands out where it
   * changed more, or less, than more than half of the others, one by one.
   */
  beyond: { difference: number; standsOut: boolean } | null;
}

/** One test among those that are held against one another. */
export interface TestHeld {
  studyId: string;
  title: string;
  startedAt: string;
  sessionId: string | undefined;
  /** Why there is nothing to compare with, where there is not. */
  problem: string | undefined;
  /** By what quantity the ambient was read, where it was and the values are temperatures. */
  ambient: string | undefined;
  /** What is set right in its values, in words. */
  corrections: string;
  /** Item by item: mean and interval of it alone; null where it was not read. */
  means: ({ mean: number; interval: readonly [number, number] | null; n: number } | null)[];
}

/** How one earlier test goes with the present one. */
export interface TestAgreement {
  /** Over the means of the items: now less then. */
  agreement: Agreement;
  /** Rank correlation of the means; undefined with fewer than three. */
  ranks: number | undefined;
}

/** What an item changes by in a year, by a straight line through its tests. */
export interface Trend {
  tests: number;
  slope: number;
  /** Holds with those of all items at once. */
  interval: readonly [number, number] | null;
}

export interface SinceEarlier {
  measurand: Measurand;
  items: Item[];
  /** The earlier tests in the order of their time, and the present one last. */
  tests: TestHeld[];
  /** Of each item, one for each earlier test. */
  changes: (TestChange | null)[][];
  /** For each earlier test; undefined where nothing goes together. */
  agreements: (TestAgreement | undefined)[];
  /** Of each item over three tests or more; null with fewer. */
  trends: (Trend | null)[];
  /** Whether values are those less the ambient. */
  lessAmbient: boolean;
}

export interface SinceOptions {
  settingKey: string;
  /** Whether to compare values less the ambient temperature. */
  lessAmbient: boolean;
  alpha?: number;
}

const asCompared = (text: string) => text.trim().toLowerCase();

/** The item of an earlier test that is an item of now: matched by hand, else by name. */
export function matchedItem(
  item: Pick<Item, 'id' | 'name'>,
  { items }: Pick<Occasion, 'items'>,
  matches: EarlierTest['matches'],
): Pick<Item, 'id' | 'name'> | undefined {
  const byHand = matches.find(({ itemId }) => itemId === item.id);
  return byHand
    ? items.find(({ id }) => id === byHand.earlierItemId)
    : items.find(({ id, name }) => id === item.id || asCompared(name) === asCompared(item.name));
}

/** What an earlier test has of a measurand at a setting, or why it has nothing. */
function foundIn(
  occasion: Occasion,
  measurand: Measurand,
  setting: OccasionSetting,
  alone: boolean,
): { measurand: OccasionMeasurand; setting: OccasionSetting; factor: number; zero: number } | string {
  const then = occasion.measurands.find(
    ({ id, name }) => id === measurand.id || asCompared(name) === asCompared(measurand.name),
  );
  if (!then) return `${measurand.name} was not read then.`;
  const [zero, unit] = [0, 1].map((value) => convert(value, then.unit, measurand.unit));
  if (zero === undefined || unit === undefined) {
    return `${measurand.name} was read in ${then.unit || 'no unit'} then, which cannot be turned into ${measurand.unit || 'no unit'}.`;
  }
  const sameSetting = then.settings.find(({ words }) => asCompared(words) === asCompared(setting.words));
  const [only, ...others] = then.settings;
  const found = sameSetting ?? (alone && others.length === 0 ? only : undefined);
  if (!found) return `Nothing was read at ${setting.words || 'this setting'} then.`;
  return { measurand: then, setting: found, factor: unit - zero, zero };
}

/** A location in another unit. */
const inUnit = (location: Location, factor: number, zero: number): Location => ({
  ...location,
  mean: factor * location.mean + zero,
  varianceOfMean: factor * factor * location.varianceOfMean,
  fixed: factor * factor * location.fixed,
});

const known = ({ n, varianceOfMean }: Location): boolean => n >= 2 && Number.isFinite(varianceOfMean);

function meanOf(location: Location | null): TestHeld['means'][number] {
  if (!location) return null;
  const { n, mean, varianceOfMean, df } = location;
  const half = known(location) ? tQuantileUpper(ALPHA / 2, df) * Math.sqrt(varianceOfMean) : null;
  return { n, mean, interval: half === null ? null : [mean - half, mean + half] };
}

/** What all that can be judged is judged by. */
interface Judging {
  measurand: Measurand;
  /** Steps of the values now and then, in the unit of now. */
  steps: readonly [number, number];
  /** Level that all intervals hold together, and their number. */
  alpha: number;
  m: number;
  percent: boolean;
}

function changeOf(then: Location, now: Location, by: Judging): Omit<TestChange, 'beyond'> {
  const { measurand, steps, alpha, m, percent } = by;
  const difference = now.mean - then.mean;
  const { se, df } = welch(then, now);
  const tested = known(then) && known(now) ? byT(difference, se, df, alpha, m) : undefined;
  const judged = changeVerdict({
    pair: { ...bare(0, 1, difference), ...tested },
    means: [then.mean, now.mean],
    counts: [then.n, now.n],
    margin: measurand.margin,
    alpha,
    rounding: roundingVariance(steps[0]) + roundingVariance(steps[1]),
    instrument: measurand.instrument,
  });
  const inPercent =
    percent && then.mean > 0
      ? tested?.critical == null
        ? { percent: (100 * difference) / then.mean, interval: null }
        : percentOf(
            {
              ...{ of: then.mean, mean: now.mean },
              ...{ varianceOf: then.varianceOfMean, variance: now.varianceOfMean },
              varianceOfDifference: se * se,
            },
            tested.critical,
          )
      : undefined;
  return {
    difference,
    interval: tested?.low == null || tested.high === null ? null : [tested.low, tested.high],
    percent: inPercent?.percent ?? null,
    percentInterval: inPercent?.interval ?? null,
    ...judged,
  };
}

/** An item at both tests. */
type Both = readonly [then: Location, now: Location] | undefined;

/**
 * What each item changed by beyond the others: what the two tests as a whole differ by falls out of it. One item that
 * changed a great deal must not make all others stand out, so each is held against every other one.
 * @param alpha level that all pairs hold together, and their number
 * @source contrasts of independent means by Welch (1947), over all pairs Šidák (1967)
 */
function beyondOthers(
  pairs: readonly Both[],
  { alpha, m }: { alpha: number; m: number },
): TestChange['beyond'][] {
  const changes = pairs.map((pair) => {
    if (!pair) return undefined;
    const [then, now] = pair;
    const difference = now.mean - then.mean;
    if (!known(then) || !known(now)) return { difference, location: undefined };
    const { se, df } = welch(then, now);
    const location: Location = {
      ...{ n: 2, mean: difference, varianceOfMean: se * se, fixed: 0, doubtVariance: 0, df },
    };
    return { difference, location };
  });
  const side = (a: Location | undefined, b: Location | undefined): number => {
    if (!a || !b) return 0;
    const { se, df } = welch(b, a);
    const { low, high } = byT(a.mean - b.mean, se, df, alpha, m);
    return (low ?? 0) > 0 ? 1 : (high ?? 0) < 0 ? -1 : 0;
  };
  return changes.map((change, index) => {
    const others = changes.filter((other, i) => other !== undefined && i !== index);
    if (!change || others.length < 2) return null;
    const sides = others.map((other) => side(change.location, other?.location));
    const most = Math.max(...[1, -1].map((way) => sides.filter((found) => found === way).length));
    const middle = median(sorted(others.map((other) => other?.difference as number)));
    return { difference: change.difference - middle, standsOut: most > others.length / 2 };
  });
}

function agreementWith(pairs: readonly Both[]): TestAgreement | undefined {
  const means = pairs.flatMap((pair) => (pair ? [{ reference: pair[0].mean, indicated: pair[1].mean }] : []));
  const agreed = agreement(means, ALPHA);
  if (!agreed) return undefined;
  return {
    agreement: agreed,
    ranks:
      agreed.n < 3
        ? undefined
        : spearman(
            means.map(({ reference }) => reference),
            means.map(({ indicated }) => indicated),
          ),
  };
}

/** An earlier test, with what it found of each item of now, in the unit of now. */
interface Found extends Omit<TestHeld, 'means'> {
  step: number;
  locations: (Location | null)[];
}

/** What is asked of an earlier test. */
interface Asked {
  measurand: Measurand;
  items: readonly Item[];
  setting: OccasionSetting;
  /** Whether now has one setting only. */
  alone: boolean;
  lessAmbient: boolean;
  /** What each item is now. */
  now: readonly (Location | null)[];
}

const chosenOf = (figure: OccasionFigure | null | undefined, lessAmbient: boolean): Location | null =>
  (lessAmbient ? figure?.lessAmbient : figure?.location) ?? null;

function testThen(occasion: Occasion, matches: EarlierTest['matches'], asked: Asked): Found {
  const { items, lessAmbient, now } = asked;
  const { studyId, title, startedAt, sessionId } = occasion;
  const about = { studyId, title, startedAt, sessionId };
  const then = foundIn(occasion, asked.measurand, asked.setting, asked.alone);
  if (typeof then === 'string') {
    return {
      ...{ ...about, problem: then, ambient: undefined, corrections: 'none' },
      ...{ step: 0, locations: items.map(() => null) },
    };
  }
  const { factor, zero } = then;
  const locations = items.map((item) => {
    const match = matchedItem(item, occasion, matches);
    const place = occasion.items.findIndex(({ id }) => id === match?.id);
    const location = chosenOf(then.setting.figures[place], lessAmbient);
    // A difference of two temperatures has no zero of its own.
    return location && inUnit(location, factor, lessAmbient ? 0 : zero);
  });
  const why = lessAmbient
    ? 'The ambient temperature is not known for both tests.'
    : 'None of the items was read at both tests.';
  return {
    ...about,
    problem: locations.some((location, i) => location && now[i]) ? undefined : why,
    ...{ ambient: then.measurand.ambient, corrections: then.measurand.corrections },
    ...{ step: factor * then.measurand.step, locations },
  };
}

const bothOf = ({ locations }: Pick<Found, 'locations'>, now: readonly (Location | null)[]): Both[] =>
  locations.map((then, i) => {
    const present = now[i];
    return then && present ? [then, present] : undefined;
  });

const judged = (pairs: readonly Both[]): number =>
  pairs.filter((pair) => pair && known(pair[0]) && known(pair[1])).length;

const YEAR_MS = 365.25 * 86400000;

/** The trend of each item over three tests or more, a year at a time. */
function trendsOf(
  tests: readonly Pick<TestHeld, 'startedAt' | 'means'>[],
  items: number,
  alpha: number,
): (Trend | null)[] {
  return Array.from({ length: items }, (_, item) => {
    const read = tests.flatMap(({ startedAt, means }) => {
      const mean = means[item]?.mean;
      return mean === undefined ? [] : [{ x: Date.parse(startedAt) / YEAR_MS, y: mean }];
    });
    if (read.length < 3) return null;
    const line = leastSquares(
      read.map(({ x }) => x),
      read.map(({ y }) => y),
      levelOfEach(alpha, items),
    );
    return line ? { tests: read.length, slope: line.slope, interval: line.slopeInterval } : null;
  });
}

/** How many comparisons there are in all; one at least. */
const ofAll = (counts: readonly number[]): number =>
  Math.max(
    1,
    counts.reduce((sum, count) => sum + count, 0),
  );

/**
 * One measurand at one setting, held against earlier tests of the same items: by what each item changed, by what beyond
 * the others, and how well the tests agree. All intervals of changes hold at once (Šidák over every one that can be judged,
 * and over the settings).
 * @param now the present test, of this study or of one session of it
 * @param earlier the tests before it, with what was matched by hand
 * @returns null where the measurand was not read now
 * @throws RangeError when the study has no such measurand
 * @source Welch (1947); Šidák (1967); Bland and Altman (1986) for the agreement of the means; Fieller (1954) for per cent
 */
export function sinceEarlier(
  document: StudyDocument,
  measurandId: string,
  now: Occasion,
  earlier: readonly { occasion: Occasion; matches: EarlierTest['matches'] }[],
  { settingKey, lessAmbient, alpha = ALPHA }: SinceOptions,
): SinceEarlier | null {
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  if (!measurand) throw new RangeError('The study has no such measurand.');
  const present = now.measurands.find(({ id }) => id === measurandId);
  const setting = present?.settings.find(({ key }) => key === settingKey);
  if (!present || !setting) return null;
  const items = itemsInOrder(document);
  const locationNow = items.map(({ id }) =>
    chosenOf(setting.figures[now.items.findIndex((item) => item.id === id)], lessAmbient),
  );
  const alone = present.settings.length === 1;
  const found = [...earlier]
    .sort((a, b) => byText(a.occasion.startedAt, b.occasion.startedAt))
    .map(({ occasion, matches }) =>
      testThen(occasion, matches, { measurand, items, setting, alone, lessAmbient, now: locationNow }),
    );
  const pairs = found.map((test) => bothOf(test, locationNow));
  const level = levelOfEach(alpha, present.settings.length);
  const percent =
    !lessAmbient && measurand.unit !== '%' && hasPercent(measurand, screenedOf(document, measurand));
  const shared = { measurand, percent, alpha: level, m: ofAll(pairs.map(judged)) };
  const beyond = pairs.map((both) =>
    beyondOthers(both, {
      alpha: level,
      m: ofAll(pairs.map((others) => (judged(others) * (judged(others) - 1)) / 2)),
    }),
  );
  const tests: TestHeld[] = [
    ...found.map(({ locations, step: _step, ...about }) => ({ ...about, means: locations.map(meanOf) })),
    {
      ...{ studyId: now.studyId, title: now.title, startedAt: now.startedAt, sessionId: now.sessionId },
      problem: undefined,
      ...{ ambient: present.ambient, corrections: present.corrections },
      ...{ means: locationNow.map(meanOf) },
    },
  ];
  return {
    ...{ measurand, items, lessAmbient, tests },
    changes: items.map((_, index) =>
      found.map(({ step }, test): TestChange | null => {
        const both = pairs[test] as Both[];
        const pair = both[index];
        const by: Judging = { ...shared, steps: [present.step, step] };
        return pair ? { ...changeOf(...pair, by), beyond: beyond[test]?.[index] ?? null } : null;
      }),
    ),
    agreements: pairs.map(agreementWith),
    trends: trendsOf(tests, items.length, level),
  };
}
