import Type, { type TSchema } from 'typebox';
import { Id, closed } from '../../core/model/common.ts';
import { PART_KINDS, type PartKind } from '../../core/model/part-kinds.ts';

/** What is sent to make a part. */
export const createdPart = (kind: PartKind): TSchema =>
  Type.Object({ id: Id, ...PART_KINDS[kind].fields }, closed);

/** What is sent to change a part: the version that it has, and some of its fields. */
export function changedPart(kind: PartKind): TSchema {
  const { editable, fields } = PART_KINDS[kind];
  return Type.Object(
    {
      version: Type.Integer({ minimum: 1 }),
      ...Object.fromEntries(editable.map((name) => [name, Type.Optional(fields[name] as TSchema)])),
    },
    closed,
  );
}
