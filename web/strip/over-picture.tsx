import type { ClassOverLevels, OverLevels } from '../../core/analysis/over-levels.ts';
import type { Item } from '../../core/model/parts.ts';
import { factorFigure, levelCaption, levelFigures, placeAt } from '../../core/report/over-levels.ts';
import { shifted } from './lanes.ts';
import { type LevelLine, LevelPicture, spanOf } from './level-picture.tsx';

/** Turns that the picture names; the notes name all. */
const TURNS_DRAWN = 2;

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

/** The items of a class over the levels, in an order. */
const linesOf = (
  { measurand, levels }: OverLevels,
  group: ClassOverLevels,
  order: readonly number[],
): LevelLine[] =>
  order.map((item) => {
    const { id, name: label, code, mark } = group.items[item] as Item;
    return {
      ...{ id, name: label, code, mark },
      points: group.levels.map((level) => {
        const analysed = level?.analysis.items[item];
        // A range is no point of a line: the table has it.
        if (analysed?.placedBy == null || analysed.typed?.kind === 'range') return undefined;
        const { placedBy: mean, summary } = analysed;
        return { mean, interval: shifted(summary.interval, mean, summary.mean) };
      }),
      place: measurand.direction.kind === 'unranked' ? '' : placeAt(group, levels.length - 1, item),
    };
  });

/** What several classes have in them together, bands too, so that their pictures can share an axis. */
export function spanOfAll(all: readonly { over: OverLevels; group: ClassOverLevels }[]) {
  const spans = all.map(({ over, group }) => ({
    ...spanOf(linesOf(over, group, [...group.items.keys()])),
    bands: bandOf(over, group).flatMap((reach) => reach ?? []),
  }));
  return {
    means: spans.flatMap(({ means }) => means),
    ends: spans.flatMap(({ ends, bands }) => [...ends, ...bands]),
  };
}

/** The picture of a class of items over the levels of a factor. */
export function OverPicture({
  over,
  group,
  order,
  spanned,
}: {
  over: OverLevels;
  group: ClassOverLevels;
  order: readonly number[];
  spanned?: ReturnType<typeof spanOfAll>;
}) {
  const { measurand, factor, levels } = over;
  const { decimals } = levelFigures(group);
  const name = (item: number) => group.items[item]?.name ?? '';
  return (
    <LevelPicture
      label={`${measurand.name} over ${factor.name}`}
      caption={levelCaption(over)}
      levels={levels}
      decimals={decimals}
      band={measurand.direction.kind === 'unranked' ? [] : bandOf(over, group)}
      turns={group.turns
        .filter(({ settled, at }) => settled && at !== null)
        .slice(0, TURNS_DRAWN)
        .map(({ before, after, at }) => ({
          level: at as number,
          words: `${name(before)} and ${name(after)} change places at ${factorFigure(at as number, over)}`,
        }))}
      lines={linesOf(over, group, order)}
      spanned={spanned}
    />
  );
}
