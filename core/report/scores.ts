import type { Flips } from '../analysis/score-flips.ts';
import type { ClassScores, Reach } from '../analysis/scores.ts';
import type { Scoring } from '../model/study.ts';
import { counted, formatChance, formatNumber, formatPlain, listed } from '../quantity/format.ts';
import { allSame } from '../rank/place.ts';
import type { ScoreVerdicts, ScoredPlace } from '../rank/score-verdicts.ts';
import { SCORING_WORDS } from '../rank/scores.ts';
import { describedRule } from '../screening/described.ts';
import { rangeWords } from '../summary/typed.ts';
import type { PlainNote } from '../model/plain-note.ts';

/** More contenders for first place than this are counted and not named. */
const MOST_NAMED = 5;
/** Steps of a weight that is printed, in per cent. */
const FINEST = 0.1;

/** A share as a weight: “33.3 %”. */
export const weightWords = (share: number): string =>
  `${formatPlain(Number((100 * share).toFixed(1)))}\u202f%`;

/** A score as it is printed. */
export const scoreWords = (score: number, { school }: Pick<Scoring, 'school'>): string =>
  formatNumber(score, school === 'points' ? 2 : 3);

/** A score as it is printed where it may lie anywhere between two: as one where both are printed alike. */
export function reachWords(reach: Reach, scoring: Pick<Scoring, 'school'>): string {
  if (reach === null) return '–';
  const [low, high] = reach.map((score) => scoreWords(score, scoring)) as [string, string];
  return low === high ? low : `${low} to ${high}`;
}

const schoolWords = (school: Scoring['school']): string =>
  SCORING_WORDS.find(({ name }) => name === school)?.label ?? school;

/** How the scores are made, in one sentence. */
export function scoringSentence(
  { basis, shares }: Pick<ClassScores, 'basis' | 'shares'>,
  { school }: Scoring,
): string {
  const weights = basis.measurands.flatMap(({ name }, i) =>
    (shares[i] as number) > 0 ? [`${name} ${weightWords(shares[i] as number)}`] : [],
  );
  return `${schoolWords(school)}: ${weights.length > 0 ? listed(weights) : 'no weights'}.`;
}

/** The order by score in one sentence: only what the draws support. */
export function answerScores(
  { basis, notScored, order, isRanged }: ClassScores,
  verdicts: ScoreVerdicts | undefined,
  soFar = false,
): string {
  const name = (index: number) => basis.items[index]?.name ?? '';
  if (notScored !== undefined) return 'There is no score.';
  const [first] = order;
  if (first === undefined) return 'No item has all that the score is made of.';
  if (order.length === 1) return `${name(first)} is the only item with a score.`;
  const best = `${name(first)} has the best score${isRanged ? ' by the middles of the ranges' : ''}`;
  if (!verdicts) return `${best}.`;
  const sentence = wholeSentence(verdicts, name, best);
  return soFar ? `So far: ${sentence}` : sentence;
}

function wholeSentence(
  { ranking, pairs }: ScoreVerdicts,
  name: (index: number) => string,
  best: string,
): string {
  const leader = ranking[0] as ScoredPlace;
  const contenders = ranking.filter(({ placeLow }) => placeLow === 1);
  const names = contenders.map(({ index }) => name(index));
  if (pairs.every(({ verdict }) => verdict === 'too few')) {
    return `${best}; whether by chance is not known.`;
  }
  if (leader.placeHigh === 1) return `${name(leader.index)} is first over all.`;
  const alike = allSame(
    pairs,
    contenders.map(({ index }) => index),
  );
  if (contenders.length > 1 && alike) return `${listed(names)} are practically the same over all.`;
  const chance = leader.shares
    ? `; ${best}, and comes first in ${formatChance(leader.shares[0] as number)} of the draws`
    : `; ${best}`;
  return contenders.length > MOST_NAMED
    ? `First place over all is not settled among ${counted(contenders.length, 'item')}${chance}.`
    : `First place over all is not settled between ${listed(names)}${chance}.`;
}

/** What the scores leave out, and what could not be drawn. */
export function scoreNotes(scores: ClassScores, { missing }: Scoring): PlainNote[] {
  const { basis, weights } = scores;
  const lacking = basis.items.flatMap(({ name }, i) => {
    const lacks = scores.missing[i] ?? [];
    return lacks.length > 0 ? [{ name, lacks }] : [];
  });
  const ranged = basis.items.flatMap(({ name }, i) =>
    basis.criteria.flatMap((criterion, place) => {
      const range = scores.scores[i] == null ? undefined : criterion.ranges[i];
      if (!range || (weights[place] as number) === 0) return [];
      return `${criterion.name} of ${name} (${rangeWords(range, criterion.unit)})`;
    }),
  );
  const notDrawn = basis.criteria.flatMap(({ notDrawn: why }, i) =>
    why !== undefined && (weights[i] as number) > 0 ? [why] : [],
  );
  return [
    ...(scores.notScored === undefined
      ? []
      : [{ tone: 'attention', title: 'There is no score', text: scores.notScored } as const]),
    ...lacking.map(({ name, lacks }): PlainNote => ({
      tone: 'attention',
      title: `${name} has no ${listed(lacks, 'or')}`,
      text:
        missing === 'no-score'
          ? 'It is not scored, as the study says.'
          : 'It is scored on what it has, as the study says: what it lacks can neither help nor hurt it.',
    })),
    ...(ranged.length === 0
      ? []
      : [
          {
            tone: 'plain',
            title: 'Some values are ranges, and so are scores',
            text: `Known as a range: ${listed(ranged)}. Items stand by the middle of a range, or by its end where it is open. One is called ahead of another only where it is so wherever in the ranges the values are; how often each takes each place is not said, since nobody knows how likely what in a range is.`,
          } as const,
        ]),
    ...(notDrawn.length > 0
      ? [
          {
            tone: 'attention',
            title: 'How sure the order is, is not known',
            text: `${[...new Set(notDrawn)].join('; ')}. The scores are shown, and nobody is called ahead.`,
          } as const,
        ]
      : []),
  ];
}

/** Who and what the words about the lead are of. */
export interface FlipBasis {
  basis: {
    items: readonly { name: string }[];
    measurands: readonly { id: string; name: string }[];
  };
}

/** One thing that takes the lead, in words. */
export interface FlipWords {
  what: string;
  /** Whether the lead stays. */
  holds: boolean;
}

/** Of two measurands, one weighs less where the other weighs more: what differs by less than this is one change. */
const SAME_CHANGE = 1e-9;

/** The least change of a weight after which another leads; the first of those that are as small. */
function nearestTurn(weights: Flips['weights']) {
  const turns = weights.flatMap(({ measurandId, share, down, up }) =>
    [down, up].flatMap((turn) =>
      turn ? [{ measurandId, share, turn, change: Math.abs(turn.share - share) }] : [],
    ),
  );
  const least = Math.min(...turns.map(({ change }) => change));
  return turns.find(({ change }) => change <= least + SAME_CHANGE);
}

/** What becomes of the lead, kind by kind. */
export function flipWords(
  { basis }: FlipBasis,
  flips: Flips,
): { weights: FlipWords; schools: FlipWords; rules: FlipWords; readings: FlipWords } {
  const name = (index: number | null) => (index === null ? '' : (basis.items[index]?.name ?? ''));
  const nearest = nearestTurn(flips.weights);
  const weighs = basis.measurands.find(({ id }) => id === nearest?.measurandId)?.name ?? '';
  const schools = flips.schools.filter(({ leader }) => leader !== null && leader !== flips.leader);
  const rules = flips.rules.filter(({ leader }) => leader !== null && leader !== flips.leader);
  const to = (found: readonly { leader: number | null }[]) =>
    listed([...new Set(found.map(({ leader }) => name(leader)))], 'or');
  return {
    weights: nearest
      ? {
          holds: false,
          what: `${name(nearest.turn.leader)} leads once ${weighs} weighs ${turnWords(nearest.turn.share, nearest.share)} instead of ${weightWords(nearest.share)}.`,
        }
      : { holds: true, what: 'No change of a single weight takes the lead.' },
    schools:
      schools.length > 0
        ? {
            holds: false,
            what: `${to(schools)} leads by ${listed(schools.map(({ school }) => schoolWords(school).toLowerCase()))}.`,
          }
        : { holds: true, what: 'Every way of scoring that applies has the same leader.' },
    rules:
      rules.length > 0
        ? {
            holds: false,
            what: `${to(rules)} leads under another rule for bad readings: ${listed(rules.map(({ rule }) => describedRule(rule).label))}.`,
          }
        : { holds: true, what: 'Every rule for bad readings has the same leader.' },
    readings: { holds: flips.readings.length === 0, what: readingWords(flips, to(flips.readings)) },
  };
}

/** What single readings decide. */
function readingWords({ readings, counting, untried }: Flips, leader: string): string {
  const marks = untried.length > 0 ? ` Marks (${listed(untried)}) were not tried one by one.` : '';
  if (readings.length > 0) {
    const which =
      readings.length === 1 ? 'a single reading' : `any one of ${counted(readings.length, 'reading')}`;
    return `${leader} leads without ${which} of ${formatNumber(counting, 0)}.${marks}`;
  }
  return counting === 0
    ? `No single reading was tried.${marks}`
    : `None of the ${counted(counting, 'reading')} decides by itself.${marks}`;
}

/** A weight at which the lead changes hands: rounded away from where it is now, so that it holds as printed. */
export function turnWords(share: number, from: number): string {
  const scaled = (100 * share) / FINEST;
  const rounded = (share > from ? Math.ceil(scaled - 1e-9) : Math.floor(scaled + 1e-9)) * FINEST;
  return weightWords(Math.min(1, Math.max(0, rounded / 100)));
}

/** How robust the lead is, in one sentence: the best mean or score, whether the readings settle it or not. */
export function flipSentence(scores: FlipBasis, flips: Flips): string {
  const name = scores.basis.items[flips.leader]?.name ?? '';
  const words = flipWords(scores, flips);
  const kinds = [
    ...(flips.weights.length > 0 ? [{ ...words.weights, kind: 'no single weight' }] : []),
    ...(flips.schools.length > 0 ? [{ ...words.schools, kind: 'no other way of scoring' }] : []),
    { ...words.rules, kind: 'no other rule for bad readings' },
    ...(flips.counting > 0 ? [{ ...words.readings, kind: 'no single reading' }] : []),
  ];
  const holding = kinds.filter(({ holds }) => holds);
  if (holding.length === kinds.length) {
    return `${name} leads whatever is tried: ${listed(
      kinds.map(({ kind }) => kind),
      'and',
    )} takes it away.`;
  }
  return kinds
    .filter(({ holds }) => !holds)
    .map(({ what }) => what)
    .join(' ');
}
