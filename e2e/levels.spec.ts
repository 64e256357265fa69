import { v7 } from 'uuid';
import type { StudyDocument } from '../core/model/study-document.ts';
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
