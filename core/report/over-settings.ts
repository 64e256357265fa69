import type { ClassOverLevels, OverLevels } from '../analysis/over-levels.ts';
import { capital, counted, listed } from '../quantity/format.ts';
import { firstAt } from './over-levels.ts';

/** One class of items at one setting: a level of the factor, the others held. */
interface RankedSetting {
  words: string;
  group: ClassOverLevels;
  level: number;
}

/** The settings at which a class is ranked; an order takes two. */
const rankedSettings = (series: readonly OverLevels[], className: string): RankedSetting[] =>
  series.flatMap(({ settings, classes }) => {
    const group = classes.find(({ name }) => name === className);
    return settings.flatMap((words, level): RankedSetting[] =>
      group && (group.levels[level]?.analysis.ranking.length as number) > 1 ? [{ words, group, level }] : [],
    );
  });

/** Settings named one by one; more are counted. */
const MOST_NAMED = 2;

/** Writes at which settings something holds; how many there are in all is said the first time alone. */
function settingWriter(all: number): (words: readonly string[]) => string {
  let isSaid = false;
  return (words) => {
    if (words.length === all) return all === 2 ? 'at both settings' : `at all ${String(all)} settings`;
    if (words.length <= MOST_NAMED) return `at ${listed(words.map((setting) => `“${setting}”`))}`;
    const counts = `at ${String(words.length)}${isSaid ? '' : ` of the ${String(all)} settings`}`;
    isSaid = true;
    return counts;
  };
}

/** Who is first at a setting, by names. */
function firstNames({ group, level }: RankedSetting): string[] {
  const ranked = group.levels[level];
  const first = ranked ? firstAt(ranked) : { is: 'open' as const };
  const items = first.is === 'first' ? [first.item] : first.is === 'shared' ? first.items : [];
  return items.map((item) => group.items[item]?.name ?? '').sort((a, b) => a.localeCompare(b));
}

/** Two items of which the readings settle that each is ahead of the other somewhere. */
export interface SettledTurn {
  names: [string, string];
  /** Settings in words at which the first is ahead, and the second. */
  ahead: [string[], string[]];
  /** Where, in a sentence. */
  sentence: string;
}

/** The pairs of a class whose settled order is not the same at all settings. */
export function turnsOverSettings(series: readonly OverLevels[], className: string): SettledTurn[] {
  const settings = rankedSettings(series, className);
  const pairs = new Map<string, Pick<SettledTurn, 'names' | 'ahead'>>();
  for (const { words, group, level } of settings) {
    for (const { a, b, verdict } of group.levels[level]?.analysis.pairs ?? []) {
      if (!verdict.endsWith('ahead')) continue;
      const [left, right] = [group.items[a], group.items[b]];
      if (!left || !right) continue;
      const isTurned = left.id > right.id;
      const [first, second] = isTurned ? [right, left] : [left, right];
      const key = `${first.id}/${second.id}`;
      const pair = pairs.get(key) ?? { names: [first.name, second.name], ahead: [[], []] };
      const isFirstAhead = (verdict === 'a ahead') !== isTurned;
      pair.ahead[isFirstAhead ? 0 : 1].push(words);
      pairs.set(key, pair);
    }
  }
  return [...pairs.values()]
    .filter(({ ahead }) => ahead.every((words) => words.length > 0))
    .map((pair): SettledTurn => {
      const atSettings = settingWriter(settings.length);
      const [first, second] = pair.names;
      const [ofFirst, ofSecond] = pair.ahead;
      return {
        ...pair,
        sentence: `${first} is ahead ${atSettings(ofFirst)}, ${second} ${atSettings(ofSecond)}.`,
      };
    });
}

/**
 * Who is first at which settings, and whether the order turns, in a sentence or two.
 * @param soFar whether the plan is not complete yet, so that the answer may still change
 */
export function answerOverSettings(series: readonly OverLevels[], className: string, soFar = false): string {
  const settings = rankedSettings(series, className);
  if (settings.length === 0) return 'Too little was read for an order at any setting.';
  const atSettings = settingWriter(settings.length);
  const firsts = new Map<string, { names: string[]; words: string[] }>();
  for (const setting of settings) {
    const names = firstNames(setting);
    const found = firsts.get(names.join('\n')) ?? { names, words: [] };
    found.words.push(setting.words);
    firsts.set(names.join('\n'), found);
  }
  const sentences = [...firsts.values()]
    // Whoever is first most often comes first; what is not settled comes last.
    .sort(
      (a, b) =>
        Number(a.names.length === 0) - Number(b.names.length === 0) ||
        b.words.length - a.words.length ||
        a.names.join().localeCompare(b.names.join()),
    )
    .map(({ names, words }) => {
      const where = atSettings(words);
      if (names.length === 0)
        return words.length === settings.length
          ? `first place is settled at ${words.length === 2 ? 'neither setting' : `none of the ${String(words.length)} settings`}`
          : `first place is not settled ${where}`;
      return names.length === 1
        ? `${names[0] ?? ''} is first ${where}`
        : `${listed(names)} share first place ${where}`;
    });
  const turns = turnsOverSettings(series, className);
  const [turn] = turns;
  const turned =
    turn === undefined
      ? ''
      : turns.length > 1
        ? ` The order of ${counted(turns.length, 'pair')} turns.`
        : ` ${turn.names[0]} and ${turn.names[1]} change places.`;
  return `${soFar ? 'So far: ' : ''}${capital(sentences.join('; '))}.${turned}`;
}
