import { readingForm } from '../forms/index.ts';
import type { Item, Measurand, Reading } from './parts.ts';
import type { PartKind } from './part-kinds.ts';
import type { StudyDocument } from './study-document.ts';

/** One thing wrong with what was sent, at a JSON pointer. */
export interface FieldProblem {
  path: string;
  message: string;
}

type Context = Pick<StudyDocument, 'items' | 'measurands'>;

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

function checkItem(item: Item, { items }: Context): FieldProblem[] {
  const problems: FieldProblem[] = [];
  for (const other of items) {
    if (other.id === item.id) continue;
    if (same(other.code, item.code)) {
      problems.push({ path: '/code', message: `The code “${item.code}” is taken by ${other.name}.` });
    }
    if (same(other.name, item.name)) {
      problems.push({ path: '/name', message: `Another item is called “${item.name}” already.` });
    }
  }
  return problems;
}

function checkMeasurand({ limits, direction, form, name, id }: Measurand, context: Context): FieldProblem[] {
  const problems: FieldProblem[] = [];
  if (limits.low !== null && limits.high !== null && limits.low >= limits.high) {
    problems.push({
      path: '/limits/low',
      message: `The lower limit ${String(limits.low)} must be below the upper limit ${String(limits.high)}.`,
    });
  }
  if (direction.kind === 'nearest' && direction.target === null) {
    problems.push({ path: '/direction/target', message: '“Nearest to a target” needs the target.' });
  }
  if (!readingForm(form)) {
    problems.push({ path: '/form', message: `There is no reading form “${form}”.` });
  }
  if (context.measurands.some((other) => other.id !== id && same(other.name, name))) {
    problems.push({ path: '/name', message: `Another measurand is called “${name}” already.` });
  }
  return problems;
}

function checkReading({ parts, measurandId }: Reading, { measurands }: Context): FieldProblem[] {
  const measurand = measurands.find(({ id }) => id === measurandId);
  const form = measurand && readingForm(measurand.form);
  if (!form) return [];
  return parts.flatMap((part, i) => {
    const path = `/parts/${String(i)}`;
    if (!form.parts.some(({ name }) => name === part.name)) {
      return [{ path: `${path}/name`, message: `The form “${form.name}” has no part “${part.name}”.` }];
    }
    if (part.number === null) return [];
    const understood = form.read(Object.fromEntries(parts.map(({ name, text }) => [name, text])), measurand);
    if ('problem' in understood) return [{ path: `${path}/text`, message: understood.problem }];
    const own = understood.parts.find(({ name }) => name === part.name)?.number;
    return own === part.number
      ? []
      : [
          {
            path: `${path}/number`,
            message: `“${part.text}” is understood as ${String(own)}, not as ${String(part.number)}.`,
          },
        ];
  });
}

/**
 * What a schema cannot say: names and codes taken, limits the wrong way round, a number that is not what its text
 * says. The part must have passed its schema.
 */
export function checkPart(kind: PartKind, part: unknown, context: Context): FieldProblem[] {
  if (kind === 'items') return checkItem(part as Item, context);
  if (kind === 'measurands') return checkMeasurand(part as Measurand, context);
  if (kind === 'readings') return checkReading(part as Reading, context);
  return [];
}
