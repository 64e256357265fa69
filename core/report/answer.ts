import type { AnalysedPair, Analysis, RankedItem } from '../analysis/compare-screened.ts';
import type { PlainNote } from '../model/plain-note.ts';
import { counted, formatChance, formatPlain, listed, withUnit, wordFor } from '../quantity/format.ts';
import { STANDS_OUT } from '../findings/odd-one.ts';
import { allSame, pairBetween } from '../rank/place.ts';
import { MOST_MORE } from '../rank/most-more.ts';
import { figuresOf, spanWords } from './figures.ts';

export interface Answer {
  /** What the readings support, in one sentence or two short ones. */
  sentence: string;
  notes: PlainNote[];
}

/** More contenders for first place than this are counted and not named. */
const MOST_NAMED = 5;

/** What the sentences of one answer share. */
interface Telling {
  analysis: Analysis;
  name: (entry: RankedItem) => string;
  figure: (value: number) => string;
  marginFigure: string;
  stepFigure: string;
}

/** The largest share of first places, where it is known: the sentence and the picture are one story. */
function chanceWords({ analysis, name }: Telling): string {
  const likeliest = [...analysis.ranking].sort((x, y) => (y.chanceFirst ?? 0) - (x.chanceFirst ?? 0))[0];
  return likeliest?.chanceFirst == null
    ? ''
    : `; ${name(likeliest)} comes first in ${formatChance(likeliest.chanceFirst)} of the draws`;
}

function leadSentence(telling: Telling): string {
  const { analysis, name, marginFigure } = telling;
  const { ranking, pairs, margin } = analysis;
  const contenders = ranking.filter(({ placeLow }) => placeLow === 1);
  const leader = ranking[0] as RankedItem;
  if (leader.placeLow === 1 && leader.placeHigh === 1) {
    const others = ranking.slice(1).map((entry) => pairBetween(pairs, leader.index, entry.index));
    const sure = margin === 0 || others.every((pair) => pair?.matters === 'yes' || pair?.advantage === null);
    return sure
      ? `${name(leader)} is first.`
      : `${name(leader)} is first, though perhaps by less than the ${marginFigure} that matters.`;
  }
  const alike = allSame(
    pairs,
    contenders.map(({ index }) => index),
  );
  if (contenders.length > 1 && alike) {
    return contenders.length === ranking.length
      ? `${listed(contenders.map(name))} are practically the same.`
      : `${listed(contenders.map(name))} share first place: they are practically the same.`;
  }
  const best = analysis.ranksOnly ? 'has the best mean rank' : 'has the best mean';
  const chance = chanceWords(telling);
  const leading = chance || `; ${name(leader)} ${best}`;
  if (contenders.length === ranking.length && contenders.length > 3) {
    return `The readings do not settle an order${leading}.`;
  }
  if (contenders.length > MOST_NAMED) {
    return `First place is not settled among ${counted(contenders.length, 'item')}${leading}.`;
  }
  return `First place is not settled between ${listed(contenders.map(name))}${chance}.`;
}

/** By how much the leader leads, where first place is settled. */
function leadNote({ analysis: { ranking, pairs }, name, figure }: Telling): PlainNote[] {
  const [leader, next] = ranking as [RankedItem, RankedItem];
  const pair = pairBetween(pairs, leader.index, next.index);
  if (leader.placeHigh !== 1 || leader.placeLow !== 1 || !pair?.advantage) return [];
  const [low, high] =
    pair.a === leader.index ? pair.advantage : ([-pair.advantage[1], -pair.advantage[0]] as const);
  return [
    {
      tone: 'good',
      title: `${name(leader)} leads by ${figure(Math.abs(pair.lead))}`,
      text: `Over ${name(next)}, the next best.${high > low ? ` ${Number.isFinite(high - low) ? `The readings allow a lead from ${figure(low)} to ${figure(high)}` : `What is known allows a lead of ${spanWords([low, high], figure)}`}.` : ''}`,
    },
  ];
}

/** More readings of each than this are better spared for a finer instrument, where steps hide the spread. */
const MANY = 10;

/** How many more readings an open pair would take, and what keeps it open. */
function openText(pair: AnalysedPair, { analysis: { step, items }, figure, stepFigure }: Telling): string {
  if (pair.advantage === null) return 'By their order alone, chance could bring them this far apart.';
  if ([pair.a, pair.b].some((index) => items[index]?.typed))
    return 'One of them is known from elsewhere only; reading it here, in the rounds of the others, would be likely to tell.';
  const more = pair.moreReadings;
  const hidden = step > 0 && [pair.a, pair.b].some((index) => items[index]?.summary.hidden);
  const reason =
    hidden && (more === undefined || more > MANY)
      ? `The readings come in steps of ${stepFigure}, which hide their spread; a finer instrument would tell more. `
      : '';
  const needed =
    more === undefined
      ? `More than ${String(MOST_MORE)} more readings of each would be needed, which is more than is worth taking.`
      : `About ${counted(more, 'more reading')} of each would be likely to tell.`;
  return `They differ by ${figure(Math.abs(pair.lead))}. ${reason}${needed}`;
}

/** Neighbours in the order that are the same or not settled. */
function neighbourNotes(telling: Telling): PlainNote[] {
  const { analysis, name, figure, marginFigure } = telling;
  return analysis.ranking.slice(1).flatMap((lower, i): PlainNote[] => {
    const upper = analysis.ranking[i] as RankedItem;
    const pair = pairBetween(analysis.pairs, upper.index, lower.index);
    if (pair?.verdict === 'same') {
      return [
        {
          tone: 'plain',
          title: `${name(upper)} and ${name(lower)} are practically the same`,
          text: `They differ by ${figure(Math.abs(pair.lead))}, and by less than your margin of ${marginFigure} at the most.`,
        },
      ];
    }
    return pair?.verdict === 'not settled'
      ? [
          {
            tone: 'attention',
            title: `${name(upper)} and ${name(lower)} are not settled`,
            text: openText(pair, telling),
          },
        ]
      : [];
  });
}

/** Items with one reading, and what the instrument's accuracy says of them. */
function singleNotes({ analysis }: Telling, names: readonly string[]): PlainNote[] {
  const single = analysis.items.flatMap(({ summary }, i) => (summary.n === 1 ? [names[i] as string] : []));
  if (single.length === 0) return [];
  const within = analysis.pairs.filter(({ withinAccuracy }) => withinAccuracy).length;
  const decided = analysis.pairs.some(
    ({ a, b, verdict }) =>
      verdict.endsWith('ahead') && [a, b].some((index) => analysis.items[index]?.summary.n === 1),
  );
  if (within === 0 && !decided) {
    return [
      {
        tone: 'attention',
        title: `One reading is too few for ${listed(single)}`,
        text: 'It shows no spread, so nothing is said about how it compares. Two readings of each item are the least that can settle anything; five or more are better.',
      },
    ];
  }
  return [
    {
      tone: 'attention',
      title: `One reading of ${listed(single)}`,
      text: `The meter’s accuracy decides: ${within === 0 ? 'differences beyond it count' : `${counted(within, 'pair')} within it ${wordFor(within, 'is', 'are')} no appreciable difference`}. How well a reading repeats is not known; take more.`,
    },
  ];
}

/** Names the items of which one reading stands out that no rule judged: whatever is said may hang on it. */
export function standsOutSentence({ findings }: Pick<Analysis, 'findings'>): string {
  const items = findings.flatMap(({ kind, item }) =>
    kind === STANDS_OUT && item !== undefined ? [item] : [],
  );
  return items.length === 0 ? '' : `One reading of ${listed(items)} stands out.`;
}

function wholeSentence(telling: Telling): string {
  const { analysis, name } = telling;
  const { ranking, pairs } = analysis;
  if (pairs.every(({ verdict }) => verdict === 'too few')) {
    return pairs.some(({ withinAccuracy }) => withinAccuracy)
      ? 'No appreciable difference: the single readings lie within the meter’s accuracy.'
      : 'Too few readings for an order: one reading shows no spread.';
  }
  const sentence = [leadSentence(telling), standsOutSentence(analysis)]
    .filter((part) => part !== '')
    .join(' ');
  const last = ranking[ranking.length - 1] as RankedItem;
  return ranking.length > 2 && last.placeLow === ranking.length && last.placeHigh === ranking.length
    ? `${sentence} ${name(last)} is last.`
    : sentence;
}

/**
 * The ranking in plain words: only what the verdicts support.
 * @param names of the items, by index
 * @param unit of the readings
 * @param soFar whether the plan is not complete yet, so that the answer may still change
 */
export function answer(names: readonly string[], analysis: Analysis, unit: string, soFar = false): Answer {
  const { ranking, margin } = analysis;
  const name = (entry: RankedItem) => names[entry.index] as string;
  if (ranking.length === 0) {
    return { sentence: 'No reading counts yet, so there is no order.', notes: [] };
  }
  if (ranking.length === 1) {
    return {
      sentence: `${name(ranking[0] as RankedItem)} is the only item with readings.`,
      notes: [],
    };
  }
  const { result } = figuresOf(analysis);
  const telling: Telling = {
    analysis,
    name,
    figure: (value) => withUnit(result(value), unit),
    marginFigure: withUnit(formatPlain(Number(margin.toPrecision(3))), unit),
    stepFigure: withUnit(formatPlain(Number(analysis.step.toPrecision(2))), unit),
  };
  const sentence = wholeSentence(telling);
  return {
    sentence: soFar ? `So far: ${sentence}` : sentence,
    notes: [...leadNote(telling), ...neighbourNotes(telling), ...singleNotes(telling, names)],
  };
}

/**
 * The margin from which on the first two are practically the same: no reading decides then who of them is first.
 * @returns undefined where there is none: without intervals, or where they are the same already
 */
export function marginThatTies(
  names: readonly string[],
  analysis: Analysis,
  unit: string,
): string | undefined {
  const [leader, next] = analysis.ranking;
  if (!leader || !next) return undefined;
  const pair = pairBetween(analysis.pairs, leader.index, next.index);
  if (pair?.sameAbove === undefined || pair.verdict === 'same') return undefined;
  const decimals = figuresOf(analysis).decimals;
  // Rounded up, so that it holds as printed.
  const printed = Math.ceil(pair.sameAbove * 10 ** decimals + 1e-9) / 10 ** decimals;
  return `From ${withUnit(formatPlain(Number(printed.toPrecision(12))), unit)} on, ${names[leader.index] as string} and ${names[next.index] as string} are practically the same.`;
}
