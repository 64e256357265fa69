/** A plan may say what a reading must keep to; a reading that was taken again is no misfire. */
export const name = '0008-spec-and-again';

export const up: readonly string[] = [
  'ALTER TABLE measurands ADD COLUMN spec JSON',
  `UPDATE decisions SET action = 'take-again', reason = '' WHERE action = 'misfire' AND reason = 'taken again'`,
];
