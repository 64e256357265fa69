import isEqual from 'lodash/isEqual.js';
import omit from 'lodash/omit.js';
import { v7 } from 'uuid';
import type { PartKind } from '../../core/model/part-kinds.ts';
import { WATCHED_FIELDS } from '../../core/model/words.ts';
import type { Row, Writes } from '../database.ts';

/** Whose fields change: a measurand's, an item's, or the study's own where neither is named. */
interface ChangedPart {
  measurandId?: string | null;
  itemId?: string | null;
}

/**
 * Writes down what changes of what the plan promised, with how many readings there were that it bears on; the
 * caller holds a transaction. A whole claim counts as one field.
 * @returns what was written down
 */
export async function logChanges(
  writer: Writes,
  studyId: string,
  { measurandId = null, itemId = null }: ChangedPart,
  before: Row,
  after: Row,
): Promise<Row[]> {
  const fields = WATCHED_FIELDS.filter((field) => field in after && !isEqual(before[field], after[field]));
  if (fields.length === 0) return [];
  const about = itemId !== null ? { itemId } : measurandId !== null ? { measurandId } : { studyId };
  const readingsThen = await writer.count('readings', about);
  // An item that was not read may change as it likes, and go.
  if (itemId !== null && readingsThen === 0) return [];
  const now = new Date().toISOString();
  const changes = fields.map((field) => ({
    id: v7(),
    studyId,
    version: 1,
    createdAt: now,
    updatedAt: now,
    measurandId,
    itemId,
    field,
    before: JSON.stringify(before[field] ?? null),
    after: JSON.stringify(after[field] ?? null),
    readingsThen,
    reason: '',
    changedAt: now,
  }));
  await writer.insert('changes', changes);
  return changes;
}

/** A claim as one field, without what the server stamps on it. */
function claimField(claim: Row | undefined): Row {
  if (!claim) return { claim: null };
  return { claim: omit(claim, ['id', 'studyId', 'version', 'createdAt', 'updatedAt']) };
}

/**
 * Writes down what a change of a part means for what the plan promised; the caller holds a transaction.
 * @param before the part as it was; none where it is new
 * @param after the part as it is then; none where it is deleted
 * @returns what was written down
 */
export async function logPartChange(
  writer: Writes,
  kind: PartKind,
  studyId: string,
  { before, after }: { before?: Row; after?: Row },
): Promise<Row[]> {
  if (kind === 'claims') {
    const measurandId = String((after ?? before)?.measurandId);
    return logChanges(writer, studyId, { measurandId }, claimField(before), claimField(after));
  }
  if (!before || !after) return [];
  if (kind === 'measurands')
    return logChanges(writer, studyId, { measurandId: String(after.id) }, before, after);
  if (kind === 'items') return logChanges(writer, studyId, { itemId: String(after.id) }, before, after);
  return [];
}
