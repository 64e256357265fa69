/** Tests before this one, what controls should read, and items that change their class on record. */
export const name = '0011-earlier-controls';

export const up: readonly string[] = [
  "ALTER TABLE studies ADD COLUMN earlier JSON NOT NULL DEFAULT '[]'",
  "ALTER TABLE measurands ADD COLUMN controls JSON NOT NULL DEFAULT '[]'",
  'ALTER TABLE changes ADD COLUMN itemId VARCHAR(36)',
];
