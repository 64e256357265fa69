import { describe, expect, it } from 'vitest';
import { PART_KINDS, PART_KIND_NAMES } from './part-kinds.ts';
import { StudyDocument } from './study-document.ts';

type Schema = Record<string, unknown>;

/** A schema and all that it is made of, each with its path. */
function* within(schema: unknown, path: string): Generator<[path: string, schema: Schema]> {
  if (typeof schema !== 'object' || schema === null) return;
  yield [path, schema as Schema];
  for (const [name, inner] of Object.entries(schema)) yield* within(inner, `${path}/${name}`);
}
const ALL = [...within(StudyDocument, '')];

describe('the schemas', () => {
  it('know all fields of an object', () => {
    const objects = ALL.filter(([, { type, properties }]) => type === 'object' && properties !== undefined);
    expect(objects.length).toBeGreaterThan(30);
    for (const [path, { additionalProperties }] of objects)
      expect([path, additionalProperties]).toEqual([path, false]);
  });
  it('have no list of ids, or of choices, that names one twice', () => {
    const lists = ALL.filter(([, { type, items }]) => {
      const { format, enum: choices } = (items ?? {}) as Schema;
      return type === 'array' && (format === 'uuid' || choices !== undefined);
    });
    expect(lists.length).toBeGreaterThan(5);
    // The levels of a cell or a run are those of a setting, which the plan checks.
    const unlike = lists.filter(
      ([path, { uniqueItems }]) => uniqueItems !== true && !path.endsWith('/levelIds'),
    );
    expect(unlike).toEqual([]);
  });
  it('take whatever is more than nothing where something is asked for', () => {
    const limited = ALL.filter(([, { exclusiveMinimum }]) => exclusiveMinimum !== undefined);
    expect(limited.length).toBeGreaterThan(4);
    for (const [path, { exclusiveMinimum }] of limited) expect([path, exclusiveMinimum]).toEqual([path, 0]);
  });
});

describe('the kinds of parts', () => {
  const having = (flag: 'sizesPlan' | 'deletable' | 'serverMade') =>
    PART_KIND_NAMES.filter((kind) => PART_KINDS[kind][flag]);
  it('of the plan may be deleted, what was recorded stays', () => {
    expect(having('deletable')).toEqual(
      PART_KIND_NAMES.filter(
        (kind) => !['sessions', 'readings', 'decisions', 'notes', 'changes'].includes(kind),
      ),
    );
  });
  it('that make the grid size the plan, and changes are made by the server alone', () => {
    expect(having('sizesPlan')).toEqual(['items', 'measurands', 'levels']);
    expect(having('serverMade')).toEqual(['changes']);
  });
});
