import fc from 'fast-check';
import { expect, it } from 'vitest';
import { type Asked, requestsTo } from './testing-requests.ts';
import { sharedServer } from './testing.ts';

/** Requests that are tried; BRACKENRIDGE_FUZZ=100000 for a long run, with BRACKENRIDGE_SEED for another one. */
const RUNS = Number(process.env.BRACKENRIDGE_FUZZ ?? 400);
const SEED = Number(process.env.BRACKENRIDGE_SEED ?? 1);

const server = await sharedServer();
const { studyId, itemId, requests } = await requestsTo(server);

const ODD: fc.Arbitrary<unknown> = fc.oneof(
  fc.constantFrom(
    ...[
      null,
      true,
      '',
      ' ',
      0,
      -1,
      0.5,
      1e308,
      -Infinity,
      2 ** 53,
      [],
      {},
      [[]],
      '\u0000',
      '\ud800',
      'constructor',
      '__proto__',
    ],
    ...[
      '9'.repeat(30000),
      '1e999',
      '=1+1',
      '%',
      "'",
      'NaN',
      '\u202e',
      '9999-99-99T99:99:99Z',
      '2026-07-04T09:00:60Z',
      itemId.toUpperCase(),
      itemId,
      studyId,
    ],
  ),
  fc.string({ maxLength: 40, unit: 'binary' }),
  fc.double(),
  fc.anything({ maxDepth: 2 }),
);

/** Turns one thing inside a value into something else, deep or shallow as the numbers have it. */
function turned(value: unknown, way: readonly number[], odd: unknown): unknown {
  const [first, ...rest] = way;
  if (first === undefined || typeof value !== 'object' || value === null) return odd;
  const keys = Object.keys(value);
  const key = keys[first % (keys.length + 1)] ?? 'extra';
  if (first % 7 === 6 && key !== 'extra') {
    const without = Array.isArray(value) ? [...(value as unknown[])] : { ...value };
    Reflect.deleteProperty(without, key);
    return without;
  }
  const inner = turned((value as Record<string, unknown>)[key], rest, odd);
  if (Array.isArray(value)) return value.map((part: unknown, i) => (String(i) === key ? inner : part));
  return { ...value, [key]: inner };
}

it('no request that was tampered with is more than refused', { timeout: 60000 + RUNS * 200 }, async () => {
  let refused = 0;
  let slowest = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.nat(),
      fc.array(fc.nat(50), { minLength: 0, maxLength: 5 }),
      ODD,
      fc.nat(),
      async (which, way, odd, place) => {
        const [method, address, body] = requests[which % requests.length] as Asked;
        const csv = typeof body === 'string';
        let sent: string | undefined;
        let target = address;
        if (csv) {
          const cut = place % (body.length + 1);
          sent =
            body.slice(0, cut) +
            (typeof odd === 'string' ? odd : `"${String(place)}=,`) +
            body.slice(cut + (place % 5));
        } else if (body === undefined || place % 9 === 0) {
          const cut = place % address.length;
          target = `/${address.slice(1, 1 + cut)}${encodeURIComponent((typeof odd === 'string' ? odd : String(place)).slice(0, 900).replace(/[\ud800-\udfff]/g, '%'))}`;
          sent = body === undefined ? undefined : JSON.stringify(body);
        } else sent = JSON.stringify(turned(body, way, odd));
        const start = performance.now();
        const { status } = await server.send(method, target, sent, csv ? { 'content-type': 'text/csv' } : {});
        const what = `${method} ${target} ${sent?.slice(0, 300) ?? ''}`;
        expect(status, what).toBeLessThan(500);
        slowest = Math.max(slowest, performance.now() - start);
        if (status >= 400) refused += 1;
      },
    ),
    { numRuns: RUNS, seed: SEED },
  );
  if (process.env.BRACKENRIDGE_FUZZ) console.info(`the slowest answer took ${slowest.toFixed(0)} ms`);
  expect(refused).toBeGreaterThan(RUNS / 4);
  // What was taken is a study like any other.
  const list = await server.send('GET', '/studies');
  expect(list.status).toBe(200);
  for (const { study } of list.body as unknown as { study: { id: string } }[]) {
    const file = (await server.send('GET', `/studies/${study.id}/document`)).body;
    const again = await server.send('POST', '/studies/import', file);
    expect([again.status, again.body.already], JSON.stringify(again.body).slice(0, 500)).toEqual([200, true]);
  }
});
