import { readingValue } from '../forms/index.ts';
import type { Decision, Item, Measurand, Reading } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';

/** Where a reading stands after all decisions about it; the last one holds. */
export type Standing =
  | { is: 'kept'; /** Why it counts whatever the rule says. */ insisted?: string }
  | { is: 'left out'; by: 'misfire' | 'again' | 'hand'; reason: string; decision: Decision }
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

/** Takes decisions into account, by the order of the record and not by clocks. */
function decide(result: Map<string, Standing>, decisions: readonly Decision[]): void {
  for (const decision of decisions) {
    if (decision.readingId === null) continue;
    const { readingId, action, reason } = decision;
    const before = result.get(readingId);
    if (action === 'leave-out' || action === 'misfire' || action === 'take-again') {
      const by = action === 'misfire' ? 'misfire' : action === 'take-again' ? 'again' : 'hand';
      result.set(readingId, { is: 'left out', by, reason, decision });
    } else if (action === 'withdraw') {
      result.set(readingId, { is: 'withdrawn', decision });
    } else if (action === 'keep') {
      result.set(readingId, { is: 'kept', insisted: reason });
    } else if (action === 'take-back' || (action === 'restore' && before?.is === 'withdrawn')) {
      result.set(readingId, { is: 'kept' });
    }
  }
}

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

/** Whether a reading gave way at the bench, so that its run is to be read still or was read once more. */
export const gaveWay = (standing: { is: string; by?: string }): boolean =>
  standing.is === 'left out' && (standing.by === 'misfire' || standing.by === 'again');

/** The record of a study, indexed once. */
export interface StudyRecord {
  /** Every reading with its value and where it stands, in the order recorded, withdrawn ones too. */
  readings: readonly StandingReading[];
  /** Those of one measurand, in the order recorded. */
  ofMeasurand: (measurandId: string) => readonly StandingReading[];
}

/** What a record was made of: lists of it only grow, so their ends say whether another one continues them. */
interface MadeOf extends Pick<StudyDocument, 'items' | 'measurands'> {
  readings: Ends;
  decisions: Ends;
}

interface Ends {
  count: number;
  first: unknown;
  last: unknown;
}

const endsOf = (list: readonly unknown[]): Ends => ({
  count: list.length,
  first: list[0],
  last: list.at(-1),
});

const continues = (list: readonly unknown[], { count, first, last }: Ends): boolean =>
  count === 0 || (list.length >= count && list[0] === first && list[count - 1] === last);

/** A record with what it takes to extend it. */
interface Extensible {
  of: MadeOf;
  record: StudyRecord;
  /** The last decision about each reading so far. */
  decided: ReadonlyMap<string, Standing>;
}

const records = new WeakMap<StudyDocument, { of: MadeOf; record: StudyRecord }>();
/** Those asked about last, the latest first: a decision that is tried out is let go of for the one that is made. */
let recent: readonly Extensible[] = [];
const MOST_RECENT = 2;

/**
 * The record of a study: every reading with where it stands. Made once for a document; where a document only adds
 * readings and decisions to one of those asked about last, its record is extended and not made again.
 */
export function recordOf(document: StudyDocument): StudyRecord {
  const known = records.get(document);
  // A document that is being built grows in place.
  if (
    known?.of.readings.count === document.readings.length &&
    known.of.decisions.count === document.decisions.length
  )
    return known.record;
  let made: Extensible | undefined;
  for (const before of recent) made ??= extended(document, before);
  made ??= whole(document);
  recent = [made, ...recent].slice(0, MOST_RECENT);
  records.set(document, { of: made.of, record: made.record });
  return made.record;
}

const madeOf = ({ items, measurands, readings, decisions }: StudyDocument): MadeOf => ({
  items,
  measurands,
  readings: endsOf(readings),
  decisions: endsOf(decisions),
});

function indexed(readings: readonly StandingReading[]): StudyRecord {
  let byMeasurand: Map<string, StandingReading[]> | undefined;
  return {
    readings,
    ofMeasurand(measurandId) {
      if (!byMeasurand) {
        byMeasurand = new Map();
        for (const entry of readings) {
          const there = byMeasurand.get(entry.measurand.id);
          if (there) there.push(entry);
          else byMeasurand.set(entry.measurand.id, [entry]);
        }
      }
      return byMeasurand.get(measurandId) ?? [];
    },
  };
}

function stand(
  document: StudyDocument,
  readings: readonly Reading[],
  decided: ReadonlyMap<string, Standing>,
): StandingReading[] {
  const items = new Map(document.items.map((item) => [item.id, item]));
  const measurands = new Map(document.measurands.map((measurand) => [measurand.id, measurand]));
  const withdrawn = sessionsWithdrawn(document.decisions);
  return readings.flatMap((reading) => {
    const item = items.get(reading.itemId);
    const measurand = measurands.get(reading.measurandId);
    if (!item || !measurand) return [];
    const session = reading.sessionId === null ? undefined : withdrawn.get(reading.sessionId);
    const standing: Standing = session
      ? { is: 'withdrawn', decision: session }
      : (decided.get(reading.id) ?? { is: 'kept' });
    return [{ reading, item, measurand, value: readingValue(reading, measurand), standing }];
  });
}

function whole(document: StudyDocument): Extensible {
  const decided = new Map<string, Standing>();
  decide(decided, document.decisions);
  return { of: madeOf(document), decided, record: indexed(stand(document, document.readings, decided)) };
}

/** The last decision about each reading once there are more of them. */
function decidedAfter(
  before: ReadonlyMap<string, Standing>,
  decisions: readonly Decision[],
): ReadonlyMap<string, Standing> {
  if (decisions.length === 0) return before;
  const after = new Map(before);
  decide(after, decisions);
  return after;
}

function extended(
  document: StudyDocument,
  { of: before, record, decided: decidedBefore }: Extensible,
): Extensible | undefined {
  const decisions = document.decisions.slice(before.decisions.count);
  const same =
    document.items === before.items &&
    document.measurands === before.measurands &&
    continues(document.readings, before.readings) &&
    continues(document.decisions, before.decisions) &&
    record.readings.length === before.readings.count &&
    decisions.every(({ sessionId }) => sessionId === null);
  if (!same) return undefined;
  const decided = decidedAfter(decidedBefore, decisions);
  const changed = new Set(decisions.flatMap(({ readingId }) => readingId ?? []));
  const readings = [
    ...record.readings,
    ...stand(document, document.readings.slice(before.readings.count), decided),
  ];
  if (changed.size > 0) {
    readings.forEach((entry, i) => {
      if (!changed.has(entry.reading.id) || i >= record.readings.length) return;
      if (entry.standing.is === 'withdrawn' && entry.standing.decision.sessionId !== null) return;
      readings[i] = { ...entry, standing: decided.get(entry.reading.id) ?? { is: 'kept' } };
    });
  }
  return { of: madeOf(document), decided, record: indexed(readings) };
}
