/** The log of changes to margin, rule and direction after the first reading. */
export const name = '0003-changes';

export const up: readonly string[] = [
  `CREATE TABLE changes (
    seq INTEGER PRIMARY KEY AUTOINCREMENT,
    id TEXT NOT NULL UNIQUE,
    studyId TEXT NOT NULL REFERENCES studies (id) ON DELETE CASCADE,
    version INTEGER NOT NULL,
    createdAt TEXT NOT NULL,
    updatedAt TEXT NOT NULL,
    measurandId TEXT NOT NULL REFERENCES measurands (id) ON DELETE CASCADE,
    field TEXT NOT NULL,
    before TEXT NOT NULL,
    after TEXT NOT NULL,
    changedAt TEXT NOT NULL
  )`,
  'CREATE INDEX changes_study ON changes (studyId)',
];
