import Type, { type Static } from 'typebox';
import {
  BLINDING,
  CLAIM_KINDS,
  CONDITION_TIMES,
  CONFOUND_HANDLINGS,
  DECISION_ACTIONS,
  DIRECTIONS,
  FACTOR_KINDS,
  HAZARDS,
  ITEM_ROLES,
  MARK_COUNT,
  MISSING_VALUES,
  ORDER_KINDS,
  READING_SOURCES,
  REPORT_PARTS,
  RULE_JUDGES,
  RULE_LEVELS,
  RULE_NAMES,
  SCORING_SCHOOLS,
  SESSION_KINDS,
  SPENDINGS,
  STUDY_STATUSES,
  WAIT_TIMES,
  WATCHED_FIELDS,
} from './words.ts';
import { Base, Id, Instant, Name, Text, Unit, closed, nullable, oneOf } from './common.ts';
import { EXPRESSION_LIMIT, MOST_MEASURANDS, NAME_LIMIT } from './limits.ts';

const { studyId: _studyId, ...StudyBase } = Base;

const Line = Type.String({ minLength: 1, maxLength: 300, pattern: '\\S' });
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
      description: 'the first place that is put in order anew',
    }),
    kind: oneOf(ORDER_KINDS),
    seed: Type.Integer({ minimum: 0, maximum: 4294967295 }),
    madeAt: Instant,
  },
  { ...closed, description: 'the runs to come, put in order anew' },
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

export const Attribute = Type.Object({ name: Name, value: nullable(Type.Number()), unit: Unit }, closed);

export const ItemFields = {
  name: Name,
  code: Type.String({ minLength: 1, maxLength: 8, pattern: '^\\S+$' }),
  mark: Type.Integer({ minimum: 0, maximum: MARK_COUNT - 1 }),
  role: oneOf(ITEM_ROLES),
  class: Type.String({ maxLength: 60 }),
  attributes: Type.Array(Attribute, { maxItems: 60 }),
  position: Type.Number(),
};
export const Item = Type.Object({ ...Base, ...ItemFields }, closed);
export type Item = Static<typeof Item>;

export const Direction = Type.Object(
  { kind: oneOf(DIRECTIONS), target: nullable(Type.Number()) },
  { ...closed, description: 'which direction is better; a target goes with "nearest"' },
);
export type Direction = Static<typeof Direction>;
export const Margin = Type.Object(
  { kind: oneOf(['absolute', 'percent'] as const), value: Type.Number({ minimum: 0 }) },
  { ...closed, description: 'smallest difference that matters in practice' },
);
export type Margin = Static<typeof Margin>;
export const Limits = Type.Object(
  { low: nullable(Type.Number()), high: nullable(Type.Number()) },
  { ...closed, description: 'plausible limits of one reading' },
);
export type Limits = Static<typeof Limits>;
export const Spec = Type.Object(
  {
    kind: oneOf(['absolute', 'percent'] as const),
    low: nullable(Type.Number()),
    high: nullable(Type.Number()),
    below: nullable(
      Type.Object(
        { split: Type.Number({ exclusiveMinimum: 0 }), within: Type.Number({ exclusiveMinimum: 0 }) },
        { ...closed, description: 'for references below the split the band is ± within, in the unit' },
      ),
    ),
    share: Type.Number({ exclusiveMinimum: 0, maximum: 100, description: 'per cent that must lie within' }),
  },
  {
    ...closed,
    description:
      'what a reading must keep to: limits of the value, in its unit or in per cent of the target; of an error, in per cent of the reference',
  },
);
export type Spec = Static<typeof Spec>;
export const ExpectedRange = Type.Object(
  { itemId: Id, low: nullable(Type.Number()), high: nullable(Type.Number()) },
  { ...closed, description: 'what the mean of an item is expected to be, in the unit of the value' },
);
export type ExpectedRange = Static<typeof ExpectedRange>;
export const Instrument = Type.Object(
  {
    name: Type.String({ maxLength: 120 }),
    resolution: nullable(Type.Number({ exclusiveMinimum: 0 })),
    accuracyPercent: nullable(Type.Number({ minimum: 0 })),
    accuracyConstant: nullable(Type.Number({ minimum: 0 })),
    calibratedOn: nullable(Type.String({ format: 'date' })),
  },
  closed,
);
export const RuleInForce = Type.Object(
  {
    name: oneOf(RULE_NAMES),
    parameter: nullable(Type.Number()),
    level: oneOf(RULE_LEVELS),
    judges: oneOf(RULE_JUDGES),
  },
  {
    ...closed,
    description:
      'the outlier rule in force; whether all samples of the study share its level, and whether a reading in rounds is judged by its distance from the median of its round',
  },
);
export type RuleInForce = Static<typeof RuleInForce>;

export const FormSettings = Type.Record(
  Type.String({ pattern: '^[a-z][A-Za-z]{0,39}$' }),
  Type.Union([
    Type.Number(),
    Type.Boolean(),
    Type.String({ maxLength: 300 }),
    Type.Array(Type.String({ minLength: 1, maxLength: 60 }), { maxItems: 50 }),
  ]),
  { maxProperties: 12, description: 'what the reading form can be told, such as the rows of a grid' },
);
export type FormSettings = Static<typeof FormSettings>;

export const MeasurandFields = {
  name: Name,
  unit: Unit,
  form: Type.String({ minLength: 1, maxLength: 40, description: 'reading form' }),
  settings: FormSettings,
  expression: nullable(
    Type.String({
      maxLength: EXPRESSION_LIMIT,
      description: 'of a derived measurand: how it follows from others',
    }),
  ),
  onItems: nullable(
    Type.Array(Id, { maxItems: 2000, uniqueItems: true, description: 'measured on these items only' }),
  ),
  readingS: Type.Number({ minimum: 0, maximum: 31536000, description: 'what one reading takes, seconds' }),
  direction: Direction,
  margin: Margin,
  limits: Limits,
  spec: nullable(Spec),
  controls: Type.Array(ExpectedRange, {
    maxItems: 2000,
    description: 'what control items should read, where that is known',
  }),
  instrument: Instrument,
  rule: RuleInForce,
  position: Type.Number(),
};
export const Measurand = Type.Object({ ...Base, ...MeasurandFields }, closed);
export type Measurand = Static<typeof Measurand>;

export const FactorFields = {
  name: Name,
  kind: oneOf(FACTOR_KINDS),
  unit: Unit,
  irreversible: Type.Boolean(),
  position: Type.Number(),
};
export const Factor = Type.Object({ ...Base, ...FactorFields }, closed);
export type Factor = Static<typeof Factor>;

export const LevelFields = {
  factorId: Id,
  name: Name,
  value: nullable(Type.Number()),
  baseline: Type.Boolean(),
  position: Type.Number(),
};
export const Level = Type.Object({ ...Base, ...LevelFields }, closed);
export type Level = Static<typeof Level>;

export const ConditionFields = {
  quantity: Name,
  unit: Unit,
  required: Type.Boolean(),
  tolerableDrift: nullable(Type.Number({ minimum: 0 })),
  limits: Limits,
  position: Type.Number(),
};
export const Condition = Type.Object({ ...Base, ...ConditionFields }, closed);
export type Condition = Static<typeof Condition>;

export const ConditionReading = Type.Object(
  {
    conditionId: Id,
    at: oneOf(CONDITION_TIMES),
    takenAt: Instant,
    text: Type.String({ maxLength: 60, description: 'as it was typed' }),
    number: Type.Number({ description: 'in the unit of the condition' }),
  },
  closed,
);
export type ConditionReading = Static<typeof ConditionReading>;

export const Pause = Type.Object({ from: Instant, to: nullable(Instant) }, closed);

export const SessionFields = {
  kind: oneOf(SESSION_KINDS),
  startedAt: Instant,
  endedAt: nullable(Instant),
  operator: Type.String({ maxLength: 120 }),
  instrument: Type.String({ maxLength: 120 }),
  conditions: Type.Array(ConditionReading, { maxItems: 500 }),
  checked: Type.Array(Line, { maxItems: 100, description: 'steps of the checklist that were ticked' }),
  acknowledged: Type.Array(oneOf(HAZARDS), {
    maxItems: 14,
    uniqueItems: true,
    description: 'cautions that were read and acknowledged',
  }),
  pauses: Type.Array(Pause, { maxItems: 500 }),
  continuesId: nullable(Id),
  note: Text,
};
export const Session = Type.Object({ ...Base, ...SessionFields }, closed);
export type Session = Static<typeof Session>;

export const RoundFields = {
  number: Type.Integer({ minimum: 1, maximum: 10000 }),
  sessionId: nullable(Id),
  note: Text,
};
export const Round = Type.Object({ ...Base, ...RoundFields }, closed);
export type Round = Static<typeof Round>;

export const ReadingPart = Type.Object(
  {
    name: Type.String({ minLength: 1, maxLength: 40 }),
    text: Type.String({ maxLength: 60, description: 'as it was typed or sent' }),
    number: nullable(
      Type.Number({ description: 'what the text was understood to be, in the measurand’s unit' }),
    ),
  },
  closed,
);
export type ReadingPart = Static<typeof ReadingPart>;

export const ReadingFields = {
  itemId: Id,
  measurandId: Id,
  sessionId: nullable(Id),
  round: Type.Integer({ minimum: 1, maximum: 10000 }),
  place: Type.Integer({ minimum: 0, maximum: 10000000, description: 'place in the run order, from 0' }),
  levels: Type.Array(Type.Object({ factorId: Id, levelId: Id }, closed), { maxItems: 12 }),
  parts: Type.Array(ReadingPart, { maxItems: 1000 }),
  source: oneOf(READING_SOURCES),
  takenAt: Instant,
};
export const Reading = Type.Object({ ...Base, ...ReadingFields }, closed);
export type Reading = Static<typeof Reading>;

export const RunRef = Type.Object(
  {
    round: Type.Integer({ minimum: 1, maximum: 10000 }),
    itemId: Id,
    measurandId: Id,
    levelIds: Type.Array(Id, { maxItems: 12, description: 'in the order of the ids' }),
  },
  { ...closed, description: 'one place in the run queue' },
);
export type RunRef = Static<typeof RunRef>;

export const DecisionFields = {
  action: oneOf(DECISION_ACTIONS),
  readingId: nullable(Id),
  sessionId: nullable(Id),
  run: nullable(RunRef),
  reason: Text,
  decidedAt: Instant,
};
export const Decision = Type.Object(
  { ...Base, ...DecisionFields },
  {
    ...closed,
    description:
      'one decision about a reading, a session with all its readings, or a run; decisions are only ever added, the last one holds',
  },
);
export type Decision = Static<typeof Decision>;

export const NoteFields = {
  readingId: nullable(Id),
  itemId: nullable(Id),
  sessionId: nullable(Id),
  run: nullable(RunRef),
  text: Text,
  photo: nullable(
    Type.String({
      pattern: '^[0-9a-f]{64}\\.(jpg|png|webp)$',
      description: 'name of the picture’s file: the SHA-256 of what is in it',
    }),
  ),
  removed: Type.Boolean(),
  notedAt: Instant,
};
export const NotePart = Type.Object(
  { ...Base, ...NoteFields },
  { ...closed, description: 'a note or a photo to a reading, a run, an item or a session' },
);
export type NotePart = Static<typeof NotePart>;

export const ChangeFields = {
  measurandId: nullable(Id),
  itemId: nullable(Id),
  field: oneOf(WATCHED_FIELDS),
  before: Type.String({ maxLength: 40000, description: 'the old value, as JSON' }),
  after: Type.String({ maxLength: 40000, description: 'the new value, as JSON' }),
  readingsThen: Type.Integer({ minimum: 0, description: 'how many readings there were that it bears on' }),
  reason: Text,
  changedAt: Instant,
};
export const Change = Type.Object(
  { ...Base, ...ChangeFields },
  {
    ...closed,
    description: 'a change of what the plan promised; made by the server, the reason by the tester',
  },
);
export type Change = Static<typeof Change>;

export const ClaimFields = {
  kind: oneOf(CLAIM_KINDS),
  measurandId: Id,
  order: Type.Array(Id, { maxItems: 2000, uniqueItems: true, description: 'items, the expected best first' }),
  itemId: nullable(Id),
  value: nullable(Type.Number({ description: 'the maker’s figure, or the change that one step makes' })),
  unit: Unit,
  factorId: nullable(Id),
  attribute: Type.String({ maxLength: NAME_LIMIT, description: 'the steps go along this attribute' }),
  stepSize: nullable(Type.Number({ exclusiveMinimum: 0, description: 'of one step; null for one level' })),
  source: Type.String({ maxLength: 300, description: 'who says so' }),
};
export const Claim = Type.Object(
  { ...Base, ...ClaimFields },
  { ...closed, description: 'something to check: an expected order, a maker’s figure, a rule of thumb' },
);
export type Claim = Static<typeof Claim>;
