import type { Corrections } from './parts.ts';
import type { Study } from './study.ts';
import { STUDY_FORMAT, STUDY_FORMAT_VERSION } from './study-format.ts';
import type { StudyDocument } from './study-document.ts';

type Base = 'id' | 'version' | 'createdAt' | 'updatedAt';

/** What a study holds of its plan before anybody has said anything. */
export const NEW_STUDY: Omit<Study, Base | 'title' | 'question' | 'rounds' | 'seed'> = {
  status: 'open',
  runOrder: 'shuffled-rounds',
  draws: 'mixed',
  timing: { setupS: 10, levelS: 0, roundWaitS: 0, sessionS: 7200, sessionsPerDay: 1 },
  procedure: { beforeSession: [], beforeReading: [], waits: [] },
  materials: [],
  confounds: [],
  hazards: [],
  blind: 'no',
  struck: [],
  reorders: [],
  looks: { after: [], spending: 'late' },
  deviations: [],
  answers: [],
  report: { order: [], hidden: [], words: [], photos: [] },
  scoring: { school: 'span', missing: 'score-the-rest', weights: [] },
  earlier: [],
  misfireReasons: [
    'Disturbed (door, wind, bump)',
    'Instrument slipped or was not ready',
    'Wrong item or setting',
    'Started too late or too early',
  ],
};

/** Readings as they were read. */
export const NO_CORRECTIONS: Corrections = { unit: null, calibrations: [], tare: null, ambient: null };

/** A study document with nothing in it yet. */
export const EMPTY: Omit<StudyDocument, 'study'> = {
  format: STUDY_FORMAT,
  formatVersion: STUDY_FORMAT_VERSION,
  items: [],
  measurands: [],
  factors: [],
  levels: [],
  claims: [],
  figures: [],
  files: [],
  calibrations: [],
  conditions: [],
  sessions: [],
  readings: [],
  decisions: [],
  notes: [],
  changes: [],
};
