/** The tester puts the report in order, hides parts of it, and writes between them. */
export const name = '0009-report';

export const up: readonly string[] = [
  `ALTER TABLE studies ADD COLUMN report JSON NOT NULL DEFAULT '{"order":[],"hidden":[],"words":[],"photos":[]}'`,
];
