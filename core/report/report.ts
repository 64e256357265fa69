import { REPORT_PARTS } from '../model/words.ts';

export type ReportPartName = (typeof REPORT_PARTS)[number];

/** A cell of a table: what it says, and the mark of the item that it names. */
export interface ReportCell {
  text: string;
  mark?: number;
}

export interface ReportTable {
  caption: string;
  /** Columns that hold figures. */
  figures: number[];
  head: string[];
  rows: ReportCell[][];
}

/** The cell that says what a row is about: its item where it has one, else the first. */
export const headOfRow = (row: readonly ReportCell[]): number =>
  Math.max(
    0,
    row.findIndex(({ mark }) => mark !== undefined),
  );

/** How cells are told: as they were read, or each in per cent of the mean of its grid. */
export type CellsView = 'amount' | 'share';

/** A picture that a page draws from the readings. */
export type ReportPicture =
  | { of: 'strip'; measurandId: string; settingKey: string; className: string }
  | { of: 'levels'; measurandId: string; factorId: string; seriesKey: string; className: string }
  | { of: 'cells'; measurandId: string; settingKey: string; view: CellsView };

export type ReportBlock =
  | { kind: 'lead'; text: string }
  | { kind: 'text'; text: string }
  | { kind: 'list'; items: string[] }
  | { kind: 'table'; table: ReportTable }
  | { kind: 'picture'; picture: ReportPicture; caption: string }
  | { kind: 'photos'; photos: { noteId: string; file: string; caption: string }[] };

export interface ReportPart {
  name: ReportPartName;
  heading: string;
  blocks: ReportBlock[];
}

export interface ComposedReport {
  title: string;
  question: string;
  /** Level at which its pairs are read. */
  pairAlpha: number;
  /** Every part that has something to say, in the tester's order, hidden ones too. */
  parts: ReportPart[];
}

/** Parts as the tester put them; those that are not named follow in their usual order. */
export const partsInOrder = (order: readonly ReportPartName[]): ReportPartName[] => [
  ...order,
  ...REPORT_PARTS.filter((name) => !order.includes(name)),
];

const NUMBER = /[\u2212-]?\d+(?:[.,]\d+)?/g;

/** The numbers in a text, as they stand there, without thin spaces and with a plain minus. */
export const numbersIn = (text: string): string[] =>
  [...text.replace(/[\u202f\u00a0]/g, '').matchAll(NUMBER)].map(([number]) =>
    number.replace('\u2212', '-').replace(',', '.'),
  );

/** All numbers that a report shows. */
export function reportNumbers({ parts }: ComposedReport): Set<string> {
  const texts = parts.flatMap(({ blocks }) =>
    blocks.flatMap((block): string[] => {
      if (block.kind === 'lead' || block.kind === 'text') return [block.text];
      if (block.kind === 'list') return block.items;
      if (block.kind === 'table') return block.table.rows.flat().map(({ text }) => text);
      return block.kind === 'picture' ? [block.caption] : [];
    }),
  );
  return new Set(texts.flatMap(numbersIn));
}

/** Numbers of the tester's own words that the report showed when they were written, and shows no more. */
export const outdatedNumbers = (
  { figures }: { figures: readonly string[] },
  shown: ReadonlySet<string>,
): string[] => figures.filter((figure) => !shown.has(figure));
