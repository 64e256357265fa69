/** A plan may say what a reading must keep to. */
export const name = '0008-spec';

export const up: readonly string[] = ['ALTER TABLE measurands ADD COLUMN spec JSON'];
