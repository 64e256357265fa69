import type { ClassOverLevels, OverLevels } from '../../core/analysis/over-levels.ts';
import type { Item } from '../../core/model/parts.ts';
import { factorFigure, levelFigures } from '../../core/report/over-levels.ts';
import { placeRange } from './lanes.ts';
import { LevelPicture } from './level-picture.tsx';

/** Turns that the picture names; the notes name all. */
const TURNS_DRAWN = 2;

/** Places of an item at a level, as its ranking has them. */
export function placeAt(group: ClassOverLevels, level: number, item: number): string {
  const entry = group.levels[level]?.analysis.ranking.find(({ index }) => index === item);
  return entry ? placeRange(entry.placeLow, entry.placeHigh) : '–';
}

/** Items by their place at the last level at which they were read; those without one last. */
export function orderOver(group: ClassOverLevels): number[] {
  const rank = (item: number): number => {
    for (const level of group.levels.toReversed()) {
      const place = level?.analysis.ranking.findIndex(({ index }) => index === item) ?? -1;
      if (place !== -1) return place;
    }
    return group.items.length;
  };
  return group.items.map((_, item) => item).sort((a, b) => rank(a) - rank(b) || a - b);
}

/** The margin around the best mean at each level, where there is a best one. */
function bandOf({ measurand }: OverLevels, group: ClassOverLevels): ([number, number] | undefined)[] {
  return group.levels.map((level) => {
    if (!level) return undefined;
    const { ranking, items, margin, ranksOnly } = level.analysis;
    const [leader] = ranking;
    const mean = leader && items[leader.index]?.placedBy;
    if (mean == null || margin === 0 || ranksOnly || measurand.direction.kind === 'nearest') return undefined;
    return [mean - margin, mean + margin];
  });
}

/** The picture of a class of items over the levels of a factor. */
export function OverPicture({
  over,
  group,
  order,
}: {
  over: OverLevels;
  group: ClassOverLevels;
  order: readonly number[];
}) {
  const { measurand, factor, levels, bySize } = over;
  const { decimals } = levelFigures(group);
  const name = (item: number) => group.items[item]?.name ?? '';
  return (
    <LevelPicture
      label={`${bySize ? 'Size of the error: ' : ''}${measurand.name} over ${factor.name}`}
      unit={measurand.unit}
      levels={levels}
      decimals={decimals}
      band={measurand.direction.kind === 'unranked' ? [] : bandOf(over, group)}
      turns={group.turns
        .filter(({ settled, at }) => settled && at !== null)
        .slice(0, TURNS_DRAWN)
        .map(({ before, after, at }) => ({
          at: at as number,
          words: `${name(before)} and ${name(after)} change places at ${factorFigure(at as number, over)}`,
        }))}
      lines={order.map((item) => {
        const { id, name: label, code, mark } = group.items[item] as Item;
        return {
          ...{ id, name: label, code, mark },
          points: group.levels.map((level) => {
            const analysed = level?.analysis.items[item];
            return analysed?.placedBy == null
              ? undefined
              : { mean: analysed.placedBy, interval: analysed.summary.interval };
          }),
          place: placeAt(group, levels.length - 1, item),
        };
      })}
    />
  );
}
