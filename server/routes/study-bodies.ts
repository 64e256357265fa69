import Type from 'typebox';
import { Id, Name, closed, oneOf } from '../../core/model/common.ts';
import { StudyFields } from '../../core/model/study.ts';

/** What may not be left out when a study is made; NEW_STUDY says what holds for the rest. */
const NEEDED = ['title', 'question', 'rounds', 'seed'];

/** What is sent to make a study. */
export const StudyCreated = Type.Object(
  {
    id: Id,
    ...Object.fromEntries(
      Object.entries(StudyFields)
        .filter(([name]) => name !== 'status')
        .map(([name, schema]) => [name, NEEDED.includes(name) ? schema : Type.Optional(schema)]),
    ),
  },
  closed,
);

/** What is sent to change a study: the version that it has, and some of its fields. */
export const StudyChanged = Type.Object(
  {
    version: Type.Integer({ minimum: 1 }),
    ...Object.fromEntries(Object.entries(StudyFields).map(([name, schema]) => [name, Type.Optional(schema)])),
  },
  closed,
);

/** What is sent to copy a study. */
export const StudyCopied = Type.Object(
  { id: Id, title: Name, extent: oneOf(['plan', 'everything'] as const) },
  closed,
);
