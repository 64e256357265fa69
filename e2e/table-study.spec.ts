import type { StudyDocument } from '../core/model/study-document.ts';
import { expect, graveViolations, test } from './bench-server.ts';

const TABLE = `Model,Speed (m/s),Price (EUR),Date,Time
Ama,3.1,30,2026-05-04,10:30
Bel,3.4,40,2026-05-04,10:32
Ama,3.2,30,2026-05-04,10:35
Bel,x,40,2026-05-04,10:36
`;

test('a pasted table becomes a study: columns are guessed, bad cells are marked, names are asked for', async ({
  page,
  server,
}) => {
  await page.goto(server.address);
  await page.getByRole('button', { name: 'From a table' }).click();
  await page.getByLabel(/Paste a table/).fill(TABLE);
  // Closed by a slip, the table is there again.
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.getByRole('button', { name: 'From a table' }).click();
  await expect(page.getByLabel(/Paste a table/)).toHaveValue(TABLE);
  await page.getByRole('button', { name: 'Look at it' }).click();
  await expect(
    page.getByText('3 readings of 2 items; 1 cell cannot be read and will be skipped.'),
  ).toBeVisible();
  await expect(page.getByText('Line 5, Speed (m/s): “x” is not a number in m/s.')).toBeVisible();
  expect(await graveViolations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Make the study' }).click();
  await expect(page.getByText('Give the study a name.')).toBeVisible();

  // A column that is said to hold something else changes what becomes of the table at once.
  await page.getByRole('button', { name: /What the column Price \(EUR\) holds/ }).click();
  await page.getByRole('option', { name: /^Readings of what/ }).click();
  await expect(page.getByText(/^7 readings of 2 items/)).toBeVisible();
  await page.getByRole('button', { name: /What the column Price \(EUR\) holds/ }).click();
  await page.getByRole('option', { name: /^Attribute of the item/ }).click();
  await page.getByLabel('Name of the study').fill('Two fans');
  await page.getByRole('button', { name: 'Make the study' }).click();
  await expect(page).toHaveURL(/\/screen$/);
  const id = /study\/([^/]+)\//.exec(page.url())?.[1] ?? '';
  const { items, readings, sessions } = await server.get<StudyDocument>(`/studies/${id}/document`);
  expect(items.map(({ name, attributes }) => [name, attributes[0]?.value])).toEqual([
    ['Ama', 30],
    ['Bel', 40],
  ]);
  expect([readings.length, sessions.length]).toEqual([3, 1]);
});

test('a file that is no table of our own is looked at as one', async ({ page, server }) => {
  await page.goto(server.address);
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import' }).click();
  await (
    await chooser
  ).setFiles({
    name: 'flow.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Round;Ama;Bel\n1;3,1;3,4\n2;3,2;3,3\n'),
  });
  await page.getByRole('button', { name: 'Look at it as a table' }).click();
  await expect(page.getByText(/^4 readings of 2 items/)).toBeVisible();
  await expect(page.getByLabel('Name of the study')).toHaveValue('flow');
  await page.getByRole('textbox', { name: 'What was read' }).fill('Flow');
  await page.getByRole('textbox', { name: 'Unit' }).fill('L/min');
  await page.getByText('lower', { exact: true }).click();
  await expect(page.getByText('Measurands: Flow in L/min.')).toBeVisible();
  await page.getByRole('button', { name: 'Make the study' }).click();
  await expect(page).toHaveURL(/\/screen$/);
  await page.getByRole('link', { name: 'Rank' }).click();
  await expect(page.getByText('Flow in L/min, lower is better', { exact: false })).toBeVisible();
});
