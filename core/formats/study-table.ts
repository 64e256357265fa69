import { type ConditionSeen, conditionKind } from '../conditions/index.ts';
import { readingForm } from '../forms/index.ts';
import { byText } from '../model/in-order.ts';
import { CONDITION_TEXT_LIMIT } from '../model/limits.ts';
import type { Condition, Item, Measurand, Reading, Session } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { newSession } from '../plan/new-parts.ts';
import { studyFromPattern } from '../plan/pattern.ts';
import { counted, listed, quoted } from '../quantity/format.ts';
import { readInstant } from './cells.ts';
import {
  type ReadingsTable,
  type TableProblem,
  type TableReading,
  raggedWords,
  readReadingsTable,
} from './readings-table.ts';
import {
  OTHER_DATE,
  type StudyColumn,
  type StudyMatching,
  headOf,
  studyMatchingProblem,
  yearFirst,
} from './study-columns.ts';
import { nameIn, numberOf, planOf, repeated, unfit } from './study-plan.ts';

export interface StudyTableContext {
  title: string;
  seed: number;
  newId: () => string;
  now: string;
}

export interface StudyTableOutcome {
  /** The study with all its readings; undefined where the columns make none. */
  document: StudyDocument | undefined;
  readings: number;
  /** Cells that cannot be read. */
  problems: TableProblem[];
  /** What was understood in a way that should be known: names that became one, columns that are not taken. */
  notices: string[];
  /** Why columns matched so make no study. */
  refused: string | undefined;
}

/** The table with one value a row. */
interface LongTable {
  table: ReadingsTable;
  /** Of each row, the line and column of the text that it comes from. */
  from: { line: number; column: string }[];
  /** Cells without a value. */
  empty: number;
  /** Rows with more cells than the head, or fewer: nobody can say which cell is which. */
  ragged: TableProblem[];
}

/** When a row was read, as it says. */
function momentWritten(row: readonly string[], { roles, dates }: StudyMatching): string {
  const cell = (role: StudyColumn) => (row[roles.indexOf(role)] ?? '').trim();
  const text = roles.includes('moment')
    ? cell('moment')
    : [cell('date'), cell('clock')].filter(Boolean).join(' ');
  return yearFirst(text, dates);
}

function longTable({ columns, rows, lines, delimiter }: ReadingsTable, matching: StudyMatching): LongTable {
  const { roles } = matching;
  const placeOf = (role: StudyColumn) => roles.indexOf(role);
  const places = (...wanted: StudyColumn[]) =>
    roles.flatMap((role, column) => (wanted.includes(role) ? [column] : []));
  const values = places('readings', 'readings-of-item');
  const levels = places('level');
  const found: LongTable = {
    table: {
      ...{ delimiter, rows: [], lines: [] },
      columns: [
        'item',
        'measurand',
        'value',
        'round',
        'time',
        ...levels.map((column) => columns[column] as string),
      ],
    },
    from: [],
    empty: 0,
    ragged: [],
  };
  const times = new Map<string, number>();
  rows.forEach((row, i) => {
    if (row.length !== columns.length) {
      const message = raggedWords(row.length, columns.length);
      found.ragged.push({ line: lines[i] as number, column: '', message });
      return;
    }
    const cell = (column: number) => (column === -1 ? '' : (row[column] ?? '').trim());
    const item = nameIn(row[placeOf('item')]);
    // Without a round the n-th row of an item at a setting is its n-th reading.
    const key = [item.toLowerCase(), cell(placeOf('measurand')).toLowerCase(), ...levels.map(cell)].join(
      '\t',
    );
    const time = (times.get(key) ?? 0) + 1;
    times.set(key, time);
    for (const column of values) {
      if (cell(column) === '') {
        found.empty += 1;
        continue;
      }
      const head = columns[column] as string;
      found.table.lines.push(found.from.length);
      found.table.rows.push([
        roles[column] === 'readings-of-item' ? headOf(head).name : item,
        placeOf('measurand') === -1 ? String(column) : cell(placeOf('measurand')),
        cell(column),
        placeOf('round') === -1 ? String(time) : cell(placeOf('round')),
        momentWritten(row, matching),
        ...levels.map(cell),
      ]);
      found.from.push({ line: lines[i] as number, column: head });
    }
  });
  return found;
}

/** Sessions by the day of the reading, with the conditions that stand beside the readings. */
function sessionsOf(
  document: StudyDocument,
  readings: readonly Reading[],
  conditions: readonly ({ takenAt: string; conditionId: string } & ConditionSeen)[],
  { newId, now }: Pick<StudyTableContext, 'newId' | 'now'>,
): Session[] {
  const days = [...new Set(readings.map(({ takenAt }) => takenAt.slice(0, 10)))].sort();
  return days.map((day) => {
    const times = readings.filter(({ takenAt }) => takenAt.startsWith(day)).map(({ takenAt }) => takenAt);
    const startedAt = times.reduce((first, time) => (time < first ? time : first));
    const endedAt = times.reduce((last, time) => (time > last ? time : last));
    const last = new Map<string, string>();
    const read = conditions
      .filter(({ takenAt }) => takenAt.startsWith(day))
      .flatMap((condition): Session['conditions'] => {
        const { conditionId, number, text } = condition;
        const before = last.get(conditionId);
        const now = number === null ? text.toLocaleLowerCase() : String(number);
        // It is noted when it is first read, and wherever it has changed.
        if (before === now) return [];
        last.set(conditionId, now);
        return [{ ...condition, at: before === undefined ? 'start' : 'during' }];
      })
      .slice(0, 500);
    return {
      ...{ id: newId(), studyId: document.study.id, version: 1, createdAt: now, updatedAt: now },
      ...newSession(startedAt),
      ...{ kind: 'import', endedAt, conditions: read, note: 'read in from a table' },
    };
  });
}

/** What a cell says of a condition. */
function seenIn(
  text: string,
  condition: Condition,
  decimal: StudyMatching['decimal'],
): ConditionSeen | { problem: string } {
  const kind = conditionKind(condition);
  if (kind.isQuantity) {
    const number = numberOf(text, decimal);
    return number === undefined
      ? { problem: `${quoted(text)} is no number.` }
      : { text: text.slice(0, CONDITION_TEXT_LIMIT), number };
  }
  return text.length > CONDITION_TEXT_LIMIT
    ? { problem: `${quoted(text)} has more than ${String(CONDITION_TEXT_LIMIT)} characters.` }
    : kind.read(text, condition);
}

/** What stands beside each row as a condition, with what is wrong with it. */
function conditionsRead(
  table: ReadingsTable,
  { roles, decimal }: StudyMatching,
  document: StudyDocument,
  momentOf: (row: readonly string[]) => string,
): { read: Parameters<typeof sessionsOf>[2]; problems: TableProblem[] } {
  const problems: TableProblem[] = [];
  const places = roles.flatMap((role, place) => (role === 'condition' ? [place] : []));
  const read = places.flatMap((place, i) =>
    table.rows.flatMap((row, index) => {
      const text = (row[place] ?? '').trim();
      const condition = document.conditions[i];
      if (text === '' || !condition) return [];
      const seen = seenIn(text, condition, decimal);
      if ('problem' in seen) {
        const [line, column] = [table.lines[index] as number, table.columns[place] as string];
        problems.push({ line, column, message: seen.problem });
        return [];
      }
      return [{ takenAt: momentOf(row), conditionId: condition.id, ...seen }];
    }),
  );
  return { read, problems };
}

/**
 * Makes a study of a table: items, measurands, factors, attributes and conditions as its columns show them, and a reading of every
 * cell that can be read. What cannot be read is said, line by line, and its row gives nothing.
 * @param onProgress hears the share that is done, now and then
 */
export function studyFromTable(
  table: ReadingsTable,
  matching: StudyMatching,
  context: StudyTableContext,
  onProgress?: (share: number) => void,
): StudyTableOutcome {
  const nothing = { document: undefined, readings: 0, problems: [], notices: [] };
  const wrong = studyMatchingProblem(matching);
  if (wrong !== undefined) return { ...nothing, refused: wrong };
  const notices: string[] = [];
  const misfit = unfit(table, matching);
  if (misfit !== undefined) return { ...nothing, refused: misfit };
  const pattern = planOf(table, matching, notices);
  const refused =
    repeated(pattern) ??
    (matching.dates === undefined && table.rows.some((row) => OTHER_DATE.test(momentWritten(row, matching)))
      ? 'Say whether the day or the month comes first in the dates.'
      : undefined) ??
    (pattern.measurands.length === 0 ? 'No column names what was read.' : undefined);
  if (refused !== undefined) return { ...nothing, notices, refused };
  const document = studyFromPattern(pattern, context);
  const long = longTable(table, matching);
  // Items are found by their names alone: a code that was made for one may be the name of another.
  const byName = { ...document, items: document.items.map((item) => ({ ...item, code: item.name })) };
  const outcome = readReadingsTable(byName, ...asReadings(document, long, matching), onProgress);
  const problems = outcome.problems.map(({ line, column, message }): TableProblem => {
    const place = long.from[line];
    return { line: place?.line ?? 0, column: column === 'value' ? (place?.column ?? '') : column, message };
  });
  const momentOf = (row: readonly string[]) => readInstant(momentWritten(row, matching)) ?? context.now;
  document.study.rounds = outcome.readings.reduce(
    (most, { round }) => Math.max(most, Math.min(500, round)),
    1,
  );
  const readings = readingsOf(document, outcome.readings, context);
  const conditions = conditionsRead(table, matching, document, momentOf);
  document.sessions = sessionsOf(document, readings, conditions.read, context);
  const sessionOf = new Map(document.sessions.map(({ id, startedAt }) => [startedAt.slice(0, 10), id]));
  document.readings = readings.map((reading) => ({
    ...reading,
    sessionId: sessionOf.get(reading.takenAt.slice(0, 10)) ?? null,
  }));
  notices.push(...understood(matching, long));
  if (!matching.roles.includes('round') && matching.roles.includes('item'))
    document.study.runOrder = 'full-shuffle';
  const unused = table.columns.filter((_, place) => matching.roles[place] === 'ignore');
  if (unused.length > 0) notices.push(`Not taken: ${listed(unused.map((column) => `“${column}”`))}.`);
  return {
    document: readings.length > 0 ? document : undefined,
    readings: readings.length,
    problems: [...long.ragged, ...problems, ...conditions.problems].sort((a, b) => a.line - b.line),
    notices,
    refused: undefined,
  };
}

/** How rows and cells were understood where the table does not say it. */
function understood({ roles }: StudyMatching, { empty }: LongTable): string[] {
  return [
    ...(empty > 0 ? [`${counted(empty, 'empty cell')}: readings that were not taken.`] : []),
    ...(roles.includes('round')
      ? []
      : roles.includes('item')
        ? ['No column says the round, so readings are compared as if they were taken in any order.']
        : ['Each row is taken as a round.']),
  ];
}

/** The table as readings of the study that was made of it. */
function asReadings(
  document: StudyDocument,
  { table }: LongTable,
  matching: StudyMatching,
): [ReadingsTable, { roles: string[]; valueMeasurand: string; decimal: '.' | ',' }] {
  const named = matching.roles.includes('measurand');
  // Columns of readings name their measurand by their place; the study has them in the same order.
  const places = matching.roles.flatMap((role, place) => (role === 'readings' ? [String(place)] : []));
  const nameOf = (said: string) =>
    document.measurands[places.indexOf(said)]?.name ?? document.measurands[0]?.name ?? '';
  const roles = [
    'item',
    'measurand',
    'value',
    'round',
    'time',
    ...document.factors.map(({ id }) => `factor/${id}`),
  ];
  return [
    named
      ? table
      : { ...table, rows: table.rows.map((row) => row.map((cell, i) => (i === 1 ? nameOf(cell) : cell))) },
    { roles, valueMeasurand: '', decimal: matching.decimal },
  ];
}

/** The readings as a study holds them, in the order of their time, or of the table. */
function readingsOf(
  { study, items, measurands }: StudyDocument,
  read: readonly TableReading[],
  { newId, now }: Pick<StudyTableContext, 'newId' | 'now'>,
): Reading[] {
  const measurandOf = new Map<string, Measurand>(measurands.map((measurand) => [measurand.id, measurand]));
  const known = new Map<string, Item>(items.map((item) => [item.id, item]));
  const inTime = read.every(({ takenAt }) => takenAt !== null)
    ? [...read].sort((a, b) => byText(a.takenAt as string, b.takenAt as string))
    : read;
  return inTime.flatMap((reading, place): Reading[] => {
    const measurand = measurandOf.get(reading.measurandId);
    const form = measurand && readingForm(measurand.form);
    const parts = measurand && form?.read(reading.texts, measurand);
    if (!parts || 'problem' in parts || !known.has(reading.itemId)) return [];
    return [
      {
        ...{ id: newId(), studyId: study.id, version: 1, createdAt: now, updatedAt: now },
        ...{ itemId: reading.itemId, measurandId: reading.measurandId, sessionId: null },
        ...{ round: reading.round, place, levels: reading.levels, parts: parts.parts },
        ...{ source: 'import', takenAt: reading.takenAt ?? now },
      },
    ];
  });
}
