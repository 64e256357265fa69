import { replaceEqualDeep } from '@tanstack/react-query';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { Outgoing } from './outbox.ts';
import { placeOf } from './places.ts';

/** The study as the server has it, with what is still on its way put behind. */
export function withOutgoing(document: StudyDocument, entries: readonly Outgoing[]): StudyDocument {
  const outgoing = entries.filter(
    ({ part, refused }) => part.studyId === document.study.id && refused === undefined,
  );
  if (outgoing.length === 0) return document;
  const merged = { ...document };
  for (const kind of new Set(outgoing.map((entry) => entry.kind))) {
    const stored = document[kind] as { id: string }[];
    const parts = [...stored];
    const added = new Map<string, number>();
    for (const { part, before } of outgoing.filter((entry) => entry.kind === kind)) {
      const place = added.get(part.id) ?? placeOf(stored, part.id);
      if (before && place !== -1) {
        const fields = Object.entries(part).filter(([name]) => name in before);
        parts[place] = { ...(parts[place] as { id: string }), ...Object.fromEntries(fields) };
      } else if (!before && place === -1) {
        added.set(part.id, parts.length);
        parts.push(part);
      }
    }
    (merged as Record<string, unknown>)[kind] = parts;
  }
  return merged;
}

interface Stamped {
  createdAt?: string;
  updatedAt?: string;
}

const unstamped = ({ createdAt: _created, updatedAt: _updated, ...part }: Stamped) => part;

/** Whether two are the same part, whenever each says that it was made. */
function isSamePart(before: Stamped, after: Stamped): boolean {
  if (before === after) return true;
  const part = unstamped(before);
  return replaceEqualDeep(part, unstamped(after)) === part;
}

/** Of so many parts that are other objects than before it is looked at whether they are the same all the same. */
const MOST_COMPARED = 1000;

/** A list after a change, with the parts of the list before where they are the same; that list itself where all are. */
function steadyList(before: readonly Stamped[], after: readonly Stamped[]): readonly Stamped[] {
  let list: Stamped[] | undefined;
  let [compared, others] = [0, 0];
  for (let i = 0; i < Math.min(before.length, after.length); i += 1) {
    const [had, has] = [before[i] as Stamped, after[i] as Stamped];
    if (had === has) continue;
    compared += 1;
    if (compared > MOST_COMPARED) return after;
    if (isSamePart(had, has)) (list ??= [...after])[i] = had;
    else others += 1;
  }
  return others === 0 && before.length === after.length ? before : (list ?? after);
}

/**
 * A state of a study with what it shares with the state before, and that state itself where they hold the same: what
 * the server has acknowledged differs by its stamps alone from what the page had, and nothing that was worked out of it
 * needs to be made again.
 */
export function steadyDocument(before: StudyDocument | undefined, after: StudyDocument): StudyDocument {
  if (before === undefined || before === after) return after;
  const fields = Object.keys(after) as (keyof StudyDocument)[];
  const steady = Object.fromEntries(
    fields.map((field) => {
      const [had, has]: unknown[] = [before[field], after[field]];
      return [field, Array.isArray(had) && Array.isArray(has) && had !== has ? steadyList(had, has) : has];
    }),
  ) as unknown as StudyDocument;
  return fields.every((field) => steady[field] === before[field]) ? before : steady;
}
