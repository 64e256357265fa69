import { request } from './client.ts';
import { type NewPart, documentKey, queryClient } from './studies.ts';

/**
 * Writes the readings of a table, all of them or none; an abort before they are written leaves none.
 * @param packed the readings in the short form, as JSON without its opening brace
 */
export async function importReadings(
  studyId: string,
  session: NewPart<'sessions'> & { id: string },
  packed: Blob,
  signal: AbortSignal,
): Promise<void> {
  await request(
    'POST',
    `/studies/${studyId}/import-readings`,
    new Blob([`{"session":${JSON.stringify(session)},`, packed]),
    'application/json',
    signal,
  );
  // Where the server has told of it already, the study is being fetched; once is enough.
  void queryClient.invalidateQueries({ queryKey: documentKey(studyId) }, { cancelRefetch: false });
}

/** Whether an import that was stopped had been written already. */
export const wasWritten = async (studyId: string, { id }: { id: string }): Promise<boolean> =>
  (await request<{ written: boolean }>('GET', `/studies/${studyId}/import-readings/${id}`)).written;
