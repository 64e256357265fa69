import { readingValue } from '../forms/index.ts';
import type { Decision, Item, Measurand, Reading } from './parts.ts';
import type { StudyDocument } from './study-document.ts';

/** Where a reading stands after all decisions about it; the last one holds. */
export type Standing =
  | { is: 'kept'; /** Why it counts whatever the rule says. */ insisted?: string }
  | { is: 'left out'; by: 'misfire' | 'hand'; reason: string; decision: Decision }
  | { is: 'withdrawn'; decision: Decision };

export interface StandingReading {
  reading: Reading;
  item: Item;
  measurand: Measurand;
  value: number | null;
  standing: Standing;
}

/** Sessions that were taken back with all their readings: an import, or one that was started by mistake. */
export function sessionsWithdrawn(decisions: readonly Decision[]): Map<string, Decision> {
  const result = new Map<string, Decision>();
  for (const decision of decisions) {
    if (decision.sessionId === null) continue;
    if (decision.action === 'withdraw') result.set(decision.sessionId, decision);
    if (decision.action === 'restore') result.delete(decision.sessionId);
  }
  return result;
}

/** The last decision about each reading, decided by the order of the record and not by clocks. */
function standings(decisions: readonly Decision[]): Map<string, Standing> {
  const result = new Map<string, Standing>();
  for (const decision of decisions) {
    if (decision.readingId === null) continue;
    const { readingId, action, reason } = decision;
    const before = result.get(readingId);
    if (action === 'leave-out' || action === 'misfire') {
      const by = action === 'misfire' ? 'misfire' : 'hand';
      result.set(readingId, { is: 'left out', by, reason, decision });
    } else if (action === 'withdraw') {
      result.set(readingId, { is: 'withdrawn', decision });
    } else if (action === 'keep') {
      result.set(readingId, { is: 'kept', insisted: reason });
    } else if (action === 'take-back' || (action === 'restore' && before?.is === 'withdrawn')) {
      result.set(readingId, { is: 'kept' });
    }
  }
  return result;
}

/** Items in the order that the tester gave them. */
export const itemsInOrder = ({ items }: Pick<StudyDocument, 'items'>): Item[] =>
  [...items].sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1));

export const measurandsInOrder = ({ measurands }: Pick<StudyDocument, 'measurands'>): Measurand[] =>
  [...measurands].sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1));

/** What was noted to each reading, in the order noted. */
export function readingNotes({ notes }: Pick<StudyDocument, 'notes'>): Map<string, string> {
  const found = new Map<string, string>();
  for (const { readingId, text, removed } of notes) {
    if (readingId === null || removed || text === '') continue;
    const before = found.get(readingId);
    found.set(readingId, before === undefined ? text : `${before}; ${text}`);
  }
  return found;
}

/**
 * Every reading with its value and where it stands, in the order recorded. Withdrawn readings (typed by mistake
 * and undone at the bench) come too; most callers pass them by.
 */
export function standingReadings(document: StudyDocument): StandingReading[] {
  const items = new Map(document.items.map((item) => [item.id, item]));
  const measurands = new Map(document.measurands.map((measurand) => [measurand.id, measurand]));
  const decided = standings(document.decisions);
  const withdrawn = sessionsWithdrawn(document.decisions);
  return document.readings.flatMap((reading) => {
    const item = items.get(reading.itemId);
    const measurand = measurands.get(reading.measurandId);
    if (!item || !measurand) return [];
    const whole = reading.sessionId === null ? undefined : withdrawn.get(reading.sessionId);
    const standing: Standing = whole
      ? { is: 'withdrawn', decision: whole }
      : (decided.get(reading.id) ?? { is: 'kept' });
    return [{ reading, item, measurand, value: readingValue(reading, measurand), standing }];
  });
}
