import { afterEach, describe, expect, it, vi } from 'vitest';
import { newSession } from '../../../core/plan/new-parts.ts';
import { ServerAway } from './client.ts';
import { importReadings } from './import-readings.ts';

const session = { id: 'import', ...newSession('2026-05-04T10:00:00Z') };
const packed = new Blob(['"rows":[]}']);
afterEach(() => {
  vi.unstubAllGlobals();
});

/** A server whose answer to the table breaks off, and that knows whether it was written. */
const breaksOff = (written: boolean | undefined) => {
  vi.stubGlobal('fetch', (_address: string, { method }: { method: string }) =>
    method === 'GET' && written !== undefined
      ? Promise.resolve(new Response(JSON.stringify({ written })))
      : Promise.reject(new TypeError('aborted')),
  );
};
const send = (isStopped: boolean) =>
  importReadings('study', session, packed, isStopped ? AbortSignal.abort() : new AbortController().signal);

describe('a table that is stopped while it is written', () => {
  it.each([true, false])('is told as the server has it, written or not: %s', async (written) => {
    breaksOff(written);
    expect(await send(true)).toBe(written);
  });
  it('is not told to be unwritten where the server is away', async () => {
    breaksOff(undefined);
    await expect(send(true)).rejects.toBeInstanceOf(ServerAway);
  });
  it('was not stopped where the connection broke off by itself', async () => {
    breaksOff(true);
    await expect(send(false)).rejects.toBeInstanceOf(ServerAway);
  });
});
