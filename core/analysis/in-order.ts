import { settingKey } from '../plan/grid.ts';
import { recordOf } from '../record/record.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { correctorOf } from '../observations/correct.ts';
import { conditionKind } from '../conditions/index.ts';
import { conditionsInOrder } from '../bench/session.ts';

/** A reading by its place among those of its measurand, in the order in which they were taken. */
export interface OrderedReading {
  id: string;
  /** From 0. */
  place: number;
  itemId: string;
  value: number;
  out: boolean;
}

/** A condition along the readings: what it was read to be, and before which reading. */
export interface ConditionTrack {
  name: string;
  unit: string;
  /** Whether it is a quantity, and has values to draw; what is a word is said as such. */
  isQuantity: boolean;
  steps: { place: number; value: number | null; text: string }[];
}

export interface InOrder {
  readings: OrderedReading[];
  /** Places before which another session begins, from the second one on. */
  sessions: number[];
  conditions: ConditionTrack[];
}

/**
 * The readings of a measurand in the order in which they were taken, where one session ends and the next begins, and
 * the conditions under them. What was withdrawn is not in it.
 * @param key of the setting; all of them when left out
 */
export function readingsInOrder(document: StudyDocument, measurandId: string, key?: string): InOrder {
  const entries = recordOf(document)
    .ofMeasurand(measurandId)
    .filter(
      ({ reading, standing, value }) =>
        standing.is !== 'withdrawn' &&
        value !== null &&
        (key === undefined || settingKey(reading.levels.map(({ levelId }) => levelId)) === key),
    );
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  const corrected = measurand ? correctorOf(document, measurand) : (read: number) => read;
  // By the record and not by the clock, which may have been set back.
  const readings = entries.map(({ reading, value, standing }, place) => ({
    id: reading.id,
    place,
    itemId: reading.itemId,
    value: corrected(value as number, reading.sessionId),
    out: standing.is === 'left out',
  }));
  const sessions = entries.flatMap(({ reading }, place) =>
    place > 0 && reading.sessionId !== entries[place - 1]?.reading.sessionId ? [place] : [],
  );
  const placeOf = (
    sessionId: string,
    takenAt: string,
    when: 'start' | 'during' | 'end',
  ): number | undefined => {
    const ofSession = entries.flatMap(({ reading }, place) =>
      reading.sessionId === sessionId ? [{ reading, place }] : [],
    );
    const [first, last] = [ofSession[0], ofSession.at(-1)];
    if (!first || !last) return undefined;
    if (when === 'start') return first.place;
    if (when === 'end') return last.place;
    return ofSession.find(({ reading }) => reading.takenAt >= takenAt)?.place ?? last.place;
  };
  const conditions = conditionsInOrder(document).flatMap((condition): ConditionTrack[] => {
    const { id, quantity, unit } = condition;
    const { isQuantity } = conditionKind(condition);
    const steps = document.sessions
      .flatMap((session) =>
        session.conditions
          .filter(({ conditionId }) => conditionId === id)
          .flatMap(({ at, takenAt, number, text }) => {
            const place = placeOf(session.id, takenAt, at);
            return place === undefined ? [] : [{ place, value: number, text }];
          }),
      )
      .sort((a, b) => a.place - b.place);
    return steps.length > 0 ? [{ name: quantity, unit, isQuantity, steps }] : [];
  });
  return { readings, sessions, conditions };
}
