import Papa from 'papaparse';
import { screenedOf } from '../analysis/observed.ts';
import type { Use } from '../observations/observation.ts';
import { MOST_RUNS, measurandsRead } from '../plan/grid.ts';
import { readingForm } from '../forms/index.ts';
import { quoted } from '../quantity/format.ts';
import { parseQuantity } from '../quantity/parse.ts';
import { newItem, newMeasurand } from '../plan/new-parts.ts';
import { EMPTY, NEW_STUDY } from '../model/new-study.ts';
import type { Decision, Item, Measurand, NotePart, Reading } from '../model/parts.ts';
import { type StandingReading, readingNotes, recordOf } from '../record/record.ts';
import { MOST_ITEMS, MOST_MEASURANDS, NAME_LIMIT, TEXT_LIMIT, UNIT_LIMIT } from '../model/limits.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { cellText, harmlessCell, readInstant, readRound } from './cells.ts';
import { type CsvHeader, csvNumber, readCsv } from './csv-read.ts';
import { FileProblem } from './file-problem.ts';

/** The comment line that holds the study but its readings, so that the file gives the same study again. */
const HEADER_MARK = 'study-without-readings ';

const COLUMNS = [
  'order',
  'round',
  'item',
  'code',
  'measurand',
  'value',
  'unit',
  'left_out',
  'left_out_by',
  'reason',
  'taken_at',
  'source',
  'note',
  'session_id',
  'levels',
  'parts',
  'reading_id',
  'version',
  'created_at',
  'updated_at',
] as const;
type Column = (typeof COLUMNS)[number];

/** Rows that are made into text at a time. */
const ROWS_AT_A_TIME = 2000;

/** A reading as a row of the table. */
function rowOf(
  { reading, item, measurand, value, standing }: StandingReading,
  use: Use | undefined,
  note: string,
): Record<Column, string | number> {
  const out = use?.is === 'left out' ? use : undefined;
  const withdrawn = standing.is === 'withdrawn';
  return {
    order: reading.place + 1,
    round: reading.round,
    item: harmlessCell(item.name),
    code: harmlessCell(item.code),
    measurand: harmlessCell(measurand.name),
    value: value ?? '',
    unit: harmlessCell(measurand.unit),
    left_out: out || withdrawn ? 'yes' : 'no',
    left_out_by: withdrawn ? 'undone' : (out?.by ?? ''),
    reason: harmlessCell(withdrawn ? standing.decision.reason : (out?.reason ?? '')),
    taken_at: reading.takenAt,
    source: reading.source,
    note: harmlessCell(note),
    session_id: reading.sessionId ?? '',
    levels: JSON.stringify(reading.levels),
    parts: JSON.stringify(reading.parts),
    reading_id: reading.id,
    version: reading.version,
    created_at: reading.createdAt,
    updated_at: reading.updatedAt,
  };
}

/**
 * All readings of a study in long format, one row each, with whether and why they are left out, piece by piece.
 * Comment lines in front carry the rest of the study as JSON.
 */
export function* studyCsvPieces(document: StudyDocument): Generator<string> {
  const uses = new Map<string, Use>();
  for (const measurand of measurandsRead(document)) {
    for (const { id, use } of screenedOf(document, measurand).observations) uses.set(id, use);
  }
  const notes = readingNotes(document);
  const { readings: _readings, ...rest } = document;
  yield `# ${document.study.title.replace(/\s+/g, ' ')}: readings, one a row\n`;
  yield `# ${HEADER_MARK}${JSON.stringify(rest)}\n`;
  const { readings } = recordOf(document);
  yield Papa.unparse({ fields: [...COLUMNS], data: [] }, { newline: '\n' }).trimEnd();
  for (let from = 0; from < readings.length; from += ROWS_AT_A_TIME) {
    const data = readings.slice(from, from + ROWS_AT_A_TIME).map((standing) => {
      const { id } = standing.reading;
      const row = rowOf(standing, uses.get(id), notes.get(id) ?? '');
      return COLUMNS.map((column) => row[column]);
    });
    yield `\n${Papa.unparse(data, { newline: '\n', header: false })}`;
  }
  yield '\n';
}

/** The same as one text. */
export const studyToCsv = (document: StudyDocument): string => [...studyCsvPieces(document)].join('');

interface Row {
  line: number;
  cell: (column: string) => string;
}

function ownRow(
  { cell, line }: Row,
  plan: Partial<StudyDocument> & Pick<StudyDocument, 'study'>,
  measurands: Map<string, Measurand>,
  items: Map<string, Item>,
): Reading {
  const item = items.get(cellText(cell('code')));
  const measurand = measurands.get(cellText(cell('measurand')));
  if (!item) throw new FileProblem(`column “code”: there is no item with the code “${cell('code')}”.`, line);
  if (!measurand) {
    throw new FileProblem(`column “measurand”: there is no measurand “${cell('measurand')}”.`, line);
  }
  const json = (column: 'levels' | 'parts'): unknown => {
    try {
      return JSON.parse(cell(column));
    } catch {
      throw new FileProblem(`column “${column}” is not JSON.`, line);
    }
  };
  const reading = {
    id: cell('reading_id'),
    studyId: plan.study.id,
    version: Number(cell('version')),
    createdAt: cell('created_at'),
    updatedAt: cell('updated_at'),
    itemId: item.id,
    measurandId: measurand.id,
    sessionId: cell('session_id') || null,
    round: Number(cell('round')),
    place: Number(cell('order')) - 1,
    levels: json('levels'),
    parts: json('parts'),
    source: cell('source'),
    takenAt: cell('taken_at'),
    // Files of an earlier version kept the note with the reading.
    ...(plan.notes === undefined ? { note: cell('note') } : {}),
  } as Reading;
  const value = Array.isArray(reading.parts)
    ? readingForm(measurand.form)?.value(reading.parts, measurand)
    : undefined;
  const shown = cell('value');
  if (shown !== '' && Number(shown) !== value) {
    throw new FileProblem(
      `column “value” says ${shown}, column “parts” ${String(value)}. To change a reading, do it in the program.`,
      line,
    );
  }
  return reading;
}

/** What an import of a table made by others needs to know besides the table. */
export interface ForeignTable {
  title: string;
  newId: () => string;
  now: string;
}

const YES = /^(yes|y|true|1|x)$/i;

/** Refuses a text that is longer than what is made of it may be. */
function checkLengths({ cell, line }: Row): void {
  for (const [column, limit] of [
    ['item', NAME_LIMIT],
    ['measurand', NAME_LIMIT],
    ['unit', UNIT_LIMIT],
    ['note', TEXT_LIMIT],
    ['reason', TEXT_LIMIT],
  ] as const) {
    const { length } = [...(limit === TEXT_LIMIT ? cell(column) : cell(column).trim())];
    if (length > limit) {
      throw new FileProblem(
        `column “${column}” has ${String(length)} characters, at most ${String(limit)} fit.`,
        line,
      );
    }
  }
}

/** What a row was read to be; null where it has no value. */
interface ForeignRow {
  text: string;
  number: number;
  /** undefined where the row names none. */
  round: number | undefined;
  takenAt: string;
}

function foreignRow({ cell, line }: Row, delimiter: CsvHeader['delimiter'], now: string): ForeignRow | null {
  const text = cell('value').trim();
  if (text === '') return null;
  const number = csvNumber(text, delimiter);
  if (number === undefined) throw new FileProblem(`column “value” is not a number: ${quoted(text)}.`, line);
  const named = cell('round').trim();
  const round = named === '' ? undefined : readRound(cell('round'));
  if (named !== '' && round === undefined) {
    throw new FileProblem(`column “round” is not a whole number from 1: ${quoted(cell('round'))}.`, line);
  }
  const time = cell('taken_at').trim();
  const takenAt = time === '' ? now : readInstant(time);
  if (takenAt === undefined) {
    throw new FileProblem(
      `column “taken_at” is not a date and time such as 2026-07-04 10:30: ${quoted(time)}.`,
      line,
    );
  }
  return { text, number, round, takenAt };
}

/** The parts of a study as the rows of a foreign table bring them in, one after the other. */
class ForeignParts {
  readonly items = new Map<string, Item>();
  readonly measurands = new Map<string, Measurand>();
  readonly readings: Reading[] = [];
  readonly decisions: Decision[] = [];
  readonly notes: NotePart[] = [];
  /** Rows without a value. */
  missing = 0;
  private readonly perPair = new Map<string, number>();

  constructor(
    private readonly newId: ForeignTable['newId'],
    private readonly stamp: Pick<Item, 'studyId' | 'version' | 'createdAt' | 'updatedAt'>,
  ) {}

  private itemOf({ cell, line }: Row): Item {
    const name = cell('item').trim();
    const known = this.items.get(name.toLowerCase());
    if (known) return known;
    if (this.items.size >= MOST_ITEMS)
      throw new FileProblem(
        `there are more than ${String(MOST_ITEMS)} items, and a study has no more.`,
        line,
      );
    const item = { id: this.newId(), ...this.stamp, ...newItem(name, [...this.items.values()]) };
    this.items.set(name.toLowerCase(), item);
    return item;
  }

  private measurandOf({ cell, line }: Row): Measurand {
    const name = cell('measurand').trim() || 'value';
    const known = this.measurands.get(name.toLowerCase());
    if (known) return known;
    if (this.measurands.size >= MOST_MEASURANDS)
      throw new FileProblem(
        `there are more than ${String(MOST_MEASURANDS)} measurands, and a study has no more.`,
        line,
      );
    const measurand = {
      ...{ id: this.newId(), ...this.stamp, ...newMeasurand(name, this.measurands.size + 1) },
      unit: cell('unit').trim(),
    };
    this.measurands.set(name.toLowerCase(), measurand);
    return measurand;
  }

  take(row: Row, delimiter: CsvHeader['delimiter']): void {
    const { cell, line } = row;
    if (cell('item').trim() === '') throw new FileProblem('column “item” is empty.', line);
    checkLengths(row);
    const [item, measurand] = [this.itemOf(row), this.measurandOf(row)];
    const read = foreignRow(row, delimiter, this.stamp.createdAt);
    if (!read) {
      this.missing += 1;
      return;
    }
    const { text, number, round, takenAt } = read;
    const pair = `${item.id}/${measurand.id}`;
    const nth = (this.perPair.get(pair) ?? 0) + 1;
    this.perPair.set(pair, nth);
    // The text is kept as it was when it reads as the same number; else the number's own text is.
    const understood = parseQuantity(text, measurand.unit);
    const keptText = 'number' in understood && understood.number === number ? text : String(number);
    const reading: Reading = {
      ...{ id: this.newId(), ...this.stamp, itemId: item.id, measurandId: measurand.id, sessionId: null },
      ...{ round: round ?? nth, place: this.readings.length, levels: [] },
      parts: [{ name: 'value', text: keptText, number }],
      ...{ source: 'import', takenAt },
    };
    this.readings.push(reading);
    this.takeAbout(reading, row);
  }

  /** What a row says of its reading: a note, and that it is left out. */
  private takeAbout({ id: readingId }: Reading, { cell }: Row): void {
    const now = this.stamp.createdAt;
    const about = { ...this.stamp, readingId, sessionId: null, run: null };
    if (cell('note').trim() !== '') {
      this.notes.push({
        ...{ id: this.newId(), ...about, itemId: null, text: cell('note') },
        ...{ photo: null, removed: false, notedAt: now },
      });
    }
    if (YES.test(cell('left_out').trim())) {
      const reason = cell('reason').trim() || 'left out in the imported table';
      this.decisions.push({ id: this.newId(), ...about, action: 'leave-out', reason, decidedAt: now });
    }
  }
}

/** A new study from a plain table with the columns item and value; round, measurand, unit and others if there. */
function foreignStudy(
  { columns, delimiter, line }: CsvHeader,
  rows: Row[],
  { title, newId, now }: ForeignTable,
) {
  for (const needed of ['item', 'value']) {
    if (!columns.includes(needed)) {
      throw new FileProblem(
        `there is no column “${needed}”; the columns are ${columns.join(', ')}. A table needs the columns item and value; round, measurand, unit, left_out, reason, taken_at and note are understood too.`,
        line,
      );
    }
  }
  const id = newId();
  const parts = new ForeignParts(newId, { studyId: id, version: 1, createdAt: now, updatedAt: now });
  for (const row of rows) parts.take(row, delimiter);
  const { readings, decisions, notes, missing } = parts;
  if (readings.length === 0) throw new FileProblem('The file has a header and no readings.');
  const [items, measurands] = [[...parts.items.values()], [...parts.measurands.values()]];
  const rounds = Math.min(
    500,
    Math.max(1, Math.floor(MOST_RUNS / (items.length * measurands.length))),
    readings.reduce((most, { round }) => Math.max(most, round), 1),
  );
  const document: StudyDocument = {
    ...EMPTY,
    study: {
      ...{ id, version: 1, createdAt: now, updatedAt: now, title, question: '' },
      ...{ ...NEW_STUDY, rounds, seed: 1 },
    },
    ...{ items, measurands, readings, decisions, notes },
  };
  return { document, missing };
}

/**
 * A study from CSV: the same study from our own export, a new one from a plain table.
 * @returns the document, not yet checked by its schema, and how many empty values were skipped
 * @throws FileProblem that names the line and column
 */
export function studyFromCsv(
  text: string,
  foreign: ForeignTable,
): { document: StudyDocument; missing: number } {
  let header: CsvHeader | undefined;
  const rows: Row[] = [];
  let places = new Map<string, number>();
  readCsv(
    text,
    (found) => {
      header = found;
      places = new Map(found.columns.map((name, i) => [name, i]));
    },
    (fields, line) => {
      rows.push({
        line,
        cell: (column) => {
          const place = places.get(column);
          return place === undefined ? '' : (fields[place] as string);
        },
      });
    },
  );
  const { columns, comments, line } = header as CsvHeader;
  const marked = comments.find((comment) => comment.startsWith(HEADER_MARK));
  if (marked === undefined) return foreignStudy(header as CsvHeader, rows, foreign);
  const lost = COLUMNS.find((column) => !columns.includes(column));
  if (lost !== undefined) throw new FileProblem(`the column “${lost}” of the export is missing.`, line);
  let plan: StudyDocument;
  try {
    plan = JSON.parse(marked.slice(HEADER_MARK.length)) as StudyDocument;
  } catch {
    throw new FileProblem('The comment line that holds the study is damaged.');
  }
  // What is no plan at all, null among it, is as damaged.
  const lists = plan as Partial<StudyDocument> | null;
  const named = (list: unknown) =>
    Array.isArray(list) && list.every((part) => typeof part === 'object' && part !== null);
  if (!named(lists?.measurands) || !named(lists?.items) || typeof lists?.study !== 'object') {
    throw new FileProblem('The comment line that holds the study is damaged.');
  }
  const measurands = new Map(plan.measurands.map((measurand) => [measurand.name, measurand]));
  const items = new Map(plan.items.map((item) => [item.code, item]));
  return {
    document: { ...plan, readings: rows.map((row) => ownRow(row, plan, measurands, items)) },
    missing: 0,
  };
}
