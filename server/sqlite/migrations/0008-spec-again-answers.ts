/** A plan may say what a reading must keep to; a reading that was taken again is no misfire; findings are answered. */
export const name = '0008-spec-again-answers';

export const up: readonly string[] = [
  'ALTER TABLE measurands ADD COLUMN spec JSON',
  `ALTER TABLE studies ADD COLUMN answers JSON NOT NULL DEFAULT '[]'`,
  `UPDATE decisions SET action = 'take-again', reason = '' WHERE action = 'misfire' AND reason = 'taken again'`,
];
