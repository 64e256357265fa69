import { type FieldProblem, checkPart } from '../model/checks.ts';
import { PART_KINDS, PART_KIND_NAMES } from '../model/part-kinds.ts';
import { NEW_STUDY } from '../model/new-study.ts';
import { STUDY_FORMAT, STUDY_FORMAT_VERSION, type StudyDocument } from '../model/study-document.ts';

/**
 * What is wrong inside a study document that has passed its schema: parts of another study, ids twice, references
 * to nothing, and whatever checkPart finds.
 */
export function documentProblems(document: StudyDocument): FieldProblem[] {
  const problems: FieldProblem[] = [];
  const ids = new Map(
    PART_KIND_NAMES.map((kind) => [kind, new Set(document[kind].map(({ id }) => id))] as const),
  );
  for (const kind of PART_KIND_NAMES) {
    const seen = new Set<string>();
    document[kind].forEach((part, i) => {
      const path = `/${kind}/${String(i)}`;
      if (part.studyId !== document.study.id) {
        problems.push({ path: `${path}/studyId`, message: 'This part belongs to another study.' });
      }
      if (seen.has(part.id)) problems.push({ path: `${path}/id`, message: 'This id is there twice.' });
      seen.add(part.id);
      for (const [field, other] of Object.entries(PART_KINDS[kind].refers)) {
        const reference = (part as unknown as Record<string, string | null>)[field];
        if (typeof reference === 'string' && !ids.get(other)?.has(reference)) {
          problems.push({
            path: `${path}/${field}`,
            message: `The document has no ${PART_KINDS[other].word} with this id.`,
          });
        }
      }
      for (const { path: inner, message } of checkPart(kind, part, document)) {
        problems.push({ path: path + inner, message });
      }
    });
  }
  return problems;
}

/**
 * Brings a document that an earlier version wrote up to date: what it could not say yet is filled in as it stood
 * then. Anything else is left as it is, for the schema to judge.
 */
export function upToDate(document: unknown): unknown {
  if (typeof document !== 'object' || document === null) return document;
  const whole = { ...document } as Record<string, unknown>;
  if (whole.format !== STUDY_FORMAT || whole.formatVersion !== STUDY_FORMAT_VERSION) return document;
  const objects = (value: unknown) =>
    Array.isArray(value)
      ? value.map((one: unknown) =>
          typeof one === 'object' && one !== null ? (one as Record<string, unknown>) : undefined,
        )
      : undefined;
  const each = (kind: string, change: (part: Record<string, unknown>) => Record<string, unknown>) => {
    const parts = objects(whole[kind]);
    if (parts?.every((part) => part !== undefined)) whole[kind] = parts.map(change);
  };
  whole.claims ??= [];
  const study = whole.study as Record<string, unknown> | null | undefined;
  let readingS: unknown = 20;
  if (typeof study === 'object' && study !== null) {
    const { blind, struck, reorders, deviations, misfireReasons } = NEW_STUDY;
    const next: Record<string, unknown> = {
      ...{ blind, struck, reorders, deviations, misfireReasons },
      ...study,
    };
    const { timing, procedure } = study;
    if (typeof timing === 'object' && timing !== null && 'readingS' in timing) {
      const { readingS: own, ...rest } = timing;
      readingS = own;
      next.timing = { levelS: 0, ...rest };
    }
    if (typeof procedure === 'object' && procedure !== null && 'waits' in procedure) {
      const waits = objects(procedure.waits);
      next.procedure = {
        ...procedure,
        waits: waits?.every((wait) => wait !== undefined)
          ? waits.map((wait) => ({ when: 'reading', ...wait }))
          : procedure.waits,
      };
    }
    whole.study = next;
  }
  each('measurands', (part) => ({ settings: {}, expression: null, onItems: null, readingS, ...part }));
  each('changes', (part) => ({ readingsThen: 1, reason: '', ...part }));
  each('decisions', (part) => {
    const { run } = part;
    return {
      sessionId: null,
      ...part,
      ...(typeof run === 'object' && run !== null ? { run: { levelIds: [], ...run } } : {}),
    };
  });
  each('sessions', (part) => {
    const conditions = objects(part.conditions);
    return {
      ...{ kind: 'bench', checked: [], acknowledged: [], pauses: [], continuesId: null },
      ...part,
      // A condition had no time of its own: it was read when its session began or ended.
      ...(conditions?.every((one) => one !== undefined)
        ? {
            conditions: conditions.map((one) => ({
              takenAt: one.at === 'end' ? (part.endedAt ?? part.startedAt) : part.startedAt,
              ...one,
            })),
          }
        : {}),
    };
  });
  if (whole.notes === undefined) {
    const notes: unknown[] = [];
    each('readings', ({ note, photo: _photo, ...reading }) => {
      if (typeof note === 'string' && note.trim() !== '') {
        const { id, studyId, createdAt, updatedAt, takenAt } = reading;
        notes.push({
          ...{ id, studyId, version: 1, createdAt, updatedAt, readingId: id },
          ...{ itemId: null, sessionId: null, run: null, text: note, photo: null },
          ...{ removed: false, notedAt: takenAt },
        });
      }
      return reading;
    });
    whole.notes = notes;
  }
  return whole;
}

/** What a copy of a study holds. */
export type CopyExtent = 'plan' | 'everything';

const PLAN_PARTS = new Set(['items', 'measurands', 'factors', 'levels', 'claims', 'conditions']);

/**
 * A copy of a study under new ids. Order is kept, so that the copy's run order is made from its own seed anew.
 * @param newId makes an id; called in the order of the document
 */
export function copyStudy(
  document: StudyDocument,
  extent: CopyExtent,
  studyId: string,
  newId: () => string,
  title: string,
  now: string,
): StudyDocument {
  const renamed = new Map<string, string>([[document.study.id, studyId]]);
  const stamp = { version: 1, createdAt: now, updatedAt: now };
  const collect = (value: unknown): unknown => {
    if (typeof value === 'string') return renamed.get(value) ?? value;
    if (Array.isArray(value)) return value.map(collect);
    if (value !== null && typeof value === 'object') {
      return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, collect(inner)]));
    }
    return value;
  };
  const kinds = PART_KIND_NAMES.filter((kind) => extent === 'everything' || PLAN_PARTS.has(kind));
  // Ids first and for all, since decisions point back to readings and readings to items. Items are taken in the
  // order of their ids, which is the order that the shuffles start from.
  for (const kind of kinds) {
    for (const { id } of [...document[kind]].sort((a, b) => (a.id < b.id ? -1 : 1))) renamed.set(id, newId());
  }
  const study = collect(document.study) as StudyDocument['study'];
  const copy: StudyDocument = { ...document, study: { ...study, id: studyId, title, ...stamp } };
  if (extent === 'plan') {
    // What was done belongs to the study that it was done in.
    copy.study.reorders = [];
    copy.study.deviations = [];
    if (copy.study.blind === 'opened') copy.study.blind = 'blind';
  }
  for (const kind of PART_KIND_NAMES) {
    const parts = kinds.includes(kind) ? document[kind].map((part) => ({ ...part, ...stamp })) : [];
    (copy as unknown as Record<string, unknown>)[kind] = collect(parts);
  }
  // The log tells old and new values as JSON, with ids inside.
  copy.changes = copy.changes.map((change) => ({
    ...change,
    before: JSON.stringify(collect(JSON.parse(change.before))),
    after: JSON.stringify(collect(JSON.parse(change.after))),
  }));
  // A set of levels is kept in the order of its ids, which are new.
  for (const cell of copy.study.struck) cell.levelIds.sort();
  for (const { run } of copy.decisions) run?.levelIds.sort();
  return copy;
}
