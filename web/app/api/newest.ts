import type { PartKind } from '../../../core/model/part-kinds.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { LivePart } from './studies.ts';

/** Kinds whose parts are edited; the others are only ever added. */
const EDITED = [
  ...(['items', 'measurands', 'factors', 'levels', 'figures', 'conditions'] as const),
  ...(['claims', 'sessions', 'notes', 'changes'] as const),
] satisfies readonly PartKind[];

/** Parts as they were fetched, though none in an older version than the page has had already. */
export function newestParts<T extends LivePart>(had: readonly T[], fetched: readonly T[]): T[] {
  const known = new Map(had.map((part) => [part.id, part]));
  return fetched.map((part) => {
    const mine = known.get(part.id);
    return mine && mine.version > part.version ? mine : part;
  });
}

/** A study as it was fetched, though never with an older version of a part than the page has had already. */
export function newestOf(before: unknown, after: unknown): unknown {
  if (before === undefined || after === undefined) return after;
  const [had, fetched] = [before as StudyDocument, after as StudyDocument];
  const newest: StudyDocument = { ...fetched };
  if (had.study.version > fetched.study.version) newest.study = had.study;
  for (const kind of EDITED) newest[kind] = newestParts<LivePart>(had[kind], fetched[kind]) as never;
  return newest;
}
