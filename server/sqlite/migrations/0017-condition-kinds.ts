/** What a condition is: every one was a quantity. Limits could stand the wrong way round. */
export const name = '0017-condition-kinds';

export const up: readonly string[] = [
  "ALTER TABLE conditions ADD COLUMN kind TEXT NOT NULL DEFAULT 'number'",
  "ALTER TABLE conditions ADD COLUMN words JSON NOT NULL DEFAULT '[]'",
  `UPDATE conditions
    SET limits = json_object('low', json_extract(limits, '$.high'), 'high', json_extract(limits, '$.low'))
    WHERE json_extract(limits, '$.low') > json_extract(limits, '$.high')`,
  `UPDATE conditions SET limits = json_set(limits, '$.low', NULL)
    WHERE json_extract(limits, '$.low') = json_extract(limits, '$.high')`,
];
