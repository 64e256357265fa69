import { readdirSync, writeFileSync } from 'node:fs';
import { type AddressInfo, createServer } from 'node:net';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { measureRecording } from '../core/formats/recording.ts';
import { wavHead } from '../core/formats/wav.ts';
import { writtenHead } from '../core/formats/wav-write.ts';
import type { InstrumentState, RunningRecording } from '../core/model/instrument.ts';
import type { FilePart } from '../core/model/parts.ts';
import { type Served, serveStandIn } from '../instruments/serve.ts';
import { StandIn } from '../instruments/stand-in.ts';
import { soundRecorder } from '../instruments/stand-ins/sound-recorder.ts';
import { soundLevelMeter } from '../instruments/stand-ins/sound-level-meter.ts';
import type { Model } from '../instruments/meter.ts';
import { InstrumentRecordings } from './instruments/recordings.ts';
import { keptIn } from './kept.ts';
import { sharedServer } from './testing.ts';

const server = await sharedServer();

async function connectedTo(port: number): Promise<{ id: string }> {
  const { body } = await server.send('POST', '/instruments', { host: '127.0.0.1', port });
  const { id } = body as unknown as InstrumentState;
  await vi.waitFor(async () => {
    const list = (await server.send('GET', '/instruments')).body as unknown as InstrumentState[];
    expect(list.find((found) => found.id === id)?.state).toBe('ready');
  }, 60_000);
  return { id };
}

async function connected(model: Model): Promise<{ id: string; standIn: Served }> {
  const standIn = await serveStandIn(new StandIn(model, 3), 0);
  return { ...(await connectedTo(standIn.port)), standIn };
}

/** Something at a port that says this of itself, sends these lines once it is to record, and knows what it was told. */
async function something(configured: string, lines: readonly string[]) {
  const told: string[] = [];
  const server = createServer((socket) => {
    socket.on('error', () => undefined);
    socket.on('data', (bytes) => {
      for (const line of String(bytes).split('\n')) {
        told.push(line);
        if (line === '*IDN?') socket.write('A,Something odd,1,1\n');
        else if (line === 'CONF?') socket.write(`${configured}\n`);
        else if (line === 'READ?') socket.write('1\n');
        else if (line === 'PCM ON') socket.write(`${lines.join('\n')}\n`);
      }
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  return { ...(await connectedTo(port)), told, close: () => server.close() };
}

let recorder: Awaited<ReturnType<typeof connected>>;
beforeAll(async () => {
  recorder = await connected(soundRecorder);
});
afterAll(() => recorder.standIn.close());

const running = async (studyId: string) =>
  (await server.send('GET', `/studies/${studyId}/recordings`)).body as unknown as RunningRecording[];
const begin = async (studyId: string, instrumentId: string) =>
  server.send('POST', `/studies/${studyId}/recordings`, { instrumentId });
const stop = (studyId: string, id: unknown) =>
  server.send('POST', `/studies/${studyId}/recordings/${String(id)}/stop`);
const bytesOf = async ({ file }: FilePart) =>
  new Uint8Array(
    await (
      await server.app.request(`http://127.0.0.1:4680/api/v1/files/${file}`, {
        headers: { host: '127.0.0.1:4680' },
      })
    ).arrayBuffer(),
  );
const reading = (bytes: Uint8Array) => (from: number, length: number) =>
  Promise.resolve(bytes.subarray(from, from + length));
const studyWith = async () => (await server.readyStudy()).studyId;

describe('what an instrument hears, recorded', () => {
  it('becomes a file of the study, with the calibrator’s tone in it', async () => {
    const studyId = await studyWith();
    const begun = await begin(studyId, recorder.id);
    expect(begun.status).toBe(201);
    expect((await begin(studyId, recorder.id)).status).toBe(409);
    expect((await begin(studyId, recorder.id)).body.detail).toBe(
      'Sound recorder stand-in is being recorded already.',
    );
    await expect
      .poll(async () => (await running(studyId))[0]?.seconds ?? 0, { timeout: 15000 })
      .toBeGreaterThan(2.2);
    // The calibrator’s 94 dB, where a sample of 1 is 104 dB.
    expect((await running(studyId))[0]?.level).toBeCloseTo(-10, 0);
    expect(await running(await studyWith())).toEqual([]);
    const stopped = await stop(studyId, begun.body.id);
    expect(stopped.status).toBe(201);
    expect(await running(studyId)).toEqual([]);
    const file = stopped.body as unknown as FilePart;
    expect(file.name).toMatch(/^Recording, \d{4}-\d\d-\d\d \d\d:\d\d$/);
    const bytes = await bytesOf(file);
    expect(bytes.length).toBe(file.bytes);
    const head = await wavHead(reading(bytes), bytes.length);
    expect(head).toMatchObject({ channels: 1, sampleRate: 48000, bits: 16, remarks: [] });
    expect(head.recordedAt).toMatch(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d$/);
    const tone = { read: reading(bytes), size: bytes.length, window: { from: 1, to: 2 } };
    const { channels } = await measureRecording(tone, { weighting: 'A' });
    expect((channels[0]?.equivalent ?? 0) + 104).toBeCloseTo(94, 1);
    expect((await stop(studyId, begun.body.id)).status).toBe(404);
    // It is one of the study’s files from now on.
    const { body } = await server.send('GET', `/studies/${studyId}/files`);
    expect((body as unknown as FilePart[]).map(({ id }) => id)).toEqual([file.id]);
  });
  it('is refused where there is nothing to hear with', async () => {
    const studyId = await studyWith();
    const meter = await connected(soundLevelMeter);
    expect((await begin(studyId, meter.id)).body.detail).toBe(
      'Sound level meter stand-in sends no sound just now.',
    );
    await meter.standIn.close();
    expect((await begin(studyId, '127.0.0.1:1')).status).toBe(404);
    expect((await begin('no-study', recorder.id)).status).toBe(404);
    expect(
      (await server.send('POST', `/studies/${studyId}/recordings`, { instrumentId: recorder.id, more: 1 }))
        .status,
    ).toBe(422);
  });
  it('is refused for a study that was deleted', async () => {
    const studyId = await studyWith();
    const { body } = await server.send('GET', `/studies/${studyId}`);
    await server.send('DELETE', `/studies/${studyId}?version=${String(body.version)}`);
    const refused = await begin(studyId, recorder.id);
    expect([refused.status, refused.body.title]).toEqual([409, 'Deleted']);
  });
  it('is nothing where it was stopped at once', async () => {
    const studyId = await studyWith();
    const begun = await begin(studyId, recorder.id);
    const stopped = await stop(studyId, begun.body.id);
    expect([stopped.status, stopped.body.detail]).toEqual([
      409,
      'It was stopped before anything was heard: nothing was kept.',
    ]);
    expect(readdirSync(keptIn(server.folder).files).filter((name) => name.endsWith('.rec'))).toEqual([]);
  });
  it('ends where the recorder goes away, and what it sent is kept', async () => {
    const studyId = await studyWith();
    const other = await connected(soundRecorder);
    const begun = await begin(studyId, other.id);
    await expect
      .poll(async () => (await running(studyId))[0]?.seconds ?? 0, { timeout: 15000 })
      .toBeGreaterThan(0.3);
    await other.standIn.close();
    await expect
      .poll(async () => (await running(studyId))[0]?.problem)
      .toBe('The recorder went away: stop it, and what it sent until then is kept.');
    const stopped = await stop(studyId, begun.body.id);
    expect(stopped.body.name).toMatch(/, cut off$/);
    const bytes = await bytesOf(stopped.body as unknown as FilePart);
    expect((await wavHead(reading(bytes), bytes.length)).frames).toBeGreaterThan(10000);
  });
  it.each([
    ['999999,1', 'more samples a second than can be read'],
    ['48000,9', 'more channels than can be read'],
    ['48000,0', 'no channel'],
    ['many,1', 'no number'],
  ])('is refused of an instrument that says %s: %s', async (sound) => {
    const odd = await something(`"dB FS",0.1,${sound}`, []);
    expect((await begin(await studyWith(), odd.id)).status).toBe(409);
    odd.close();
  });
  it('ends where the recorder is let go of', async () => {
    const { id: instrumentId, standIn } = await connected(soundRecorder);
    const studyId = await studyWith();
    const { body } = await begin(studyId, instrumentId);
    await expect.poll(async () => (await running(studyId))[0]?.seconds ?? 0).toBeGreaterThan(0.3);
    await server.send('DELETE', `/instruments/${instrumentId}`);
    expect((await running(studyId))[0]?.problem).toContain('The recorder went away');
    expect((await stop(studyId, body.id)).status).toBe(201);
    await standIn.close();
  });
  it('is what came of lines that are no samples, or half of one', async () => {
    // “AAAA” are three bytes: a sample and half of one. “!!” are none.
    const odd = await something('"dB FS",0.1,8000,1', ['PCM AAAA', 'PCM !!', 'PCM', 'PCM AAAAAAAA']);
    const studyId = await studyWith();
    const begun = await begin(studyId, odd.id);
    await expect.poll(async () => (await running(studyId))[0]?.seconds).toBe(4 / 8000);
    const stopped = await stop(studyId, begun.body.id);
    const bytes = await bytesOf(stopped.body as unknown as FilePart);
    expect(await wavHead(reading(bytes), bytes.length)).toMatchObject({ frames: 4, sampleRate: 8000 });
    // It is not to go on when nobody listens.
    await expect.poll(() => odd.told.filter((line) => line.startsWith('PCM'))).toEqual(['PCM ON', 'PCM OFF']);
    odd.close();
  });
  it('ends where the study has no room for more', async () => {
    const folder = keptIn(server.folder).files;
    const recordings = new InstrumentRecordings(folder, server.instruments);
    const studyId = crypto.randomUUID();
    const { id } = recordings.start(studyId, recorder.id, 10000);
    await expect
      .poll(() => recordings.list(studyId)[0]?.problem)
      .toBe('No room is left for more: stop it, and begin another.');
    const kept = await recordings.stop(studyId, id);
    // Four lines of 1,200 samples fit in.
    expect([kept?.title.endsWith(', cut off'), kept?.bytes]).toEqual([true, 44 + 610 + 4 * 2400]);
  });
  it('is kept as far as it came where the server was killed', async () => {
    const folder = keptIn(server.folder).files;
    const studyId = '01900000-0000-7000-8000-000000000001';
    const about = {
      description: 'Recording, 2026-05-04 10:00',
      reference: studyId.replaceAll('-', ''),
      begunAt: '2026-05-04T12:00:00',
    };
    const head = writtenHead({ sampleRate: 48000, channels: 1, dataBytes: 0, about });
    writeFileSync(path.join(folder, 'cut.rec'), Buffer.concat([head, new Uint8Array(9600).fill(7)]));
    writeFileSync(path.join(folder, 'short.rec'), head);
    writeFileSync(path.join(folder, 'odd.rec'), 'nothing of ours');
    const [left, ...others] = await new InstrumentRecordings(folder, server.instruments).left();
    expect([left?.title, left?.studyId, others]).toEqual([
      'Recording, 2026-05-04 10:00, cut off',
      studyId,
      [],
    ]);
    const bytes = await bytesOf({ file: left?.file } as FilePart);
    expect(await wavHead(reading(bytes), bytes.length)).toMatchObject({
      ...{ frames: 4800, recordedAt: '2026-05-04T12:00:00', remarks: [] },
    });
    // Its first size counts all that follows it.
    expect(Buffer.from(bytes).readUInt32LE(4)).toBe(bytes.length - 8);
    expect(readdirSync(folder)).not.toContain('short.rec');
    expect(readdirSync(folder)).toContain('odd.rec');
  });
});
