import { readFileSync } from 'node:fs';
import { Validator } from '@seriousme/openapi-schema-validator';
import type { TSchema } from 'typebox';
import { describe, expect, it } from 'vitest';
import deskFans from '../demo/desk-fans.json' with { type: 'json' };
import type { Ranking } from '../core/model/ranking.ts';
import { openApi } from './openapi.ts';
import { sharedServer } from './testing.ts';
import { schemaProblems } from './validate.ts';

const server = await sharedServer();
const described = openApi() as {
  paths: Record<string, Record<string, { operationId: string; responses: Record<string, unknown> }>>;
  components: { schemas: Record<string, TSchema> };
};

describe('the description of the API', () => {
  it('is valid to the published specification, with names that stand once', async () => {
    const { body } = await server.send('GET', '/openapi.json');
    expect(body).toEqual(JSON.parse(JSON.stringify(described)));
    const { valid, errors } = await new Validator().validate(structuredClone(body));
    expect([valid, errors]).toEqual([true, undefined]);
    const names = Object.values(described.paths).flatMap((path) =>
      Object.values(path).map(({ operationId }) => operationId),
    );
    expect(new Set(names).size).toBe(names.length);
  });
  it('describes addresses that there are', async () => {
    await server.send('POST', '/studies/import', JSON.stringify(deskFans));
    const { study, items } = deskFans;
    for (const [path, methods] of Object.entries(described.paths)) {
      const address = path
        .replace('{studyId}', study.id)
        .replace('{id}', items[0]?.id ?? '')
        .replace('{name}', 'none');
      for (const method of Object.keys(methods)) {
        const { status, body } = await server.send(
          method.toUpperCase(),
          address,
          method === 'get' ? undefined : '{',
        );
        expect(body.detail, `${method} ${path}`).not.toBe('There is nothing at this address.');
        expect(status, `${method} ${path}`).toBeLessThan(500);
        expect(status, `${method} ${path}`).not.toBe(405);
      }
    }
  });
  it('leaves out no address but those that are the page’s own', () => {
    const ofPages = /live|bench|instruments|import-readings|readings-behind|openapi|\*/;
    const missing = server.app.routes
      .filter(({ method, path }) => method !== 'ALL' && path.startsWith('/api/v1') && !ofPages.test(path))
      .map(({ method, path }) => ({
        method: method.toLowerCase(),
        path: path
          .slice('/api/v1'.length)
          .replace(/:(\w+)/g, '{$1}')
          .replace(/\/$/, ''),
      }))
      // What is never changed answers so, and needs no description.
      .filter(({ method, path }) => !(method in (described.paths[path] ?? {})))
      .filter(({ method }) => method === 'get');
    expect(missing).toEqual([]);
  });
  it('says what is answered: parts, studies and rankings are as it says', async () => {
    await server.send('POST', '/studies/import', JSON.stringify(deskFans));
    const study = `/studies/${deskFans.study.id}`;
    const { schemas } = described.components;
    for (const [address, schema] of [
      [study, 'Study'],
      [`${study}/items/${deskFans.items[0]?.id ?? ''}`, 'Item'],
      [`${study}/document`, 'StudyDocument'],
      [`${study}/ranking?measurand=${deskFans.measurands[0]?.id ?? ''}`, 'Ranking'],
    ] as const) {
      const { status, body } = await server.send('GET', address);
      expect([status, schemaProblems(schemas[schema] as TSchema, body)]).toEqual([200, []]);
    }
  });
});

describe('a ranking by the API', () => {
  it('is that of the page, and says which measurand it lacks', async () => {
    await server.send('POST', '/studies/import', JSON.stringify(deskFans));
    const address = `/studies/${deskFans.study.id}/ranking`;
    const { body } = await server.send('GET', `${address}?measurand=${deskFans.measurands[0]?.id ?? ''}`);
    const [group] = (body as unknown as Ranking).settings[0]?.classes ?? [];
    expect(group?.answer).toMatch(/^Calvessa 2 is first/);
    expect(group?.ranking[0]).toMatchObject({ item: 'Calvessa 2', place: 1, placeLow: 1, placeHigh: 1 });
    expect(group?.pairs).toHaveLength(15);
    expect((await server.send('GET', address)).status).toBe(400);
    expect((await server.send('GET', `${address}?measurand=none`)).status).toBe(404);
  });
});

describe('the examples', () => {
  it('name no address that is not described', () => {
    const text = ['curl.sh', 'take-a-reading.py']
      .map((name) => readFileSync(`docs/examples/${name}`, 'utf8'))
      .join('\n');
    const named = [...text.matchAll(/\$study\/([a-z.]+)|\{at\}\/([a-z]+)/g)].map(([, a, b]) => a ?? b);
    const known = Object.keys(described.paths).map((path) => path.split('/')[3]);
    expect(named.length).toBeGreaterThan(6);
    for (const name of named) expect(known).toContain(name);
  });
});
