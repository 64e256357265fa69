import { previewTriggers } from './0007-previews.ts';

/** What is known of items from elsewhere. */
export const name = '0013-figures';

export const up: readonly string[] = [
  `CREATE TABLE figures (
    seq INTEGER PRIMARY KEY AUTOINCREMENT,
    id TEXT NOT NULL UNIQUE,
    studyId TEXT NOT NULL REFERENCES studies (id) ON DELETE CASCADE,
    version INTEGER NOT NULL,
    createdAt TEXT NOT NULL,
    updatedAt TEXT NOT NULL,
    itemId TEXT NOT NULL REFERENCES items (id) ON DELETE RESTRICT,
    measurandId TEXT NOT NULL REFERENCES measurands (id) ON DELETE RESTRICT,
    levels JSON NOT NULL,
    kind TEXT NOT NULL,
    n INTEGER,
    mean REAL,
    sd REAL,
    low REAL,
    high REAL,
    source TEXT NOT NULL
  )`,
  'CREATE INDEX figures_study ON figures (studyId)',
  ...previewTriggers('figures'),
];
