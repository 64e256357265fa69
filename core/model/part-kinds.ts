import type { TSchema } from 'typebox';
import {
  Calibration,
  CalibrationFields,
  Change,
  ChangeFields,
  Claim,
  ClaimFields,
  Condition,
  ConditionFields,
  Decision,
  DecisionFields,
  Factor,
  FactorFields,
  Figure,
  FigureFields,
  FileFields,
  FilePart,
  Item,
  ItemFields,
  Level,
  LevelFields,
  Measurand,
  MeasurandFields,
  NoteFields,
  NotePart,
  Reading,
  ReadingFields,
  Session,
  SessionFields,
} from './parts.ts';
import type { StudyDocument } from './study-document.ts';

/** The collections of a study document, named as in the document and in the API's paths. */
export type PartKind = Exclude<keyof StudyDocument, 'format' | 'formatVersion' | 'study'>;

export interface PartDescription {
  /** What a sentence calls one of them. */
  word: string;
  schema: TSchema;
  fields: Record<string, TSchema>;
  /** Fields that an edit may change; none where the record only ever grows. */
  editable: readonly string[];
  /** Of the plan, which is kept whole when one of its parts changes; or only checked against the plan. */
  plan?: 'part' | 'checked';
  /** Decides how large the plan is. */
  sizesPlan?: true;
  /** May be deleted while no part refers to it; the others stay in the record. */
  deletable?: true;
  /** Made by the server alone; a client may only read it. */
  serverMade?: true;
  /** Fields that hold the id of another part, and the collection that it must be in. */
  refers: Record<string, PartKind>;
}

const all = (fields: Record<string, TSchema>, ...except: string[]) =>
  Object.keys(fields).filter((name) => !except.includes(name));

/** Every kind of part. Tables, routes, documents and copies are all made from this list. */
export const PART_KINDS: Record<PartKind, PartDescription> = {
  items: {
    word: 'item',
    schema: Item,
    fields: ItemFields,
    editable: all(ItemFields),
    plan: 'part',
    sizesPlan: true,
    deletable: true,
    refers: {},
  },
  measurands: {
    word: 'measurand',
    schema: Measurand,
    fields: MeasurandFields,
    editable: all(MeasurandFields),
    plan: 'part',
    sizesPlan: true,
    deletable: true,
    refers: {},
  },
  factors: {
    word: 'factor',
    schema: Factor,
    fields: FactorFields,
    editable: all(FactorFields),
    plan: 'part',
    deletable: true,
    refers: {},
  },
  levels: {
    word: 'level',
    schema: Level,
    fields: LevelFields,
    editable: all(LevelFields, 'factorId'),
    plan: 'part',
    sizesPlan: true,
    deletable: true,
    refers: { factorId: 'factors' },
  },
  claims: {
    word: 'claim',
    schema: Claim,
    fields: ClaimFields,
    editable: all(ClaimFields, 'kind'),
    plan: 'part',
    deletable: true,
    refers: { measurandId: 'measurands', itemId: 'items', factorId: 'factors' },
  },
  figures: {
    word: 'figure',
    schema: Figure,
    fields: FigureFields,
    editable: all(FigureFields, 'itemId', 'measurandId'),
    plan: 'checked',
    deletable: true,
    refers: { itemId: 'items', measurandId: 'measurands' },
  },
  files: {
    word: 'file',
    schema: FilePart,
    fields: FileFields,
    editable: ['name', 'note'],
    deletable: true,
    refers: {},
  },
  calibrations: {
    word: 'calibration',
    schema: Calibration,
    fields: CalibrationFields,
    // What readings were worked out by stays as it was.
    editable: ['instrument', 'note'],
    deletable: true,
    refers: { fileId: 'files' },
  },
  conditions: {
    word: 'condition',
    schema: Condition,
    fields: ConditionFields,
    editable: all(ConditionFields),
    plan: 'part',
    deletable: true,
    refers: {},
  },
  sessions: {
    word: 'session',
    schema: Session,
    fields: SessionFields,
    editable: all(SessionFields, 'startedAt', 'kind', 'continuesId'),
    refers: { continuesId: 'sessions' },
  },
  readings: {
    word: 'reading',
    schema: Reading,
    fields: ReadingFields,
    editable: [],
    refers: { itemId: 'items', measurandId: 'measurands', sessionId: 'sessions' },
  },
  decisions: {
    word: 'decision',
    schema: Decision,
    fields: DecisionFields,
    editable: [],
    refers: { readingId: 'readings', sessionId: 'sessions' },
  },
  notes: {
    word: 'note',
    schema: NotePart,
    fields: NoteFields,
    editable: ['text', 'removed'],
    refers: { readingId: 'readings', itemId: 'items', sessionId: 'sessions' },
  },
  changes: {
    word: 'change',
    schema: Change,
    fields: ChangeFields,
    editable: ['reason'],
    serverMade: true,
    refers: { measurandId: 'measurands', itemId: 'items' },
  },
};

export const PART_KIND_NAMES = Object.keys(PART_KINDS) as PartKind[];
