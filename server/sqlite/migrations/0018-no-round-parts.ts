/** Rounds were parts of their own, which said nothing but a note; that stays as one of the session. */
export const name = '0018-no-round-parts';

/** The longest text that a note holds. */
const LONGEST = 4000;

export const up: readonly string[] = [
  `INSERT INTO notes (id, studyId, version, createdAt, updatedAt, readingId, itemId, sessionId, run, text, photo, removed,
      notedAt)
    SELECT id, studyId, version, createdAt, updatedAt, NULL, NULL, sessionId, NULL,
      substr('Round ' || number || ': ' || note, 1, ${String(LONGEST)}), NULL, 0, createdAt
    FROM rounds WHERE note <> ''`,
  'DROP TABLE rounds',
];
