import { v7 } from 'uuid';
import { type TableReading, packReadings } from '../../../core/formats/readings-table.ts';
import { request } from './client.ts';
import { type NewPart, documentKey, queryClient } from './studies.ts';

/** Writes the readings of a table, all of them or none; an abort before they are written leaves none. */
export async function importReadings(
  studyId: string,
  session: NewPart<'sessions'>,
  readings: readonly TableReading[],
  signal: AbortSignal,
): Promise<void> {
  await request(
    'POST',
    `/studies/${studyId}/import-readings`,
    { session: { id: v7(), ...session }, ...packReadings(readings) },
    'application/json',
    signal,
  );
  // Where the server has told of it already, the study is being fetched; once is enough.
  void queryClient.invalidateQueries({ queryKey: documentKey(studyId) }, { cancelRefetch: false });
}
