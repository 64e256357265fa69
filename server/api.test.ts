import { v7 } from 'uuid';
import type { StudyPreview } from '../core/analysis/preview.ts';
import { newCondition, newSession } from '../core/plan/new-parts.ts';
import { describe, expect, it } from 'vitest';
import { type TestServer, errorsOf, sharedServer } from './testing.ts';

const server = await sharedServer();

it('says that it is well', async () => {
  const { status, body } = await server.send('GET', '/health');
  expect([status, body]).toEqual([200, { name: 'brackenridge', ok: true }]);
});

describe('creating', () => {
  it('records the same request once', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const reading = server.readingFields(itemId, measurandId, '3.4');
    const first = await server.send('POST', `/studies/${studyId}/readings`, reading);
    const again = await server.send('POST', `/studies/${studyId}/readings`, reading);
    expect([first.status, again.status]).toEqual([201, 200]);
    expect(again.body).toEqual(first.body);
    expect((await server.send('GET', `/studies/${studyId}/readings`)).body).toHaveLength(1);
  });
  it('refuses another reading under the same id, and keeps the first', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const reading = server.readingFields(itemId, measurandId, '3.4');
    await server.send('POST', `/studies/${studyId}/readings`, reading);
    const other = await server.send('POST', `/studies/${studyId}/readings`, { ...reading, round: 2 });
    expect(other.status).toBe(409);
    expect((await server.send('GET', `/studies/${studyId}/readings/${reading.id}`)).body.round).toBe(1);
  });
  it('gives back what was stored, field by field', async () => {
    const studyId = await server.newStudy();
    const item = { ...server.itemFields('Ama', 'A'), attributes: [{ name: 'Mass', value: 12.5, unit: 'g' }] };
    const { body } = await server.send('POST', `/studies/${studyId}/items`, item);
    expect(body).toMatchObject({ ...item, studyId, version: 1 });
  });
  it.each(['factors', 'levels', 'conditions', 'sessions'])('has a table for %s', async (kind) => {
    const studyId = await server.newStudy();
    const factorId = v7();
    const bodies: Record<string, object> = {
      factors: { id: v7(), name: 'Pressure', kind: 'numeric', unit: 'bar', irreversible: false, position: 1 },
      levels: { id: v7(), factorId, name: 'two', value: 2, baseline: true, position: 1 },
      conditions: {
        ...{ id: v7(), ...newCondition('Air', '°C', 1) },
        ...{ tolerableDrift: 1, limits: { low: null, high: 30 } },
      },
      sessions: { id: v7(), ...newSession('2026-05-04T10:00:00Z') },
    };
    if (kind === 'levels') {
      await server.send('POST', `/studies/${studyId}/factors`, { ...bodies.factors, id: factorId });
    }
    const made = await server.send('POST', `/studies/${studyId}/${kind}`, bodies[kind]);
    expect(made.status).toBe(201);
    expect((await server.send('GET', `/studies/${studyId}/${kind}`)).body).toMatchObject([
      bodies[kind] as object,
    ]);
  });
});

// ISO 8601-1: calendar dates have four, two and two figures, and are days that there are.
describe('a date of calibration', () => {
  it.each([
    ['2026-02-28', 200],
    ['2028-02-29', 200],
    ['2026-02-30', 422],
    ['2026-02-29', 422],
    ['2026-2-3', 422],
    ['03.02.2026', 422],
    ['2026-02-03T10:00:00Z', 422],
  ])('%s is answered with %i', async (calibratedOn, status) => {
    const { studyId, measurandId } = await server.readyStudy();
    const instrument = {
      ...{ name: 'Balance', resolution: null, accuracyPercent: null, accuracyConstant: null },
      calibratedOn,
    };
    const answer = await server.send('PATCH', `/studies/${studyId}/measurands/${measurandId}`, {
      version: 1,
      instrument,
    });
    expect(answer.status).toBe(status);
    if (status === 422) expect(errorsOf(answer.body)[0]?.path).toBe('/instrument/calibratedOn');
  });
});

describe('bad input is answered with where and what', () => {
  const bad: [string, (s: TestServer) => object, string, RegExp][] = [
    ['an empty name', (s) => s.itemFields('', 'A'), '/name', /must not be empty/],
    ['a blank name', (s) => s.itemFields('   ', 'A'), '/name', /must not be empty/],
    [
      'a name of 300 characters',
      (s) => s.itemFields('x'.repeat(300), 'A'),
      '/name',
      /at most 120 characters; this has 300/,
    ],
    ['a code with a space', (s) => s.itemFields('Ama', 'A 1'), '/code', /must not contain spaces/],
    [
      'a mark that is text',
      (s) => ({ ...s.itemFields('Ama', 'A'), mark: 'one' }),
      '/mark',
      /must be a whole number/,
    ],
    [
      'an unknown role',
      (s) => ({ ...s.itemFields('Ama', 'A'), role: 'winner' }),
      '/role',
      /one of candidate, baseline, control/,
    ],
    [
      'an unknown field',
      (s) => ({ ...s.itemFields('Ama', 'A'), colour: 'red' }),
      '/colour',
      /There is no field/,
    ],
    ['a missing field', () => ({ id: v7(), name: 'Ama' }), '/code', /is missing/],
    ['an id that is none', (s) => ({ ...s.itemFields('Ama', 'A'), id: '7' }), '/id', /not a valid uuid/],
    [
      'text deep inside',
      (s) => ({ ...s.itemFields('Ama', 'A'), attributes: [{ name: 'Mass', value: 'heavy', unit: 'g' }] }),
      '/attributes/0/value',
      /must be a number/,
    ],
  ];
  it.each(bad)('%s', async (_what, body, path, message) => {
    const studyId = await server.newStudy();
    const answer = await server.send('POST', `/studies/${studyId}/items`, body(server));
    expect(answer.status).toBe(422);
    expect(answer.headers.get('content-type')).toContain('application/problem+json');
    expect(errorsOf(answer.body)[0]?.path).toBe(path);
    expect(errorsOf(answer.body)[0]?.message).toMatch(message);
  });
  it('a reading at a level that the study does not have', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const reading = {
      ...server.readingFields(itemId, measurandId, '3.4'),
      levels: [{ factorId: v7(), levelId: v7() }],
    };
    const answer = await server.send('POST', `/studies/${studyId}/readings`, reading);
    expect([answer.status, errorsOf(answer.body)[0]?.path]).toEqual([422, '/levels/0']);
  });
  it('duplicate names and codes, whatever their case', async () => {
    const studyId = await server.newStudy();
    await server.send('POST', `/studies/${studyId}/items`, server.itemFields('Ama', 'A'));
    const answer = await server.send('POST', `/studies/${studyId}/items`, server.itemFields('ama', 'a'));
    expect(answer.status).toBe(422);
    expect(errorsOf(answer.body).map(({ path }) => path)).toEqual(['/code', '/name']);
  });
  it('takes a right-to-left name as it is', async () => {
    const studyId = await server.newStudy();
    const { status, body } = await server.send(
      'POST',
      `/studies/${studyId}/items`,
      server.itemFields('מאוורר', 'מ'),
    );
    expect([status, body.name]).toEqual([201, 'מאוורר']);
  });
  it('negative margins and limits the wrong way round', async () => {
    const studyId = await server.newStudy();
    const negative = { ...server.measurandFields(), margin: { kind: 'absolute', value: -1 } };
    const first = await server.send('POST', `/studies/${studyId}/measurands`, negative);
    expect(errorsOf(first.body)[0]).toMatchObject({ path: '/margin/value' });
    const turned = { ...server.measurandFields(), limits: { low: 5, high: 1 } };
    const second = await server.send('POST', `/studies/${studyId}/measurands`, turned);
    expect(errorsOf(second.body)[0]?.message).toContain('must be below the upper limit 1');
  });
  it('numbers that are none: NaN, 1e999, text', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const reading = server.readingFields(itemId, measurandId, '3');
    const nan = await server.send(
      'POST',
      `/studies/${studyId}/readings`,
      JSON.stringify(reading).replace('"number":3', '"number":NaN'),
    );
    expect([nan.status, nan.body.title]).toEqual([400, 'Not JSON']);
    const huge = await server.send(
      'POST',
      `/studies/${studyId}/readings`,
      JSON.stringify(reading).replace('"number":3', '"number":1e999'),
    );
    expect(huge.status).toBe(422);
    expect(errorsOf(huge.body)[0]).toMatchObject({ path: '/parts/0/number' });
    const text = { ...reading, parts: [{ name: 'value', text: 'three', number: 3 }] };
    const wrong = await server.send('POST', `/studies/${studyId}/readings`, text);
    expect(errorsOf(wrong.body)[0]).toMatchObject({ path: '/parts/0/text' });
    expect((await server.send('GET', `/studies/${studyId}/readings`)).body).toEqual([]);
  });
  it('a NUL character, and nothing else that only looks dangerous', async () => {
    const studyId = await server.newStudy();
    const nul = await server.send('POST', `/studies/${studyId}/items`, server.itemFields('A\u0000ma', 'A'));
    expect(errorsOf(nul.body)[0]).toMatchObject({ path: '/name' });
    const address = await server.send('GET', `/studies/${studyId}%00`);
    expect([address.status, address.body.detail]).toEqual([404, 'There is nothing at this address.']);
    const name = `O'x \\' "; DROP TABLE items; --`;
    const { status, body } = await server.send(
      'POST',
      `/studies/${studyId}/items`,
      server.itemFields(name, "';--"),
    );
    expect([status, body.name, body.code]).toEqual([201, name, "';--"]);
    const copy = { id: v7(), title: name, extent: 'everything' };
    await server.send('POST', `/studies/${studyId}/duplicate`, copy);
    const copied = await server.send('GET', `/studies/${copy.id}/items`);
    expect(copied.body).toMatchObject([{ name }]);
  });
  it('a reading of an item that another study has', async () => {
    const first = await server.readyStudy();
    const second = await server.readyStudy();
    const reading = server.readingFields(first.itemId, second.measurandId, '3');
    const answer = await server.send('POST', `/studies/${second.studyId}/readings`, reading);
    expect(errorsOf(answer.body)[0]).toMatchObject({ path: '/itemId' });
  });
  it('an unknown study, part and address', async () => {
    const studyId = await server.newStudy();
    for (const address of [
      `/studies/${v7()}`,
      `/studies/${v7()}/document`,
      `/studies/${studyId}/items/${v7()}`,
      '/nothing',
      `/studies/${studyId}/nothing`,
    ]) {
      const { status, body } = await server.send('GET', address);
      expect([address, status]).toEqual([address, 404]);
      expect(String(body.detail)).toMatch(/\.$/);
    }
  });
  it('a body that is too large, whatever its header says', async () => {
    const body = `{"title":"${'x'.repeat(2 * 1024 * 1024)}"}`;
    expect((await server.send('POST', '/studies', body)).status).toBe(413);
    const stream = new ReadableStream({
      pull(controller) {
        controller.enqueue(new Uint8Array(65536).fill(120));
      },
    });
    const response = await server.app.request('http://127.0.0.1:4680/api/v1/studies/import', {
      method: 'POST',
      headers: { host: '127.0.0.1:4680', 'content-type': 'text/csv' },
      body: stream,
      duplex: 'half',
    } as RequestInit);
    expect(response.status).toBe(413);
  });
  it('a count in the address that is none', async () => {
    const { studyId } = await server.readyStudy();
    const asked = (count: string) => server.send('GET', `/studies/${studyId}/document?readings=${count}`);
    for (const [count, shown] of [
      ['ten', 'ten'],
      ['-1', '-1'],
      ['1.5', '1.5'],
      ['1234567', '1234567'],
      ['x'.repeat(90), `${'x'.repeat(40)}…`],
    ] as const) {
      const { status, body } = await asked(count);
      expect([status, body.detail]).toEqual([400, `“readings” is a whole number, not “${shown}”.`]);
    }
    for (const count of ['0', '999999']) expect((await asked(count)).status).toBe(200);
  });
  it('another media type, and half a JSON', async () => {
    expect(
      (await server.send('POST', '/studies', 'a=b', { 'content-type': 'application/x-www-form-urlencoded' }))
        .status,
    ).toBe(415);
    expect((await server.send('POST', '/studies', '{"id":')).status).toBe(400);
  });
});

describe('a study', () => {
  it('is made once', async () => {
    const study = { id: v7(), title: 'Once', question: '', rounds: 3, seed: 1 };
    const sent = [await server.send('POST', '/studies', study), await server.send('POST', '/studies', study)];
    expect(sent.map(({ status }) => status)).toEqual([201, 200]);
    expect(sent[1]?.body).toEqual(sent[0]?.body);
    const other = await server.send('POST', '/studies', { ...study, title: 'Twice' });
    expect([other.status, other.body.title]).toEqual([409, 'Id taken']);
  });
});

describe('studies', () => {
  it('are listed as they are, whatever is written about one after it was listed', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const here = `/studies/${studyId}`;
    const listed = async () => {
      for (;;) {
        const all = (await server.send('GET', '/studies')).body as unknown as {
          study: { id: string; title: string };
          preview: StudyPreview;
          renewing?: boolean;
        }[];
        const found = all.find(({ study }) => study.id === studyId);
        // The list does not wait long for a preview, and says that it is being made.
        if (!found?.renewing) return found;
      }
    };
    expect((await listed())?.preview).toMatchObject({ means: [null], runs: { done: 0, of: 3 } });
    const reading = server.readingFields(itemId, measurandId, '3.4');
    await server.send('POST', `${here}/readings`, reading);
    expect((await listed())?.preview).toMatchObject({ means: [3.4], runs: { done: 1, of: 3 } });
    const left = { id: v7(), action: 'leave-out', readingId: reading.id, sessionId: null, run: null };
    await server.send('POST', `${here}/decisions`, { ...left, reason: 'door', decidedAt: reading.takenAt });
    expect((await listed())?.preview).toMatchObject({ means: [null], marks: [{ out: true }] });
    await server.send('PATCH', `${here}/items/${itemId}`, { version: 1, name: 'Amarel' });
    expect((await listed())?.preview.items).toMatchObject([{ name: 'Amarel' }]);
    await server.send('PATCH', here, { version: 1, rounds: 5 });
    expect((await listed())?.preview.runs.of).toBe(5);
    const more = server.itemFields('Bel', 'B');
    await server.send('POST', `${here}/items`, more);
    expect((await listed())?.preview.items).toHaveLength(2);
    await server.send('DELETE', `${here}/items/${more.id}?version=1`);
    expect((await listed())?.preview.items).toHaveLength(1);
  });
  it('are deleted and brought back', async () => {
    const studyId = await server.newStudy('Short-lived');
    const listed = async () =>
      ((await server.send('GET', '/studies')).body as unknown as { study: { id: string } }[]).some(
        ({ study }) => study.id === studyId,
      );
    expect(await listed()).toBe(true);
    await server.send('DELETE', `/studies/${studyId}?version=1`);
    expect(await listed()).toBe(false);
    expect((await server.send('PATCH', `/studies/${studyId}`, { version: 2, status: 'open' })).status).toBe(
      200,
    );
    expect(await listed()).toBe(true);
  });
  it('are copied once for a request that is repeated', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    await server.send('POST', `/studies/${studyId}/readings`, server.readingFields(itemId, measurandId, '3'));
    const request = { id: v7(), title: 'Copy', extent: 'everything' };
    await server.send('POST', `/studies/${studyId}/duplicate`, request);
    await server.send('POST', `/studies/${studyId}/duplicate`, request);
    const { body } = await server.send('GET', `/studies/${request.id}/document`);
    expect(body.readings).toHaveLength(1);
    const other = { ...request, title: 'Another' };
    expect((await server.send('POST', `/studies/${studyId}/duplicate`, other)).status).toBe(409);
    const plan = { id: v7(), title: 'Plan', extent: 'plan' };
    await server.send('POST', `/studies/${studyId}/duplicate`, plan);
    expect((await server.send('GET', `/studies/${plan.id}/document`)).body.readings).toEqual([]);
  });
});

describe('who may speak to the server', () => {
  const ask = (headers: Record<string, string>, method = 'GET') =>
    server.app.request('http://127.0.0.1:4680/api/v1/studies', {
      method,
      headers: { host: '127.0.0.1:4680', ...headers },
      ...(method === 'POST' ? { body: '{}' } : {}),
    });
  it('is this machine under its loopback names', async () => {
    for (const host of ['127.0.0.1:4680', 'localhost:4680', '[::1]:4680'])
      expect((await ask({ host })).status).toBe(200);
    for (const host of ['bench.example:4680', '127.0.0.1.bench.example', '10.0.0.2:4680', '']) {
      expect((await ask({ host })).status).toBe(421);
    }
  });
  it('is no page of another site', async () => {
    const json = { 'content-type': 'application/json' };
    expect((await ask({ ...json, origin: 'http://bench.example' }, 'POST')).status).toBe(403);
    expect((await ask({ ...json, origin: 'null' }, 'POST')).status).toBe(403);
    expect((await ask({ ...json, origin: 'http://127.0.0.1:9999' }, 'POST')).status).toBe(403);
    expect((await ask({ ...json, 'sec-fetch-site': 'cross-site' }, 'POST')).status).toBe(403);
    expect((await ask({ 'sec-fetch-site': 'cross-site' })).status).toBe(403);
    expect((await ask({ ...json, origin: 'http://127.0.0.1:4680' }, 'POST')).status).toBe(422);
  });
  it('is told to run no script that is not a file', async () => {
    const policy = (await ask({})).headers.get('content-security-policy') ?? '';
    expect(policy).toContain("script-src 'self';");
    expect(policy).not.toContain('unsafe');
    expect(policy).toContain("frame-ancestors 'none'");
  });
  it('lets a worker compile what it brings along, and nobody else', async () => {
    const policyOf = async (place: string) => {
      const answer = await server.app.request(`http://127.0.0.1:4680${place}`, {
        headers: { host: '127.0.0.1:4680' },
      });
      return answer.headers.get('content-security-policy') ?? '';
    };
    expect(await policyOf('/assets/recording.worker-Hd8S74Gm.js')).toContain("'self' 'wasm-unsafe-eval';");
    for (const place of ['/', '/assets/index-Hd8S74Gm.js', '/study/recording.worker-x.js', '/api/v1/studies'])
      expect(await policyOf(place)).not.toContain('unsafe');
  });
});

describe('a listener', () => {
  it('that never reads is dropped before it fills the memory', async () => {
    const studyId = await server.newStudy();
    const response = await server.app.request(
      `http://127.0.0.1:4680/api/v1/studies/${studyId}/live?tab=${v7()}`,
      { headers: { host: '127.0.0.1:4680' } },
    );
    const reader = (response.body as ReadableStream<Uint8Array>).getReader();
    let version = 1;
    for (let i = 0; i < 1100; i += 1) {
      const question = `${String(i)} ${'x'.repeat(3900)}`;
      const { body } = await server.send('PATCH', `/studies/${studyId}`, { version, question });
      version = Number(body.version);
    }
    let read = 0;
    for (;;) {
      const { done, value } = await reader.read().catch(() => ({ done: true, value: undefined }));
      if (done) break;
      read += value?.length ?? 0;
    }
    expect(read).toBeLessThan(4.2e6);
  });
});
