import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import type { StudyDocument } from '../core/model/study-document.ts';
import type { Change } from '../core/model/parts.ts';
import { documentProblems } from '../core/formats/study-json.ts';
import { newCondition } from '../core/plan/new-parts.ts';
import { changeWords } from '../core/record/change-words.ts';
import { errorsOf, sharedServer } from './testing.ts';

const server = await sharedServer();

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
  it('keeps how measurands are scored, which goes with the file and into a copy', async () => {
    const { studyId, measurandId } = await server.readyStudy();
    const scoring = { school: 'ratio', missing: 'no-score', weights: [{ measurandId, weight: 0.4 }] };
    const wrong = await server.send('PATCH', `/studies/${studyId}`, {
      version: 1,
      scoring: { ...scoring, weights: [{ measurandId, weight: 1.4 }] },
    });
    expect(errorsOf(wrong.body)).toEqual([
      { path: '/scoring/weights/0/weight', message: '“weight” must be 1 or less.' },
    ]);
    const { body } = await server.send('PATCH', `/studies/${studyId}`, { version: 1, scoring });
    expect(body.scoring).toEqual(scoring);
    const file = (await server.send('GET', `/studies/${studyId}/document`)).body as unknown as StudyDocument;
    expect(file.study.scoring).toEqual(scoring);
    const copyId = v7();
    await server.send('POST', `/studies/${studyId}/duplicate`, {
      id: copyId,
      title: 'Again',
      extent: 'plan',
    });
    const copy = (await server.send('GET', `/studies/${copyId}/document`)).body as unknown as StudyDocument;
    expect(copy.study.scoring.weights).toEqual([{ measurandId: copy.measurands[0]?.id, weight: 0.4 }]);
  });
  it('keeps a condition that readings are referred to, and writes down what is set right late', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const address = `/studies/${studyId}`;
    const condition = {
      ...{ id: v7(), ...newCondition('Air temperature', '°C', 1), required: false },
    };
    await server.send('POST', `${address}/conditions`, condition);
    await server.send('POST', `${address}/readings`, server.readingFields(itemId, measurandId, '3.1'));
    const ambient = { on: true, conditionId: condition.id, reference: 20, perUnit: 1, estimates: [] };
    const corrections = { unit: null, calibrations: [], tare: null, ambient };
    const patched = await server.send('PATCH', `${address}/measurands/${measurandId}`, {
      version: 1,
      corrections,
    });
    expect([patched.status, patched.body.corrections]).toEqual([200, corrections]);
    const gone = await server.send('DELETE', `${address}/conditions/${condition.id}?version=1`);
    expect(gone.status).toBe(422);
    expect(JSON.stringify(gone.body)).toContain('a condition that the study does not have');
    const worded = await server.send('PATCH', `${address}/conditions/${condition.id}`, {
      ...{ version: 1, kind: 'word', unit: '' },
    });
    expect([worded.status, JSON.stringify(worded.body)]).toEqual([
      422,
      expect.stringContaining('a condition that is no quantity'),
    ]);
    const changes = (await server.send('GET', `${address}/changes`)).body as unknown as Change[];
    expect(changes).toMatchObject([{ field: 'corrections', readingsThen: 1, measurandId }]);
    const document = (await server.send('GET', `${address}/document`)).body as unknown as StudyDocument;
    expect(changeWords(changes[0] as Change, document).replaceAll('\u202f', ' ')).toMatch(
      /^corrections from none to referred to Air temperature of 20 °C/,
    );
    const wrong = await server.send('PATCH', `${address}/measurands/${measurandId}`, {
      version: 2,
      corrections: { ...corrections, tare: { on: true, value: 'heavy' } },
    });
    expect(errorsOf(wrong.body)).toEqual([
      { path: '/corrections/tare/value', message: '“value” must be a number.' },
    ]);
  });
  it('lists studies by when they were changed last', async () => {
    const ids = [await server.newStudy('One'), await server.newStudy('Two'), await server.newStudy('Three')];
    const listed = async () => {
      const { body } = await server.send('GET', '/studies');
      const all = (body as unknown as { study: { id: string } }[]).map(({ study }) => study.id);
      return all.filter((id) => ids.includes(id));
    };
    // Far apart, whatever the clock does meanwhile.
    for (const [i, id] of ids.entries())
      await server.sql(`UPDATE studies SET updatedAt = ? WHERE id = ?`, [
        `2026-05-0${String(i + 1)}T10:00:00.000Z`,
        id,
      ]);
    const [first, second, third] = ids;
    expect(await listed()).toEqual([third, second, first]);
    const changed = await server.send('PATCH', `/studies/${String(second)}`, {
      version: 1,
      title: 'Two again',
    });
    expect(changed.status).toBe(200);
    expect(await listed()).toEqual([second, third, first]);
  });
  it('takes no study that is its own earlier test', async () => {
    const id = v7();
    const earlier = [{ studyId: id, title: 'Itself', matches: [] }];
    const sent = await server.send('POST', '/studies', {
      id,
      title: 'Again',
      question: '',
      rounds: 3,
      seed: 1,
      earlier,
    });
    expect([sent.status, errorsOf(sent.body)[0]?.path]).toEqual([422, '/earlier/0/studyId']);
    expect((await server.send('GET', `/studies/${id}`)).status).toBe(404);
  });
  it('lets one of two edits at the same moment through', async () => {
    const studyId = await server.newStudy();
    const edits = await Promise.all(
      ['one', 'two', 'three'].map((title) =>
        server.send('PATCH', `/studies/${studyId}`, { version: 1, title }),
      ),
    );
    expect(edits.map(({ status }) => status).sort((a, b) => a - b)).toEqual([200, 409, 409]);
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
      rule: { name: 'grubbs', parameter: null, level: 'study', judges: 'distance' },
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
      {
        measurandId,
        field: 'rule',
        readingsThen: 1,
        after: '{"name":"grubbs","parameter":null,"level":"study","judges":"distance"}',
      },
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
  it('takes figures from elsewhere that say something, and keeps what they speak of', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const address = `/studies/${studyId}/figures`;
    const ends = { low: null, high: null, source: 'an old notebook' };
    const figure = { itemId, measurandId, levels: [], kind: 'summary', n: 5, mean: 3.2, sd: 0.1, ...ends };
    const refused: [object, string][] = [
      [{ n: null }, '/n'],
      [{ mean: null }, '/mean'],
      [{ sd: null }, '/sd'],
      [{ n: 1 }, '/sd'],
      [{ low: 4, high: 3 }, '/high'],
      [{ kind: 'range' }, '/low'],
      [{ kind: 'range', low: 1 }, '/mean'],
      [{ levels: [{ factorId: v7(), levelId: v7() }] }, '/levels/0'],
    ];
    for (const [change, path] of refused) {
      const wrong = await server.send('POST', address, { id: v7(), ...figure, ...change });
      expect([wrong.status, errorsOf(wrong.body)[0]?.path]).toEqual([422, path]);
    }
    const id = v7();
    expect((await server.send('POST', address, { id, ...figure })).status).toBe(201);
    const range = { version: 1, kind: 'range', n: null, mean: null, sd: null, low: 3 };
    expect((await server.send('PATCH', `${address}/${id}`, range)).status).toBe(200);
    const measurand = `/studies/${studyId}/measurands/${measurandId}`;
    const unit = await server.send('PATCH', measurand, { version: 1, unit: 'kg' });
    expect(unit.body.detail).toMatch(/^1 figure from elsewhere would mean something else then/);
    expect(errorsOf(unit.body)[0]?.path).toBe('/unit');
    expect(errorsOf(unit.body)[0]?.message).toMatch(/Take it out first\.$/);
    const second = {
      id: v7(),
      ...figure,
      itemId: (await server.send('POST', `/studies/${studyId}/items`, server.itemFields('Bel', 'B'))).body.id,
    };
    expect((await server.send('POST', address, second)).status).toBe(201);
    const both = await server.send('PATCH', measurand, { version: 1, unit: 'kg' });
    expect(errorsOf(both.body)[0]?.message).toMatch(/^2 figures .* Take them out first\.$/);
    expect((await server.send('DELETE', `${address}/${second.id}?version=1`)).status).toBe(204);
    const form = await server.send('PATCH', measurand, { version: 1, form: 'count' });
    expect(errorsOf(form.body)[0]?.path).toBe('/form');
    const kept = await server.send('DELETE', `/studies/${studyId}/items/${itemId}?version=1`);
    expect(kept.body.detail).toBe('This item has 1 figure, so it stays in the record.');
    const { body } = await server.send('GET', `/studies/${studyId}/document`);
    const document = body as unknown as StudyDocument;
    expect(documentProblems(document)).toEqual([]);
    expect(document.figures).toMatchObject([{ id, kind: 'range', low: 3, high: null }]);
    const copy = await server.send('POST', '/studies/import?copy=yes', document);
    const copied = (copy.body.study as unknown as { id: string }).id;
    const again = (await server.send('GET', `/studies/${copied}/document`)).body as unknown as StudyDocument;
    expect(again.figures).toMatchObject([{ itemId: again.items[0]?.id, kind: 'range', low: 3 }]);
    const ranked = await server.send('GET', `/studies/${studyId}/ranking?measurand=${measurandId}`);
    expect(ranked.body).toMatchObject({
      settings: [{ classes: [{ ranking: [{ n: 0, mean: null, typed: { low: 3, high: null } }] }] }],
    });
    expect((await server.send('DELETE', `${address}/${id}?version=2`)).status).toBe(204);
    expect((await server.send('PATCH', measurand, { version: 1, unit: 'kg' })).status).toBe(200);
  });
  it('writes a new claim down once, however often it is sent', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    await server.send('POST', `/studies/${studyId}/readings`, server.readingFields(itemId, measurandId, '3'));
    const claim = {
      ...{ id: v7(), kind: 'figure', measurandId, order: [], itemId, value: 3, unit: '', factorId: null },
      ...{ attribute: '', stepSize: null, source: 'the box' },
    };
    const sent = await Promise.all(
      [1, 2, 3].map(() => server.send('POST', `/studies/${studyId}/claims`, claim)),
    );
    expect(sent.map(({ status }) => status).sort((a, b) => a - b)).toEqual([200, 200, 201]);
    expect((await server.send('GET', `/studies/${studyId}/changes`)).body).toMatchObject([
      { field: 'claim', before: 'null', readingsThen: 1 },
    ]);
  });
  it('logs an item that changes its class or role once it was read, for a reason', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const address = `/studies/${studyId}/items/${itemId}`;
    const move = (version: number, change: object) => server.send('PATCH', address, { version, ...change });
    expect((await move(1, { class: 'small' })).status).toBe(200);
    const changes = async () => (await server.send('GET', `/studies/${studyId}/changes`)).body;
    expect(await changes()).toEqual([]);
    await server.send('POST', `/studies/${studyId}/readings`, server.readingFields(itemId, measurandId, '3'));
    expect((await move(2, { class: 'large', role: 'control' })).status).toBe(200);
    expect((await move(3, { class: 'large' })).status).toBe(200);
    const log = await changes();
    expect(log).toMatchObject([
      { field: 'class', itemId, measurandId: null, before: '"small"', after: '"large"', readingsThen: 1 },
      { field: 'role', itemId, before: '"candidate"', after: '"control"' },
    ]);
    const [{ id }] = log as unknown as [{ id: string }];
    const reason = { version: 1, reason: 'It is a floor fan' };
    expect((await server.send('PATCH', `/studies/${studyId}/changes/${id}`, reason)).status).toBe(200);
    const { body } = await server.send('GET', `/studies/${studyId}/document`);
    expect(
      changeWords((body as unknown as StudyDocument).changes[0] as Change, body as unknown as StudyDocument),
    ).toMatch(/ moved from class “small” to class “large”$/);
    expect(documentProblems(body as unknown as StudyDocument)).toEqual([]);
  });
  it('keeps earlier tests and what controls should read in the file and in a copy', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const earlier = [{ studyId: v7(), title: 'Last year', matches: [{ itemId, earlierItemId: v7() }] }];
    expect((await server.send('PATCH', `/studies/${studyId}`, { version: 1, earlier })).status).toBe(200);
    for (const wrong of [studyId, earlier[0]?.studyId]) {
      const tests = [...earlier, { studyId: wrong, title: '', matches: [] }];
      const refused = await server.send('PATCH', `/studies/${studyId}`, { version: 2, earlier: tests });
      expect(errorsOf(refused.body)).toMatchObject([{ path: '/earlier/1/studyId' }]);
    }
    const controls = [{ itemId, low: null, high: 4 }];
    const measurand = `/studies/${studyId}/measurands/${measurandId}`;
    expect((await server.send('PATCH', measurand, { version: 1, controls })).status).toBe(200);
    const turned = [{ itemId, low: 5, high: 4 }];
    expect(
      errorsOf((await server.send('PATCH', measurand, { version: 2, controls: turned })).body),
    ).toMatchObject([{ path: '/controls/0/low' }]);
    const id = v7();
    const copy = { id, title: 'Copy', extent: 'plan' };
    expect((await server.send('POST', `/studies/${studyId}/duplicate`, copy)).status).toBe(201);
    const { body } = await server.send('GET', `/studies/${id}/document`);
    const { study, items, measurands } = body as unknown as StudyDocument;
    const [test] = study.earlier;
    expect(test).toMatchObject({ studyId: earlier[0]?.studyId, title: 'Last year' });
    expect(test?.matches[0]).toEqual({
      itemId: items[0]?.id,
      earlierItemId: earlier[0]?.matches[0]?.earlierItemId,
    });
    expect(measurands[0]?.controls).toEqual([{ itemId: items[0]?.id, low: null, high: 4 }]);
    expect((await server.send('DELETE', `/studies/${studyId}/items/${itemId}?version=1`)).status).toBe(204);
    const left = (await server.send('GET', `/studies/${studyId}/document`)).body as unknown as StudyDocument;
    expect(left.measurands[0]?.controls).toEqual([]);
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
    for (const [change, path] of [
      [{ form: 'count' }, '/form'],
      [{ form: 'count', unit: 'kg' }, '/form'],
    ] as const) {
      const other = await server.send('PATCH', address, { version: 1, ...change });
      expect(errorsOf(other.body)[0]?.path, JSON.stringify(change)).toBe(path);
    }
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
    ['a control that is not there', { controls: [{ itemId: v7(), low: 1, high: 2 }] }, '/controls/0/itemId'],
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
