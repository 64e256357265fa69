/** What sets readings right. */
export const name = '0012-corrections';

export const up: readonly string[] = [
  `ALTER TABLE measurands ADD COLUMN corrections JSON NOT NULL DEFAULT '{"unit":null,"calibrations":[],"tare":null,"ambient":null}'`,
];
