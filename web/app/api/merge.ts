import { replaceEqualDeep } from '@tanstack/react-query';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { Outgoing } from './outbox.ts';

/** The study as the server has it, with what is still on its way put behind. */
export function withOutgoing(document: StudyDocument, entries: readonly Outgoing[]): StudyDocument {
  const own = entries.filter(
    ({ part, refused }) => part.studyId === document.study.id && refused === undefined,
  );
  if (own.length === 0) return document;
  const merged = { ...document };
  for (const kind of new Set(own.map((entry) => entry.kind))) {
    const parts = [...(document[kind] as { id: string }[])];
    const ids = new Set(parts.map(({ id }) => id));
    for (const entry of own) {
      if (entry.kind !== kind) continue;
      const { part, before } = entry;
      if (before) {
        const at = parts.findIndex(({ id }) => id === part.id);
        const fields = Object.entries(part).filter(([name]) => name in before);
        if (at !== -1) parts[at] = { ...(parts[at] as { id: string }), ...Object.fromEntries(fields) };
      } else if (!ids.has(part.id)) {
        ids.add(part.id);
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

/**
 * The state before, where the one after holds the same: what the server has acknowledged differs by its stamps alone
 * from what the page had, and nothing that was worked out of it needs to be made again.
 */
export function steadyDocument(before: StudyDocument | undefined, after: StudyDocument): StudyDocument {
  if (before === undefined || before === after) return after;
  const fields = Object.keys(after) as (keyof StudyDocument)[];
  const isSame = fields.every((field) => {
    const [had, has]: unknown[] = [before[field], after[field]];
    if (had === has) return true;
    if (!Array.isArray(had) || !Array.isArray(has) || had.length !== has.length) return false;
    return has.every((part, i) => isSamePart(had[i] as Stamped, part as Stamped));
  });
  return isSame ? before : after;
}
