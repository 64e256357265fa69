import { type Page, expect, graveViolations, test } from './bench-server.ts';

test.use({ demo: true });

const heading = (page: Page) => page.getByRole('heading', { level: 1 });

test('what is known of an item from elsewhere is typed in, ranked and marked, changed and taken out', async ({
  page,
  server,
}) => {
  const { id } = await server.study('Desk fans');
  const { items } = (await (await fetch(`${server.address}/api/v1/studies/${id}/document`)).json()) as {
    items: { class: string }[];
  };
  const added = await fetch(`${server.address}/api/v1/studies/${id}/items`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      ...{ id: '01900000-0000-7000-8000-0000000e15e0', name: 'Old Sorrel', code: 'OS', mark: 6 },
      ...{ role: 'candidate', class: items[0]?.class ?? '', attributes: [], position: 99 },
    }),
  });
  expect(added.status).toBe(201);
  await page.goto(`${server.address}/study/${id}/screen`);
  await page.getByText('Nothing: every item is known by its readings.').click();
  await page.getByRole('button', { name: 'Type a figure in' }).click();
  const dialog = page.getByRole('dialog');
  // The item that was not read is proposed.
  await expect(dialog.getByRole('button', { name: /Old Sorrel/ })).toBeVisible();
  await dialog.getByRole('button', { name: 'Type it in' }).click();
  await expect(dialog.getByText('How many readings was it?')).toBeVisible();
  await dialog.getByLabel('Readings', { exact: true }).fill('6');
  await dialog.getByLabel('Mean in m/s').fill('3.812345678');
  await dialog.getByLabel('SD', { exact: true }).fill('0,05');
  await dialog.getByLabel(/^Smallest/).fill('3.9 to 4');
  await dialog.getByLabel('Where it comes from').fill('Notebook of last spring');
  expect(await graveViolations(page)).toEqual([]);
  // Closed by a slip, what was typed is there again.
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
  await page.getByRole('button', { name: 'Type a figure in' }).click();
  await expect(dialog.getByLabel('Mean in m/s')).toHaveValue('3.812345678');
  await dialog.getByRole('button', { name: 'Type it in' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText('mean 3.812\u202fm/s of 6 readings, SD 0.05, readings 3.9 to 4')).toBeVisible();
  await expect(page.getByText('lies outside its own readings', { exact: false }).first()).toBeVisible();
  expect(await graveViolations(page)).toEqual([]);

  await page.getByRole('link', { name: 'Rank' }).click();
  await expect(heading(page)).toContainText('Old Sorrel is first.');
  await expect(page.getByText('Old Sorrel was not read here', { exact: false })).toBeVisible();
  await page.getByRole('link', { name: 'Report' }).click();
  await expect(page.getByRole('cell', { name: '6, typed in' })).toBeVisible();
  await expect(
    page.getByText('Old Sorrel (Air speed at one metre: Notebook of last spring)', { exact: false }),
  ).toBeVisible();

  await page.getByRole('link', { name: 'Screen' }).click();
  await page.getByText('1 item, typed in.').click();
  await page.getByRole('button', { name: 'Change what is known of Old Sorrel' }).click();
  // All figures are there to be changed, and none is lost where nothing is.
  await expect(dialog.getByLabel('Mean in m/s')).toHaveValue('3.812345678');
  await dialog.getByRole('radio', { name: 'A range or a limit' }).click({ force: true });
  await dialog.getByLabel('Range in m/s').fill('2 to 1');
  await dialog.getByRole('button', { name: 'Change it' }).click();
  await expect(dialog.getByText('the lower end comes first', { exact: false })).toBeVisible();
  await dialog.getByLabel('Range in m/s').fill('> 3');
  await dialog.getByLabel('Range in m/s').press('Enter');
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('cell', { name: '> 3\u202fm/s' })).toBeVisible();
  await page.getByRole('link', { name: 'Rank' }).click();
  await expect(heading(page)).toContainText('not settled between');
  await expect(page.getByText('of Old Sorrel a range is known', { exact: false })).toBeVisible();

  await page.getByRole('link', { name: 'Screen' }).click();
  await page.getByText('1 item, typed in.').click();
  await page.getByRole('button', { name: 'Take out what is known of Old Sorrel' }).click();
  await expect(page.getByText('Nothing: every item is known by its readings.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('1 item, typed in.')).toBeVisible();
});
