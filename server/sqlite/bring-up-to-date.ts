import type { Sequelize } from 'sequelize';
import type sqlite3 from 'sqlite3';
import * as studyParts from './migrations/0001-study-parts.ts';
import * as planOfAStudy from './migrations/0002-plan-of-a-study.ts';
import * as changes from './migrations/0003-changes.ts';
import * as wholePlan from './migrations/0004-whole-plan.ts';
import * as bench from './migrations/0005-bench.ts';
import * as promises from './migrations/0006-promises.ts';
import * as previews from './migrations/0007-previews.ts';
import * as specAgainAnswers from './migrations/0008-spec-again-answers.ts';
import * as report from './migrations/0009-report.ts';
import * as scoring from './migrations/0010-scoring.ts';
import * as earlierControls from './migrations/0011-earlier-controls.ts';
import * as corrections from './migrations/0012-corrections.ts';
import * as figures from './migrations/0013-figures.ts';
import * as files from './migrations/0014-files.ts';
import * as calibrations from './migrations/0015-calibrations.ts';
import * as draws from './migrations/0016-draws.ts';
import * as conditionKinds from './migrations/0017-condition-kinds.ts';
import * as noRoundParts from './migrations/0018-no-round-parts.ts';
import { LaterVersion } from './refusal.ts';
import { allRows, inTransaction, runSql } from './statements.ts';

const MIGRATIONS = [
  studyParts,
  planOfAStudy,
  changes,
  wholePlan,
  bench,
  promises,
  previews,
  specAgainAnswers,
  report,
  scoring,
  earlierControls,
  corrections,
  figures,
  files,
  calibrations,
  draws,
  conditionKinds,
  noRoundParts,
];

const TABLE = 'migrations';

/** Names of the migrations that a database has had. */
async function migrationsHad(writer: sqlite3.Database): Promise<string[]> {
  const tables = await allRows(writer, "SELECT name FROM sqlite_master WHERE type = 'table' AND name = ?", [
    TABLE,
  ]);
  if (tables.length === 0) return [];
  return (await allRows<{ name: string }>(writer, `SELECT name FROM ${TABLE}`, [])).map(({ name }) => name);
}

/** Runs the migrations that a database has not had. @throws LaterVersion where it has had others */
export async function bringUpToDate(
  sequelize: Sequelize,
  writer: sqlite3.Database,
  folder: string,
): Promise<void> {
  const had = new Set(await migrationsHad(writer));
  const missing = MIGRATIONS.filter(({ name }) => !had.has(name));
  if (had.size > MIGRATIONS.length - missing.length)
    throw new LaterVersion(
      `The database in ${folder} was written by a later version of Brackenridge. Start that one, or name another folder by --data.`,
    );
  if (missing.length === 0) return;
  // It takes longer to load than a database to open, and mostly there is nothing to migrate.
  const { SequelizeStorage, Umzug } = await import('umzug');
  const migrator = new Umzug({
    migrations: MIGRATIONS.map(({ name, up }) => ({
      name,
      up: () =>
        inTransaction(writer, async () => {
          for (const statement of up) await runSql(writer, statement);
        }),
    })),
    storage: new SequelizeStorage({ sequelize, tableName: TABLE }),
    logger: undefined,
  });
  await migrator.up();
}
