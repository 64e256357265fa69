import { request } from './client.ts';
import { type NewPart, documentKey, queryClient } from './studies.ts';

/**
 * Writes the readings of a table, all of them or none.
 * @param packed the readings in the short form, as JSON without its opening brace
 * @param signal stops it; what is written already when the stop arrives stays
 * @returns whether they are written
 */
export async function importReadings(
  studyId: string,
  session: NewPart<'sessions'> & { id: string },
  packed: Blob,
  signal: AbortSignal,
): Promise<boolean> {
  const address = `/studies/${studyId}/import-readings`;
  const body = new Blob([`{"session":${JSON.stringify(session)},`, packed]);
  try {
    await request('POST', address, body, 'application/json', signal);
  } catch (error) {
    if (!signal.aborted) throw error;
    const { written } = await request<{ written: boolean }>('GET', `${address}/${session.id}`);
    if (!written) return false;
  }
  // Where the server has told of it already, the study is being fetched; once is enough.
  void queryClient.invalidateQueries({ queryKey: documentKey(studyId) }, { cancelRefetch: false });
  return true;
}
