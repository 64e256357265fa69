import { scoreBasis } from '../../core/analysis/score-basis.ts';
import { classScores, classVerdicts } from '../../core/analysis/scores.ts';
import { type SeededRandom, seededRandom } from '../../core/random/seeded.ts';
import { DEFAULT_RULE } from '../../core/screening/rule.ts';
import { SCORING_SCHOOLS } from '../../core/model/words.ts';
import { scored } from '../../core/rank/scores.ts';
import { severalStudy, testId } from '../../core/testing-study.ts';
import { type Asked, type Design, type Spread, draw, percent } from './design.ts';

/** What the items of a scored study are by each measurand, in standard errors of a mean. */
const TRUTHS: Record<string, (item: number, measurand: number, random: SeededRandom) => number> = {
  equal: () => 0,
  'some alike': (_item, _measurand, random) => 3 * random.below(3),
  'two make up': (item, measurand) =>
    item < 2 ? ((item + measurand) % 2 === 0 ? 3 : -3) : item % 2 === 0 ? 8 : -8,
};

/** Readings lie around it. */
const BASE = 50;
/** How wide ranges are, in standard errors of a mean. */
const RANGE = 6;

/** Of the last measurand the first item was not read: a range is known, and its value is anywhere in it. */
function knownByRange(
  { document, items, measurands }: ReturnType<typeof severalStudy>,
  value: number,
  { width, random }: { width: number; random: SeededRandom },
): void {
  const { id, version, createdAt, updatedAt } = document.study;
  // At an end of it in one study of three each.
  const below = [0, 1, random.unit()][random.below(3)] as number;
  const low = value - below * width;
  document.figures = [
    {
      ...{ id: testId(), studyId: id, version, createdAt, updatedAt, levels: [], source: '' },
      ...{ itemId: items[0]?.id ?? '', measurandId: measurands.at(-1)?.id ?? '', kind: 'range' },
      ...{ n: null, mean: null, sd: null, low, high: low + width },
    },
  ];
}

/** A study of several measurands as the page scores it, with means that the readings lie around. */
function scoredStudy(
  design: Design,
  means: readonly (readonly number[])[],
  { margin, random, isRanged = false }: { margin: number; random: SeededRandom; isRanged?: boolean },
) {
  const { items, readings, rounds } = design;
  const drawn = means.map((row) => draw(design, row, random));
  const made = severalStudy(
    { items, measurands: means.length, rounds: readings },
    ({ item, measurand, round }) =>
      isRanged && item === 0 && measurand === means.length - 1
        ? undefined
        : drawn[measurand]?.[item]?.values[round - 1],
  );
  if (isRanged) {
    const value = BASE + (means.at(-1)?.[0] as number);
    knownByRange(made, value, { width: RANGE / Math.sqrt(readings), random });
  }
  for (const measurand of made.measurands) {
    measurand.rule = { ...DEFAULT_RULE };
    measurand.direction = { kind: 'higher', target: null };
    measurand.margin = { kind: 'absolute', value: margin };
  }
  if (!rounds) made.document.study.runOrder = 'full-shuffle';
  const basis = scoreBasis(made.document);
  const [group] = basis.classes;
  if (!group) throw new Error('Nothing was read.');
  return { basis, group };
}

/**
 * Studies in which two items are called the same by their scores that differ by the margin in the first measurand, and
 * in which two rightly are that do not differ at all.
 */
function sameByScores(design: Design, measurands: number, count: number, seed: number) {
  const random = seededRandom(seed);
  const { items, readings } = design;
  const margin = 6 / Math.sqrt(readings);
  const means = Array.from({ length: measurands }, (_m, measurand) =>
    Array.from({ length: items }, (_i, item) => (measurand === 0 && item % 2 === 1 ? margin : 0)),
  );
  let [wrong, right] = [0, 0];
  for (let study = 0; study < count; study += 1) {
    const { basis, group } = scoredStudy(design, means, { margin, random });
    const scoring = { school: 'span', missing: 'score-the-rest', weights: [] } as const;
    const scores = classScores(group, { ...scoring, weights: [] });
    if (scores.notScored !== undefined) continue;
    const { pairs } = classVerdicts(scores, { ...scoring, weights: [] }, basis);
    const same = pairs.filter(({ verdict }) => verdict === 'same');
    if (same.some(({ a, b }) => (a + b) % 2 === 1)) wrong += 1;
    if (same.some(({ a, b }) => (a + b) % 2 === 0)) right += 1;
  }
  return { wrong: wrong / count, right: right / count };
}

/** Of each school, studies in which one is called ahead by its score that is not, and in which one rightly is. */
function ratesOfScores(
  design: Design,
  { measurands, truth, isRanged }: { measurands: number; truth: string; isRanged: boolean },
  count: number,
  seed: number,
) {
  const random = seededRandom(seed);
  const { items, readings } = design;
  const found = SCORING_SCHOOLS.map((school) => ({ school, wrong: 0, right: 0 }));
  for (let study = 0; study < count; study += 1) {
    const se = 1 / Math.sqrt(readings);
    const means = Array.from({ length: measurands }, (_m, measurand) =>
      Array.from({ length: items }, (_i, item) => se * (TRUTHS[truth]?.(item, measurand, random) ?? 0)),
    );
    const { basis, group } = scoredStudy(design, means, { margin: 0, random, isRanged });
    for (const rate of found) {
      const scoring = { school: rate.school, missing: 'score-the-rest', weights: [] } as const;
      const scores = classScores(group, { ...scoring, weights: [] });
      if (scores.notScored !== undefined) continue;
      const truths = scored(
        group.criteria.map((criterion, i) => ({
          ...criterion,
          values: (means[i] as number[]).map((mean) => BASE + mean),
        })),
        scores.weights,
        scoring,
      ).scores as number[];
      const leads = classVerdicts(scores, { ...scoring, weights: [] }, basis).pairs.flatMap(
        ({ a, b, verdict }) => {
          const lead = (truths[a] as number) - (truths[b] as number);
          return verdict === 'a ahead' ? [lead] : verdict === 'b ahead' ? [-lead] : [];
        },
      );
      if (leads.some((lead) => lead < 1e-9)) rate.wrong += 1;
      if (leads.some((lead) => lead >= 1e-9)) rate.right += 1;
    }
  }
  return found.map(({ school, wrong, right }) => ({ school, wrong: wrong / count, right: right / count }));
}

/** Who is called ahead by a score over several measurands. */
export function scores({ studies, long }: Asked): void {
  console.log(
    `\n${'items x measurands x readings, wrongly ahead (rightly)'.padEnd(58)} ${SCORING_SCHOOLS.map((school) => school.padStart(14)).join(' ')}`,
  );
  const sizes = [
    [3, 2, 4],
    [3, 3, 8],
    [6, 2, 5],
    ...(long
      ? [
          [2, 2, 5],
          [6, 4, 5],
          [12, 3, 4],
        ]
      : []),
  ] as [number, number, number][];
  sizes.forEach(([items, measurands, readings], i) => {
    for (const rounds of [true, false]) {
      for (const spread of ['equal', 'graded 1:4', 'one × 10'] as Spread[]) {
        for (const truth of Object.keys(TRUTHS)) {
          for (const isRanged of [false, true]) {
            const design = { items, readings, rounds, spread, slips: true, coarse: false, looks: false };
            const found = ratesOfScores(design, { measurands, truth, isRanged }, studies, 7000 + i);
            const name = `${String(items)}x${String(measurands)}x${String(readings)}, ${rounds ? 'rounds' : 'independent'}, ${spread}, ${truth}${isRanged ? ', a range' : ''}`;
            console.log(
              `${name.padEnd(58)} ${found.map(({ wrong, right }) => `${percent(wrong)} (${percent(right).trim()})`.padStart(14)).join(' ')}`,
            );
          }
        }
      }
    }
  });
  console.log(
    `\n${'called the same by their scores at the margin (rightly)'.padEnd(58)} ${'span'.padStart(14)}`,
  );
  sizes.forEach(([items, measurands, readings], i) => {
    for (const rounds of [true, false]) {
      for (const spread of ['equal', 'graded 1:4'] as Spread[]) {
        const design = { items, readings, rounds, spread, slips: true, coarse: false, looks: false };
        const { wrong, right } = sameByScores(design, measurands, studies, 7500 + i);
        const name = `${String(items)}x${String(measurands)}x${String(readings)}, ${rounds ? 'rounds' : 'independent'}, ${spread}`;
        console.log(`${name.padEnd(58)} ${`${percent(wrong)} (${percent(right).trim()})`.padStart(14)}`);
      }
    }
  });
}
