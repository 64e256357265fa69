/** The tables of a study and all its parts. `seq` keeps the order in which parts were recorded. */
export const name = '0001-study-parts';

const part = `
  seq INTEGER PRIMARY KEY AUTOINCREMENT,
  id TEXT NOT NULL UNIQUE,
  studyId TEXT NOT NULL REFERENCES studies (id) ON DELETE CASCADE,
  version INTEGER NOT NULL,
  createdAt TEXT NOT NULL,
  updatedAt TEXT NOT NULL,`;

export const up: readonly string[] = [
  `CREATE TABLE studies (
    seq INTEGER PRIMARY KEY AUTOINCREMENT,
    id TEXT NOT NULL UNIQUE,
    version INTEGER NOT NULL,
    createdAt TEXT NOT NULL,
    updatedAt TEXT NOT NULL,
    title TEXT NOT NULL,
    question TEXT NOT NULL,
    status TEXT NOT NULL,
    rounds INTEGER NOT NULL,
    seed INTEGER NOT NULL
  )`,
  `CREATE TABLE items (${part}
    name TEXT NOT NULL,
    code TEXT NOT NULL,
    mark INTEGER NOT NULL,
    role TEXT NOT NULL,
    class TEXT NOT NULL,
    attributes JSON NOT NULL,
    position REAL NOT NULL
  )`,
  'CREATE UNIQUE INDEX items_code ON items (studyId, code COLLATE NOCASE)',
  `CREATE TABLE measurands (${part}
    name TEXT NOT NULL,
    unit TEXT NOT NULL,
    form TEXT NOT NULL,
    direction JSON NOT NULL,
    margin JSON NOT NULL,
    limits JSON NOT NULL,
    instrument JSON NOT NULL,
    rule JSON NOT NULL,
    position REAL NOT NULL
  )`,
  'CREATE INDEX measurands_study ON measurands (studyId)',
  `CREATE TABLE factors (${part}
    name TEXT NOT NULL,
    kind TEXT NOT NULL,
    unit TEXT NOT NULL,
    irreversible BOOLEAN NOT NULL,
    position REAL NOT NULL
  )`,
  'CREATE INDEX factors_study ON factors (studyId)',
  `CREATE TABLE levels (${part}
    factorId TEXT NOT NULL REFERENCES factors (id) ON DELETE RESTRICT,
    name TEXT NOT NULL,
    value REAL,
    baseline BOOLEAN NOT NULL,
    position REAL NOT NULL
  )`,
  'CREATE INDEX levels_study ON levels (studyId)',
  `CREATE TABLE conditions (${part}
    quantity TEXT NOT NULL,
    unit TEXT NOT NULL,
    required BOOLEAN NOT NULL,
    tolerableDrift REAL,
    limits JSON NOT NULL,
    position REAL NOT NULL
  )`,
  'CREATE INDEX conditions_study ON conditions (studyId)',
  `CREATE TABLE sessions (${part}
    startedAt TEXT NOT NULL,
    endedAt TEXT,
    operator TEXT NOT NULL,
    instrument TEXT NOT NULL,
    conditions JSON NOT NULL,
    note TEXT NOT NULL
  )`,
  'CREATE INDEX sessions_study ON sessions (studyId)',
  `CREATE TABLE rounds (${part}
    number INTEGER NOT NULL,
    sessionId TEXT REFERENCES sessions (id) ON DELETE RESTRICT,
    note TEXT NOT NULL,
    UNIQUE (studyId, number)
  )`,
  `CREATE TABLE readings (${part}
    itemId TEXT NOT NULL REFERENCES items (id) ON DELETE RESTRICT,
    measurandId TEXT NOT NULL REFERENCES measurands (id) ON DELETE RESTRICT,
    sessionId TEXT REFERENCES sessions (id) ON DELETE RESTRICT,
    round INTEGER NOT NULL,
    place INTEGER NOT NULL,
    levels JSON NOT NULL,
    parts JSON NOT NULL,
    source TEXT NOT NULL,
    takenAt TEXT NOT NULL,
    note TEXT NOT NULL,
    photo TEXT
  )`,
  'CREATE INDEX readings_study ON readings (studyId)',
  'CREATE INDEX readings_item ON readings (itemId)',
  'CREATE INDEX readings_measurand ON readings (measurandId)',
  `CREATE TABLE decisions (${part}
    action TEXT NOT NULL,
    readingId TEXT REFERENCES readings (id) ON DELETE RESTRICT,
    run JSON,
    reason TEXT NOT NULL,
    decidedAt TEXT NOT NULL
  )`,
  'CREATE INDEX decisions_study ON decisions (studyId)',
];
