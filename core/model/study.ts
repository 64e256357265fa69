import Type, { type Static } from 'typebox';
import {
  BLINDING,
  CONFOUND_HANDLINGS,
  HAZARDS,
  MISSING_VALUES,
  ORDER_KINDS,
  REPORT_PARTS,
  SCORING_SCHOOLS,
  SPENDINGS,
  STUDY_STATUSES,
  WAIT_TIMES,
  DRAWS,
} from './words.ts';
import { Base, Id, Instant, Line, Name, Text, closed, nullable, oneOf } from './common.ts';
import { MOST_MEASURANDS, NAME_LIMIT } from './limits.ts';

const { studyId: _studyId, ...StudyBase } = Base;

const Lines = Type.Array(Line, { maxItems: 100 });
const DurationS = Type.Number({ minimum: 0, maximum: 31536000, description: 'seconds' });

export const Timing = Type.Object(
  {
    setupS: DurationS,
    levelS: DurationS,
    roundWaitS: DurationS,
    sessionS: Type.Number({ minimum: 60, maximum: 86400, description: 'length of one session, seconds' }),
    sessionsPerDay: Type.Integer({ minimum: 1, maximum: 24 }),
  },
  {
    ...closed,
    description:
      'what the work is expected to take besides the readings: per change of item, per change of level, per round',
  },
);
export type Timing = Static<typeof Timing>;

export const Wait = Type.Object({ what: Line, durationS: DurationS, when: oneOf(WAIT_TIMES) }, closed);
export type Wait = Static<typeof Wait>;
export const Procedure = Type.Object(
  { beforeSession: Lines, beforeReading: Lines, waits: Type.Array(Wait, { maxItems: 50 }) },
  { ...closed, description: 'checklists, and waits such as a warm-up' },
);
export type Procedure = Static<typeof Procedure>;

export const Confound = Type.Object(
  { what: Line, handling: oneOf(CONFOUND_HANDLINGS), note: Type.String({ maxLength: 300 }) },
  { ...closed, description: 'what else changes when the item changes' },
);
export type Confound = Static<typeof Confound>;

export const Cell = Type.Object(
  { itemId: Id, levelIds: Type.Array(Id, { maxItems: 12 }) },
  { ...closed, description: 'an item at one level of each factor; levels in the order of their ids' },
);
export type Cell = Static<typeof Cell>;

export const Reorder = Type.Object(
  {
    place: Type.Integer({
      minimum: 0,
      maximum: 10000000,
      description: 'the first place that is put in order again',
    }),
    kind: oneOf(ORDER_KINDS),
    seed: Type.Integer({ minimum: 0, maximum: 4294967295 }),
    madeAt: Instant,
  },
  { ...closed, description: 'the runs to come, put in order again' },
);
export type Reorder = Static<typeof Reorder>;

export const Looks = Type.Object(
  {
    after: Type.Array(Type.Integer({ minimum: 1, maximum: 500 }), {
      maxItems: 20,
      uniqueItems: true,
      description: 'rounds after which the ranking may be read before the plan is complete, ascending',
    }),
    spending: oneOf(SPENDINGS),
  },
  { ...closed, description: 'planned looks at the ranking, and how they share the chance of a false winner' },
);
export type Looks = Static<typeof Looks>;

export const Deviation = Type.Object({ text: Line, notedAt: Instant }, closed);
export type Deviation = Static<typeof Deviation>;

export const Answer = Type.Object(
  {
    finding: Type.String({ minLength: 1, maxLength: 200, description: 'which finding it answers' }),
    text: Text,
    answeredAt: Instant,
  },
  closed,
);

export const Report = Type.Object(
  {
    order: Type.Array(oneOf(REPORT_PARTS), {
      maxItems: REPORT_PARTS.length,
      uniqueItems: true,
      description: 'parts as the tester put them; those that are not named follow in their usual order',
    }),
    hidden: Type.Array(oneOf(REPORT_PARTS), { maxItems: REPORT_PARTS.length, uniqueItems: true }),
    words: Type.Array(
      Type.Object(
        {
          under: oneOf(REPORT_PARTS),
          text: Text,
          figures: Type.Array(Type.String({ minLength: 1, maxLength: 40 }), {
            maxItems: 200,
            description: 'numbers in the text that the report showed when it was written',
          }),
        },
        closed,
      ),
      {
        maxItems: REPORT_PARTS.length,
        description: 'the tester’s own words, at most one text under each part',
      },
    ),
    photos: Type.Array(Id, { maxItems: 100, uniqueItems: true, description: 'notes whose photos are shown' }),
  },
  { ...closed, description: 'what the tester made of the report' },
);
export type Report = Static<typeof Report>;

export const Scoring = Type.Object(
  {
    school: oneOf(SCORING_SCHOOLS),
    missing: oneOf(MISSING_VALUES),
    weights: Type.Array(
      Type.Object({ measurandId: Id, weight: Type.Number({ minimum: 0, maximum: 1 }) }, closed),
      {
        maxItems: MOST_MEASURANDS,
        description: 'of ranked measurands, taken as shares of their sum; without any, all weigh the same',
      },
    ),
  },
  { ...closed, description: 'how several measurands make one score' },
);
export type Scoring = Static<typeof Scoring>;

export const EarlierTest = Type.Object(
  {
    studyId: Id,
    title: Type.String({
      maxLength: NAME_LIMIT,
      description: 'of the earlier study, as it was when it was named',
    }),
    matches: Type.Array(Type.Object({ itemId: Id, earlierItemId: nullable(Id) }, closed), {
      maxItems: 2000,
      description:
        'items that were matched by hand, null where one was not in that test; the others match by name',
    }),
  },
  { ...closed, description: 'another study in which the same items were measured before' },
);
export type EarlierTest = Static<typeof EarlierTest>;

export const StudyFields = {
  title: Name,
  question: Text,
  status: oneOf(STUDY_STATUSES),
  rounds: Type.Integer({ minimum: 1, maximum: 500, description: 'rounds planned' }),
  runOrder: oneOf(ORDER_KINDS),
  seed: Type.Integer({ minimum: 0, maximum: 4294967295, description: 'seed of the run order' }),
  draws: oneOf(DRAWS, {
    description:
      'how each round draws its order from the seed: by-stream in studies from before format 11, whose rounds are not independent of each other',
  }),
  timing: Timing,
  procedure: Procedure,
  materials: Lines,
  confounds: Type.Array(Confound, { maxItems: 100 }),
  hazards: Type.Array(oneOf(HAZARDS), { maxItems: 14, uniqueItems: true }),
  blind: oneOf(BLINDING),
  struck: Type.Array(Cell, { maxItems: 20000, description: 'cells of the grid that are not measured' }),
  reorders: Type.Array(Reorder, { maxItems: 200 }),
  looks: Looks,
  deviations: Type.Array(Deviation, { maxItems: 200, description: 'where the work left the plan' }),
  misfireReasons: Type.Array(Line, { maxItems: 9, description: 'the tester’s own short list' }),
  answers: Type.Array(Answer, { maxItems: 500, description: 'what the tester says to findings' }),
  report: Report,
  scoring: Scoring,
  earlier: Type.Array(EarlierTest, { maxItems: 10, description: 'tests of the same items before this one' }),
};
export const Study = Type.Object({ ...StudyBase, ...StudyFields }, closed);
export type Study = Static<typeof Study>;
