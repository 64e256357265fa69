import fc from 'fast-check';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { documentProblems } from '../core/formats/study-json.ts';
import type { PartKind } from '../core/model/part-kinds.ts';
import { StudyDocument } from '../core/model/study-document.ts';
import { CONDITION_KIND_NAMES } from '../core/model/words.ts';
import { newCondition, newItem, newMeasurand, newSession } from '../core/plan/new-parts.ts';
import { sharedServer } from './testing.ts';
import { schemaProblems } from './validate.ts';

const server = await sharedServer();

const newFactor = (name: string, position: number) => ({
  ...{ name, position, kind: 'treatment', unit: '', irreversible: false },
});
const newLevel = (factorId: string, name: string, position: number) => ({
  ...{ factorId, name, position, value: null, baseline: false },
});
/** Words that meet again as names of items, measurands, attributes and conditions, and so in expressions. */
const WORDS = ['Pull', 'pull', 'Mass', 'Air speed', 'air-speed', 'Time', '1 m'];
const EXPRESSIONS = [
  'pull / mass',
  'air_speed * 2',
  'if(pull > pull_2, pull, pull_2)',
  'mass + mass_2',
  'time',
  'n1_m ^ 2',
];
const UNITS = ['g', 'kg', 's', '', 'EUR', '°C', 'm/s'];

type Choose = (below: number) => number;

/** What one step may do to a plan; whatever does not apply is left out. */
function step(document: StudyDocument, choose: Choose): [string, string, unknown?] | undefined {
  const pick = <T>(list: readonly T[]): T | undefined => list[choose(list.length)];
  const word = () => pick(WORDS) as string;
  const measurand = pick(document.measurands);
  const item = pick(document.items);
  const factor = pick(document.factors);
  const level = pick(document.levels);
  const condition = pick(document.conditions);
  const attributes = [{ name: word(), value: choose(9), unit: pick(UNITS) as string }];
  const id = v7();
  const post = (kind: PartKind, fields: object): [string, string, unknown] => [
    'POST',
    `/${kind}`,
    { id, ...fields },
  ];
  const patch = (
    kind: PartKind,
    part: { id: string; version: number } | undefined,
    fields: object,
  ): [string, string, unknown] | undefined =>
    part && ['PATCH', `/${kind}/${part.id}`, { version: part.version, ...fields }];
  const remove = (
    kind: PartKind,
    part: { id: string; version: number } | undefined,
  ): [string, string] | undefined =>
    part && ['DELETE', `/${kind}/${part.id}?version=${String(part.version)}`];
  const claim = {
    ...{ measurandId: measurand?.id ?? '', order: [], itemId: null, value: null, unit: '' },
    ...{ factorId: null, attribute: '', stepSize: null, source: '' },
  };
  const derived = (expression: string) => ({
    ...newMeasurand(`${word()} made`, 9),
    unit: pick(UNITS) as string,
    expression,
  });
  const steps: (() => [string, string, unknown?] | undefined)[] = [
    () => post('items', { ...newItem(`${word()} ${String(choose(99))}`, document.items), attributes }),
    () => post('measurands', { ...newMeasurand(word(), choose(5)), unit: pick(UNITS) as string }),
    () => post('measurands', derived(pick(EXPRESSIONS) as string)),
    () => post('conditions', newCondition(word(), pick(UNITS) as string, choose(5))),
    () =>
      post('conditions', {
        ...newCondition(word(), '', choose(5)),
        ...{ kind: pick(CONDITION_KIND_NAMES), words: choose(2) === 0 ? [] : ['dry', 'damp'] },
      }),
    () =>
      condition &&
      post('sessions', {
        ...newSession('2026-05-04T10:00:00.000Z'),
        conditions: [
          {
            ...{ conditionId: condition.id, at: 'start', takenAt: '2026-05-04T10:00:00.000Z' },
            ...{ text: 'damp', number: choose(2) === 0 ? null : choose(9) },
          },
        ],
      }),
    () => patch('conditions', condition, { kind: pick(CONDITION_KIND_NAMES), unit: '' }),
    () =>
      post('factors', { ...newFactor(word(), choose(5)), kind: pick(['treatment', 'numeric']) as string }),
    () =>
      factor &&
      post('levels', {
        ...newLevel(factor.id, word(), choose(5)),
        value: choose(3) === 0 ? null : choose(9),
      }),
    () =>
      measurand &&
      post('claims', {
        ...claim,
        kind: 'order',
        order: document.items.slice(0, 2 + choose(2)).map((chosen) => chosen.id),
      }),
    () =>
      measurand &&
      item &&
      post('claims', { ...claim, kind: 'figure', itemId: item.id, value: 3, unit: measurand.unit }),
    () =>
      measurand &&
      factor &&
      post('claims', { ...claim, kind: 'step', factorId: factor.id, value: 3, unit: measurand.unit }),
    () => patch('measurands', measurand, { name: word() }),
    () => patch('measurands', measurand, { unit: pick(UNITS) }),
    () => patch('measurands', measurand, { position: choose(9) }),
    () =>
      patch('measurands', measurand, {
        controls: document.items
          .slice(choose(3))
          .map((chosen) => ({ itemId: chosen.id, low: 1, high: null })),
      }),
    () =>
      patch('measurands', measurand, {
        corrections: {
          unit: choose(2) === 0 ? null : { on: choose(2) === 0, from: pick(UNITS) },
          calibrations: [
            {
              on: true,
              instrument: word(),
              points: [{ indicated: choose(9), is: choose(9) }],
              mayBeOff: null,
            },
          ].slice(choose(2)),
          tare: choose(2) === 0 ? null : { on: true, value: choose(9) },
          ambient: condition
            ? {
                ...{ on: true, conditionId: condition.id, reference: choose(30), perUnit: choose(3) },
                estimates: [{ sessionId: null, value: choose(30), mayBeOff: choose(3) }].slice(choose(2)),
              }
            : null,
        },
      }),
    () => patch('items', item, { class: word(), role: pick(['candidate', 'control']) }),
    () =>
      patch('measurands', measurand, { onItems: document.items.slice(choose(3)).map((chosen) => chosen.id) }),
    () =>
      measurand && measurand.expression !== null
        ? patch('measurands', measurand, { expression: pick(EXPRESSIONS) })
        : undefined,
    () => patch('items', item, { attributes }),
    () => patch('conditions', condition, { quantity: word(), unit: pick(UNITS) }),
    () => patch('factors', factor, { kind: 'numeric' }),
    () => patch('levels', level, { value: null }),
    () => remove('items', item),
    () => remove('measurands', measurand),
    () => remove('conditions', condition),
    () => remove('levels', level),
    () => remove('factors', factor),
  ];
  return pick(steps)?.();
}

describe('a plan after any edits that were taken', () => {
  it('comes out as a file that is read in again as it is', async () => {
    let taken = 0;
    await fc.assert(
      fc.asyncProperty(fc.infiniteStream(fc.nat()), async (numbers) => {
        const choose: Choose = (below) => (below === 0 ? 0 : (numbers.next().value as number) % below);
        const studyId = await server.newStudy();
        const study = `/studies/${studyId}`;
        const read = async () =>
          (await server.send('GET', `${study}/document`)).body as unknown as StudyDocument;
        for (let i = 0; i < 40; i += 1) {
          const made = step(await read(), choose);
          if (!made) continue;
          const [method, address, body] = made;
          const { status } = await server.send(method, `${study}${address}`, body);
          expect(status, `${method} ${address} ${JSON.stringify(body)}`).toBeLessThan(500);
          if (status < 300) taken += 1;
          const document = await read();
          expect(schemaProblems(StudyDocument, document)).toEqual([]);
          expect(documentProblems(document), `after ${method} ${address} ${JSON.stringify(body)}`).toEqual(
            [],
          );
        }
        const file = await read();
        const again = await server.send('POST', '/studies/import', file);
        expect([again.status, again.body.already]).toEqual([200, true]);
      }),
      { numRuns: 5, seed: 20260704 },
    );
    // Most of what is tried is taken, or the test would say little.
    expect(taken).toBeGreaterThan(60);
  });

  it('means what it meant: an expression follows the names in it', async () => {
    const studyId = await server.newStudy();
    const address = `/studies/${studyId}`;
    const add = async (kind: PartKind, fields: object) => {
      const { status, body } = await server.send('POST', `${address}/${kind}`, { id: v7(), ...fields });
      expect(status, JSON.stringify(body)).toBe(201);
      return body as unknown as { id: string; version: number };
    };
    const pull = await add('measurands', { ...newMeasurand('Pull', 1), unit: 'g' });
    const item = await add('items', {
      ...newItem('Ama', []),
      attributes: [{ name: 'Mass', value: 2, unit: 'g' }],
    });
    const share = await add('measurands', {
      ...newMeasurand('Share', 2),
      unit: '',
      expression: 'pull / mass',
    });
    const expression = async () =>
      (await server.send('GET', `${address}/measurands/${share.id}`)).body.expression as unknown;
    await server.send('PATCH', `${address}/measurands/${pull.id}`, { version: 1, name: 'Pull at 1 m' });
    expect(await expression()).toBe('pull_at_1_m / mass');
    // A measurand called as the attribute is comes first in the list of names.
    await add('measurands', { ...newMeasurand('Mass', 3), unit: 'g' });
    expect(await expression()).toBe('pull_at_1_m / mass_2');
    const gone = await server.send('PATCH', `${address}/items/${item.id}`, { version: 1, attributes: [] });
    expect(gone.status).toBe(422);
    expect(gone.body.detail).toBe('Share: There is no “mass_2” in this study.');
    const removed = await server.send('DELETE', `${address}/measurands/${pull.id}?version=2`);
    expect(removed.status).toBe(422);
    expect(removed.body.detail).toBe('Share: There is no “pull_at_1_m” in this study.');
  });

  it('lets go of an item that is removed, unless too little is left', async () => {
    const studyId = await server.newStudy();
    const address = `/studies/${studyId}`;
    const items = ['Ama', 'Bel', 'Cip'].map((name, i) => server.itemFields(name, String(i)));
    for (const item of items) await server.send('POST', `${address}/items`, item);
    const ids = items.map(({ id }) => id);
    const measurand = { ...server.measurandFields(), onItems: ids };
    await server.send('POST', `${address}/measurands`, measurand);
    const claim = {
      ...{ id: v7(), kind: 'order', measurandId: measurand.id, order: ids, itemId: null, value: null },
      ...{ unit: '', factorId: null, attribute: '', stepSize: null, source: '' },
    };
    expect((await server.send('POST', `${address}/claims`, claim)).status).toBe(201);
    expect((await server.send('DELETE', `${address}/items/${ids[0] ?? ''}?version=1`)).status).toBe(204);
    const { measurands, claims } = (await server.send('GET', `${address}/document`))
      .body as unknown as StudyDocument;
    expect([measurands[0]?.onItems, claims[0]?.order]).toEqual([ids.slice(1), ids.slice(1)]);
    const second = await server.send('DELETE', `${address}/items/${ids[1] ?? ''}?version=1`);
    expect([second.status, second.body.detail]).toEqual([
      422,
      'A claim about Pull: An order needs at least two items.',
    ]);
  });
});

describe('a plan too large', () => {
  const levels = (count: number) => Array.from({ length: count }, (_, i) => `L${String(i)}`);
  it('is refused level by level, before there are items', async () => {
    const studyId = await server.newStudy();
    const address = `/studies/${studyId}`;
    let refused = 0;
    for (let f = 0; f < 7; f += 1) {
      const factor = { id: v7(), ...newFactor(`F${String(f)}`, f) };
      await server.send('POST', `${address}/factors`, factor);
      for (const [i, name] of levels(8).entries()) {
        const { status } = await server.send('POST', `${address}/levels`, {
          id: v7(),
          ...newLevel(factor.id, name, i),
        });
        if (status === 422) refused += 1;
      }
    }
    expect(refused).toBeGreaterThan(10);
    expect((await server.send('GET', '/studies')).status).toBe(200);
  });

  it('is refused in a file, and so is one factor too many', async () => {
    const studyId = await server.newStudy();
    const document = (await server.send('GET', `/studies/${studyId}/document`))
      .body as unknown as StudyDocument;
    const id = v7();
    const stamp = {
      studyId: id,
      version: 1,
      createdAt: document.study.createdAt,
      updatedAt: document.study.createdAt,
    };
    const factors = Array.from({ length: 12 }, (_, f) => ({
      id: v7(),
      ...stamp,
      ...newFactor(`F${String(f)}`, f),
    }));
    const file = {
      ...document,
      study: { ...document.study, id },
      factors,
      levels: factors.flatMap(({ id: factorId }) =>
        levels(100).map((name, i) => ({ id: v7(), ...stamp, ...newLevel(factorId, name, i) })),
      ),
    };
    const sent = await server.send('POST', '/studies/import', file);
    expect(sent.status).toBe(422);
    expect(sent.body.detail).toMatch(/^This makes 1e\+24 runs, and at most 20000 can be planned/);
    for (let f = 0; f < 13; f += 1) {
      const { status } = await server.send('POST', `/studies/${studyId}/factors`, {
        id: v7(),
        ...newFactor(`F${String(f)}`, f),
      });
      expect(status).toBe(f < 12 ? 201 : 422);
    }
  });
});
