import { type Page, expect, test } from './bench-server.ts';

test.use({ demo: true });

const heading = (page: Page) => page.getByRole('heading', { level: 1 });

test('readings are referred to a common ambient, by an estimate where none was noted, and back', async ({
  page,
  server,
}) => {
  const { id } = await server.study('Vacuum flasks');
  await page.goto(`${server.address}/study/${id}/screen`);
  await expect(heading(page)).toContainText('Every reading counts.');
  await page.getByText('None: readings count as they were read.').click();
  await page.getByRole('button', { name: /Refer readings to/ }).click();
  await page.getByRole('option', { name: 'Air temperature' }).click();
  // One night noted no air temperature, so that its five readings cannot be set right.
  await expect(heading(page)).toContainText('5 readings are left out.');
  await expect(page.getByText('5 readings cannot be set right', { exact: false })).toBeVisible();
  const estimate = page.getByLabel(/not noted\. About/);
  await estimate.fill('21.5');
  await estimate.press('Enter');
  await expect(heading(page)).toContainText('Every reading counts.');
  await expect(page.getByRole('cell', { name: 'counts, ambient estimated' })).toHaveCount(5);
  // It is part of the promise, so its late change is on record and asks why.
  await expect(page.getByText('corrections from', { exact: false }).first()).toBeVisible();
  await page.goto(`${server.address}/study/${id}/report`);
  await expect(page.getByText('Readings of Water after 8 h were set right', { exact: false })).toBeVisible();
  await page.goto(`${server.address}/study/${id}/screen`);
  const layer = page.getByRole('checkbox', { name: /^referred to Air temperature/ });
  await expect(layer).toBeChecked();
  await layer.press('Space');
  await expect(layer).not.toBeChecked();
  await expect(page.getByText('None is in force: readings count as they were read.')).toBeVisible();
});

test('a calibration of two points gives the readings on its line', async ({ page, server }) => {
  const { id } = await server.study('Vacuum flasks');
  await page.goto(`${server.address}/study/${id}/screen`);
  await page.getByText('None: readings count as they were read.').click();
  await page.getByRole('button', { name: 'Add a calibration' }).click();
  const group = page.getByRole('group', { name: 'Calibration', exact: true });
  const fields: [string, string, number][] = [
    ['It read', '1', 0],
    ['and it read', '101', 0],
    ['where true was', '100', 1],
  ];
  for (const [label, value, place] of fields) {
    const field = group.getByLabel(label, { exact: true }).nth(place);
    await field.fill(value);
    await field.press('Enter');
  }
  // From 1 and 101 to 0 and 100: a degree off everywhere.
  await expect(page.getByText('Moves all readings by −1', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Remove the calibration' }).click();
  await expect(page.getByText('None: readings count as they were read.')).toBeVisible();
});

test('a rule leads to what it does, in words and figures', async ({ page, server }) => {
  const { id } = await server.study();
  await page.goto(`${server.address}/study/${id}/screen`);
  await page.getByRole('complementary').getByRole('link', { name: 'How it works' }).click();
  await expect(page).toHaveURL(/\/methods#generalized-esd$/);
  await expect(page.getByRole('article', { name: 'Generalized ESD' })).toBeInViewport();
});
