import type sqlite3 from 'sqlite3';
import type { KeptPreview } from '../database.ts';
import { allRows, runSql } from './statements.ts';

export async function keptPreviews(reader: sqlite3.Database): Promise<Map<string, KeptPreview>> {
  const rows = await allRows(reader, 'SELECT studyId, preview, made = changes AS fresh FROM previews');
  return new Map(
    rows.map(({ studyId, preview, fresh }) => [
      studyId as string,
      { studyId: studyId as string, preview: preview as string | null, fresh: fresh === 1 },
    ]),
  );
}

/** Marks the state of a study from which a preview is going to be made. */
export const markSeen = (writer: sqlite3.Database, studyId: string): Promise<void> =>
  runSql(writer, 'UPDATE previews SET seen = changes WHERE studyId = ?', [studyId]);

/** The state of a study that is committed, as the previews count them. */
export async function stateOf(reader: sqlite3.Database, studyId: string): Promise<number> {
  const [state] = await allRows(reader, 'SELECT changes FROM previews WHERE studyId = ?', [studyId]);
  return Number(state?.changes ?? 0);
}

export const keepPreview = (
  writer: sqlite3.Database,
  studyId: string,
  preview: string,
  state: number,
): Promise<void> =>
  runSql(writer, 'UPDATE previews SET preview = ?, made = ? WHERE studyId = ?', [preview, state, studyId]);
