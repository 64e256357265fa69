import type { Figure } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { settingKey } from '../plan/grid.ts';
import type { Typed } from '../summary/typed.ts';

/** A figure as the comparison takes it. */
export const typedOf = ({ kind, n, mean, sd, low, high }: Figure): Typed =>
  kind === 'range' ? { kind, low, high } : { kind, n: n as number, mean: mean as number, sd, low, high };

/** The setting that a figure was found at. */
export const settingOf = ({ levels }: Pick<Figure, 'levels'>): string =>
  settingKey(levels.map(({ levelId }) => levelId));

/** What is known of the items from elsewhere, of a measurand at a setting; the last one that was typed in holds. */
export function typedAt(document: StudyDocument, measurandId: string, setting: string): Map<string, Figure> {
  return new Map(
    document.figures
      .filter((figure) => figure.measurandId === measurandId && settingOf(figure) === setting)
      .map((figure) => [figure.itemId, figure]),
  );
}
