/**
 * Sessions with their checklist, cautions, pauses and conditions in time; notes and photos to anything; imported
 * sessions that can be taken back as a whole; the tester's own reasons for a misfire.
 */
export const name = '0005-bench';

export const up: readonly string[] = [
  `ALTER TABLE studies ADD COLUMN misfireReasons JSON NOT NULL DEFAULT '["Disturbed (door, wind, bump)",
    "Instrument slipped or was not ready","Wrong item or setting","Started too late or too early"]'`,
  "ALTER TABLE sessions ADD COLUMN kind TEXT NOT NULL DEFAULT 'bench'",
  "ALTER TABLE sessions ADD COLUMN checked JSON NOT NULL DEFAULT '[]'",
  "ALTER TABLE sessions ADD COLUMN acknowledged JSON NOT NULL DEFAULT '[]'",
  "ALTER TABLE sessions ADD COLUMN pauses JSON NOT NULL DEFAULT '[]'",
  // Checked at the end of a statement, so that all sessions of a study can be deleted at once.
  'ALTER TABLE sessions ADD COLUMN continuesId TEXT REFERENCES sessions (id)',
  // A condition had no time of its own: it was read when its session began or ended.
  `UPDATE sessions SET conditions = (
    SELECT json_group_array(json_set(value, '$.takenAt',
      CASE json_extract(value, '$.at') WHEN 'end' THEN coalesce(endedAt, startedAt) ELSE startedAt END))
    FROM json_each(conditions)) WHERE json_array_length(conditions) > 0`,
  'ALTER TABLE decisions ADD COLUMN sessionId TEXT REFERENCES sessions (id) ON DELETE RESTRICT',
  `CREATE TABLE notes (
    seq INTEGER PRIMARY KEY AUTOINCREMENT,
    id TEXT NOT NULL UNIQUE,
    studyId TEXT NOT NULL REFERENCES studies (id) ON DELETE CASCADE,
    version INTEGER NOT NULL,
    createdAt TEXT NOT NULL,
    updatedAt TEXT NOT NULL,
    readingId TEXT REFERENCES readings (id) ON DELETE RESTRICT,
    itemId TEXT REFERENCES items (id) ON DELETE RESTRICT,
    sessionId TEXT REFERENCES sessions (id) ON DELETE RESTRICT,
    run JSON,
    text TEXT NOT NULL,
    photo TEXT,
    removed BOOLEAN NOT NULL,
    notedAt TEXT NOT NULL
  )`,
  'CREATE INDEX notes_study ON notes (studyId)',
  // A reading's own note becomes a note to it; ids need be unique among notes only.
  `INSERT INTO notes (id, studyId, version, createdAt, updatedAt, readingId, text, removed, notedAt)
    SELECT id, studyId, 1, createdAt, updatedAt, id, note, 0, takenAt FROM readings WHERE trim(note) <> ''`,
  'ALTER TABLE readings DROP COLUMN note',
  'ALTER TABLE readings DROP COLUMN photo',
];
