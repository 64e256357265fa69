import type { AnalysedPair, Analysis, RankedItem } from '../analysis/analyse.ts';
import {
  counted,
  decimalsFor,
  decimalsOf,
  formatNumber,
  formatPlain,
  listed,
  withUnit,
} from '../quantity/format.ts';

/** A sentence for the margin of the page, with whether it is good news. */
export interface PlainNote {
  tone: 'good' | 'attention' | 'plain';
  title: string;
  text: string;
}

export interface Answer {
  /** What the readings support, in one sentence or two short ones. */
  sentence: string;
  notes: PlainNote[];
}

const pairOf = (pairs: readonly AnalysedPair[], x: number, y: number) =>
  pairs.find(({ a, b }) => (a === x && b === y) || (a === y && b === x));

/** Decimals that suit the differences of this analysis: two figures of the typical interval's half-width. */
export function resultDecimals(analysis: Analysis, resolution: number | null): number {
  const halves = analysis.items
    .flatMap(({ summary }) => (summary.interval ? [(summary.interval[1] - summary.interval[0]) / 2] : []))
    .filter((half) => half > 0)
    .sort((a, b) => a - b);
  const typical = halves[Math.floor(halves.length / 2)];
  if (typical !== undefined) return decimalsFor(typical);
  if (resolution !== null) return decimalsOf(resolution);
  return Math.max(
    0,
    ...analysis.items.map(({ summary }) => (summary.mean === null ? 0 : decimalsOf(summary.mean))),
  );
}

function leadSentence(
  names: readonly string[],
  { ranking, pairs, margin }: Analysis,
  marginFigure: string,
): string {
  const name = (entry: RankedItem) => names[entry.index] as string;
  const contenders = ranking.filter(({ placeLow }) => placeLow === 1);
  const leader = ranking[0] as RankedItem;
  if (leader.placeLow === 1 && leader.placeHigh === 1) {
    const others = ranking.slice(1).map((entry) => pairOf(pairs, leader.index, entry.index));
    const sure = margin === 0 || others.every((pair) => pair?.matters === 'yes');
    return sure
      ? `${name(leader)} is first.`
      : `${name(leader)} is first, though perhaps by less than the ${marginFigure} that matters.`;
  }
  const alike = (group: readonly RankedItem[]) =>
    group.every((one, i) =>
      group.slice(i + 1).every((two) => pairOf(pairs, one.index, two.index)?.verdict === 'same'),
    );
  if (contenders.length > 1 && alike(contenders)) {
    return contenders.length === ranking.length
      ? `${listed(contenders.map(name))} are practically the same.`
      : `${listed(contenders.map(name))} share first place: they are practically the same.`;
  }
  if (contenders.length === ranking.length && contenders.length > 3) {
    return `The readings do not settle an order; ${name(leader)} has the best mean.`;
  }
  if (contenders.length > 5) {
    return `First place is not settled among ${counted(contenders.length, 'item')}; ${name(leader)} has the best mean.`;
  }
  return `First place is not settled between ${listed(contenders.map(name))}.`;
}

/**
 * The ranking in plain words: only what the verdicts support.
 * @param names of the items, by index
 * @param unit of the readings
 */
export function answer(
  names: readonly string[],
  analysis: Analysis,
  unit: string,
  resolution: number | null,
): Answer {
  const { ranking, pairs, margin } = analysis;
  const decimals = resultDecimals(analysis, resolution);
  const figure = (value: number) => withUnit(formatNumber(value, decimals), unit);
  const marginFigure = withUnit(formatPlain(Number(margin.toPrecision(3))), unit);
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
  const notes: PlainNote[] = [];
  const few = pairs.filter(({ verdict }) => verdict === 'too few');
  if (few.length === pairs.length) {
    return {
      sentence: 'Too few readings for an order: one reading shows no spread.',
      notes: [
        {
          tone: 'attention',
          title: 'Take more readings',
          text: `${name(ranking[0] as RankedItem)} reads best so far. Two readings of each item are the least that can settle anything; four or more are better.`,
        },
      ],
    };
  }
  let sentence = leadSentence(names, analysis, marginFigure);
  const last = ranking[ranking.length - 1] as RankedItem;
  if (ranking.length > 2 && last.placeLow === ranking.length && last.placeHigh === ranking.length) {
    sentence += ` ${name(last)} is last.`;
  }

  const leader = ranking[0] as RankedItem;
  if (leader.placeHigh === 1 && leader.placeLow === 1) {
    const next = ranking[1] as RankedItem;
    const pair = pairOf(pairs, leader.index, next.index);
    if (pair?.advantage) {
      const [low, high] =
        pair.a === leader.index ? pair.advantage : ([-pair.advantage[1], -pair.advantage[0]] as const);
      notes.push({
        tone: 'good',
        title: `${name(leader)} leads by ${figure(Math.abs(pair.lead))}`,
        text: `Over ${name(next)}, the next best. The readings allow a lead from ${figure(low)} to ${figure(high)}.`,
      });
    }
  }
  for (let i = 1; i < ranking.length; i += 1) {
    const [upper, lower] = [ranking[i - 1] as RankedItem, ranking[i] as RankedItem];
    const pair = pairOf(pairs, upper.index, lower.index);
    if (!pair) continue;
    const gap = figure(Math.abs(pair.lead));
    if (pair.verdict === 'same') {
      notes.push({
        tone: 'plain',
        title: `${name(upper)} and ${name(lower)} are practically the same`,
        text: `They differ by ${gap}, and by less than your margin of ${marginFigure} at the most.`,
      });
    } else if (pair.verdict === 'not settled') {
      const more = pair.moreReadings;
      notes.push({
        tone: 'attention',
        title: `${name(upper)} and ${name(lower)} are not settled`,
        text:
          more === undefined
            ? `They differ by ${gap}. No number of readings that is worth taking would be likely to tell.`
            : `They differ by ${gap}. About ${counted(more, 'more reading')} of each would be likely to tell.`,
      });
    }
  }
  if (few.length > 0) {
    const single = analysis.items.flatMap(({ summary }, i) => (summary.n === 1 ? [names[i] as string] : []));
    notes.push({
      tone: 'attention',
      title: `One reading is too few for ${listed(single)}`,
      text: 'It shows no spread, so nothing is said about how it compares.',
    });
  }
  return { sentence, notes };
}
