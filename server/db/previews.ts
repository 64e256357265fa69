import type { Database } from './open.ts';
import { allRows, runSql } from './rows.ts';

export interface KeptPreview {
  studyId: string;
  /** JSON; null where none was made yet. */
  preview: string | null;
  /** Whether nothing was written about the study since. */
  fresh: boolean;
}

/** What the list shows of the studies, as it was kept. */
export async function keptPreviews({ reader }: Database): Promise<Map<string, KeptPreview>> {
  const rows = await allRows(reader, 'SELECT studyId, preview, made = changes AS fresh FROM previews');
  return new Map(
    rows.map(({ studyId, preview, fresh }) => [
      studyId as string,
      { studyId: studyId as string, preview: preview as string | null, fresh: fresh === 1 },
    ]),
  );
}

/**
 * Makes the preview of a study and keeps it. What is written meanwhile makes it old at once.
 * @param make asked once the state is marked from which it is made
 */
export async function renewPreview(
  database: Database,
  studyId: string,
  make: () => Promise<string>,
): Promise<void> {
  await database.write(() =>
    runSql(database.sequelize, 'UPDATE previews SET seen = changes WHERE studyId = ?', [studyId]),
  );
  const [state] = await allRows(database.reader, 'SELECT changes FROM previews WHERE studyId = ?', [studyId]);
  const preview = await make();
  await database.write(() =>
    runSql(database.sequelize, 'UPDATE previews SET preview = ?, made = ? WHERE studyId = ?', [
      preview,
      Number(state?.changes ?? 0),
      studyId,
    ]),
  );
}
