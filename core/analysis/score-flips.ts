import { blocksOf, leastSquaresMeans } from '../compare/blocks.ts';
import { ALPHA } from '../model/alpha.ts';
import type { Measurand } from '../model/parts.ts';
import type { Scoring } from '../model/study.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { SCORING_SCHOOLS } from '../model/words.ts';
import { type WeightFlip, leaderOf, weightFlips } from '../rank/flips.ts';
import { type ScoringSchool, scored } from '../rank/scores.ts';
import { SCREENING_RULES } from '../screening/index.ts';
import type { RuleName } from '../screening/rule.ts';
import { summarise } from '../summary/summary.ts';
import { NO_CELL, asInForce, isRankedBySize, readingsOf } from './analyse-study.ts';
import { keptOf } from './compare-screened.ts';
import { screenedOf } from './observed.ts';
import { type ClassBasis, type NamedCriterion, type ScoreBasisOptions, scoreBasis } from './score-basis.ts';
import { type ClassScores, classScores } from './scores.ts';

/** A reading without which another item would be first. */
export interface DecisiveReading {
  readingId: string;
  itemId: string;
  measurandId: string;
  round: number;
  value: number;
  /** Index of the item that would be first. */
  leader: number;
}

/** What would take first place from the item that has it. Leaders are indices of items. */
export interface Flips {
  leader: number;
  weights: WeightFlip[];
  /** Who is first by each other school of scoring; null where it does not apply. */
  schools: { school: ScoringSchool; leader: number | null }[];
  /** Who is first under each other rule for bad readings. */
  rules: { rule: RuleName; leader: number | null }[];
  readings: DecisiveReading[];
  /** Readings that were tried: those that count in the scores. */
  counting: number;
  /** Measurands of a weight whose readings were not tried: marks, which go by ranks. */
  untried: string[];
}

export interface FlipOptions extends Omit<ScoreBasisOptions, 'ruleOf'> {
  className: string;
}

const classOf = (
  document: StudyDocument,
  className: string,
  options: ScoreBasisOptions,
): ClassBasis | undefined => scoreBasis(document, options).classes.find(({ name }) => name === className);

/**
 * What would change who is first: one weight, another school of scoring or of screening, one reading less.
 * @returns null where nobody is first
 */
export function scoreFlips(document: StudyDocument, options: FlipOptions, scoring: Scoring): Flips | null {
  const basis = classOf(document, options.className, options);
  if (!basis) return null;
  const scores = classScores(basis, scoring);
  const leader = leaderOf(scores.scores);
  if (leader === undefined || scores.order.length < 2) return null;
  const measurandIds = basis.measurands.map(({ id }) => id);
  const firstOf = ({ notScored, scores: found }: ClassScores): number | null =>
    notScored === undefined ? (leaderOf(found, leader) ?? null) : null;
  return {
    leader,
    weights: weightFlips(basis.criteria, scores.scaled, measurandIds, scores.shares),
    schools:
      measurandIds.length < 2
        ? []
        : SCORING_SCHOOLS.filter((school) => school !== scoring.school).map((school) => ({
            school,
            leader: firstOf(classScores(basis, { ...scoring, school })),
          })),
    rules: rulesOf(document, options, scoring, firstOf),
    ...decisiveReadings(document, scores, scoring, leader),
  };
}

/** Who is first if every measurand that a rule judges were judged by another one. */
function rulesOf(
  document: StudyDocument,
  options: FlipOptions,
  scoring: Scoring,
  firstOf: (scores: ClassScores) => number | null,
): Flips['rules'] {
  const inForce = new Set(document.measurands.map(({ rule }) => rule.name));
  return SCREENING_RULES.flatMap(({ name }) => {
    if (inForce.size === 1 && inForce.has(name)) return [];
    const basis = classOf(document, options.className, {
      ...options,
      ruleOf: ({ rule }: Measurand) => asInForce(rule, name),
    });
    return basis ? [{ rule: name, leader: firstOf(classScores(basis, scoring)) }] : [];
  });
}

/** Readings one of which makes another item first when it is taken out, as the others are screened now. */
function decisiveReadings(
  document: StudyDocument,
  { basis, weights }: ClassScores,
  scoring: Scoring,
  leader: number,
): Pick<Flips, 'readings' | 'counting' | 'untried'> {
  const readings: DecisiveReading[] = [];
  const untried = new Set<string>();
  let counting = 0;
  basis.criteria.forEach((criterion, place) => {
    const measurand = document.measurands.find(({ id }) => id === criterion.measurandId);
    if ((weights[place] as number) === 0 || !measurand) return;
    const without = leavingOut(document, measurand, basis, criterion);
    if (without === 'exact') return;
    if (without === 'marks') {
      untried.add(measurand.name);
      return;
    }
    counting += without.counting;
    const leaderWith = (values: readonly (number | null)[]): number => {
      const criteria = basis.criteria.map((other, i) => (i === place ? { ...other, values } : other));
      return leaderOf(scored(criteria, weights, scoring).scores, leader) ?? leader;
    };
    without.items.forEach(({ itemId, candidates, valuesWithout }) => {
      // From either end inwards: what lies nearer to the others moves the mean less.
      const decides = (i: number): boolean => {
        const { readingId, round, value } = candidates[i] as Candidate;
        const first = leaderWith(valuesWithout(i));
        if (first === leader) return false;
        readings.push({
          ...{ readingId, itemId, round, value },
          ...{ measurandId: measurand.id, leader: first },
        });
        return true;
      };
      let low = 0;
      while (low < candidates.length && decides(low)) low += 1;
      let high = candidates.length - 1;
      while (high > low && decides(high)) high -= 1;
    });
  });
  return { readings, counting, untried: [...untried] };
}

interface Candidate {
  readingId: string;
  round: number;
  value: number;
  /** Its place among the readings of the item that count. */
  place: number;
  /** From the others of its round, where rounds are shared. */
  distance: number;
}

interface Leaving {
  itemId: string;
  /** Readings that count, from the lowest to the highest. */
  candidates: Candidate[];
  /** Values of the criterion without one of them. */
  valuesWithout: (candidate: number) => (number | null)[];
}

/** The readings of a criterion, and what its values become without any of them. Exact figures have none. */
function leavingOut(
  document: StudyDocument,
  measurand: Measurand,
  basis: ClassBasis,
  criterion: NamedCriterion,
): { items: Leaving[]; counting: number } | 'exact' | 'marks' {
  const screened = screenedOf(document, measurand);
  if (screened.exact) return 'exact';
  if (screened.ranksOnly) return 'marks';
  const target = isRankedBySize(measurand) ? measurand.direction.target : null;
  const cells = basis.items.map(({ id }) =>
    screened.cells.find(({ itemId, setting }) => itemId === id && setting === criterion.settingKey),
  );
  const read = basis.items.map((item, i) => readingsOf(item, cells[i] ?? NO_CELL, target));
  const { samples, rounds } = keptOf(read, { alpha: ALPHA, ...screened });
  const kept = samples.map((sample) => sample.kept);
  const means = roundMeans(kept, rounds);
  const inRounds = screened.average !== 'energy' && samples.every(({ trim }) => trim === undefined);
  const items = basis.items.map(({ id: itemId }, item): Leaving => {
    const out = new Set(cells[item]?.screening.leftOut.map(({ index }) => index));
    const counting = (cells[item]?.observations ?? []).filter((_, i) => !out.has(i));
    const candidates = counting
      .map(({ id: readingId, round }, place): Candidate => {
        const value = kept[item]?.[place] as number;
        const shared = means.get(rounds[item]?.[place] ?? Number.NaN) ?? 0;
        return { readingId, round, value, place, distance: value - shared };
      })
      .sort((a, b) => a.distance - b.distance);
    return {
      itemId,
      candidates,
      valuesWithout: (candidate) => {
        const { place } = candidates[candidate] as Candidate;
        const rest = kept.map((values, i) => (i === item ? values.filter((_, j) => j !== place) : values));
        const restRounds = rounds.map((ofItem, i) =>
          i === item ? ofItem?.filter((_, j) => j !== place) : ofItem,
        );
        return placedWithout(criterion, { rest, restRounds, item, inRounds, average: screened.average });
      },
    };
  });
  return { items, counting: kept.reduce((sum, { length }) => sum + length, 0) };
}

/** Mean of each round over the items. */
function roundMeans(
  kept: readonly Float64Array[],
  rounds: readonly (Float64Array | undefined)[],
): Map<number, number> {
  const sums = new Map<number, { sum: number; n: number }>();
  rounds.forEach((ofItem, item) => {
    ofItem?.forEach((round, i) => {
      if (Number.isNaN(round)) return;
      const { sum, n } = sums.get(round) ?? { sum: 0, n: 0 };
      sums.set(round, { sum: sum + (kept[item]?.[i] as number), n: n + 1 });
    });
  });
  return new Map([...sums].map(([round, { sum, n }]) => [round, sum / n]));
}

/** What the items are placed by when one reading less counts. */
function placedWithout(
  { values }: NamedCriterion,
  {
    rest,
    restRounds,
    item,
    inRounds,
    average,
  }: {
    rest: readonly Float64Array[];
    restRounds: readonly (Float64Array | undefined)[];
    item: number;
    inRounds: boolean;
    average: 'energy' | undefined;
  },
): (number | null)[] {
  const read = rest.flatMap(({ length }, i) => (length > 0 ? [i] : []));
  const blocks = inRounds
    ? blocksOf(
        read.map((i) => rest[i] as Float64Array),
        read.map((i) => restRounds[i]),
      )
    : undefined;
  const adjusted = blocks && leastSquaresMeans(blocks);
  if (adjusted && !adjusted.some(Number.isNaN)) {
    // Of an item that was not read its value from elsewhere stays.
    return values.map((value, i) =>
      read.includes(i) ? (adjusted[read.indexOf(i)] as number) : i === item ? null : value,
    );
  }
  return values.map((value, i) =>
    i === item ? summarise(rest[i] as Float64Array, ALPHA, { average, step: 0 }).mean : value,
  );
}
