/** Several measurands make one score. */
export const name = '0010-scoring';

export const up: readonly string[] = [
  `ALTER TABLE studies ADD COLUMN scoring JSON NOT NULL DEFAULT '{"school":"span","missing":"score-the-rest","weights":[]}'`,
];
