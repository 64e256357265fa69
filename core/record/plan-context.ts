import type { Item, Level } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';

/** One thing wrong with what was sent, at a JSON pointer. */
export interface FieldProblem {
  path: string;
  message: string;
}

/** The plan that a part is checked against. */
export type PlanContext = Pick<StudyDocument, 'items' | 'measurands' | 'factors' | 'levels' | 'conditions'>;

/** Names as they are compared: without regard to case and the spaces around them. */
export const asCompared = (text: string) => text.trim().toLowerCase();

/** Something made of a list once, and again when the list has grown. */
function madeOnce<T, Made>(make: (list: readonly T[]) => Made): (list: readonly T[]) => Made {
  const kept = new WeakMap<readonly T[], { length: number; made: Made }>();
  return (list) => {
    const known = kept.get(list);
    if (known?.length === list.length) return known.made;
    const made = make(list);
    kept.set(list, { length: list.length, made });
    return made;
  };
}

const grouped = <T>(list: readonly T[], key: (part: T) => string): Map<string, T[]> => {
  const groups = new Map<string, T[]>();
  for (const part of list) {
    const there = groups.get(key(part));
    if (there) there.push(part);
    else groups.set(key(part), [part]);
  }
  return groups;
};

export const byName = madeOnce((parts: readonly { id: string; name: string }[]) =>
  grouped(parts, ({ name }) => asCompared(name)),
);
export const byCode = madeOnce((items: readonly Item[]) => grouped(items, ({ code }) => asCompared(code)));
export const byId = madeOnce(
  (parts: readonly { id: string }[]) => new Map(parts.map((part) => [part.id, part])),
);
export const byFactor = madeOnce((levels: readonly Level[]) => grouped(levels, ({ factorId }) => factorId));
