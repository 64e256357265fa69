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
