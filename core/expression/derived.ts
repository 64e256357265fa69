import type { Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { type Expression, readExpression } from './expression.ts';
import { studyNames } from './names.ts';

type Named = Pick<StudyDocument, 'items' | 'measurands' | 'conditions'>;

/** The expression of a derived measurand, read against its study; its own name is not among those it may use. */
export function derivedExpression(
  document: Named,
  { id, expression, unit }: Pick<Measurand, 'id' | 'expression' | 'unit'>,
): Expression | { problem: string } {
  const names = studyNames(document);
  const itself = names.find((name) => name.id === id);
  const read = readExpression(expression ?? '', names, unit);
  if ('problem' in read) return read;
  if (itself && read.uses.includes(itself)) return { problem: `“${itself.name}” is made of itself.` };
  const loop = loopFrom(document, id, [], names);
  return loop === undefined ? read : { problem: `“${loop.join('” needs “')}”: that goes in a circle.` };
}

/**
 * Names of measurands that lead from one back to itself, undefined where none do.
 * @param clear ids that lead into no circle, so that none is walked twice
 */
function loopFrom(
  document: Named,
  id: string,
  way: readonly string[],
  names = studyNames(document),
  clear = new Set<string>(),
): string[] | undefined {
  if (clear.has(id)) return undefined;
  const measurand = document.measurands.find((candidate) => candidate.id === id);
  if (measurand?.expression == null) return undefined;
  const place = way.indexOf(id);
  if (place !== -1) {
    return [...way.slice(place), id].map(
      (measurandId) => document.measurands.find((m) => m.id === measurandId)?.name ?? '',
    );
  }
  const read = readExpression(measurand.expression, names);
  if ('problem' in read) return undefined;
  for (const use of read.uses) {
    const loop =
      use.kind === 'measurand' ? loopFrom(document, use.id, [...way, id], names, clear) : undefined;
    if (loop) return loop;
  }
  clear.add(id);
  return undefined;
}
