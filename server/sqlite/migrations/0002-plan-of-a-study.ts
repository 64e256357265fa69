/** The plan of a study: order of the runs, timing, procedure, materials, confounds, hazards. */
export const name = '0002-plan-of-a-study';

const timing = '{"readingS":20,"setupS":10,"roundWaitS":0,"sessionS":7200,"sessionsPerDay":1}';
const procedure = '{"beforeSession":[],"beforeReading":[],"waits":[]}';

export const up: readonly string[] = [
  "ALTER TABLE studies ADD COLUMN runOrder TEXT NOT NULL DEFAULT 'shuffled-rounds'",
  `ALTER TABLE studies ADD COLUMN timing JSON NOT NULL DEFAULT '${timing}'`,
  `ALTER TABLE studies ADD COLUMN procedure JSON NOT NULL DEFAULT '${procedure}'`,
  "ALTER TABLE studies ADD COLUMN materials JSON NOT NULL DEFAULT '[]'",
  "ALTER TABLE studies ADD COLUMN confounds JSON NOT NULL DEFAULT '[]'",
  "ALTER TABLE studies ADD COLUMN hazards JSON NOT NULL DEFAULT '[]'",
];
