import { readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { readTrace } from '../core/formats/trace-csv.ts';
import type { InstrumentState, RunningLog } from '../core/model/instrument.ts';
import type { FilePart } from '../core/model/parts.ts';
import { serveStandIn } from '../instruments/serve.ts';
import { StandIn } from '../instruments/stand-in.ts';
import { thermocoupleLogger } from '../instruments/stand-ins/thermocouple-logger.ts';
import { InstrumentLogs } from './instruments/logs.ts';
import { keptIn } from './kept.ts';
import { sharedServer } from './testing.ts';

const server = await sharedServer();
const standIn = await serveStandIn(new StandIn(thermocoupleLogger, 3), 0);
afterAll(() => standIn.close());

async function connected(): Promise<string> {
  const { body } = await server.send('POST', '/instruments', { host: '127.0.0.1', port: standIn.port });
  const { id } = body as unknown as InstrumentState;
  await expect
    .poll(async () => {
      const list = (await server.send('GET', '/instruments')).body as unknown as InstrumentState[];
      return list.find((found) => found.id === id)?.state;
    })
    .toBe('ready');
  return id;
}
const fileText = async ({ file }: FilePart) =>
  (
    await server.app.request(`http://127.0.0.1:4680/api/v1/files/${file}`, {
      headers: { host: '127.0.0.1:4680' },
    })
  ).text();

describe('what an instrument shows, written down', () => {
  it('becomes a file of the study, with a row for each look', async () => {
    const { studyId } = await server.readyStudy();
    const instrumentId = await connected();
    const address = `/studies/${studyId}/logs`;
    const asked = { instrumentId, column: 'Flask, "1"', periodS: 0.2 };
    const begun = await server.send('POST', address, asked);
    expect(begun.status).toBe(201);
    const twice = await server.send('POST', address, asked);
    expect(twice.body.detail).toBe('This instrument is being logged already, for Flask, "1".');
    const running = async () => (await server.send('GET', address)).body as unknown as RunningLog[];
    await expect.poll(async () => (await running())[0]?.rows ?? 0).toBeGreaterThan(4);
    expect((await running())[0]).toMatchObject({ column: 'Flask, "1"', unit: '°C', problem: null });
    const { id } = begun.body as unknown as RunningLog;
    const stopped = await server.send('POST', `${address}/${id}/stop`);
    expect(stopped.status).toBe(201);
    expect(await running()).toEqual([]);
    const file = stopped.body as unknown as FilePart;
    expect(file.name).toMatch(/^Flask, "1", \d{4}-\d\d-\d\d \d\d:\d\d$/);
    const trace = readTrace(await fileText(file));
    expect(trace.columns.map(({ name, unit }) => [name, unit])).toEqual([['Flask, "1"', '°C']]);
    expect(trace.times.length).toBeGreaterThan(4);
    expect(trace.stepS).toBeCloseTo(0.2, 1);
    expect((await server.send('POST', `${address}/${id}/stop`)).status).toBe(404);
  });
  it('goes on where the instrument is let go of and connected again, with empty rows between', async () => {
    const { studyId } = await server.readyStudy();
    const instrumentId = await connected();
    const address = `/studies/${studyId}/logs`;
    const begun = await server.send('POST', address, { instrumentId, column: 'A', periodS: 0.2 });
    const running = async () => ((await server.send('GET', address)).body as unknown as RunningLog[])[0];
    const isShown = (shown: boolean) =>
      expect.poll(async () => ((await running())?.last ?? null) !== null).toBe(shown);
    await isShown(true);
    await server.send('DELETE', `/instruments/${instrumentId}`);
    await isShown(false);
    expect(await connected()).toBe(instrumentId);
    await isShown(true);
    const { id } = begun.body as unknown as RunningLog;
    const file = (await server.send('POST', `${address}/${id}/stop`)).body as unknown as FilePart;
    const rows = (await fileText(file)).trim().split('\n').slice(1);
    expect(rows.map((row) => (row.endsWith(',') ? '-' : '+')).join('')).toMatch(/^\++-+\++$/);
  });
  it('is nothing where it was stopped at once, and refused where there is no instrument', async () => {
    const { studyId } = await server.readyStudy();
    const instrumentId = await connected();
    const address = `/studies/${studyId}/logs`;
    const begun = await server.send('POST', address, { instrumentId, column: 'A', periodS: 60 });
    const { id } = begun.body as unknown as RunningLog;
    const stopped = await server.send('POST', `${address}/${id}/stop`);
    expect([stopped.status, stopped.body.detail]).toEqual([
      409,
      'It was stopped before the second row: nothing was kept.',
    ]);
    expect(readdirSync(keptIn(server.folder).files).filter((name) => name.endsWith('.log'))).toEqual([]);
    const nowhere = { instrumentId: '127.0.0.1:1', column: 'A', periodS: 1 };
    expect((await server.send('POST', address, nowhere)).status).toBe(404);
    expect((await server.send('POST', address, { ...nowhere, periodS: 0 })).status).toBe(422);
  });
  it('is kept as far as it came where the server was killed', async () => {
    const folder = keptIn(server.folder).files;
    const about = { studyId: 'x', column: 'Ama', startedAt: '2026-05-04T10:00:00.000Z' };
    const rows = ['2026-05-04T10:00:00.000Z,80.1', '2026-05-04T10:00:01.000Z,80.0'];
    const text = `# log ${JSON.stringify(about)}\ntime,"Ama (°C)"\n${rows.join('\n')}\n`;
    writeFileSync(path.join(folder, 'cut.log'), text);
    writeFileSync(path.join(folder, 'short.log'), text.split('\n').slice(0, 3).join('\n'));
    writeFileSync(path.join(folder, 'odd.log'), 'nothing of ours');
    const logs = new InstrumentLogs(folder, { connection: () => undefined } as never);
    const [left, ...others] = await logs.left();
    expect([left?.title, left?.studyId, others]).toEqual(['Ama, 2026-05-04 10:00, cut off', 'x', []]);
    expect(readTrace(text).times.length).toBe(2);
    expect(readdirSync(folder)).toContain(left?.file);
    expect(readdirSync(folder)).not.toContain('short.log');
  });
});
