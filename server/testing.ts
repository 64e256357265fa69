import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { v7 } from 'uuid';
import { afterAll } from 'vitest';
import { newItem, newMeasurand } from '../core/plan/new-parts.ts';
import { createApp } from './app.ts';
import { openDatabase } from './sqlite/open.ts';
import { Heavy } from './heavy/heavy.ts';
import { InstrumentDriver } from './instruments/driver.ts';
import { allRows, connect, disconnect } from './sqlite/statements.ts';
import { Store } from './store/store.ts';

/** The thread for long work as it ships: translating it again for each test takes longer than the tests. */
export const BUILT_THREAD = path.join(import.meta.dirname, '../dist/node/heavy.js');

/** A server without a port, on a database file of its own, and short ways to speak to it. */
export async function testServer() {
  const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-'));
  const file = path.join(folder, 'brackenridge.sqlite');
  const database = await openDatabase(file);
  const instruments = new InstrumentDriver();
  const heavy = new Heavy(BUILT_THREAD, file, 60_000);
  const app = createApp(new Store(database), { data: folder, instruments, heavy });

  const send = async (
    method: string,
    address: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<{
    status: number;
    body: Record<string, never> & Record<string, unknown>;
    headers: Headers;
  }> => {
    const text = body === undefined || typeof body === 'string' ? body : JSON.stringify(body);
    const response = await app.request(`http://127.0.0.1:4680/api/v1${address}`, {
      method,
      headers: {
        host: '127.0.0.1:4680',
        ...(text === undefined ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(text === undefined ? {} : { body: text }),
    });
    const answer = await response.text();
    return {
      status: response.status,
      headers: response.headers,
      body: (answer.startsWith('{') || answer.startsWith('[')
        ? JSON.parse(answer)
        : { text: answer }) as never,
    };
  };

  /** Looks into the database, or breaks something in it, past the program. */
  const sql = async (statement: string, values: readonly string[] = []) => {
    const connection = await connect(file);
    connection.configure('busyTimeout', 5000);
    try {
      return await allRows(connection, statement, values);
    } finally {
      await disconnect(connection);
    }
  };

  const newStudy = async (title = 'Test') => {
    const id = v7();
    await send('POST', '/studies', { id, title, question: '', rounds: 3, seed: 1 });
    return id;
  };
  const itemFields = (name: string, code: string) => ({ id: v7(), ...newItem(name, []), code });
  const measurandFields = () => ({ id: v7(), ...newMeasurand('Pull', 1), unit: 'g' });
  const readingFields = (itemId: string, measurandId: string, text: string, round = 1) => ({
    id: v7(),
    itemId,
    measurandId,
    sessionId: null,
    round,
    place: 0,
    levels: [],
    parts: [{ name: 'value', text, number: Number(text) }],
    source: 'typed',
    takenAt: new Date().toISOString(),
  });
  /** A study with one item and one measurand. */
  const readyStudy = async () => {
    const studyId = await newStudy();
    const item = itemFields('Ama', 'A');
    const measurand = measurandFields();
    await send('POST', `/studies/${studyId}/items`, item);
    await send('POST', `/studies/${studyId}/measurands`, measurand);
    return { studyId, itemId: item.id, measurandId: measurand.id };
  };

  return {
    app,
    database,
    instruments,
    folder,
    file,
    send,
    sql,
    newStudy,
    readyStudy,
    itemFields,
    measurandFields,
    readingFields,
    close: async () => {
      instruments.close();
      await heavy.close();
      await database.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

export type TestServer = Awaited<ReturnType<typeof testServer>>;

/** One server for all tests of a file, closed behind them. */
export async function sharedServer(): Promise<TestServer> {
  const server = await testServer();
  afterAll(() => server.close());
  return server;
}

/** The problems that a refusal lists. */
export const errorsOf = (body: { errors?: unknown }) => body.errors as { path: string; message: string }[];
