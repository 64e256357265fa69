import { type StudyName, studyNames } from '../expression/names.ts';
import type { Claim, Measurand } from '../model/parts.ts';
import type { PartKind } from '../model/part-kinds.ts';
import { checkPart } from './checks.ts';
import type { PlanContext } from './plan-context.ts';

/** A plan with all in it that can point to something else. */
export type Plan = PlanContext & { claims: readonly Claim[] };

/** Changes of other parts that follow from one, so that they mean what they meant. */
export interface Mended {
  measurands: Map<string, Partial<Pick<Measurand, 'expression' | 'onItems' | 'controls'>>>;
  claims: Map<string, Pick<Claim, 'order'>>;
}

/** A name in an expression; a figure such as 1e5 has none in it. */
const NAME = /(?<![\p{L}\p{N}_.])[\p{L}_][\p{L}\p{N}_]*/gu;

const keyOf = ({ kind, id }: StudyName) => `${kind} ${id}`;

/** Identifiers that are written in another way now: old to new. */
function renamed(before: Plan, after: Plan): Map<string, string> {
  const now = new Map(studyNames(after).map((name) => [keyOf(name), name.identifier]));
  return new Map(
    studyNames(before).flatMap((name): [string, string][] => {
      const identifier = now.get(keyOf(name));
      return identifier === undefined || identifier === name.identifier
        ? []
        : [[name.identifier, identifier]];
    }),
  );
}

/**
 * What else must change when a plan changes: expressions follow the names that they use, and lists of items let go of
 * items that are gone.
 */
export function mended(before: Plan, after: Plan): Mended {
  const names = renamed(before, after);
  const there = new Set(after.items.map(({ id }) => id));
  const gone = before.items.some(({ id }) => !there.has(id));
  const changes: Mended = { measurands: new Map(), claims: new Map() };
  for (const { id, expression, onItems, controls } of after.measurands) {
    const change: Partial<Pick<Measurand, 'expression' | 'onItems' | 'controls'>> = {};
    const written = expression?.replace(NAME, (name) => names.get(name) ?? name);
    if (written !== undefined && written !== expression) change.expression = written;
    if (gone && onItems?.some((itemId) => !there.has(itemId)))
      change.onItems = onItems.filter((itemId) => there.has(itemId));
    if (gone && controls.some(({ itemId }) => !there.has(itemId)))
      change.controls = controls.filter(({ itemId }) => there.has(itemId));
    if (Object.keys(change).length > 0) changes.measurands.set(id, change);
  }
  for (const { id, order } of after.claims) {
    if (gone && order.some((itemId) => !there.has(itemId)))
      changes.claims.set(id, { order: order.filter((itemId) => there.has(itemId)) });
  }
  return changes;
}

/** Something in a plan that does not hold together: which part, where in it, and why. */
export interface PlanProblem {
  key: string;
  message: string;
}

/** All that does not hold together in the parts of a plan that lean on others. */
export function planProblems(plan: Plan): PlanProblem[] {
  const about = (kind: PartKind, part: { id: string }, called: string): PlanProblem[] =>
    checkPart(kind, part, plan).map(({ path, message }) => ({
      key: `${kind} ${part.id} ${path}`,
      message: `${called}: ${message}`,
    }));
  const nameOf = new Map(plan.measurands.map(({ id, name }) => [id, name]));
  return [
    ...plan.measurands.flatMap((part) => about('measurands', part, part.name)),
    ...plan.levels.flatMap((part) => about('levels', part, `The level ${part.name}`)),
    ...plan.claims.flatMap((part) =>
      about('claims', part, `A claim about ${nameOf.get(part.measurandId) ?? 'a measurand'}`),
    ),
  ];
}
