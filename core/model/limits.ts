/** Longest name that a study, an item or a measurand may have, in characters. */
export const NAME_LIMIT = 120;
/** Longest free text (question, note, reason), in characters. */
export const TEXT_LIMIT = 4000;

/** Longest expression of a derived measurand, in characters. */
export const EXPRESSION_LIMIT = 500;

/** Longest unit, in characters. */
export const UNIT_LIMIT = 24;

/** Most readings of one study; more than this are no study any more. */
export const MOST_READINGS = 200000;
/** Largest recording, bytes: three hours of stereo at 48 kHz and 16 bits. */
export const MOST_SOUND_BYTES = 2.1e9;
/** All files of a study together, bytes. */
export const MOST_FILE_BYTES = 16e9;

/** Most items of one study, and most measurands. */
export const MOST_ITEMS = 2000;
export const MOST_MEASURANDS = 200;
/** Longest text of a condition as it is read, in characters. */
export const CONDITION_TEXT_LIMIT = 60;

/** Characters of a part of a reading; what is typed is shorter. */
export const PART_TEXT_LIMIT = 200;
