import uniqWith from 'lodash/uniqWith.js';
import { conditionKind, isSameWord } from '../conditions/index.ts';
import { benchSessions, conditionsInOrder, missingConditions } from '../bench/session.ts';
import type { Condition, ConditionReading, Session } from '../model/parts.ts';
import { counted, formatPlain, listed, withUnit } from '../quantity/format.ts';
import { moments } from '../summary/moments.ts';
import { COMMON, type InspectedStudy, type Inspection, type Seen, fact } from './inspection.ts';

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

/** What a condition was while something was read: as noted last before, else first in the session. */
function conditionAt(session: Session, conditionId: string, takenAt: string): ConditionReading | undefined {
  const read = session.conditions.filter((condition) => condition.conditionId === conditionId);
  return read.findLast((condition) => condition.takenAt <= takenAt) ?? read[0];
}

/** What a condition was while each item was read, reading by reading; items for which nobody noted it are not among them. */
function seenByItem(
  { document, measurands }: InspectedStudy,
  conditionId: string,
): Map<string, ConditionReading[]> {
  const sessions = new Map(document.sessions.map((session) => [session.id, session]));
  const byItem = new Map<string, ConditionReading[]>();
  for (const { itemId, kept } of measurands.filter(({ derived }) => !derived).flatMap(({ cells }) => cells)) {
    const found = kept.flatMap(({ sessionId, takenAt }) => {
      const session = sessions.get(sessionId ?? '');
      return (session && conditionAt(session, conditionId, takenAt)) ?? [];
    });
    if (found.length > 0) byItem.set(itemId, [...(byItem.get(itemId) ?? []), ...found]);
  }
  return byItem;
}

const otherConditionsFact = (
  { id, quantity }: Condition,
  itemId: string,
  { message, why, source }: { message: string; why: string; source: string },
): Seen =>
  fact({
    id: `other conditions/${id}/${itemId}`,
    kind: 'item measured under other conditions',
    measurandId: null,
    message,
    why: `${why}What the ${quantity.toLowerCase()} does to the readings looks like a difference of the item.`,
    todo: 'Read it again in a round with the others, or correct for it.',
    source,
    readingIds: [],
  });

/** An item was read while a quantity was farther from that of the others than the plan tolerates. */
function otherQuantities(inspected: InspectedStudy, condition: Condition): Seen[] {
  const { id, quantity, unit, tolerableDrift } = condition;
  if (tolerableDrift === null) return [];
  const means = [...seenByItem(inspected, id)].flatMap(([itemId, seen]) => {
    const numbers = seen.flatMap(({ number }) => number ?? []);
    return numbers.length > 0 ? [{ itemId, mean: moments(numbers).mean }] : [];
  });
  return means.flatMap(({ itemId, mean }) => {
    const others = means.filter((other) => other.itemId !== itemId);
    if (others.length === 0) return [];
    const usual = moments(others.map((other) => other.mean)).mean;
    const off = mean - usual;
    const alone = others.every((other) => Math.abs(other.mean - mean) > tolerableDrift);
    if (!alone || Math.abs(off) <= tolerableDrift) return [];
    const figure = (value: number) => withUnit(formatPlain(Number(value.toPrecision(3))), unit);
    return [
      otherConditionsFact(condition, itemId, {
        message: `${inspected.items.get(itemId)?.name ?? ''} was read at ${figure(mean)} of ${quantity.toLowerCase()} on average, the others at ${figure(usual)}.`,
        why: `The plan tolerates ${figure(tolerableDrift)}. `,
        source: 'the drift that the plan tolerates',
      }),
    ];
  });
}

/** An item was never read while a condition was what it was for any of the others: on gravel, the others on lawn. */
function otherWords(inspected: InspectedStudy, condition: Condition): Seen[] {
  const words = [...seenByItem(inspected, condition.id)].map(([itemId, seen]) => ({
    itemId,
    seen: uniqWith(
      seen.map(({ text }) => text),
      isSameWord,
    ),
  }));
  return words.flatMap(({ itemId, seen }) => {
    const others = uniqWith(
      words.flatMap((other) => (other.itemId === itemId ? [] : other.seen)),
      isSameWord,
    );
    if (others.length === 0 || seen.some((word) => others.some((other) => isSameWord(word, other))))
      return [];
    const quoted = (list: readonly string[]) => listed(list.map((word) => `“${word}”`));
    return [
      otherConditionsFact(condition, itemId, {
        message: `${condition.quantity} was ${quoted(seen)} whenever ${inspected.items.get(itemId)?.name ?? ''} was read, and ${quoted(others)} for the others.`,
        why: '',
        source: COMMON,
      }),
    ];
  });
}

/** An item was read while a condition was not what it was for the others. */
export const otherConditions: Inspection = (inspected) =>
  conditionsInOrder(inspected.document).flatMap((condition) =>
    conditionKind(condition).isQuantity
      ? otherQuantities(inspected, condition)
      : otherWords(inspected, condition),
  );
