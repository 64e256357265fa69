import Type, { type Static } from 'typebox';
import {
  CLAIM_KINDS,
  CONDITION_KIND_NAMES,
  CONDITION_TIMES,
  DECISION_ACTIONS,
  DIRECTIONS,
  FACTOR_KINDS,
  FIGURE_KINDS,
  HAZARDS,
  ITEM_ROLES,
  MARK_COUNT,
  READING_SOURCES,
  RULE_JUDGES,
  RULE_LEVELS,
  RULE_NAMES,
  SESSION_KINDS,
  WATCHED_FIELDS,
} from './words.ts';
import { Base, Id, Instant, Line, Name, Text, Unit, closed, nullable, oneOf } from './common.ts';
import { CONDITION_TEXT_LIMIT, EXPRESSION_LIMIT, NAME_LIMIT, PART_TEXT_LIMIT } from './limits.ts';

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
const MayBeOff = nullable(
  Type.Number({ minimum: 0, description: 'what it may be off by to either side, in the unit of the value' }),
);
export const Corrections = Type.Object(
  {
    unit: nullable(
      Type.Object(
        { on: Type.Boolean(), from: Unit },
        { ...closed, description: 'the numbers were read in this unit, and taken for the measurand’s' },
      ),
    ),
    calibrations: Type.Array(
      Type.Object(
        {
          on: Type.Boolean(),
          instrument: Type.String({
            maxLength: 120,
            description: 'of sessions with this instrument only; empty: of all readings',
          }),
          points: Type.Array(Type.Object({ indicated: Type.Number(), is: Type.Number() }, closed), {
            minItems: 1,
            maxItems: 2,
            description: 'what it reads where something else is true: one point shifts, two give a line',
          }),
          mayBeOff: MayBeOff,
        },
        closed,
      ),
      { maxItems: 8 },
    ),
    tare: nullable(
      Type.Object(
        { on: Type.Boolean(), value: Type.Number() },
        { ...closed, description: 'taken off each reading: what holds the item' },
      ),
    ),
    ambient: nullable(
      Type.Object(
        {
          on: Type.Boolean(),
          conditionId: Id,
          reference: Type.Number({
            description: 'the value of the condition that readings are referred to, in its unit',
          }),
          perUnit: Type.Number({ description: 'by how much a reading follows one unit of the condition' }),
          estimates: Type.Array(
            Type.Object(
              { sessionId: nullable(Id), value: Type.Number(), mayBeOff: Type.Number({ minimum: 0 }) },
              closed,
            ),
            {
              maxItems: 500,
              description: 'what the condition is thought to have been in sessions that did not note it',
            },
          ),
        },
        closed,
      ),
    ),
  },
  {
    ...closed,
    description:
      'what is set right in the readings, in this order; each can be switched off, and readings stay',
  },
);
export type Corrections = Static<typeof Corrections>;
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
    Type.Array(Type.String({ minLength: 1, maxLength: CONDITION_TEXT_LIMIT }), { maxItems: 50 }),
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
  corrections: Corrections,
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

const LevelsOfFactors = Type.Array(Type.Object({ factorId: Id, levelId: Id }, closed), { maxItems: 12 });

export const FigureFields = {
  itemId: Id,
  measurandId: Id,
  levels: LevelsOfFactors,
  kind: oneOf(FIGURE_KINDS),
  n: nullable(Type.Integer({ minimum: 1, maximum: 1e9, description: 'readings of a summary' })),
  mean: nullable(Type.Number()),
  sd: nullable(Type.Number({ minimum: 0, description: 'null of a single reading' })),
  low: nullable(
    Type.Number({ description: 'lower end of a range, open where null; of a summary: the smallest reading' }),
  ),
  high: nullable(Type.Number({ description: 'upper end of a range; of a summary: the largest reading' })),
  source: Type.String({ maxLength: 300, description: 'where it comes from' }),
};
export const Figure = Type.Object(
  { ...Base, ...FigureFields },
  {
    ...closed,
    description:
      'what is known of an item from elsewhere, in the unit of the measurand, in place of readings',
  },
);
export type Figure = Static<typeof Figure>;

export const FileFields = {
  name: Type.String({
    minLength: 1,
    maxLength: NAME_LIMIT,
    description: 'what it was called where it came from',
  }),
  file: Type.String({
    pattern: '^[0-9a-f]{64}\\.(csv|wav)$',
    description: 'name of what is kept: the SHA-256 of what is in it',
  }),
  bytes: Type.Integer({ minimum: 1, maximum: 1e12 }),
  note: Text,
  addedAt: Instant,
};
export const FilePart = Type.Object(
  { ...Base, ...FileFields },
  { ...closed, description: 'a file that readings are worked out from; it is kept beside the study' },
);
export type FilePart = Static<typeof FilePart>;

export const CalibrationFields = {
  instrument: Type.String({ maxLength: 120, description: 'the recorder that it is of' }),
  calibratedAt: Instant,
  fullScale: Type.Number({
    minimum: -300,
    maximum: 300,
    description: 'what a sample of 1 is, dB: a sine of full scale has 3.01 dB less',
  }),
  fileId: nullable(Id),
  channel: nullable(Type.Integer({ minimum: 1, maximum: 8 })),
  toneFrom: nullable(Type.Number({ minimum: 0, description: 'where a calibrator sounds in the file, s' })),
  toneTo: nullable(Type.Number({ minimum: 0 })),
  toneLevel: nullable(Type.Number({ minimum: -300, maximum: 300, description: 'of the calibrator, dB' })),
  note: Text,
};
export const Calibration = Type.Object(
  { ...Base, ...CalibrationFields },
  {
    ...closed,
    description: 'what the levels of a recorder are in dB; readings name the one they were worked out by',
  },
);
export type Calibration = Static<typeof Calibration>;

export const ConditionFields = {
  quantity: Name,
  kind: oneOf(CONDITION_KIND_NAMES),
  unit: Unit,
  words: Type.Array(Type.String({ minLength: 1, maxLength: CONDITION_TEXT_LIMIT }), {
    maxItems: 20,
    description: 'what a condition that is a word can be; empty where anything can be typed',
  }),
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
    text: Type.String({ maxLength: CONDITION_TEXT_LIMIT, description: 'as it was typed' }),
    number: nullable(
      Type.Number({ description: 'in the unit of the condition; null where it is a word, or yes or no' }),
    ),
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

export const ReadingPart = Type.Object(
  {
    name: Type.String({ minLength: 1, maxLength: 40 }),
    text: Type.String({
      maxLength: PART_TEXT_LIMIT,
      description: 'as it was typed or sent, or worked out of a file',
    }),
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
  levels: LevelsOfFactors,
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
