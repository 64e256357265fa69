/**
 * Reading forms with settings, derived measurands, claims, levels in the queue, blind codes, runs put in order anew,
 * deviations; changes of the plan with what there was then and why.
 */
export const name = '0004-whole-plan';

const part = `
  seq INTEGER PRIMARY KEY AUTOINCREMENT,
  id TEXT NOT NULL UNIQUE,
  studyId TEXT NOT NULL REFERENCES studies (id) ON DELETE CASCADE,
  version INTEGER NOT NULL,
  createdAt TEXT NOT NULL,
  updatedAt TEXT NOT NULL,`;

export const up: readonly string[] = [
  "ALTER TABLE studies ADD COLUMN blind TEXT NOT NULL DEFAULT 'no'",
  "ALTER TABLE studies ADD COLUMN struck JSON NOT NULL DEFAULT '[]'",
  "ALTER TABLE studies ADD COLUMN reorders JSON NOT NULL DEFAULT '[]'",
  "ALTER TABLE studies ADD COLUMN deviations JSON NOT NULL DEFAULT '[]'",
  "ALTER TABLE measurands ADD COLUMN settings JSON NOT NULL DEFAULT '{}'",
  'ALTER TABLE measurands ADD COLUMN expression TEXT',
  'ALTER TABLE measurands ADD COLUMN onItems JSON',
  'ALTER TABLE measurands ADD COLUMN readingS REAL NOT NULL DEFAULT 20',
  // What a reading takes was one figure for the whole study; now each measurand has its own.
  `UPDATE measurands SET readingS = coalesce(
    (SELECT json_extract(timing, '$.readingS') FROM studies WHERE studies.id = measurands.studyId), 20)`,
  "UPDATE studies SET timing = json_set(json_remove(timing, '$.readingS'), '$.levelS', 0)",
  `UPDATE studies SET procedure = json_set(procedure, '$.waits', json((
    SELECT coalesce(json_group_array(json_set(value, '$.when', 'reading')), '[]')
    FROM json_each(procedure, '$.waits'))))`,
  "UPDATE decisions SET run = json_set(run, '$.levelIds', json('[]')) WHERE run IS NOT NULL AND run <> 'null'",
  `CREATE TABLE claims (${part}
    kind TEXT NOT NULL,
    measurandId TEXT NOT NULL REFERENCES measurands (id) ON DELETE RESTRICT,
    "order" JSON NOT NULL,
    itemId TEXT REFERENCES items (id) ON DELETE RESTRICT,
    value REAL,
    unit TEXT NOT NULL,
    factorId TEXT REFERENCES factors (id) ON DELETE RESTRICT,
    attribute TEXT NOT NULL,
    stepSize REAL,
    source TEXT NOT NULL
  )`,
  'CREATE INDEX claims_study ON claims (studyId)',
  `CREATE TABLE changes_of_the_plan (${part}
    measurandId TEXT REFERENCES measurands (id) ON DELETE CASCADE,
    field TEXT NOT NULL,
    before TEXT NOT NULL,
    after TEXT NOT NULL,
    readingsThen INTEGER NOT NULL,
    reason TEXT NOT NULL,
    changedAt TEXT NOT NULL
  )`,
  // Until now only changes after the first reading were written down.
  `INSERT INTO changes_of_the_plan
    SELECT seq, id, studyId, version, createdAt, updatedAt, measurandId, field, before, after, 1, '', changedAt
    FROM changes`,
  'DROP TABLE changes',
  'ALTER TABLE changes_of_the_plan RENAME TO changes',
  'CREATE INDEX changes_study ON changes (studyId)',
];
