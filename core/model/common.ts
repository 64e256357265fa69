import Type, { type TSchema } from 'typebox';
import { NAME_LIMIT, TEXT_LIMIT, UNIT_LIMIT } from './limits.ts';

export const Id = Type.String({ format: 'uuid', description: 'UUID, version 7, made by the client' });
export const Instant = Type.String({ format: 'date-time', description: 'ISO 8601 instant' });
export const Name = Type.String({ minLength: 1, maxLength: NAME_LIMIT, pattern: '\\S' });
export const Text = Type.String({ maxLength: TEXT_LIMIT });
export const Unit = Type.String({ maxLength: UNIT_LIMIT });

export const nullable = <T extends TSchema>(schema: T) => Type.Union([schema, Type.Null()]);
export const oneOf = <const T extends readonly string[]>(values: T, said: { description?: string } = {}) =>
  Type.Unsafe<T[number]>({ type: 'string', enum: [...values], ...said });

/** What every part of a study carries besides its own fields. */
export const Base = {
  id: Id,
  studyId: Id,
  version: Type.Integer({ minimum: 1, description: 'counts the edits; a stale edit is refused' }),
  createdAt: Instant,
  updatedAt: Instant,
};

/** Objects of the model refuse fields that they do not know. */
export const closed = { additionalProperties: false };

/** A text of one line that says something. */
export const Line = Type.String({ minLength: 1, maxLength: 300, pattern: '\\S' });
