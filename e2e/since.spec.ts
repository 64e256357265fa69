import type { StudyDocument } from '../core/model/study-document.ts';
import { expect, graveViolations, test } from './bench-server.ts';

test.use({ demo: true });

test('the same items months later: what changed, what stands out, and which item was which', async ({
  page,
  server,
}) => {
  const study = await server.study('Vacuum flasks, five months on');
  const earlier = async () => (await server.get<StudyDocument['study']>(`/studies/${study.id}`)).earlier;
  await page.goto(`${server.address}/study/${study.id}/rank`);
  const fold = page.getByText('Since an earlier test');
  await fold.click();
  await expect(page.getByText('All items read lower than then')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Quarn stands out' })).toBeVisible();
  const table = page.getByRole('region', { name: /^By how much each changed/ });
  await expect(table.getByRole('row', { name: /Quarn/ })).toContainText('stands out');
  await page.getByText('less the ambient', { exact: true }).click();
  await expect(page.getByText('The ambient temperature is not known for both tests.')).toBeVisible();
  expect(await graveViolations(page)).toEqual([]);

  await page.getByText('Heat kept', { exact: true }).click();
  await expect(page.getByText('Quarn reads lower than then; ')).toBeVisible();

  // An item that was another one then.
  await page.getByText('Which item was which').click();
  await page.getByRole('button', { name: /Bresk was then/ }).click();
  await page.getByRole('option', { name: 'not in that test' }).click();
  await expect.poll(async () => (await earlier())[0]?.matches).toMatchObject([{ earlierItemId: null }]);
  await expect(table.getByRole('row', { name: /Bresk/ })).toContainText('not read at both');

  // Another study is named, and taken back; sessions are at hand as well.
  await page.getByRole('button', { name: /Compared with/ }).click();
  await page.getByRole('option', { name: /^Desk fans/ }).click();
  await expect(page.getByText('Heat kept was not read then.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await earlier()).length).toBe(1);
  await page.getByRole('button', { name: /Compared with/ }).click();
  await page
    .getByRole('option', { name: /^The session of/ })
    .first()
    .click();
  await expect(table.getByRole('row', { name: /Orrin/ })).toContainText('too few readings');

  await page.goto(`${server.address}/study/${study.id}/report`);
  const part = page.getByRole('region', { name: 'Since the earlier tests' });
  await expect(part.getByText('Heat kept: Quarn reads lower than then')).toBeVisible();
});

test('a study that begins as another one months later names it as its earlier test', async ({
  page,
  server,
}) => {
  const first = await server.study('Vacuum flasks');
  await page.goto(server.address);
  await page.getByRole('button', { name: 'New study' }).click();
  await page.getByLabel('Name').fill('Flasks, a year on');
  await page.getByRole('button', { name: /Start from/ }).click();
  await page.getByRole('option', { name: /months later/ }).click();
  await page.getByRole('button', { name: /The first time was/ }).click();
  await page.getByRole('option', { name: 'Vacuum flasks', exact: true }).click();
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page).toHaveURL(/\/plan$/);
  const id = /study\/([^/]+)\//.exec(page.url())?.[1] ?? '';
  const study = await server.get<StudyDocument['study']>(`/studies/${id}`);
  expect(study.earlier).toEqual([{ studyId: first.id, title: 'Vacuum flasks', matches: [] }]);
});

test('a control has its range in the plan, and a class that changes late asks why', async ({
  page,
  server,
}) => {
  const study = await server.study('Vacuum flasks');
  const changes = () => server.get<StudyDocument['changes']>(`/studies/${study.id}/changes`);
  await page.goto(`${server.address}/study/${study.id}/plan`);
  await page.getByRole('button', { name: /Role of Bresk/ }).click();
  await page.getByRole('option', { name: /Control/ }).click();
  const why = page.getByLabel('Why: Bresk moved from candidate to control');
  await why.fill('It is the plain bottle');
  await why.press('Enter');
  await expect.poll(async () => (await changes())[0]?.reason).toBe('It is the plain bottle');
  const from = page.getByLabel('Control Bresk: reads from').first();
  await from.fill('80');
  await from.press('Enter');
  await page.goto(`${server.address}/study/${study.id}/screen`);
  await expect(page.getByText(/Bresk read .* of water after 8 h in the session of 2026-06-08/)).toBeVisible();
  await page.goto(`${server.address}/study/${study.id}/report`);
  await expect(
    page.getByText('Bresk moved from candidate to control', { exact: false }).first(),
  ).toBeVisible();
});
