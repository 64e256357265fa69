import type { StudyDocument } from '../../core/model/study-document.ts';

/** A list from which place on it differs, and what stands there now; or another value altogether. */
type FieldChange = { from: number; rest: unknown[] } | { value: unknown };

/** What makes one state of a study out of an earlier one. */
export interface StudyChange {
  /** Number of the state that it starts from; undefined where the whole study is in it. */
  base: number | undefined;
  fields: Partial<Record<keyof StudyDocument, FieldChange>>;
}

/** The first place at which two lists differ. */
function firstDifference(list: readonly unknown[], before: readonly unknown[]): number {
  let same = 0;
  while (same < before.length && same < list.length && list[same] === before[same]) same += 1;
  return same;
}

/** What has changed from one state of a study to another; states share what has not. */
export function studyChange(
  document: StudyDocument,
  before: { number: number; document: StudyDocument } | undefined,
): StudyChange {
  const fields: StudyChange['fields'] = {};
  for (const key of Object.keys(document) as (keyof StudyDocument)[]) {
    const value: unknown = document[key];
    const old: unknown = before?.document[key];
    if (before && value === old) continue;
    fields[key] =
      Array.isArray(value) && Array.isArray(old)
        ? (() => {
            const from = firstDifference(value, old);
            return { from, rest: value.slice(from) };
          })()
        : { value };
  }
  return { base: before?.number, fields };
}

/** The state that a change makes. */
export function changedStudy(base: StudyDocument | undefined, { fields }: StudyChange): StudyDocument {
  const made = { ...base } as Record<string, unknown>;
  for (const [key, change] of Object.entries(fields)) {
    made[key] =
      'value' in change
        ? change.value
        : [
            ...((base?.[key as keyof StudyDocument] ?? []) as unknown[]).slice(0, change.from),
            ...change.rest,
          ];
  }
  return made as unknown as StudyDocument;
}
