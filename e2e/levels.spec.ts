import { v7 } from 'uuid';
import type { StudyDocument } from '../core/model/study-document.ts';
import { twoFactorStudy } from '../core/testing-study.ts';
import { type BenchServer, expect, graveViolations, test } from './bench-server.ts';

test.use({ demo: true });

/** The ranking of the tap aerators, over their pressures. */
const ranking = async (server: BenchServer) =>
  `${server.address}/study/${(await server.study('Tap aerators')).id}/rank`;

test('three pressures are one page: who is first where, what each changes by, what was claimed', async ({
  page,
  server,
}) => {
  await page.goto(await ranking(server));
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Korre Eco is first at 1 bar and 3 bar; first place is not settled at 2 bar. One reading of Korre Eco stands out.',
  );
  await expect(page.getByRole('img', { name: /^Flow over Pressure/ })).toBeVisible();
  const levels = page.getByRole('region', { name: 'Items by level' });
  await expect(levels.getByRole('row', { name: /Korre Eco/ })).toContainText('17.33');
  const changes = page.getByRole('region', { name: 'Changes by level' });
  await expect(changes.getByRole('columnheader')).toHaveText(['Item', '1 bar to 2 bar', '1 bar to 3 bar']);
  await expect(changes.getByRole('row', { name: /Jettik/ })).toContainText('+2.30 (+42');
  await page.getByRole('radio', { name: 'From the level before' }).click({ force: true });
  await expect(changes.getByRole('columnheader')).toHaveText(['Item', '1 bar to 2 bar', '2 bar to 3 bar']);
  await expect(page.getByText('Depends on the level').first()).toBeVisible();
  // One level is a click away, and its sentence agrees.
  await page.getByRole('radio', { name: '2 bar', exact: true }).click({ force: true });
  await expect(page.getByRole('heading', { level: 1 })).toContainText('not settle');
});

test('what is left out changes the page over the levels, and narrow it is sound to axe', async ({
  page,
  server,
}) => {
  const { id } = await server.study('Tap aerators');
  const held = await server.get<StudyDocument>(`/studies/${id}/document`);
  const misread = held.readings.find(({ parts }) => parts.some(({ text }) => text === '43'));
  await page.goto(await ranking(server));
  await expect(page.getByText(/^At 2 bar: Korre Eco: 17\.33/)).toBeVisible();
  const made = await server.post(`/studies/${id}/decisions`, {
    id: v7(),
    action: 'leave-out',
    readingId: misread?.id,
    sessionId: null,
    run: null,
    reason: 'decimal point not typed',
    decidedAt: new Date().toISOString(),
  });
  expect(made.status).toBe(201);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Korre Eco is first at 1 bar and 3 bar; first place is not settled at 2 bar.',
  );
  await expect(page.getByText('Jettik and Halvard may change places')).toBeVisible();
  await page.setViewportSize({ width: 390, height: 800 });
  await expect
    .poll(() => page.evaluate(() => document.documentElement.scrollWidth - innerWidth))
    .toBeLessThanOrEqual(0);
  expect(await graveViolations(page)).toEqual([]);
});

test('two factors are one page too: who is first where, side by side, along either', async ({
  page,
  server,
}) => {
  const means = [
    [3, 5, 7],
    [3.5, 4, 4.5],
    [2.5, 3, 3.5],
  ];
  const { document, measurand } = twoFactorStudy(
    { items: 3, levels: 3, others: ['cold', 'warm'], rounds: 5 },
    ({ item, level, other, round }) =>
      (means[item]?.[level] ?? 0) * (item === 0 && other === 1 ? 1.3 : 1) + 0.02 * ((3 * round + item) % 5),
  );
  measurand.direction = { kind: 'higher', target: null };
  const made = await server.post('/studies/import?copy=yes', document);
  expect(made.status).toBe(201);
  const { study } = (await made.json()) as { study: { id: string } };
  await page.goto(`${server.address}/study/${study.id}/rank`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Item 1 is first at 5 of the 6 settings; Item 2 is first at “1 bar, cold”. Item 1 and Item 2 change places.',
  );
  await expect(
    page.getByText('Item 1 is ahead at 5 of the 6 settings, Item 2 at “1 bar, cold”.'),
  ).toBeVisible();
  await expect(page.getByRole('img', { name: /^Pull over Pressure/ })).toHaveCount(2);
  const table = page.getByRole('region', { name: 'Items by setting' });
  await expect(table.getByRole('columnheader')).toHaveText([
    ...['Item', 'cold', 'warm', '1 bar', '2 bar', '3 bar', '1 bar', '2 bar', '3 bar'],
  ]);
  await page.getByRole('radio', { name: 'Water' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByRole('img', { name: /^Pull over Water/ })).toHaveCount(3);
  await expect(page.getByRole('heading', { level: 1 })).toContainText(
    'Item 1 is first at 5 of the 6 settings',
  );
  await page.setViewportSize({ width: 390, height: 800 });
  await expect
    .poll(() => page.evaluate(() => globalThis.document.documentElement.scrollWidth - innerWidth))
    .toBeLessThanOrEqual(0);
  expect(await graveViolations(page)).toEqual([]);
});
