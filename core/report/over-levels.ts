import type { ClassAnalysis } from '../analysis/analyse-study.ts';
import type { ClassOverLevels, LevelChange, OverLevels, Turn } from '../analysis/over-levels.ts';
import {
  capital,
  counted,
  formatNumber,
  formatPlain,
  listed,
  withUnit,
  wordFor,
} from '../quantity/format.ts';
import { allSame, placeRange } from '../rank/place.ts';
import type { PlainNote } from '../model/plain-note.ts';
import { type Answer, standsOutSentence } from './answer.ts';
import { type Figures, figuresOf } from './figures.ts';

/** How the figures of a class are printed: the same at all levels. */
export const levelFigures = ({ levels }: ClassOverLevels): Figures =>
  figuresOf({
    items: levels.flatMap((group) => group?.analysis.items ?? []),
    step: levels.find(Boolean)?.analysis.step as number,
  });

/** Place of an item at a level, as its ranking has it. */
export function placeAt(group: ClassOverLevels, level: number, item: number): string {
  const entry = group.levels[level]?.analysis.ranking.find(({ index }) => index === item);
  return entry ? placeRange(entry) : '–';
}

/** Items by their place at the last level at which they were read; those without one last. */
export function orderOver(group: ClassOverLevels): number[] {
  const rank = (item: number): number => {
    for (const level of group.levels.toReversed().filter((read) => read !== undefined)) {
      const place = level.analysis.ranking.findIndex(({ index }) => index === item);
      if (place !== -1) return place;
    }
    return group.items.length;
  };
  return group.items.map((_, item) => item).sort((a, b) => rank(a) - rank(b) || a - b);
}

/** The words under a picture over levels. */
export function levelCaption({ measurand: { name, unit }, factor, held, bySize }: OverLevels): string {
  const what = `${bySize ? 'Size of the error: ' : ''}${name}${unit && ` in ${unit}`}`;
  return `${what} over ${factor.name}${held && `, at ${held}`}: means joined from level to level; bars are their 95 % intervals.`;
}

/** What the sentences of one answer share. */
interface Telling {
  over: OverLevels;
  group: ClassOverLevels;
  name: (item: number) => string;
  figure: (value: number) => string;
  /** Names of levels, listed. */
  atLevels: (levels: readonly number[]) => string;
}

/** Levels named one by one; more are counted. */
const MOST_NAMED = 4;

/** Who is first at a level, as indices: one, several that are practically the same, or nobody yet. */
export type First = { is: 'first'; item: number } | { is: 'shared'; items: number[] } | { is: 'open' };

export function firstAt({ analysis: { ranking, pairs } }: ClassAnalysis): First {
  const contenders = ranking.filter(({ placeLow }) => placeLow === 1).map(({ index }) => index);
  const [leader] = contenders;
  if (leader === undefined) return { is: 'open' };
  if (contenders.length === 1) return { is: 'first', item: leader };
  return allSame(pairs, contenders) ? { is: 'shared', items: contenders } : { is: 'open' };
}

const firstKey = (first: First): string =>
  first.is === 'first'
    ? String(first.item)
    : first.is === 'shared'
      ? [...first.items].sort((a, b) => a - b).join('/')
      : 'open';

function firstWords(first: First, levels: readonly number[], { atLevels, name, over }: Telling): string {
  if (first.is === 'first') return `${name(first.item)} is first ${atLevels(levels)}`;
  if (first.is === 'shared') return `${listed(first.items.map(name))} share first place ${atLevels(levels)}`;
  return levels.length > 1 && levels.length === over.levels.length
    ? `first place is settled at ${levels.length === 2 ? 'neither level' : `none of the ${String(levels.length)} levels`}`
    : `first place is not settled ${atLevels(levels)}`;
}

/** Who is first where, in as few words as the levels allow. */
function firstSentence(telling: Telling): string {
  const groups = new Map<string, { first: First; levels: number[] }>();
  telling.group.levels.forEach((group, level) => {
    // An order takes two.
    if (!group || group.analysis.ranking.length < 2) return;
    const first = firstAt(group);
    const found = groups.get(firstKey(first)) ?? { first, levels: [] };
    found.levels.push(level);
    groups.set(firstKey(first), found);
  });
  if (groups.size === 0) return 'Too little was read for an order at any level.';
  // What is not settled comes last.
  const told = [...groups.values()].sort(
    (a, b) => Number(a.first.is === 'open') - Number(b.first.is === 'open'),
  );
  return `${capital(told.map(({ first, levels }) => firstWords(first, levels, telling)).join('; '))}.`;
}

function turnSentence({ group: { turns }, name, over }: Telling): string {
  const settled = turns.filter((turn) => turn.settled);
  const [turn] = settled;
  if (!turn) return '';
  if (settled.length > 1) return `The order of ${counted(settled.length, 'pair')} turns.`;
  return `${name(turn.before)} and ${name(turn.after)} change places between ${between(turn, over)}.`;
}

const between = ({ from, to }: Pick<Turn, 'from' | 'to'>, { levels }: OverLevels): string =>
  `${levels[from]?.name ?? ''} and ${levels[to]?.name ?? ''}`;

/** A place on the factor’s scale, as finely as a hundredth of what was read. */
export function factorFigure(value: number, { factor, levels }: OverLevels): string {
  const values = levels.flatMap((level) => level.value ?? []);
  const span = Math.max(...values) - Math.min(...values);
  const decimals = Math.max(0, Math.min(9, 1 - Math.floor(Math.log10(span))));
  return withUnit(formatNumber(value, decimals), factor.unit);
}

function turnNotes({ group, over, name, figure, atLevels }: Telling): PlainNote[] {
  const leadAt = (level: number, turn: Turn) => {
    const pair = group.levels[level]?.analysis.pairs.find(
      ({ a, b }) => [a, b].includes(turn.before) && [a, b].includes(turn.after),
    );
    return { by: figure(Math.abs(pair?.lead as number)), settled: pair?.verdict.endsWith('ahead') ?? false };
  };
  return group.turns
    .filter(({ settled }, _i, all) => settled || all.length <= MOST_NAMED)
    .map((turn): PlainNote => {
      const sides = [
        { item: turn.before, level: turn.from, ...leadAt(turn.from, turn) },
        { item: turn.after, level: turn.to, ...leadAt(turn.to, turn) },
      ];
      const told = sides
        .map(({ item, level, by }) => `${name(item)} is ahead by ${by} ${atLevels([level])}`)
        .join(', ');
      const open = sides.find(({ settled }) => !settled);
      const crosses =
        turn.at === null
          ? ''
          : ` By straight lines between the means they cross at ${factorFigure(turn.at, over)}.`;
      return turn.settled
        ? {
            tone: 'attention',
            title: `${name(turn.before)} and ${name(turn.after)} change places`,
            text: `${told}.${crosses}`,
          }
        : {
            tone: 'plain',
            title: `${name(turn.before)} and ${name(turn.after)} may change places`,
            text: `By their means ${told}; ${open ? atLevels([open.level]) : ''} the readings do not settle it.${crosses}`,
          };
    });
}

const step = (changes: readonly LevelChange[], to: number): LevelChange | undefined =>
  changes.find((change) => change.to === to && change.from === to - 1) ?? undefined;

/** Items that go up over one step and down over another, for sure. */
function wayNotes({ group, over, name, figure }: Telling): PlainNote[] {
  return group.changes.flatMap((changes, item): PlainNote[] => {
    const steps = over.levels.flatMap((_, level) => step(changes, level) ?? []);
    const [up, down] = (['rises', 'falls'] as const).map((way) =>
      steps.find(({ verdict }) => verdict === way),
    );
    if (!up || !down) return [];
    const [first, second] = up.to < down.to ? [up, down] : [down, up];
    const words = (change: LevelChange) =>
      `${change.verdict} by ${figure(Math.abs(change.difference))} from ${over.levels[change.from]?.name ?? ''} to ${over.levels[change.to]?.name ?? ''}`;
    return [
      {
        tone: 'attention',
        title: `${name(item)} does not go one way`,
        text: `It ${words(first)} and ${words(second)}. Look at these readings before a curve is drawn through them.`,
      },
    ];
  });
}

/** Items that stay the same over a step at which all the others move one way. */
function stallNotes({ group, over, name, figure }: Telling): PlainNote[] {
  return over.levels.flatMap((_, level): PlainNote[] => {
    const steps = group.changes.map((changes) => step(changes, level));
    const read = steps.filter((change) => change !== undefined);
    const still = steps.flatMap((change, item) => (change?.verdict === 'same' ? [item] : []));
    const moving = read.filter(({ verdict }) => verdict === 'rises' || verdict === 'falls');
    const [way] = moving;
    if (
      !way ||
      still.length === 0 ||
      still.length + moving.length < read.length ||
      moving.length < 2 ||
      moving.some(({ verdict }) => verdict !== way.verdict)
    )
      return [];
    const word = way.verdict === 'rises' ? 'rise' : 'fall';
    const limits = still
      .map((item) => `${name(item)} by ${figure(Math.abs(steps[item]?.difference as number))}`)
      .join(', ');
    return [
      {
        tone: 'attention',
        title: `${listed(still.map(name))} ${wordFor(still.length, 'does', 'do')} not ${word} from ${over.levels[level - 1]?.name ?? ''} to ${over.levels[level]?.name ?? ''}`,
        text: `All others ${word}, while the means change: ${limits}, no appreciable difference. Is it built to hold, or is the instrument at its end?`,
      },
    ];
  });
}

function crossingNotes({ group, over, name }: Telling): PlainNote[] {
  return group.crossings.map(({ item, limit, at: crossed, low, high }): PlainNote => {
    const range =
      low !== null && high !== null
        ? `between ${factorFigure(low, over)} and ${factorFigure(high, over)}`
        : low !== null
          ? `from ${factorFigure(low, over)} on; the other end is beyond what was read`
          : high !== null
            ? `up to ${factorFigure(high, over)}; the other end is beyond what was read`
            : 'anywhere between the levels that were read';
    return {
      tone: 'plain',
      title: `${name(item)} reaches ${withUnit(formatPlain(limit), over.measurand.unit)} at ${factorFigure(crossed, over)}`,
      text: `By straight lines between the levels; the means’ intervals put it ${range}.`,
    };
  });
}

/**
 * What the readings support about the items over the levels of a factor, in plain words.
 * @param soFar whether the plan is not complete yet, so that the answer may still change
 */
export function answerOverLevels(over: OverLevels, group: ClassOverLevels, soFar = false): Answer {
  const { result } = levelFigures(group);
  const telling: Telling = {
    over,
    group,
    name: (item) => group.items[item]?.name ?? '',
    figure: (value) => withUnit(result(value), over.measurand.unit),
    atLevels: (levels) =>
      levels.length > 1 && levels.length === over.levels.length
        ? levels.length === 2
          ? `at both ${listed(levels.map((level) => over.levels[level]?.name ?? ''))}`
          : `at all ${String(levels.length)} levels`
        : levels.length > MOST_NAMED
          ? `at ${String(levels.length)} of ${String(over.levels.length)} levels`
          : `at ${listed(levels.map((level) => over.levels[level]?.name ?? ''))}`,
  };
  const odd = [...new Set(group.levels.map((level) => (level ? standsOutSentence(level.analysis) : '')))];
  const sentence = [firstSentence(telling), turnSentence(telling), ...odd]
    .filter((part) => part !== '')
    .join(' ');
  return {
    sentence: soFar ? `So far: ${sentence}` : sentence,
    notes: [...turnNotes(telling), ...wayNotes(telling), ...stallNotes(telling), ...crossingNotes(telling)],
  };
}
