import { previewTriggers } from './0007-previews.ts';

/** Files that readings are worked out from. */
export const name = '0014-files';

export const up: readonly string[] = [
  `CREATE TABLE files (
    seq INTEGER PRIMARY KEY AUTOINCREMENT,
    id TEXT NOT NULL UNIQUE,
    studyId TEXT NOT NULL REFERENCES studies (id) ON DELETE CASCADE,
    version INTEGER NOT NULL,
    createdAt TEXT NOT NULL,
    updatedAt TEXT NOT NULL,
    name TEXT NOT NULL,
    file TEXT NOT NULL,
    bytes INTEGER NOT NULL,
    note TEXT NOT NULL,
    addedAt TEXT NOT NULL
  )`,
  'CREATE INDEX files_study ON files (studyId)',
  ...previewTriggers('files'),
];
