import type { Decision, Reading } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { Outgoing } from './outbox.ts';

/** The study as the server has it, with what is still on its way put behind. */
export function withOutgoing(document: StudyDocument, entries: readonly Outgoing[]): StudyDocument {
  const own = entries.filter(
    ({ part, refused }) => part.studyId === document.study.id && refused === undefined,
  );
  if (own.length === 0) return document;
  const missing = <T extends { id: string }>(kind: Outgoing['kind'], known: readonly T[]) => {
    const ids = new Set(known.map(({ id }) => id));
    return own.filter((entry) => entry.kind === kind && !ids.has(entry.part.id)).map(({ part }) => part);
  };
  return {
    ...document,
    readings: [...document.readings, ...(missing('readings', document.readings) as Reading[])],
    decisions: [...document.decisions, ...(missing('decisions', document.decisions) as Decision[])],
  };
}
