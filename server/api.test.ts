import { v7 } from 'uuid';
import { newSession } from '../core/plan/new-parts.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import deskFans from '../demo/desk-fans.json' with { type: 'json' };
import { type TestServer, testServer } from './testing.ts';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const errorsOf = (body: { errors?: unknown }) => body.errors as { path: string; message: string }[];

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
  it.each(['factors', 'levels', 'conditions', 'sessions', 'rounds'])('has a table for %s', async (kind) => {
    const studyId = await server.newStudy();
    const factorId = v7();
    const bodies: Record<string, object> = {
      factors: { id: v7(), name: 'Pressure', kind: 'numeric', unit: 'bar', irreversible: false, position: 1 },
      levels: { id: v7(), factorId, name: 'two', value: 2, baseline: true, position: 1 },
      conditions: {
        id: v7(),
        quantity: 'Air',
        unit: '°C',
        required: true,
        tolerableDrift: 1,
        limits: { low: null, high: 30 },
        position: 1,
      },
      sessions: { id: v7(), ...newSession('2026-05-04T10:00:00Z') },
      rounds: { id: v7(), number: 1, sessionId: null, note: '' },
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
    const one = await server.readyStudy();
    const two = await server.readyStudy();
    const reading = server.readingFields(one.itemId, two.measurandId, '3');
    const answer = await server.send('POST', `/studies/${two.studyId}/readings`, reading);
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
  it('another media type, and half a JSON', async () => {
    expect(
      (await server.send('POST', '/studies', 'a=b', { 'content-type': 'application/x-www-form-urlencoded' }))
        .status,
    ).toBe(415);
    expect((await server.send('POST', '/studies', '{"id":')).status).toBe(400);
  });
});

describe('editing by version', () => {
  it('refuses a stale edit and shows what is there', async () => {
    const studyId = await server.newStudy();
    const item = server.itemFields('Ama', 'A');
    await server.send('POST', `/studies/${studyId}/items`, item);
    const address = `/studies/${studyId}/items/${item.id}`;
    const first = await server.send('PATCH', address, { version: 1, name: 'Ama one' });
    expect([first.status, first.body.version]).toEqual([200, 2]);
    const stale = await server.send('PATCH', address, { version: 1, name: 'Ama two' });
    expect(stale.status).toBe(409);
    expect(stale.body.current).toMatchObject({ name: 'Ama one', version: 2 });
  });
  it('lets one of two edits at the same moment through', async () => {
    const studyId = await server.newStudy();
    const edits = await Promise.all(
      ['one', 'two', 'three'].map((title) =>
        server.send('PATCH', `/studies/${studyId}`, { version: 1, title }),
      ),
    );
    expect(edits.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
  });
  it('writes down each change of margin, rule and direction, and how many readings there were', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const address = `/studies/${studyId}/measurands/${measurandId}`;
    const log = async () =>
      (await server.send('GET', `/studies/${studyId}/changes`)).body as unknown as object[];
    await server.send('PATCH', address, { version: 1, margin: { kind: 'absolute', value: 1 } });
    expect(await log()).toMatchObject([{ field: 'margin', readingsThen: 0 }]);
    await server.send('POST', `/studies/${studyId}/readings`, server.readingFields(itemId, measurandId, '3'));
    // The same margin again is no change, nor is another name.
    await server.send('PATCH', address, { version: 2, margin: { kind: 'absolute', value: 1 }, name: 'Push' });
    expect(await log()).toHaveLength(1);
    await server.send('PATCH', address, {
      version: 3,
      margin: { kind: 'absolute', value: 0.5 },
      rule: { name: 'grubbs', parameter: null },
    });
    expect((await log()).slice(1)).toMatchObject([
      {
        measurandId,
        field: 'margin',
        before: '{"kind":"absolute","value":1}',
        after: '{"kind":"absolute","value":0.5}',
        readingsThen: 1,
        reason: '',
      },
      { measurandId, field: 'rule', readingsThen: 1, after: '{"name":"grubbs","parameter":null}' },
    ]);
    const [, late] = (await log()) as { id: string }[];
    const path = `/studies/${studyId}/changes/${(late as { id: string }).id}`;
    const reason = await server.send('PATCH', path, { version: 1, reason: 'The old margin was a guess.' });
    expect(reason.body).toMatchObject({ reason: 'The old margin was a guess.' });
    expect((await server.send('PATCH', path, { version: 2, after: '0' })).status).toBe(422);
    const forged = await server.send('POST', `/studies/${studyId}/changes`, { id: v7() });
    expect(forged.status).toBe(405);
  });
  it('logs a claim from the first word on, and keeps what a claim speaks of', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const claim = {
      id: v7(),
      kind: 'figure',
      measurandId,
      order: [],
      itemId,
      value: 0.5,
      unit: 'kg',
      factorId: null,
      attribute: '',
      stepSize: null,
      source: 'printed on the box',
    };
    const address = `/studies/${studyId}/claims`;
    const wrong = await server.send('POST', address, { ...claim, id: v7(), unit: 's' });
    expect(errorsOf(wrong.body)).toMatchObject([{ path: '/unit', message: '“s” cannot be turned into g.' }]);
    expect((await server.send('POST', address, { ...claim, id: v7(), itemId: null })).status).toBe(422);
    expect((await server.send('POST', address, claim)).status).toBe(201);
    await server.send('POST', `/studies/${studyId}/readings`, server.readingFields(itemId, measurandId, '3'));
    expect((await server.send('PATCH', `${address}/${claim.id}`, { version: 1, value: 0.6 })).status).toBe(
      200,
    );
    const kept = await server.send('DELETE', `/studies/${studyId}/items/${itemId}?version=1`);
    expect(kept.body.detail).toBe('This item has 1 claim and 1 reading, so it stays in the record.');
    expect((await server.send('DELETE', `${address}/${claim.id}?version=2`)).status).toBe(204);
    const log = (await server.send('GET', `/studies/${studyId}/changes`)).body as unknown as {
      after: string;
    }[];
    expect(log).toMatchObject([
      { field: 'claim', before: 'null', readingsThen: 0 },
      { field: 'claim', readingsThen: 1 },
      { field: 'claim', after: 'null', readingsThen: 1 },
    ]);
    expect(JSON.parse(log[1]?.after as string)).toMatchObject({ value: 0.6, source: 'printed on the box' });
  });
  it('refuses a unit under which the readings would mean something else', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const address = `/studies/${studyId}/measurands/${measurandId}`;
    const reading = server.readingFields(itemId, measurandId, '3');
    reading.parts = [{ name: 'value', text: '1 kg', number: 1000 }];
    expect((await server.send('POST', `/studies/${studyId}/readings`, reading)).status).toBe(201);
    const refused = await server.send('PATCH', address, { version: 1, unit: 'oz' });
    expect(errorsOf(refused.body)).toMatchObject([
      { path: '/unit', message: expect.stringContaining('1 reading would mean something else') as string },
    ]);
    expect((await server.send('PATCH', address, { version: 1, name: 'Pull' })).status).toBe(200);
  });
  it('refuses a plan of 50 000 runs with the count, and keeps the plan as it was', async () => {
    const { studyId } = await server.readyStudy();
    const study = async () => (await server.send('GET', `/studies/${studyId}`)).body;
    const many = Array.from({ length: 99 }, (_, i) =>
      server.itemFields(`Item ${String(i)}`, `N${String(i)}`),
    );
    for (const item of many) await server.send('POST', `/studies/${studyId}/items`, item);
    const refused = await server.send('PATCH', `/studies/${studyId}`, { version: 1, rounds: 500 });
    expect(errorsOf(refused.body)).toMatchObject([
      { path: '/rounds', message: expect.stringContaining('50000 runs') as string },
    ]);
    expect(await study()).toMatchObject({ rounds: 3, version: 1 });
  });
  it('opens blind codes once, and says when', async () => {
    const { studyId } = await server.readyStudy();
    const patch = (version: number, blind: string) =>
      server.send('PATCH', `/studies/${studyId}`, { version, blind });
    expect((await patch(1, 'blind')).status).toBe(200);
    expect((await patch(2, 'opened')).status).toBe(200);
    expect(errorsOf((await patch(3, 'blind')).body)).toMatchObject([{ path: '/blind' }]);
    const log = (await server.send('GET', `/studies/${studyId}/changes`)).body;
    expect(log).toMatchObject([
      { field: 'blind', measurandId: null, after: '"blind"' },
      { field: 'blind', measurandId: null, before: '"blind"', after: '"opened"' },
    ]);
  });
  it.each([
    ['a form that does not exist', { form: 'guess' }, '/form'],
    ['a grid of too many cells', { form: 'grid', settings: { rows: 60, columns: 60 } }, '/settings/columns'],
    ['a setting that the form lacks', { settings: { rows: 3 } }, '/settings/rows'],
    ['a yield in another unit', { form: 'fed-recovered', unit: 'g' }, '/unit'],
    ['an expression that names nothing', { expression: 'nothing * 2' }, '/expression'],
    ['an expression of itself', { name: 'Sag', expression: 'sag + 1' }, '/expression'],
    ['an item that is not there', { onItems: [v7()] }, '/onItems'],
  ])('refuses %s', async (_what, change, path) => {
    const { studyId } = await server.readyStudy();
    const fields = { ...server.measurandFields(), name: 'Other', ...change };
    const refused = await server.send('POST', `/studies/${studyId}/measurands`, fields);
    expect(errorsOf(refused.body)).toMatchObject([{ path }]);
  });
  it('refuses measurands that are made of each other', async () => {
    const { studyId, measurandId } = await server.readyStudy();
    const derived = { ...server.measurandFields(), name: 'Double', expression: '2 * pull' };
    expect((await server.send('POST', `/studies/${studyId}/measurands`, derived)).status).toBe(201);
    const refused = await server.send('PATCH', `/studies/${studyId}/measurands/${measurandId}`, {
      version: 1,
      expression: 'double / 2',
    });
    expect(errorsOf(refused.body)).toMatchObject([
      { message: '“Pull” needs “Double” needs “Pull”: that goes in a circle.' },
    ]);
  });
  it('never changes a decision nor a reading’s parts', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const reading = server.readingFields(itemId, measurandId, '3');
    await server.send('POST', `/studies/${studyId}/readings`, reading);
    const parts = await server.send('PATCH', `/studies/${studyId}/readings/${reading.id}`, {
      version: 1,
      parts: [],
    });
    expect(parts.status).toBe(405);
    const decision = {
      id: v7(),
      action: 'leave-out',
      readingId: reading.id,
      run: null,
      reason: 'draught',
      decidedAt: '2026-05-04T10:00:00Z',
    };
    await server.send('POST', `/studies/${studyId}/decisions`, decision);
    expect(
      (await server.send('PATCH', `/studies/${studyId}/decisions/${decision.id}`, { version: 1 })).status,
    ).toBe(405);
    expect((await server.send('DELETE', `/studies/${studyId}/readings/${reading.id}?version=1`)).status).toBe(
      405,
    );
  });
  it('keeps an item that has readings, and deletes one that has none', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    await server.send('POST', `/studies/${studyId}/readings`, server.readingFields(itemId, measurandId, '3'));
    const kept = await server.send('DELETE', `/studies/${studyId}/items/${itemId}?version=1`);
    expect(kept.status).toBe(409);
    expect(kept.body.detail).toContain('1 reading,');
    const spare = server.itemFields('Bel', 'B');
    await server.send('POST', `/studies/${studyId}/items`, spare);
    expect((await server.send('DELETE', `/studies/${studyId}/items/${spare.id}?version=7`)).status).toBe(409);
    expect((await server.send('DELETE', `/studies/${studyId}/items/${spare.id}?version=1`)).status).toBe(204);
  });
});

describe('studies', () => {
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
    const plan = { id: v7(), title: 'Plan', extent: 'plan' };
    await server.send('POST', `/studies/${studyId}/duplicate`, plan);
    expect((await server.send('GET', `/studies/${plan.id}/document`)).body.readings).toEqual([]);
  });
});

describe('taking away and bringing back', () => {
  const take = async (body: string, type: string, query = '') =>
    server.send('POST', `/studies/import${query}`, body, { 'content-type': type });
  const fans = JSON.stringify(deskFans);

  it('is the identity, by JSON and by CSV', async () => {
    expect((await take(fans, 'application/json')).status).toBe(201);
    const studyId = deskFans.study.id;
    const { body: document } = await server.send('GET', `/studies/${studyId}/document`);
    expect(document).toEqual(deskFans);
    const json = await server.app.request(`http://127.0.0.1:4680/api/v1/studies/${studyId}/export.json`, {
      headers: { host: '127.0.0.1:4680' },
    });
    const csv = await server.app.request(`http://127.0.0.1:4680/api/v1/studies/${studyId}/export.csv`, {
      headers: { host: '127.0.0.1:4680' },
    });
    expect(csv.headers.get('content-disposition')).toContain('desk-fans.csv');
    for (const [text, type] of [
      [await json.text(), 'application/json'],
      [await csv.text(), 'text/csv'],
    ] as const) {
      // Here already, and nothing differs.
      const same = await take(text, type);
      expect([same.status, same.body.already]).toEqual([200, true]);
      // Deleted and brought back from the file, it is the same study again.
      const { body: study } = await server.send('GET', `/studies/${studyId}`);
      await server.send('DELETE', `/studies/${studyId}?version=${String(study.version)}`);
      expect((await take(text, type)).status).toBe(201);
      expect((await server.send('GET', `/studies/${studyId}/document`)).body).toEqual(deskFans);
    }
  });
  it('offers a copy when another version is here', async () => {
    await take(fans, 'application/json');
    const changed = structuredClone(deskFans);
    changed.study.title = 'Desk fans, changed';
    const clash = await take(JSON.stringify(changed), 'application/json');
    expect(clash.status).toBe(409);
    expect(clash.body.detail).toContain('as a copy');
    const copy = await take(JSON.stringify(changed), 'application/json', '?copy=yes');
    expect(copy.status).toBe(201);
    expect((copy.body.study as unknown as { id: string }).id).not.toBe(deskFans.study.id);
  });
  it('tells where one field deep inside is wrong, and stores nothing', async () => {
    const before = (await server.send('GET', '/studies')).body.length;
    const damaged = structuredClone(deskFans) as { readings: { parts: { number: unknown }[] }[] };
    (damaged.readings[17] as { parts: { number: unknown }[] }).parts = [{ number: 'fast' }];
    const answer = await take(JSON.stringify(damaged), 'application/json', '?copy=yes');
    expect(answer.status).toBe(422);
    expect(errorsOf(answer.body)[0]?.path).toMatch(/^\/readings\/17\/parts\/0/);
    expect((await server.send('GET', '/studies')).body.length).toBe(before);
  });
  it('tells the line of a CSV that is wrong', async () => {
    const ragged = await take('item,value\nAma,3\nBel,4,5\n', 'text/csv');
    expect([ragged.status, ragged.body.detail]).toEqual([422, 'Line 3: 3 fields, where the header has 2.']);
    expect((await take('\u0000\u0001', 'text/csv')).body.detail).toBe('The file is not text.');
    expect((await take('item,value\nAma,3', 'image/png')).status).toBe(415);
    expect((await take('{"format":"other"}', 'application/json')).status).toBe(422);
    expect((await take('[]', 'application/json')).status).toBe(422);
  });
  it('makes a study of a plain table', async () => {
    const answer = await take('item;value\nAma;3,5\nBel;4\n', 'text/csv', '?title=Small%20table');
    expect(answer.status).toBe(201);
    expect(answer.body).toMatchObject({ readings: 2, missing: 0, study: { title: 'Small table' } });
  });
  it('takes a table of 20,000 readings', async () => {
    const rows = Array.from(
      { length: 20000 },
      (_, i) => `item ${String(i % 10)},${String(3 + (i % 7) / 10)}`,
    ).join('\n');
    const answer = await take(`item,value\n${rows}\n`, 'text/csv');
    expect(answer.body).toMatchObject({ readings: 20000 });
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
});
