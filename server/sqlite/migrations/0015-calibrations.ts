import { previewTriggers } from './0007-previews.ts';

/** What the levels of recorders are in dB. */
export const name = '0015-calibrations';

export const up: readonly string[] = [
  `CREATE TABLE calibrations (
    seq INTEGER PRIMARY KEY AUTOINCREMENT,
    id TEXT NOT NULL UNIQUE,
    studyId TEXT NOT NULL REFERENCES studies (id) ON DELETE CASCADE,
    version INTEGER NOT NULL,
    createdAt TEXT NOT NULL,
    updatedAt TEXT NOT NULL,
    instrument TEXT NOT NULL,
    calibratedAt TEXT NOT NULL,
    fullScale REAL NOT NULL,
    fileId TEXT,
    channel INTEGER,
    toneFrom REAL,
    toneTo REAL,
    toneLevel REAL,
    note TEXT NOT NULL
  )`,
  'CREATE INDEX calibrations_study ON calibrations (studyId)',
  ...previewTriggers('calibrations'),
];
