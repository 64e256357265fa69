import { Ajv2020, type ErrorObject, type ValidateFunction } from 'ajv/dist/2020.js';
import ajvFormats, { type FormatsPlugin } from 'ajv-formats';
import type { TSchema } from 'typebox';
import type { FieldProblem } from '../core/record/plan-context.ts';

// That the schemas are schemas is tested once, and not asked at every start.
const ajv = new Ajv2020({ allErrors: false, strict: true, allowUnionTypes: true, validateSchema: false });
// A CommonJS package: its function is the default export of its default export.
(ajvFormats as unknown as { default: FormatsPlugin }).default(ajv, ['date']);
// An id is written in one way, since it is compared as text.
ajv.addFormat('uuid', /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/);
const INSTANT = /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(?:\.\d{1,9})?(?:Z|[+-]\d\d:\d\d)$/;
// An instant is one that every clock of the program understands: no leap second, no zone without minutes.
ajv.addFormat('date-time', {
  type: 'string',
  validate: (text: string) => INSTANT.test(text) && !Number.isNaN(Date.parse(text)),
});

const compiled = new WeakMap<TSchema, ValidateFunction>();

const TYPE_WORDS: Record<string, string> = {
  string: 'text',
  number: 'a number',
  integer: 'a whole number',
  boolean: 'true or false',
  object: 'an object',
  array: 'a list',
};

function valueAt(value: unknown, pointer: string): unknown {
  return pointer
    .split('/')
    .slice(1)
    .map((key) => key.replaceAll('~1', '/').replaceAll('~0', '~'))
    .reduce<unknown>((inner, key) => (inner as Record<string, unknown> | undefined)?.[key], value);
}

/** One error of the schema in words that a tester understands. */
function sentence({ keyword, params, instancePath }: ErrorObject, whole: unknown): FieldProblem {
  const detail = params as Record<string, unknown>;
  const value = valueAt(whole, instancePath);
  const field = instancePath.split('/').pop() ?? '';
  const name = /^\d*$/.test(field) ? 'This' : `“${field}”`;
  const problem = (message: string, path = instancePath) => ({ path, message });
  switch (keyword) {
    case 'required':
      return problem(
        `“${String(detail.missingProperty)}” is missing.`,
        `${instancePath}/${String(detail.missingProperty)}`,
      );
    case 'additionalProperties':
      return problem(
        `There is no field “${String(detail.additionalProperty)}”.`,
        `${instancePath}/${String(detail.additionalProperty)}`,
      );
    case 'type':
      return problem(
        typeof value === 'number' && !Number.isFinite(value)
          ? `${name} is too large a number.`
          : `${name} must be ${TYPE_WORDS[String(detail.type)] ?? String(detail.type)}.`,
      );
    case 'minLength':
    case 'pattern':
      if (String(detail.pattern).startsWith('^[0-9a-f]{64}'))
        return problem(`${name} must be the name that keeping it gave.`);
      return problem(
        typeof value === 'string' && value.trim() !== ''
          ? `${name} must not contain spaces.`
          : `${name} must not be empty.`,
      );
    case 'maxLength':
      return problem(
        `${name} may have at most ${String(detail.limit)} characters; this has ${String([...String(value)].length)}.`,
      );
    case 'minimum':
      return problem(`${name} must be ${String(detail.limit)} or more.`);
    case 'exclusiveMinimum':
      return problem(`${name} must be more than ${String(detail.limit)}.`);
    case 'maximum':
      return problem(`${name} must be ${String(detail.limit)} or less.`);
    case 'maxItems':
      return problem(`${name} may hold at most ${String(detail.limit)}.`);
    case 'enum':
      return problem(`${name} must be one of ${(detail.allowedValues as string[]).join(', ')}.`);
    case 'const':
      return problem(`${name} must be ${JSON.stringify(detail.allowedValue)}.`);
    case 'format':
      return problem(`${name} is not a valid ${String(detail.format)}.`);
    default:
      return problem(`${name} is not valid.`);
  }
}

/** Compiled at its first use: all of them together would hold up the start. */
function compiledSchema(schema: TSchema): ValidateFunction {
  let validate = compiled.get(schema);
  if (!validate) {
    validate = ajv.compile(schema);
    compiled.set(schema, validate);
  }
  return validate;
}

/** Nothing that is sent goes deeper than this. */
const MOST_DEEP = 20;

/** What no part of what is sent may be, whatever its schema: where, and why. */
function unheldAt(value: unknown, depth = 0): FieldProblem | undefined {
  if (typeof value === 'string')
    // SQL text cannot carry it.
    return value.includes('\u0000')
      ? { path: '', message: 'This text holds a NUL character, which no text needs.' }
      : undefined;
  if (typeof value !== 'object' || value === null) return undefined;
  if (depth >= MOST_DEEP) return { path: '', message: `This goes deeper than ${String(MOST_DEEP)} levels.` };
  for (const [key, inner] of Object.entries(value)) {
    const found = (key.includes('\u0000') ? unheldAt(key) : undefined) ?? unheldAt(inner, depth + 1);
    if (found !== undefined) return { ...found, path: `/${key}${found.path}` };
  }
  return undefined;
}

/**
 * Checks a value by its schema.
 * @returns what is wrong, with JSON pointers; empty when it is valid
 */
export function schemaProblems(schema: TSchema, value: unknown): FieldProblem[] {
  const unheld = unheldAt(value);
  if (unheld !== undefined) return [unheld];
  const validate = compiledSchema(schema);
  if (validate(value)) return [];
  const errors = validate.errors ?? [];
  // Of a choice (a number or nothing) the failed branches say less than the choice's most telling branch.
  const telling = errors.find(({ keyword, params }) => {
    if (keyword === 'anyOf') return false;
    return !(keyword === 'type' && (params as { type: string }).type === 'null');
  });
  return [sentence((telling ?? errors[0]) as ErrorObject, value)];
}
