import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import Type from 'typebox';
import { describe, expect, it } from 'vitest';
import { closed, nullable } from '../core/model/common.ts';
import { PART_KINDS } from '../core/model/part-kinds.ts';
import { StudyDocument } from '../core/model/study-document.ts';
import { schemaProblems } from './validate.ts';

const Schema = Type.Object(
  {
    name: Type.String({ minLength: 1, maxLength: 5, pattern: '\\S' }),
    size: nullable(Type.Number({ minimum: 0, maximum: 9 })),
    count: Type.Integer({ minimum: 1 }),
    kind: Type.Unsafe<string>({ type: 'string', enum: ['one', 'two'] }),
    on: Type.String({ format: 'date' }),
    parts: Type.Array(Type.Object({ text: Type.String() }, closed), { maxItems: 2 }),
  },
  closed,
);
const good = { name: 'Ama', size: 3, count: 1, kind: 'one', on: '2026-05-04', parts: [{ text: 'x' }] };

describe('the schemas', () => {
  it.each([
    ['a study', StudyDocument],
    ...Object.values(PART_KINDS).map(({ word, schema }) => [word, schema] as const),
  ] as const)('of %s is a schema of JSON Schema 2020-12', (_, schema) => {
    const ajv = new Ajv2020();
    expect(ajv.validateSchema(schema), ajv.errorsText()).toBe(true);
    expect(ajv.validateSchema({ ...schema, maxProperties: 'few' })).toBe(false);
  });
});

describe('what is wrong with a body', () => {
  it('is nothing when it is right', () => {
    expect(schemaProblems(Schema, good)).toEqual([]);
    expect(schemaProblems(Schema, { ...good, size: null })).toEqual([]);
  });
  it.each([
    [{ name: '' }, '/name', '“name” must not be empty.'],
    [{ name: 'Amabel' }, '/name', '“name” may have at most 5 characters; this has 6.'],
    [{ size: -1 }, '/size', '“size” must be 0 or more.'],
    [{ size: 10 }, '/size', '“size” must be 9 or less.'],
    [{ size: 'big' }, '/size', '“size” must be a number.'],
    [{ size: Number.POSITIVE_INFINITY }, '/size', '“size” is too large a number.'],
    [{ count: 1.5 }, '/count', '“count” must be a whole number.'],
    [{ kind: 'three' }, '/kind', '“kind” must be one of one, two.'],
    [{ on: '4 May' }, '/on', '“on” is not a valid date.'],
    [{ on: '2026-02-30' }, '/on', '“on” is not a valid date.'],
    [{ parts: [{ text: 'x' }, { text: 7 }] }, '/parts/1/text', '“text” must be text.'],
    [{ parts: [{ text: 'x', more: 1 }] }, '/parts/0/more', 'There is no field “more”.'],
    [{ parts: [{}] }, '/parts/0/text', '“text” is missing.'],
    [{ parts: [{ text: '' }, { text: '' }, { text: '' }] }, '/parts', '“parts” may hold at most 2.'],
    [{ extra: true }, '/extra', 'There is no field “extra”.'],
    [{ name: 'a\u0000b' }, '/name', 'This text holds a NUL character, which no text needs.'],
  ])('%j is told at %s', (change, path, message) => {
    expect(schemaProblems(Schema, { ...good, ...change })).toEqual([{ path, message }]);
  });
  it('goes no deeper than it may', () => {
    const nested = (depth: number): unknown => (depth === 0 ? 1 : [nested(depth - 1)]);
    expect(schemaProblems(Schema, { ...good, more: nested(20) })).toEqual([
      { path: `/more${'/0'.repeat(19)}`, message: 'This goes deeper than 20 levels.' },
    ]);
    expect(schemaProblems(Schema, { ...good, more: nested(19) })).toEqual([
      { path: '/more', message: 'There is no field “more”.' },
    ]);
  });
  it.each([null, 7, 'text', [], true])('%j is no body', (value) => {
    expect(schemaProblems(Schema, value)).toHaveLength(1);
  });
  it('is found in anything, without a throw', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        for (const { path, message } of schemaProblems(Schema, value)) {
          expect(path === '' || path.startsWith('/')).toBe(true);
          expect(message).toMatch(/\.$/);
        }
      }),
    );
  });
});
