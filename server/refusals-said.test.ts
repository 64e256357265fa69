import { v7 } from 'uuid';
import { expect, it } from 'vitest';
import { idsNamed } from '../core/testing-study.ts';
import { openApi } from './openapi.ts';
import { requestsTo } from './testing-requests.ts';
import { sharedServer } from './testing.ts';

const server = await sharedServer();
const { requests, studyId } = await requestsTo(server);

const UNKNOWN = '01900000-0000-7000-8000-000000000000';

/** What is sent in place of what is wanted. */
const ODD: Readonly<Record<string, unknown>> = {
  ...{ nothing: null, yes: true, empty: '', less: -1, half: 0.5, large: 1e9, list: [], object: {} },
  ...{
    word: 'a',
    long: 'x'.repeat(301),
    longer: 'x'.repeat(20001),
    many: Array.from({ length: 5000 }, () => 'a'),
  },
  ...{ id: UNKNOWN, time: '2026-13-01T00:00:00.000Z' },
};
/** Stamps and bodies that are none, each with what it is sent as. */
const BODIES: Readonly<Record<string, [unknown, Record<string, string>?]>> = {
  ...{ 'no body': [undefined], 'no JSON': ['{"id":'], 'a number': ['3'], 'a list': [[]], 'an object': [{}] },
  'as text': ['id', { 'content-type': 'text/plain' }],
  'from elsewhere': [{}, { origin: 'http://elsewhere.example' }],
  'to elsewhere': [{}, { host: 'elsewhere.example' }],
};

/** What comes back, without what is another each time. */
const known = (text: string): string =>
  idsNamed(text).replace(/\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\.\d{3}Z/g, 'a moment');

/** What is said to a request, in one line: of what is taken no more than that it is. */
async function said([method, address, body]: (typeof requests)[number], headers?: Record<string, string>) {
  const { status, body: answer } = await server.send(method, address, body, headers);
  if (status < 400) return String(status);
  const { title, detail, errors } = answer as { title?: string; detail?: string; errors?: unknown };
  return known(
    [status, title, detail, errors && JSON.stringify(errors).slice(0, 200)].filter(Boolean).join(' | '),
  );
}

/** The body of a request as if nothing had been sent before: with an id of its own, and the version that there is now. */
async function fresh([method, address, body]: (typeof requests)[number]): Promise<object> {
  const current = method === 'PATCH' ? (await server.send('GET', address)).body : {};
  const fields = body as object;
  return {
    ...fields,
    ...('id' in fields ? { id: v7() } : {}),
    ...('version' in current ? { version: current.version } : {}),
  };
}

/** Lines of what is said to a request with each of some changes; those to which the same is said share one. */
async function answered(changes: Iterable<readonly [string, () => Promise<string>]>): Promise<string[]> {
  const words = new Map<string, string[]>();
  for (const [name, ask] of changes) {
    const line = await ask();
    words.set(line, [...(words.get(line) ?? []), name]);
  }
  return [...words].map(([line, names]) => `  ${names.join(', ')}: ${line}`);
}

/** What a name in an address, or a value behind it, may be that is none. */
const IN_ADDRESS = [UNKNOWN, 'x', '-1', '0', '1.5', 'yes', 'first', '..%2F..', '%00', 'a'.repeat(300)];

interface Operation {
  parameters?: { name: string; in: string }[];
}

/** Every address with something wrong in it, by its method. */
function* addresses(): Generator<[string, string]> {
  yield ['GET', '/openapi.json'];
  const { paths } = openApi() as { paths: Record<string, Record<string, Operation>> };
  for (const [pattern, operations] of Object.entries(paths)) {
    for (const [word, { parameters = [] }] of Object.entries(operations)) {
      const method = word.toUpperCase();
      const written = (wrong: string, other: string) =>
        pattern.replaceAll(/\{(\w+)\}/g, (_, name: string) =>
          name === wrong ? other : name === 'studyId' ? studyId : UNKNOWN,
        );
      for (const { name, in: where } of parameters)
        for (const other of where === 'path' ? IN_ADDRESS : []) yield [method, written(name, other)];
      if (method !== 'GET' || pattern === '/backup') continue;
      yield [method, written('', '')];
      for (const { name, in: where } of parameters)
        for (const other of where === 'query' ? ['', ...IN_ADDRESS] : [])
          yield [method, `${written('', '')}?${name}=${other}`];
    }
  }
}

it('says to each address with something wrong in it what it said before', async () => {
  const answers = [...addresses()].map(
    ([method, address]) =>
      [
        known(`${method} ${address.replace('a'.repeat(300), 'aaa…')}`),
        () => said([method, address, undefined]),
      ] as const,
  );
  const lines = await answered(answers);
  await expect(`${lines.join('\n')}\n`).toMatchFileSnapshot('./addresses-said.txt');
});

it('says to each request with something wrong in it what it said before', async () => {
  const lines: string[] = [];
  for (const [method, address, body] of requests) {
    if (address.startsWith('/instruments') || /logs|recordings/.test(address)) continue;
    lines.push(known(`${method} ${address}`));
    lines.push(
      ...(await answered(
        Object.entries(BODIES)
          // What is only asked for has no body.
          .filter(([, [other]]) => method !== 'GET' || other === undefined)
          .map(([name, [other, headers]]) => [name, () => said([method, address, other], headers)]),
      )),
    );
    if (typeof body !== 'object' || body === null) continue;
    for (const key of [...Object.keys(body), 'extra']) {
      const ask = async (other: unknown) =>
        said([method, address, { ...(await fresh([method, address, body])), [key]: other }]);
      lines.push(` ${key}`);
      lines.push(
        ...(await answered([
          ['left out', () => ask(undefined)],
          ...Object.entries(ODD).map(([name, odd]) => [name, () => ask(odd)] as const),
        ])),
      );
    }
  }
  await expect(`${lines.join('\n')}\n`).toMatchFileSnapshot('./refusals-said.txt');
});
