import { tTwoSided } from '../distributions/index.ts';
import { blocksOf } from '../compare/blocks.ts';
import { pairMethod } from '../compare/methods.ts';
import { type Sample, locate } from '../compare/sample.ts';
import { welch } from '../compare/welch-pair.ts';
import { ALPHA } from '../model/alpha.ts';
import type { Measurand, RuleInForce } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { seededRandom } from '../random/seeded.ts';
import { screeningRule } from '../screening/index.ts';
import { screenSamples } from '../screening/screen.ts';
import { moments } from '../summary/moments.ts';
import { summarise } from '../summary/summary.ts';
import { screenedOf } from './observed.ts';

/** What of a study a school's price depends on. */
export interface PriceDesign {
  /** Readings of each item of one class at one setting, to two figures. */
  counts: number[];
  /** Samples of the whole study that share a rule's level. */
  samples: number;
  inRounds: boolean;
  /** Step of the readings in SDs of one item, to one figure; 0 where it does not bear. */
  step: number;
  /** Studies to simulate. */
  studies: number;
}

/** What a school costs studies in which there is nothing to find. */
export interface SchoolPrice {
  /** Share of clean samples that lose a reading. */
  hurt: number;
  /** Share of studies of equal items in which somebody is called ahead. */
  falseWinner: number;
  /** The same where pairs are compared by plain t-tests, as is the habit. */
  plainTests: number;
  /** Studies simulated. */
  studies: number;
}

/** Studies simulated for a price; fewer of large ones, which would take many minutes. */
const [MOST_STUDIES, FEWEST_STUDIES] = [400, 100];
const MOST_READINGS = 1_200_000;

const studiesOf = (counts: readonly number[]): number => {
  const readings = counts.reduce((sum, count) => sum + count, 0);
  return Math.max(FEWEST_STUDIES, Math.min(MOST_STUDIES, Math.floor(MOST_READINGS / Math.max(1, readings))));
};

/** Steps finer than this share of an SD change nothing. */
const FINE = 0.05;

/** The design of one class at one setting, as far as a school's price depends on it. */
export function priceDesign(
  document: StudyDocument,
  measurand: Measurand,
  className: string,
  settingKey: string,
): PriceDesign {
  const screened = screenedOf(document, measurand);
  const items = new Map(document.items.map((item) => [item.id, item]));
  const compared = screened.cells.filter(({ itemId }) => items.get(itemId)?.role !== 'control');
  const here = compared.filter(
    ({ itemId, setting }) => setting === settingKey && items.get(itemId)?.class === className,
  );
  let [df, squares] = [0, 0];
  for (const { observations, screening } of compared) {
    const out = new Set(screening.leftOut.map(({ index }) => index));
    const kept = observations.flatMap(({ value }, i) => (out.has(i) ? [] : [value as number]));
    if (kept.length < 2) continue;
    df += kept.length - 1;
    squares += moments(kept).sumOfSquares;
  }
  const sd = df > 0 ? Math.sqrt(squares / df) : 0;
  const ratio = sd > 0 ? screened.step / sd : 0;
  // One reading more or less of a hundred changes no price, and would have all of them simulated again.
  const counts = here.map(({ observations }) => Number(observations.length.toPrecision(2)));
  return {
    counts,
    studies: studiesOf(counts),
    samples: compared.length,
    inRounds: here.some(({ rounds }) => rounds !== undefined),
    step: ratio < FINE ? 0 : Number(ratio.toPrecision(1)),
  };
}

/** What screens the readings of a study by a school and compares what it keeps, as the page does. */
function judgeBy(
  inForce: RuleInForce,
  {
    inRounds,
    step,
    shared,
    longest,
  }: { inRounds: boolean; step: number; shared: number; /** Most readings of an item. */ longest: number },
) {
  const rule = screeningRule(inForce.name);
  const numbers = Float64Array.from({ length: longest }, (_, round) => round);
  const within = inRounds && !rule.alwaysCuts;
  const acrossRounds = pairMethod('tamhane-t2');
  const method = within ? pairMethod('within-rounds') : acrossRounds;
  const { parameter, level, judges } = inForce;
  return (values: readonly Float64Array[]) => {
    const rounds = values.map(({ length }) => numbers.subarray(0, length));
    const screened = screenSamples(
      values.map((ofItem, i) => ({
        values: ofItem,
        rounds: inRounds ? rounds[i] : undefined,
        setting: '',
        compared: true,
      })),
      { rule, parameter, alpha: ALPHA, level, judges, step, shared },
    );
    let hurt = 0;
    const keptRounds: Float64Array[] = [];
    const samples = values.map((ofItem, i): Sample => {
      const { leftOut, trim } = screened[i] as (typeof screened)[number];
      if (leftOut.length > 0) hurt += 1 / values.length;
      const out = new Set(leftOut.map(({ index }) => index));
      const kept = ofItem.filter((_, index) => !out.has(index));
      keptRounds.push((rounds[i] as Float64Array).filter((_, index) => !out.has(index)));
      return { item: '', kept, summary: summarise(kept, ALPHA, { trim, step }), step, trim };
    });
    const blocks = within
      ? blocksOf(
          samples.map(({ kept }) => kept),
          keptRounds,
        )
      : undefined;
    const { pairs } = (within && !blocks ? acrossRounds : method).compare({ samples, blocks, alpha: ALPHA });
    return { hurt, samples, pairs };
  };
}

/**
 * Simulates studies of equal items of a design and judges them by a school, a few at a time, so that others can have
 * their turn in between: as many as hold so many readings together. Readings are normal, rounded to the step; the same seed gives the same prices.
 * @yields what is known so far, the last time from all studies
 * @source our simulation; docs/checks.md
 */
export function* schoolPrice(
  { counts, samples: shared, inRounds, step, studies }: PriceDesign,
  inForce: RuleInForce,
  { seed, readingsAtOnce }: { seed: number; readingsAtOnce: number },
): Generator<SchoolPrice> {
  const random = seededRandom(seed);
  const filled = counts.filter((count) => count > 0);
  const readings = filled.reduce((sum, count) => sum + count, 0);
  const atOnce = Math.max(1, Math.floor(readingsAtOnce / Math.max(1, readings)));
  const draw = () => {
    const value = random.normal();
    return step > 0 ? Math.round(value / step) * step : value;
  };
  const tally = { hurt: 0, falseWinner: 0, plainTests: 0 };
  const judged = judgeBy(inForce, { inRounds, step, shared, longest: Math.max(0, ...filled) });
  for (let study = 1; study <= studies; study += 1) {
    const { hurt, samples, pairs } = judged(
      filled.map((count) => Float64Array.from({ length: count }, draw)),
    );
    tally.hurt += hurt;
    if (pairs.some(({ low, high }) => low !== null && high !== null && (low > 0 || high < 0))) {
      tally.falseWinner += 1;
    }
    if (differsByPlainTests(samples)) tally.plainTests += 1;
    if (study % atOnce === 0 || study === studies) {
      yield {
        hurt: tally.hurt / study,
        falseWinner: tally.falseWinner / study,
        plainTests: tally.plainTests / study,
        studies: study,
      };
    }
  }
}

/** Whether any pair differs by a t-test for itself, from the SD of what was kept, as is the habit. */
function differsByPlainTests(samples: readonly Sample[]): boolean {
  const locations = samples.map(({ kept, trim: _trim, ...rest }) =>
    locate({ ...rest, kept, summary: summarise(kept, ALPHA) }),
  );
  return locations.some((a, i) =>
    locations.slice(i + 1).some((b) => {
      // Of one reading there is no spread: its error is no number.
      const { se, df } = welch(a, b);
      return se > 0 && tTwoSided((b.mean - a.mean) / se, df) < ALPHA;
    }),
  );
}
