import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { byText } from '../../../core/model/in-order.ts';
import type { PartKind } from '../../../core/model/part-kinds.ts';
import type { Study } from '../../../core/model/study.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';

type Kind = PartKind | 'study';

interface AnyPart {
  id: string;
  version: number;
}

interface Schema extends DBSchema {
  /** Each study as it was fetched last. */
  studies: { key: string; value: { id: string; document: StudyDocument } };
  /** What was recorded or changed of it since; null where it is gone. */
  parts: {
    key: [studyId: string, kind: Kind, id: string];
    value: { studyId: string; kind: Kind; id: string; part: AnyPart | null; at: number };
    indexes: { studyId: string };
  };
}

const DATABASE = 'brackenridge-copies';
/** Larger studies are not copied: writing them would hold the page up. */
const MOST_READINGS = 20_000;

let database: Promise<IDBPDatabase<Schema>> | undefined;

function open(): Promise<IDBPDatabase<Schema>> {
  database ??= openDB<Schema>(DATABASE, 1, {
    upgrade(made) {
      made.createObjectStore('studies', { keyPath: 'id' });
      made
        .createObjectStore('parts', { keyPath: ['studyId', 'kind', 'id'] })
        .createIndex('studyId', 'studyId');
    },
  }).catch((error: unknown) => {
    database = undefined;
    throw error;
  });
  return database;
}

/** A browser that cannot store has no copies, and goes on without. */
const quietly = (doing: Promise<unknown>): void => {
  doing.catch(() => undefined);
};

async function putDocument(document: StudyDocument, since: number): Promise<void> {
  const { id } = document.study;
  const transaction = (await open()).transaction(['studies', 'parts'], 'readwrite');
  const parts = transaction.objectStore('parts');
  // What came while the study was being fetched may not be in it.
  for (const { studyId, kind, id: partId, at: cameAt } of await parts.index('studyId').getAll(id)) {
    if (cameAt < since) await parts.delete([studyId, kind, partId]);
  }
  if (document.readings.length <= MOST_READINGS)
    await transaction.objectStore('studies').put({ id, document });
  else await transaction.objectStore('studies').delete(id);
  await transaction.done;
}

async function putPart(studyId: string, kind: Kind, id: string, part: AnyPart | null): Promise<void> {
  await (await open()).put('parts', { studyId, kind, id, part, at: Date.now() });
}

/** Keeps a study as it was fetched. @param since when the fetch began, in ms */
export const copyDocument = (document: StudyDocument, since: number): void => {
  quietly(putDocument(document, since));
};

/** Keeps what was recorded or changed of a study since it was fetched. */
export const copyPart = <T extends AnyPart>(studyId: string, kind: Kind, part: T): void => {
  quietly(putPart(studyId, kind, part.id, part));
};

/** Keeps that something is gone. */
export const copyWithout = (studyId: string, kind: PartKind, id: string): void => {
  quietly(putPart(studyId, kind, id, null));
};

/** A study with what has changed of it. */
function brought(document: StudyDocument, changes: readonly Schema['parts']['value'][]): StudyDocument {
  const now: StudyDocument = { ...document };
  for (const { kind, id, part } of changes) {
    if (kind === 'study') {
      if (part && part.version >= now.study.version) now.study = part as Study;
      continue;
    }
    const parts = now[kind] as AnyPart[];
    const known = parts.find((other) => other.id === id);
    if (part === null) now[kind] = parts.filter((other) => other.id !== id) as never;
    else if (!known) now[kind] = [...parts, part] as never;
    else if (part.version >= known.version) {
      now[kind] = parts.map((other) => (other === known ? part : other)) as never;
    }
  }
  return now;
}

/** The copy of a study in this browser; undefined where there is none. */
export async function copyOf(studyId: string): Promise<StudyDocument | undefined> {
  try {
    const store = await open();
    const held = await store.get('studies', studyId);
    if (!held) return undefined;
    const changes = await store.getAllFromIndex('parts', 'studyId', studyId);
    return brought(
      held.document,
      changes.sort((a, b) => a.at - b.at || byText(a.id, b.id)),
    );
  } catch {
    return undefined;
  }
}

/** The studies that this browser holds copies of. */
export async function copiedStudies(): Promise<Study[]> {
  try {
    const held = await (await open()).getAll('studies');
    return held.map(({ document }) => document.study);
  } catch {
    return [];
  }
}
