/** What a study document calls itself. */
export const STUDY_FORMAT = 'brackenridge-study';
/** Counts up with each upgrade in record/upgrade.ts. */
export const STUDY_FORMAT_VERSION = 13;
