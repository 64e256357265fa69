import { byText } from '../model/in-order.ts';
import { checkFiles, checkPart, checkPlanSize, checkStudy } from '../record/checks.ts';
import type { FieldProblem } from '../record/plan-context.ts';
import { NEW_STUDY } from '../model/new-study.ts';
import { PART_KINDS, PART_KIND_NAMES } from '../model/part-kinds.ts';
import type { StudyDocument } from '../model/study-document.ts';

/**
 * What is wrong inside a study document that has passed its schema: parts of another study, ids twice, references
 * to nothing, and whatever checkPart finds.
 */
export function documentProblems(document: StudyDocument): FieldProblem[] {
  // A plan too large for any page is not taken in, whatever it was made by.
  const problems: FieldProblem[] = [
    ...checkPlanSize(document),
    ...checkFiles(document.files),
    ...checkStudy(document.study).map(({ path, message }) => ({ path: `/study${path}`, message })),
  ];
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

/** What a copy of a study holds. */
export type CopyExtent = 'plan' | 'everything';

const PLAN_PARTS = new Set(['items', 'measurands', 'factors', 'levels', 'claims', 'conditions']);

/** Takes out of a study what was done with it. */
function forgetWork(study: StudyDocument['study']): void {
  // What was done belongs to the study that it was done in.
  study.reorders = [];
  study.draws = NEW_STUDY.draws;
  study.deviations = [];
  study.answers = [];
  study.report = { ...study.report, words: [], photos: [] };
  if (study.blind === 'opened') study.blind = 'blind';
}

/**
 * A copy of a study under new ids. Order is kept, so that the copy's run order is made again from its own seed.
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
    for (const { id } of [...document[kind]].sort((a, b) => byText(a.id, b.id))) renamed.set(id, newId());
  }
  const study = collect(document.study) as StudyDocument['study'];
  const copy: StudyDocument = { ...document, study: { ...study, id: studyId, title, ...stamp } };
  if (extent === 'plan') forgetWork(copy.study);
  for (const kind of PART_KIND_NAMES) {
    const parts = kinds.includes(kind) ? document[kind].map((part) => ({ ...part, ...stamp })) : [];
    (copy as unknown as Record<string, unknown>)[kind] = collect(parts);
  }
  if (extent === 'plan') {
    // What was estimated of sessions belongs to the study that had them.
    for (const { corrections } of copy.measurands)
      if (corrections.ambient) corrections.ambient.estimates = [];
  }
  // The log tells old and new values as JSON, with ids inside.
  copy.changes = copy.changes.map((change) => ({
    ...change,
    before: JSON.stringify(collect(JSON.parse(change.before))),
    after: JSON.stringify(collect(JSON.parse(change.after))),
  }));
  // A finding is named after what it is about.
  copy.study.answers = copy.study.answers.map((answer) => ({
    ...answer,
    finding: answer.finding
      .split('/')
      .map((word) => renamed.get(word) ?? word)
      .join('/'),
  }));
  // A set of levels is kept in the order of its ids, which are new.
  for (const cell of copy.study.struck) cell.levelIds.sort();
  for (const { run } of copy.decisions) run?.levelIds.sort();
  return copy;
}

/** Parts that are made into text at a time. */
const PARTS_AT_A_TIME = 1000;

/** A study document as JSON text, piece by piece, so that a large one is never one text. */
export function* studyJsonPieces({
  format,
  formatVersion,
  study,
  ...kinds
}: StudyDocument): Generator<string> {
  yield JSON.stringify({ format, formatVersion, study }).slice(0, -1);
  for (const kind of PART_KIND_NAMES) {
    const parts = kinds[kind];
    yield `,\n"${kind}":[`;
    for (let from = 0; from < parts.length; from += PARTS_AT_A_TIME) {
      const text = parts.slice(from, from + PARTS_AT_A_TIME).map((part) => JSON.stringify(part));
      yield `${from > 0 ? ',\n' : ''}${text.join(',\n')}`;
    }
    yield ']';
  }
  yield '}\n';
}
