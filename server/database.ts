import type { PartKind } from '../core/model/part-kinds.ts';

export type TableName = PartKind | 'studies';

/** A row of a table, as JSON has it. */
export type Row = Record<string, unknown>;

/** Fields and the values that they must have; none for all rows. */
export type Where = Readonly<Record<string, string>>;

/** Reads tables; rows come in the order in which they were written. */
export interface Reads {
  select(table: TableName, where: Where): Promise<Row[]>;
  count(table: TableName, where: Where): Promise<number>;
  /** How many parts of a study name an id within a field that holds a list or an object. */
  countNaming(kind: PartKind, studyId: string, field: string, id: string): Promise<number>;
  /** Whether a study has more parts of a kind than so many; costs nothing as long as all studies together have fewer. */
  hasMore(kind: PartKind, studyId: string, most: number): Promise<boolean>;
  /** Whether a table has any of these ids. */
  hasAny(table: TableName, ids: readonly string[]): Promise<boolean>;
  /**
   * The parts of a study as JSON texts, some at a time.
   * @param behind only those behind the part with this id
   * @param most so many at most
   */
  jsonTexts(
    kind: PartKind,
    studyId: string,
    options?: { behind?: string; most?: number },
  ): AsyncGenerator<string[]>;
}

/** What writes also sees what it has just written. */
export interface Writes extends Reads {
  /**
   * Writes rows; the caller holds a transaction where there is more than one.
   * @param rows may be made as they are asked for. What is thrown in the making stops the writing
   * @param signal stops between two statements
   */
  insert(table: TableName, rows: Iterable<Row>, signal?: AbortSignal): Promise<void>;
  update(table: TableName, id: string, fields: Row): Promise<void>;
  delete(table: TableName, id: string): Promise<void>;
  /** Deletes the last parts of a study, so many at most. */
  deleteLast(kind: PartKind, studyId: string, most: number): Promise<void>;
}

/** One state of everything, whatever is written meanwhile. */
export interface Snapshot extends Reads {
  close(): Promise<void>;
}

/** What the list shows of a study. */
export interface KeptPreview {
  studyId: string;
  /** JSON; null where none was made yet. */
  preview: string | null;
  /** Whether nothing was written about the study since. */
  fresh: boolean;
}

/** Why a database does not do what it is asked. */
export type Refusal =
  /** There is a row with such an id. */
  | 'taken'
  /** A row would point to what is not there. */
  | 'dangling'
  /** The database was taken away while it was open. */
  | 'gone'
  | 'full'
  | 'damaged'
  /** Another program holds it. */
  | 'busy'
  | 'read-only';

/**
 * All that the store asks of a database: nothing beyond this knows which engine it is. SQLite is behind it in `sqlite`;
 * another engine would be a folder beside that.
 */
export interface Database {
  /** What is committed: never half of a transaction, and never waits for one. */
  committed: Reads;
  /** For what runs in `write`. */
  writer: Writes;
  snapshot(): Promise<Snapshot>;
  /** Runs one writer after the other; in a transaction when asked, which is undone when the work throws. */
  write: <T>(work: () => Promise<T>, options?: { transaction: boolean }) => Promise<T>;
  /** What the list shows of the studies, as it was kept. */
  previews(): Promise<Map<string, KeptPreview>>;
  /**
   * Makes the preview of a study and keeps it. What is written meanwhile makes it old at once.
   * @param make asked once the state is marked from which it is made
   */
  renewPreview(studyId: string, make: () => Promise<string>): Promise<void>;
  /** Why the database threw this; undefined for what is no refusal of it. */
  refusal(error: unknown): Refusal | undefined;
  close(): Promise<void>;
}
