import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { StudyDocument } from '../core/model/study-document.ts';
import { recordOf } from '../core/record/record.ts';
import { type BenchServer, type Page, expect, graveViolations, startSession, test } from './bench-server.ts';
import logged from '../demo/logged-flasks.json' with { type: 'json' };

test.use({ demo: true });

const TITLE = 'Vacuum flasks, logged overnight';
/** What the logger wrote in a night, from 1. */
const night = (number: number): string =>
  readFileSync(path.join('demo/files', logged.files[number - 1]?.file ?? ''), 'utf8');

const addFile = async (page: Page, name: string, text: string | Buffer) => {
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Add a file' }).click(),
  ]);
  await chooser.setFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
};
const valuesOf = async (server: BenchServer, id: string) =>
  recordOf(await server.get<StudyDocument>(`/studies/${id}/document`)).readings.flatMap(
    ({ item, reading, value, standing }) =>
      standing.is === 'kept' ? [[item.name, reading.round, value, reading.source] as const] : [],
  );

test('a night of the logger becomes readings, which are taken back and taken again with another question', async ({
  page,
  server,
}) => {
  const id = await server.planOf(TITLE);
  await page.goto(`${server.address}/study/${id}/bench/traces`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('No file yet.');
  expect(await graveViolations(page)).toEqual([]);

  // What is no trace is refused with the place, and nothing of it is kept.
  await addFile(page, 'photo.csv', Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0]));
  await expect(page.getByText('photo.csv: The file is not text', { exact: false })).toBeVisible();
  await addFile(page, 'notes.csv', 'item,value\nOrrin,3\n');
  await expect(page.getByText('notes.csv: No column holds times.', { exact: false })).toBeVisible();
  await addFile(page, 'night-1.csv', night(1));
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Time constant, from 1 file.');

  // Columns find their items by name; the room is taken off and is no item’s.
  const table = page.getByRole('table');
  await expect(table.getByRole('row')).toHaveCount(6);
  await page.getByLabel('From, after the start').fill('0:30:00');
  await page.getByLabel('From, after the start').press('Enter');
  await expect(table.getByRole('row', { name: /^Orrin/ })).toContainText('35.34');
  expect(await graveViolations(page)).toEqual([]);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('5 readings of Time constant taken.').first()).toBeVisible();
  await expect(table.getByText('in round 1')).toHaveCount(5);
  await expect.poll(async () => (await valuesOf(server, id)).length).toBe(5);
  const first = await valuesOf(server, id);
  expect(first.map(([name, round]) => [name, round])).toEqual(
    ['Orrin', 'Velt 1', 'Tamsel', 'Quarn', 'Bresk'].map((name) => [name, 1]),
  );
  expect(first[0]?.[2]).toBeCloseTo(35.3366, 3);
  expect(first.every(([, , , source]) => source === 'recording')).toBe(true);

  await page.getByRole('button', { name: 'Take them back' }).click();
  await expect(table.getByRole('checkbox')).toHaveCount(5);
  await expect.poll(async () => (await valuesOf(server, id)).length).toBe(0);

  // A window of its own for one of them, moved by the keys; one is not taken.
  await page.getByText('Each its own').click();
  await table.getByRole('button', { name: 'Bresk', exact: true }).click();
  await page.getByLabel('To', { exact: true }).first().fill('4:00:00');
  await page.getByLabel('To', { exact: true }).first().press('Enter');
  await expect(table.getByRole('row', { name: /^Bresk/ })).toContainText('4:00:00');
  await page.getByRole('slider', { name: 'To' }).press('ArrowLeft');
  await expect(table.getByRole('row', { name: /^Bresk/ })).toContainText('3:58:00');
  await table
    .getByRole('row', { name: /^Quarn/ })
    .getByText('round 1')
    .click();
  await page.getByRole('button', { name: /^Take 4 readings/ }).click();
  await expect.poll(async () => (await valuesOf(server, id)).length).toBe(4);

  // Another question of the same windows: what was worked out otherwise does not count until it is worked out again.
  const [measurand] = (await server.get<StudyDocument>(`/studies/${id}/document`)).measurands;
  if (!measurand) throw new Error('no measurand');
  const settings = { ...measurand.settings, quantity: 'halfLife' };
  const { version } = measurand;
  await server.patch(`/studies/${id}/measurands/${measurand.id}`, { version, settings });
  await page.reload();
  await expect(
    page.getByText('4 readings of Time constant were worked out otherwise', { exact: false }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Work them out again' }).click();
  await expect(page.getByText('were worked out otherwise', { exact: false })).toBeHidden();
  await expect
    .poll(async () => (await valuesOf(server, id)).filter(([, , value]) => value !== null).length)
    .toBe(4);
  const again = await valuesOf(server, id);
  const orrin = again.find(([name]) => name === 'Orrin')?.[2] ?? 0;
  expect(orrin / Math.LN2).toBeCloseTo(35.3366, 3);

  // The bench goes on with the run that was not taken.
  await page.getByRole('button', { name: 'Back to the bench' }).click();
  await startSession(page);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Quarn');
  await page.getByRole('button', { name: 'Work it out from a logger’s file' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Time constant, from 1 file.');
});

test('what is wrong in a trace is said beside its value, on a wide page and a narrow one', async ({
  page,
  server,
}) => {
  const { id } = await server.study(TITLE);
  for (const [width, theme] of [
    [1280, 'light'],
    [768, 'dark'],
    [390, 'light'],
  ] as const) {
    await page.setViewportSize({ width, height: 900 });
    await page.emulateMedia({ colorScheme: theme });
    await page.goto(`${server.address}/study/${id}/bench/traces`);
    await expect(page.getByText('All of these are taken as readings.')).toBeVisible();
    // What a theme or a width could change is its contrast; a phone has the light theme’s.
    if (width > 390) expect(await graveViolations(page)).toEqual([]);
    const overflow = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
    expect(overflow).toBeLessThanOrEqual(0);
  }
  await page.setViewportSize({ width: 1280, height: 900 });
  const table = page.getByRole('table');
  const file = page.getByRole('button', { name: /night-5\.csv File$/ });
  await file.click();
  await page.getByRole('option', { name: 'night-4.csv' }).click();
  await expect(table.getByRole('row', { name: /^Velt 1/ })).toContainText('Did a probe slip?');
  await page.getByRole('button', { name: /night-4\.csv File$/ }).click();
  await page.getByRole('option', { name: 'night-2.csv' }).click();
  await expect(table.getByRole('row', { name: /^Tamsel/ })).toContainText(
    'It does not follow the fitted curve',
  );
  await page.getByRole('button', { name: /night-2\.csv File$/ }).click();
  await page.getByRole('option', { name: 'All files' }).click();
  await expect(table.getByRole('row')).toHaveCount(26);
  await page.getByText('From a common start').click();
  await expect(page.getByRole('slider')).toHaveCount(0);
});

test('what an instrument shows is logged at the bench by one key, and goes on when the page is left', async ({
  page,
  server,
}) => {
  const id = await server.planOf(TITLE);
  const port = 6300 + Math.floor(Math.random() * 600);
  const standIn = spawn(process.execPath, [
    'dist/node/instruments.js',
    ...['--only', 'anemometer', '--port', String(port)],
  ]);
  try {
    const [measurand] = (await server.get<StudyDocument>(`/studies/${id}/document`)).measurands;
    if (!measurand) throw new Error('no measurand');
    const settings = { quantity: 'mean', readUnit: 'm/s' };
    await server.patch(`/studies/${id}/measurands/${measurand.id}`, {
      ...{ version: measurand.version, settings, unit: 'm/s' },
      limits: { low: null, high: null },
    });
    await expect
      .poll(async () => (await server.post('/instruments', { host: '127.0.0.1', port })).status)
      .toBe(201);
    await page.goto(`${server.address}/study/${id}/bench`);
    await startSession(page);
    const item = (await page.getByRole('heading', { level: 1 }).textContent()) ?? '';
    await page.getByRole('button', { name: 'each 1 s' }).click();
    await page.getByRole('option', { name: 'each 0.2 s' }).click();
    await page.getByLabel(`Reading of ${item} in m/s`).press(' ');
    await expect(page.getByRole('timer')).toContainText(/[5-9] rows in/);
    expect(await graveViolations(page)).toEqual([]);
    await page.goto(`${server.address}/study/${id}/plan`);
    await page.goto(`${server.address}/study/${id}/bench`);
    await expect(page.getByRole('timer')).toContainText(/\d\d rows in/);
    await page.getByLabel(`Reading of ${item} in m/s`).press(' ');
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Time constant, from 1 file.');
    await expect(page.getByRole('row', { name: new RegExp(`^${item}`) })).toContainText('m/s');
    await page.getByRole('button', { name: /^Take 1 reading/ }).click();
    await expect
      .poll(async () => (await valuesOf(server, id)).map(([name, , , source]) => [name, source]))
      .toEqual([[item, 'recording']]);
  } finally {
    standIn.kill();
  }
});
