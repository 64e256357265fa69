/** A rule says whether the study shares its level and what it judges; a plan may name looks at the ranking. */
export const name = '0006-promises';

/** Studies that exist keep the rule that they had: each sample at the level of its own, by its readings. */
const asItWas = (column: string) => `json_set(${column}, '$.level', 'sample', '$.judges', 'reading')`;

export const up: readonly string[] = [
  `UPDATE measurands SET rule = ${asItWas('rule')}`,
  `UPDATE changes SET before = ${asItWas('before')}, after = ${asItWas('after')} WHERE field = 'rule'`,
  // Per cent of a target of 0 never was a margin.
  `UPDATE measurands SET margin = '{"kind":"absolute","value":0}' WHERE form <> 'against-reference'
    AND json_extract(margin, '$.kind') = 'percent' AND json_extract(direction, '$.target') = 0`,
  `ALTER TABLE studies ADD COLUMN looks JSON NOT NULL DEFAULT '{"after":[],"spending":"late"}'`,
];
