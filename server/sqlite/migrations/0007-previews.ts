/** The collections that there were. */
const KINDS = [
  ...['items', 'measurands', 'factors', 'levels', 'claims', 'conditions'],
  ...['sessions', 'rounds', 'readings', 'decisions', 'notes', 'changes'],
];

/**
 * What the list shows of a study is kept. `changes` counts up with what is written about the study, though not further
 * than one beyond `seen`, where the last preview began; a preview is of the present state where `made` is `changes`.
 */
export const name = '0007-previews';

const changed = (id: string) =>
  `UPDATE previews SET changes = changes + 1 WHERE studyId = ${id} AND seen = changes;`;

/** What makes the preview of a study old when a part of a collection is written. */
export const previewTriggers = (kind: string): string[] => [
  `CREATE TRIGGER previews_of_new_${kind} AFTER INSERT ON ${kind} BEGIN ${changed('NEW.studyId')} END`,
  `CREATE TRIGGER previews_of_changed_${kind} AFTER UPDATE ON ${kind} BEGIN ${changed('NEW.studyId')} END`,
  `CREATE TRIGGER previews_of_deleted_${kind} AFTER DELETE ON ${kind} BEGIN ${changed('OLD.studyId')} END`,
];

export const up: readonly string[] = [
  `CREATE TABLE previews (
    studyId TEXT PRIMARY KEY REFERENCES studies (id) ON DELETE CASCADE,
    changes INTEGER NOT NULL,
    seen INTEGER NOT NULL,
    made INTEGER NOT NULL,
    preview TEXT
  ) WITHOUT ROWID`,
  'INSERT INTO previews SELECT id, 1, 1, 0, NULL FROM studies',
  `CREATE TRIGGER previews_of_new_studies AFTER INSERT ON studies BEGIN
    INSERT INTO previews VALUES (NEW.id, 1, 1, 0, NULL); END`,
  `CREATE TRIGGER previews_of_studies AFTER UPDATE ON studies BEGIN ${changed('NEW.id')} END`,
  ...KINDS.flatMap(previewTriggers),
];
