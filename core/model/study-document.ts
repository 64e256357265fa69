import Type, { type Static } from 'typebox';
import {
  Change,
  Claim,
  Condition,
  Decision,
  Factor,
  Figure,
  FilePart,
  Calibration,
  Item,
  Level,
  Measurand,
  NotePart,
  Reading,
  Session,
} from './parts.ts';
import { Study } from './study.ts';
import { closed } from './common.ts';
import { STUDY_FORMAT, STUDY_FORMAT_VERSION } from './study-format.ts';
import { MOST_ITEMS, MOST_MEASURANDS, MOST_READINGS } from './limits.ts';

/** A whole study as one document: what is exported, imported, kept in the browser and computed on. */
export const StudyDocument = Type.Object(
  {
    format: Type.Literal(STUDY_FORMAT),
    formatVersion: Type.Literal(STUDY_FORMAT_VERSION),
    study: Study,
    items: Type.Array(Item, { maxItems: MOST_ITEMS }),
    measurands: Type.Array(Measurand, { maxItems: MOST_MEASURANDS }),
    factors: Type.Array(Factor, { maxItems: 12 }),
    levels: Type.Array(Level, { maxItems: 2000 }),
    claims: Type.Array(Claim, { maxItems: 2000 }),
    figures: Type.Array(Figure, { maxItems: 20000 }),
    files: Type.Array(FilePart, { maxItems: 5000 }),
    calibrations: Type.Array(Calibration, { maxItems: 5000 }),
    conditions: Type.Array(Condition, { maxItems: 200 }),
    sessions: Type.Array(Session, { maxItems: 5000 }),
    readings: Type.Array(Reading, { maxItems: MOST_READINGS }),
    decisions: Type.Array(Decision, { maxItems: 400000 }),
    notes: Type.Array(NotePart, { maxItems: 20000 }),
    changes: Type.Array(Change, { maxItems: 10000 }),
  },
  { ...closed, $id: 'study.schema.json', title: `A study, version ${String(STUDY_FORMAT_VERSION)}` },
);
export type StudyDocument = Static<typeof StudyDocument>;
