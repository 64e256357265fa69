/** How rounds draw their order from the seed: studies that exist keep the order that they have. */
export const name = '0016-draws';

export const up: readonly string[] = [
  "ALTER TABLE studies ADD COLUMN draws TEXT NOT NULL DEFAULT 'by-stream'",
];
