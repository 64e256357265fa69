import { Hono } from 'hono';
import { expect, it } from 'vitest';
import { Problem } from './problems.ts';
import { UnderWay } from './under-way.ts';

/** Work that waits until it is let go on, under a name or none. */
function begun(underWay: UnderWay, name?: string) {
  let goOn = (): void => undefined;
  const waiting = new Promise<void>((resolve) => (goOn = resolve));
  const app = new Hono();
  app.onError((error, context) => context.json({}, error instanceof Problem ? error.status : 500));
  app.get('/', async (context) => {
    const said = await underWay.watch(context, async ({ say }) => {
      say?.({ doing: 'Waiting for the test', share: 0.5 });
      await waiting;
      return say !== undefined;
    });
    return context.json({ said });
  });
  const answered = Promise.resolve(app.request(name === undefined ? '/' : `/?under-way=${name}`)).then(
    async (answer) => [answer.status, await answer.json()] as const,
  );
  return { goOn, answered };
}

it('long work is watched under the name that its asker gives it, and no longer than it takes', async () => {
  const underWay = new UnderWay();
  const { goOn, answered } = begun(underWay, 'my-import-1');
  await expect
    .poll(() => underWay.progress('my-import-1'))
    .toEqual({ doing: 'Waiting for the test', share: 0.5 });
  expect(underWay.progress('my-import-2')).toBeNull();
  goOn();
  expect(await answered).toEqual([200, { said: true }]);
  expect(underWay.progress('my-import-1')).toBeNull();
});

it('long work without a name is done, and one under what is no name is not', async () => {
  const underWay = new UnderWay();
  const unnamed = begun(underWay);
  unnamed.goOn();
  expect(await unnamed.answered).toEqual([200, { said: false }]);
  for (const [name, status] of [
    ['short12', 400],
    ['a'.repeat(65), 400],
    ['with%20blanks', 400],
    ['exactly8', 200],
    ['a'.repeat(64), 200],
  ] as const) {
    const named = begun(underWay, name);
    named.goOn();
    expect((await named.answered)[0], name).toBe(status);
  }
});

it('a hundred are watched at a time; what comes then is done unwatched', async () => {
  const underWay = new UnderWay();
  const watched = Array.from({ length: 100 }, (_, i) =>
    begun(underWay, `import-${String(i).padStart(3, '0')}`),
  );
  await expect.poll(() => underWay.progress('import-099')).not.toBeNull();
  const late = begun(underWay, 'import-100');
  late.goOn();
  expect(await late.answered).toEqual([200, { said: false }]);
  for (const { goOn } of watched) goOn();
  expect((await Promise.all(watched.map(({ answered }) => answered))).every(([, { said }]) => said)).toBe(
    true,
  );
  expect(underWay.progress('import-099')).toBeNull();
});
