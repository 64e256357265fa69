import { derivedExpression, derivedMeasurands } from '../expression/derived.ts';
import type { Expression } from '../expression/expression.ts';
import { type StandingReading, standingReadings } from '../model/record.ts';
import type { Decision, Level, Measurand, Reading } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { type FactorLevels, factorLevels, levelIdsOf, settingKey, settingsOf } from '../plan/grid.ts';
import { runOfReading } from '../plan/queue.ts';
import { screeningRule } from '../screening/index.ts';
import { ALPHA } from './alpha.ts';

const DERIVED = 'derived/';

/** Whether a reading was worked out from others; such a one cannot be judged, only those that it comes from. */
export const isDerived = ({ id }: { id: string }): boolean => id.startsWith(DERIVED);

/** The settings that readings are judged at: each combination of levels that was or will be measured. */
export function studySettings(document: StudyDocument): { key: string; levels: readonly Level[] }[] {
  return settingsOf(factorLevels(document)).map((levels) => ({
    key: settingKey(levelIdsOf(levels)),
    levels,
  }));
}

const keyOf = (reading: Reading): string => settingKey(reading.levels.map(({ levelId }) => levelId));

/** Ids of readings of a measurand that its rule leaves out, with the rule's name. */
function ruledOut(entries: readonly StandingReading[], { rule }: Measurand): Map<string, string> {
  const school = screeningRule(rule.name);
  const out = new Map<string, string>();
  const groups = new Map<string, StandingReading[]>();
  for (const entry of entries) {
    if (entry.standing.is !== 'kept' || entry.value === null) continue;
    const key = `${entry.item.id}/${keyOf(entry.reading)}`;
    groups.set(key, [...(groups.get(key) ?? []), entry]);
  }
  for (const own of groups.values()) {
    const { leftOut, trim } = school.screen(
      own.map(({ value }) => value as number),
      { alpha: ALPHA, parameter: rule.parameter },
    );
    for (const { index } of leftOut) {
      const { reading, standing } = own[index] as StandingReading;
      if (!trim && standing.is === 'kept' && standing.insisted !== undefined) continue;
      out.set(reading.id, school.label);
    }
  }
  return out;
}

/** A condition during a session: the mean of what was read at its start and end. */
function conditionValue(
  document: StudyDocument,
  sessionId: string | null,
  conditionId: string,
): number | undefined {
  const session = document.sessions.find(({ id }) => id === sessionId);
  const read = session?.conditions.filter((entry) => entry.conditionId === conditionId) ?? [];
  return read.length === 0 ? undefined : read.reduce((sum, { number }) => sum + number, 0) / read.length;
}

/** The readings of one derived measurand, and a decision for each that comes from a left-out one. */
function derive(
  document: StudyDocument,
  measurand: Measurand,
  { uses, work }: Expression,
): { readings: Reading[]; decisions: Decision[] } {
  const sources = uses.filter(({ kind }) => kind === 'measurand');
  const entries = standingReadings(document).filter(
    ({ standing }) =>
      standing.is !== 'withdrawn' && !(standing.is === 'left out' && standing.by === 'misfire'),
  );
  const cells = new Map<string, { readings: Map<string, StandingReading>; first: Reading }>();
  const outs = new Map<string, string>();
  for (const { id } of sources) {
    const own = entries.filter((entry) => entry.measurand.id === id);
    const source = document.measurands.find((one) => one.id === id) as Measurand;
    for (const [readingId, label] of ruledOut(own, source)) outs.set(readingId, `${source.name}: ${label}`);
    for (const entry of own) {
      const { round, itemId, levelIds } = runOfReading(entry.reading);
      const key = `${String(round)}/${itemId}/${levelIds.join('/')}`;
      const cell = cells.get(key) ?? { readings: new Map(), first: entry.reading };
      cell.readings.set(id, entry);
      cells.set(key, cell);
      if (entry.standing.is === 'left out')
        outs.set(entry.reading.id, `${source.name}: ${entry.standing.reason}`);
    }
  }
  // Without a measurand in it, an item has one value: its attributes'.
  if (sources.length === 0) {
    const [any] = document.readings;
    for (const { id, createdAt } of document.items) {
      const first: Reading = {
        ...(any ?? { sessionId: null, source: 'import' }),
        id,
        studyId: document.study.id,
        version: 1,
        createdAt,
        updatedAt: createdAt,
        itemId: id,
        measurandId: measurand.id,
        round: 1,
        place: 0,
        levels: [],
        parts: [],
        takenAt: createdAt,
        sessionId: null,
        source: 'import',
      };
      cells.set(id, { readings: new Map(), first });
    }
  }
  const readings: Reading[] = [];
  const decisions: Decision[] = [];
  for (const [key, { readings: own, first }] of cells) {
    const item = document.items.find(({ id }) => id === first.itemId);
    const values = new Map<string, number>();
    for (const { identifier, kind, id } of uses) {
      const found =
        kind === 'measurand'
          ? own.get(id)?.value
          : kind === 'attribute'
            ? item?.attributes.find(({ name }) => name === id)?.value
            : conditionValue(document, first.sessionId, id);
      if (found !== undefined && found !== null) values.set(identifier, found);
    }
    if (values.size < uses.length) continue;
    const worked = work(values);
    const id = `${DERIVED}${measurand.id}/${key}`;
    const problem = 'problem' in worked ? worked.problem : undefined;
    readings.push({
      ...first,
      id,
      measurandId: measurand.id,
      parts: [
        {
          name: 'value',
          text: 'number' in worked ? String(worked.number) : '',
          number: 'number' in worked ? worked.number : null,
        },
      ],
    });
    const out = [...own.values()]
      .map(({ reading }) => outs.get(reading.id))
      .find((reason) => reason !== undefined);
    if (out !== undefined || problem !== undefined) {
      decisions.push({
        id: `${id}/out`,
        studyId: document.study.id,
        version: 1,
        createdAt: first.takenAt,
        updatedAt: first.takenAt,
        action: 'leave-out',
        readingId: id,
        sessionId: null,
        run: null,
        reason: problem ?? `left out with ${out as string}`,
        decidedAt: first.takenAt,
      });
    }
  }
  return { readings, decisions };
}

/** Derived measurands in an order in which each comes after those that it needs. */
function inNeed(document: StudyDocument): { measurand: Measurand; expression: Expression }[] {
  const read = derivedMeasurands(document).flatMap((measurand) => {
    const expression = derivedExpression(document, measurand);
    return 'problem' in expression ? [] : [{ measurand, expression }];
  });
  const done: typeof read = [];
  const waiting = new Set(read.map(({ measurand }) => measurand.id));
  // Circles are refused by derivedExpression, so each pass settles at least one.
  for (let pass = 0; pass < read.length && waiting.size > 0; pass += 1) {
    for (const one of read) {
      if (!waiting.has(one.measurand.id)) continue;
      if (one.expression.uses.some(({ id }) => waiting.has(id))) continue;
      waiting.delete(one.measurand.id);
      done.push(one);
    }
  }
  return done;
}

/**
 * A study as it is analysed: the readings of derived measurands worked out, and, where there are factors, only what
 * was read at one setting.
 * @param settingKeyWanted of studySettings; all readings when left out
 */
export function studyView(document: StudyDocument, settingKeyWanted?: string): StudyDocument {
  const narrowed =
    settingKeyWanted === undefined || document.factors.length === 0
      ? document
      : { ...document, readings: document.readings.filter((reading) => keyOf(reading) === settingKeyWanted) };
  return inNeed(narrowed).reduce((view, { measurand, expression }) => {
    const { readings, decisions } = derive(view, measurand, expression);
    return {
      ...view,
      readings: [...view.readings, ...readings],
      decisions: [...view.decisions, ...decisions],
    };
  }, narrowed);
}

/** The setting that is shown first: the first one with readings, else the baseline levels together. */
export function firstSetting(document: StudyDocument): string | undefined {
  const factors: FactorLevels[] = factorLevels(document);
  if (factors.length === 0) return undefined;
  const read = new Set(document.readings.map(keyOf));
  return (
    studySettings(document).find(({ key }) => read.has(key))?.key ??
    settingKey(levelIdsOf(factors.map(({ baseline }) => baseline)))
  );
}
