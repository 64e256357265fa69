import { benchSessions, conditionsInOrder, missingConditions } from '../bench/session.ts';
import type { Session } from '../model/parts.ts';
import { counted, formatPlain, listed, withUnit } from '../quantity/format.ts';
import { moments } from '../summary/moments.ts';
import { COMMON, type Inspection, fact } from './inspection.ts';

/** A required condition was not read at the start of a session in which something was read. */
export const missingCondition: Inspection = ({ document }) => {
  const used = new Set(document.readings.map(({ sessionId }) => sessionId));
  const sessions = benchSessions(document).filter(({ id }) => used.has(id));
  const without = sessions.flatMap((session) => {
    const missing = missingConditions(document, session.conditions, 'start');
    return missing.length > 0 ? [missing.map(({ quantity }) => quantity)] : [];
  });
  if (without.length === 0) return [];
  const quantities = [...new Set(without.flat())];
  return [
    fact({
      id: 'missing condition',
      kind: 'required condition missing',
      measurandId: null,
      message: `${listed(quantities)} ${quantities.length > 1 ? 'were' : 'was'} not read at the start of ${counted(without.length, 'session')}, though the plan requires it.`,
      why: 'What the surroundings did cannot be taken off later, and the test cannot be repeated under the same ones.',
      todo: 'Find out what it was and note it as an estimate, or say in the report that it is not known.',
      source: COMMON,
      readingIds: [],
    }),
  ];
};

/** A session of a study, and whatever it goes on from, was read with another instrument than the one before. */
export const instrumentChanged: Inspection = ({ document }) => {
  const used = new Set(document.readings.map(({ sessionId }) => sessionId));
  const named = benchSessions(document).filter(
    ({ id, instrument }) => used.has(id) && instrument.trim() !== '',
  );
  const names = [...new Set(named.map(({ instrument }) => instrument.trim()))];
  if (names.length < 2) return [];
  return [
    fact({
      id: 'instrument changed',
      kind: 'instrument changed midway',
      measurandId: null,
      message: `The readings were taken with ${listed(names)}.`,
      why: 'Two instruments differ by their own errors, and that difference falls on whatever was read with each.',
      todo: 'Read one item with both, and put a correction on one; or compare within sessions only.',
      source: COMMON,
      readingIds: [],
    }),
  ];
};

/** What a condition was while something was read: the last value noted before, else the first of the session. */
function conditionAt(session: Session, conditionId: string, takenAt: string): number | undefined {
  const read = session.conditions.filter((condition) => condition.conditionId === conditionId);
  return (read.findLast((condition) => condition.takenAt <= takenAt) ?? read[0])?.number;
}

/** An item was read while a condition was farther from that of the others than the plan tolerates. */
export const otherConditions: Inspection = ({ document, measurands, items }) => {
  const sessions = new Map(document.sessions.map((session) => [session.id, session]));
  return conditionsInOrder(document).flatMap(({ id, quantity, unit, tolerableDrift }) => {
    if (tolerableDrift === null) return [];
    const byItem = new Map<string, number[]>();
    for (const { itemId, kept } of measurands
      .filter(({ derived }) => !derived)
      .flatMap(({ cells }) => cells)) {
      const found = kept.flatMap(({ sessionId, takenAt }) => {
        const session = sessions.get(sessionId ?? '');
        return (session && conditionAt(session, id, takenAt)) ?? [];
      });
      byItem.set(itemId, [...(byItem.get(itemId) ?? []), ...found]);
    }
    const means = [...byItem].flatMap(([itemId, read]) =>
      read.length > 0 ? [{ itemId, mean: moments(read).mean }] : [],
    );
    return means.flatMap(({ itemId, mean }) => {
      const others = means.filter((other) => other.itemId !== itemId);
      if (others.length === 0) return [];
      const usual = moments(others.map((other) => other.mean)).mean;
      const off = mean - usual;
      const alone = others.every((other) => Math.abs(other.mean - mean) > tolerableDrift);
      if (!alone || Math.abs(off) <= tolerableDrift) return [];
      const figure = (value: number) => withUnit(formatPlain(Number(value.toPrecision(3))), unit);
      return [
        fact({
          id: `other conditions/${id}/${itemId}`,
          kind: 'item measured under other conditions',
          measurandId: null,
          message: `${items.get(itemId)?.name ?? ''} was read at ${figure(mean)} of ${quantity.toLowerCase()} on average, the others at ${figure(usual)}.`,
          why: `The plan tolerates ${figure(tolerableDrift)}. What the ${quantity.toLowerCase()} does to the readings looks like a difference of the item.`,
          todo: 'Read it again in a round with the others, or correct for it.',
          source: 'the drift that the plan tolerates',
          readingIds: [],
        }),
      ];
    });
  });
};
