import { type ChildProcess, spawn } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import sharp from 'sharp';
import type { StudyDocument } from '../core/model/study-document.ts';
import {
  type BenchServer,
  type Page,
  benchFetched,
  expect,
  graveViolations,
  startSession,
  test,
} from './bench-server.ts';

test.use({ demo: true });

const documentOf = (server: BenchServer, id: string) => server.get<StudyDocument>(`/studies/${id}/document`);

async function fansAnew(
  page: Page,
  server: BenchServer,
  waits: 'with waits' | 'without waits' = 'without waits',
): Promise<string> {
  const id = await server.planOf('Desk fans', waits);
  await page.goto(`${server.address}/study/${id}/bench`);
  return id;
}

test('a session asks for cautions, conditions and checklist, is paused, split and ended', async ({
  page,
  server,
}) => {
  const id = await fansAnew(page, server, 'with waits');
  await page.getByLabel('Operator').fill('Ola');
  await page.getByText('Doors and windows shut').click();
  await page.getByRole('button', { name: 'Start the session' }).click();
  await expect(page.getByRole('alert')).toContainText('Read the cautions first');
  await page.getByText('I have read the cautions.').click();
  await page.getByLabel('Air temperature').fill('21,2 °C');
  await page.getByRole('button', { name: 'Start the session' }).click();
  const entry = page.getByRole('textbox', { name: /^Reading of/ });
  await expect(entry).toBeFocused();
  // The wait of the procedure counts down; it asks, and holds nobody up.
  await expect(page.getByText(/Fan runs up to speed:/)).toBeVisible();
  await entry.fill('3.1');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('“Fan runs up to speed” is not over yet.');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 of 144 readings')).toBeVisible();

  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByRole('heading', { name: /^Paused since/ })).toBeVisible();
  await page.getByRole('button', { name: 'Go on' }).first().click();
  await expect(page.getByRole('heading', { name: /^Paused since/ })).toBeHidden();

  await page.getByRole('button', { name: 'Change…' }).click();
  const split = page.getByRole('dialog', { name: 'Another instrument or operator' });
  await split.getByLabel('Instrument').fill('Other anemometer');
  await split.getByRole('button', { name: 'Go on with these' }).click();
  await expect(page.getByText(/going on from another/)).toBeVisible();
  await page.getByRole('textbox').first().focus();

  await page.getByRole('button', { name: 'End', exact: true }).click();
  const end = page.getByRole('dialog', { name: 'End the session' });
  await end.getByLabel('Air temperature').fill('23');
  await expect(end.getByText(/has moved by 1\.8.°C since the start; 1.°C is tolerable/)).toBeVisible();
  await end.getByRole('button', { name: 'End it' }).click();
  await expect(page.getByRole('heading', { name: 'Another session' })).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  const { sessions, readings } = await documentOf(server, id);
  expect(sessions).toMatchObject([
    {
      operator: 'Ola',
      checked: ['Doors and windows shut'],
      acknowledged: ['mains', 'cutting'],
      continuesId: null,
    },
    { instrument: 'Other anemometer', continuesId: sessions[0]?.id },
  ]);
  expect(sessions[0]?.pauses).toHaveLength(1);
  expect(sessions[0]?.endedAt).not.toBeNull();
  expect(sessions[1]?.conditions.map(({ at, number }) => [at, number])).toEqual([
    ['start', 21.2],
    ['end', 23],
  ]);
  expect(readings[0]?.sessionId).toBe(sessions[0]?.id);
});

test('conditions are a word of the plan and yes or no, noted at the bench and reported', async ({
  page,
  server,
}) => {
  const id = await fansAnew(page, server);
  await page.getByRole('link', { name: 'Plan' }).click();
  await page.getByText('Conditions to record', { exact: true }).click();
  for (const [place, name, kind] of [
    [2, 'Curtains', 'A word'],
    [3, 'Heating on', 'Yes or no'],
  ] as const) {
    await page.getByRole('button', { name: 'Another condition' }).click();
    const field = page.getByLabel('Condition', { exact: true }).nth(place);
    await field.fill(name);
    await field.blur();
    await page
      .getByRole('button', { name: /^It is|It is$/ })
      .nth(place)
      .click();
    await page.getByRole('option', { name: kind }).click();
  }
  const words = page.getByLabel('Words to choose from');
  await words.fill('open, shut; OPEN');
  await words.blur();
  await expect(page.getByText('The word “OPEN” stands there twice.')).toBeVisible();
  await words.fill('open, shut, half open');
  await words.blur();
  await expect.poll(async () => (await documentOf(server, id)).conditions.at(2)?.words).toHaveLength(3);
  await page.getByRole('button', { name: 'Run sheet for paper' }).click();
  await expect(page.getByText('Curtains at the end: open, shut or half open (required)')).toBeVisible();
  await page.goto(`${server.address}/study/${id}/bench`);

  await page.getByText('I have read the cautions.').click();
  await page.getByLabel('Air temperature').fill('21');
  await page.getByRole('button', { name: /Curtains/ }).click();
  await page.getByRole('option', { name: 'shut' }).click();
  await page.getByRole('button', { name: 'Start the session' }).click();
  await expect(page.getByRole('button', { name: 'Start without Heating on' })).toBeVisible();
  await page.getByRole('radiogroup', { name: 'Heating on' }).getByText('no', { exact: true }).click();
  expect(await graveViolations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Start the session' }).click();
  await expect(page.getByText(/Curtains: shut; Heating on: no/)).toBeVisible();
  await page.getByRole('textbox', { name: /^Reading of/ }).fill('3.1');
  await page.keyboard.press('Enter');

  await page.getByRole('button', { name: 'End', exact: true }).click();
  const end = page.getByRole('dialog', { name: 'End the session' });
  await end.getByText('yes', { exact: true }).click();
  await expect(end.getByText('Heating on was “no” at the start, and is “yes” now.')).toBeVisible();
  await end.getByRole('button', { name: /Curtains/ }).click();
  await page.getByRole('option', { name: 'shut' }).click();
  await end.getByLabel('Air temperature').fill('21');
  await end.getByRole('button', { name: 'End it' }).click();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  // What was read stays what it is.
  await page.getByRole('link', { name: 'Plan' }).click();
  await page.getByText('Conditions to record', { exact: true }).click();
  await page
    .getByRole('button', { name: /^It is|It is$/ })
    .nth(2)
    .click();
  await expect(page.getByRole('option')).toHaveCount(1);
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Report' }).click();
  await expect(page.getByText(/Curtains: shut; Heating on: no, then yes/)).toBeVisible();
});

test('what was done to a session is undone by touch, step by step, to its start as it was filled in', async ({
  page,
  server,
}) => {
  const id = await fansAnew(page, server);
  await page.getByLabel('Air temperature').fill('21,2 °C');
  await startSession(page);
  await page.getByRole('button', { name: 'Conditions now' }).click();
  await page.getByRole('dialog').getByLabel('Air temperature').fill('21.9');
  await page.getByRole('button', { name: 'Note them' }).click();
  await page.getByRole('button', { name: 'Pause' }).click();
  await page.getByRole('button', { name: 'End', exact: true }).click();
  await page.getByRole('dialog').getByLabel('Air temperature').fill('22');
  await page.getByRole('button', { name: 'End it' }).click();
  await expect(page.getByRole('heading', { name: 'Another session' })).toBeVisible();

  const undo = page.getByRole('button', { name: /undo/i });
  await undo.click();
  await expect(page.getByRole('heading', { name: /^Paused since/ })).toBeVisible();
  await undo.click();
  await expect(page.getByRole('textbox', { name: /^Reading of/ })).toBeVisible();
  await expect(page.getByText(/Air temperature 21\.9/)).toBeVisible();
  await undo.click();
  await expect(page.getByText(/Air temperature 21\.2/)).toBeVisible();
  await undo.click();
  await expect(page.getByRole('heading', { name: 'Before the first reading' })).toBeVisible();
  await expect(page.getByLabel('Air temperature')).toHaveValue('21,2 °C');
  await expect(undo).toBeDisabled();
  await page.getByRole('button', { name: 'More at the bench' }).click();
  await page.getByRole('menuitem', { name: 'What was done' }).click();
  const log = page.getByRole('dialog', { name: 'What was done' });
  await expect(log.getByText('Undone: pause')).toBeVisible();
  await expect(log.getByText('Undone: the start of a session')).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  const { sessions } = await documentOf(server, id);
  expect(sessions).toMatchObject([
    { endedAt: null, pauses: [], conditions: [{ at: 'start', number: 21.2 }] },
  ]);
});

test('what is typed and not recorded is there again when the page is loaded again', async ({
  page,
  server,
}) => {
  const id = await fansAnew(page, server);
  await page.getByLabel('Operator').fill('Ola');
  await page.getByLabel('Air temperature').fill('21,2 °C');
  await page.reload();
  await expect(page.getByLabel('Operator')).toHaveValue('Ola');
  await expect(page.getByLabel('Air temperature')).toHaveValue('21,2 °C');
  await startSession(page);
  const entry = page.getByRole('textbox', { name: /^Reading of/ });
  await page.getByRole('navigation', { name: 'Run queue' }).getByRole('button').nth(5).click();
  const name = await entry.getAttribute('aria-label');
  await entry.fill('3.17');
  await page.reload();
  await expect(entry).toHaveValue('3.17');
  await expect(entry).toHaveAttribute('aria-label', name ?? '');
  // Another run that is looked at meanwhile has its own text.
  const runs = page.getByRole('navigation', { name: 'Run queue' }).getByRole('button');
  await runs.nth(6).click();
  await expect(entry).toHaveValue('');
  await entry.fill('2.2');
  await runs.nth(5).click();
  await expect(entry).toHaveValue('3.17');
  // Loaded again, the page is no other tab.
  await expect(page.getByRole('button', { name: 'Take over here' })).toBeHidden();
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 of 144 readings')).toBeVisible();
  await page.reload();
  await expect(entry).toHaveValue('');
  await runs.nth(6).click();
  await expect(entry).toHaveValue('2.2');
  await entry.fill('');
  await page.keyboard.press('n');
  await page.getByLabel('Note', { exact: true }).fill('Door was open');
  await page.keyboard.press('Escape');
  await page.keyboard.press('n');
  await expect(page.getByLabel('Note', { exact: true })).toHaveValue('Door was open');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  expect((await documentOf(server, id)).notes).toMatchObject([{ text: 'Door was open' }]);
});

test('a session begins and ends while the server is away, and is there with its readings afterwards', async ({
  page,
  server,
}) => {
  const id = await fansAnew(page, server);
  await expect(page.getByRole('heading', { name: 'Before the first reading' })).toBeVisible();
  await benchFetched(page);
  await server.kill();
  await startSession(page);
  const entry = page.getByRole('textbox', { name: /^Reading of/ });
  await entry.fill('3.1');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'End', exact: true }).click();
  await page.getByRole('button', { name: 'End it' }).click();
  await page.getByRole('button', { name: 'End it' }).click();
  await expect(page.getByRole('heading', { name: 'Another session' })).toBeVisible();
  await server.start();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  const { sessions, readings } = await documentOf(server, id);
  expect(sessions).toHaveLength(1);
  expect(sessions[0]?.endedAt).not.toBeNull();
  expect(readings.map(({ sessionId }) => sessionId)).toEqual([sessions[0]?.id]);
});

test('a run is taken again, one is added, and all of it is undone step by step with a log', async ({
  page,
  server,
}) => {
  const id = await fansAnew(page, server);
  await startSession(page);
  const entry = page.getByRole('textbox', { name: /^Reading of/ });
  const queue = page.getByRole('navigation', { name: 'Run queue' });
  await entry.fill('3.1');
  await page.keyboard.press('Enter');
  await queue.getByRole('button', { name: /3\.1/ }).click();
  await page.keyboard.press('r');
  await expect(page.getByText('0 of 144 readings')).toBeVisible();
  await entry.fill('3.2');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 of 144 readings')).toBeVisible();
  await page.keyboard.press('a');
  await expect(page.getByText('1 of 145 readings')).toBeVisible();
  await expect(page.getByText(/not in the plan/)).toBeVisible();
  await page.keyboard.press('l');
  const log = page.getByRole('dialog', { name: 'What was done' });
  await expect(log.getByText(/^Added a run:/)).toBeVisible();
  await expect(log.getByText(/^Taken again:/)).toBeVisible();
  await log.getByRole('button', { name: /Undo the last/ }).click();
  await expect(log.getByText(/^Removed the added run/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('1 of 144 readings')).toBeVisible();
  await page.keyboard.press('u');
  await expect(page.getByText('0 of 144 readings')).toBeVisible();
  await entry.fill('');
  await page.keyboard.press('u');
  await expect(page.getByText('1 of 144 readings')).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  expect((await documentOf(server, id)).readings).toHaveLength(2);
});

test('a note with a photo goes to a run; what is no photo is refused', async ({ page, server }, info) => {
  const id = await fansAnew(page, server);
  await startSession(page);
  await page.keyboard.press('n');
  const dialog = page.getByRole('dialog', { name: 'A note' });
  const choose = async (name: string, bytes: Buffer) => {
    const file = info.outputPath(name);
    writeFileSync(file, bytes);
    const chooser = page.waitForEvent('filechooser');
    await dialog.getByRole('button', { name: /photo/ }).click();
    await (await chooser).setFiles(file);
  };
  await choose('program.png', Buffer.from(`\u007fELF${'\0'.repeat(200)}`));
  await expect(dialog.getByRole('alert')).toHaveText('This is no photo. JPEG, PNG and WebP can be kept.');
  const photo = await sharp({ create: { width: 640, height: 480, channels: 3, background: '#3a7' } })
    .jpeg()
    .withExif({ IFD0: { ImageDescription: 'at home' }, IFD3: { GPSLatitude: '51/1 30/1 0/1' } })
    .toBuffer();
  await choose('bench.jpg', photo);
  await expect(dialog.getByAltText('The photo that goes with the note')).toBeVisible();
  await dialog.getByLabel('Note', { exact: true }).fill('Vane a little low');
  await dialog.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText('Vane a little low')).toBeVisible();
  const shown = page.getByAltText('Vane a little low');
  await expect(shown).toBeVisible();
  await expect.poll(() => shown.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(640);
  const [note] = (await documentOf(server, id)).notes;
  const kept = await fetch(`${server.address}/api/v1/photos/${note?.photo ?? ''}?original=yes`);
  const bytes = Buffer.from(await kept.arrayBuffer());
  expect(photo.includes('at home')).toBe(true);
  expect(bytes.includes('at home')).toBe(false);
  expect((await sharp(bytes).metadata()).exif).toBeUndefined();
  // The note goes away by undo, and stays in the record.
  await page.keyboard.press('u');
  await expect(page.getByText('Vane a little low')).toBeHidden();
});

test('a table of readings is matched, its bad cells marked, taken, and taken back by one undo', async ({
  page,
  server,
}) => {
  const id = await server.planOf('Desk fans');
  await page.goto(`${server.address}/study/${id}/bench`);
  await startSession(page);
  await page.getByRole('button', { name: 'More at the bench' }).click();
  await page.getByRole('menuitem', { name: /Readings from a table/ }).click();
  const dialog = page.getByRole('dialog', { name: 'Readings from a table' });
  await dialog
    .getByRole('textbox')
    .fill('Fan;Round;Air speed at one metre;Power\nBrunnow;1;3,19;38\nQuillop S;1;2,7;24.1\nNobody;1;3;20\n');
  await dialog.getByRole('button', { name: 'Look at it' }).click();
  await expect(dialog.getByRole('alert')).toHaveText('Say which column holds the item.');
  await dialog.getByRole('button', { name: /What the column Fan holds/ }).click();
  await page.getByRole('option', { name: 'Item', exact: true }).click();
  await expect(dialog.getByText(/2 readings can be taken; 2 rows cannot/)).toBeVisible();
  await expect(dialog.getByText('Line 4, Fan: The study has no item “Nobody”.')).toBeVisible();
  await expect(dialog.getByText(/Line 3, Power: “24\.1” has a decimal point/)).toBeVisible();
  expect((await documentOf(server, id)).readings).toEqual([]);
  await dialog.getByRole('button', { name: 'Take 2 readings' }).click();
  await expect(page.getByText('2 of 144 readings')).toBeVisible();
  expect((await documentOf(server, id)).sessions.at(-1)).toMatchObject({
    kind: 'import',
    note: 'a pasted table',
  });
  await page.getByRole('textbox', { name: /^Reading of/ }).focus();
  await page.keyboard.press('u');
  await expect(page.getByText('0 of 144 readings')).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  const { readings, decisions } = await documentOf(server, id);
  expect(readings).toHaveLength(2);
  expect(decisions).toMatchObject([{ action: 'withdraw', readingId: null }]);
});

test('a table is reached when all runs are done, and one that is not UTF-8 is refused', async ({
  page,
  server,
}, info) => {
  const { id } = await server.study();
  await page.goto(`${server.address}/study/${id}/bench`);
  await expect(page.getByRole('heading', { name: 'All 144 runs are done.' })).toBeVisible();
  await page.getByRole('button', { name: 'More at the bench' }).click();
  await page.getByRole('menuitem', { name: /Readings from a table/ }).click();
  const dialog = page.getByRole('dialog', { name: 'Readings from a table' });
  const file = info.outputPath('latin.csv');
  // ISO 8859-1: an ü is the lone byte 0xFC.
  writeFileSync(file, Buffer.from('Item;Value\nBr\u00fcnnow;3\n', 'latin1'));
  const chooser = page.waitForEvent('filechooser');
  await dialog.getByRole('button', { name: 'A file…' }).click();
  await (await chooser).setFiles(file);
  await expect(dialog.getByRole('alert')).toHaveText('The file is not text in UTF-8.');
  writeFileSync(file, 'Item;Round;Air speed at one metre\nBrunnow;1;3,2\n');
  const again = page.waitForEvent('filechooser');
  await dialog.getByRole('button', { name: 'A file…' }).click();
  await (await again).setFiles(file);
  await expect(
    dialog.getByText(/Brunnow has a reading of Air speed at one metre in round 1 already/),
  ).toBeVisible();
  await expect(dialog.getByRole('button', { name: /^Take \d/ })).toBeHidden();
});

test('a second tablet follows live and takes over', async ({ page, browser, server }) => {
  await fansAnew(page, server);
  await startSession(page);
  const context = await browser.newContext({ viewport: { width: 768, height: 1024 }, hasTouch: true });
  const tablet = await context.newPage();
  await tablet.goto(page.url());
  await expect(tablet.getByRole('button', { name: 'Take over here' })).toBeVisible();
  await page.getByRole('textbox', { name: /^Reading of/ }).fill('3.1');
  await page.keyboard.press('Enter');
  await expect(tablet.getByText('1 of 144 readings')).toBeVisible();
  await tablet.getByRole('button', { name: 'Take over here' }).tap();
  await tablet.getByRole('textbox', { name: /^Reading of/ }).fill('47.1');
  await tablet.getByRole('button', { name: /^Record/ }).tap();
  await expect(tablet.getByText('2 of 144 readings')).toBeVisible();
  await expect(page.getByText('2 of 144 readings')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take over here' })).toBeVisible();
  await context.close();
  // The tablet has gone; the bench is here again.
  await expect(page.getByRole('textbox', { name: /^Reading of/ })).toBeVisible();
});

test('an instrument is connected, read by one key, dies in mid-stream and is taken up again', async ({
  page,
  server,
}) => {
  const port = 20000 + Math.floor(Math.random() * 20000);
  const standIn = (): ChildProcess =>
    spawn(process.execPath, ['dist/node/instruments.js', '--only', 'anemometer', '--port', String(port)]);
  let program = standIn();
  try {
    const id = await fansAnew(page, server);
    await startSession(page);
    await page.getByRole('button', { name: 'Connect one…' }).click();
    const dialog = page.getByRole('dialog', { name: 'Connect an instrument' });
    await dialog.getByLabel('Address').fill('192.0.2.1:5025');
    await page.keyboard.press('Enter');
    await expect(dialog.getByText(/is not on the list of allowed addresses/)).toBeVisible();
    await dialog.getByLabel('Address').fill(`127.0.0.1:${String(port)}`);
    await page.keyboard.press('Enter');
    await expect(page.getByText('Vane anemometer stand-in')).toBeVisible();
    // The vane spins up to what the fan on the bench blows.
    const shown = page.getByRole('complementary').locator('output');
    await expect.poll(async () => Number(await shown.textContent())).toBeGreaterThan(2);
    await page.getByRole('textbox', { name: /^Reading of/ }).focus();
    await page.keyboard.press('i');
    await expect(page.getByText('1 of 144 readings')).toBeVisible();
    program.kill('SIGKILL');
    await expect(page.getByText(/It went away|does not answer/).first()).toBeVisible();
    // Nothing stops: a value is typed meanwhile.
    await page.getByRole('textbox', { name: /^Reading of/ }).fill('47');
    await page.keyboard.press('Enter');
    await expect(page.getByText('2 of 144 readings')).toBeVisible();
    program = standIn();
    await page
      .getByRole('navigation', { name: 'Run queue' })
      .getByRole('button', { name: /Air speed/ })
      .nth(1)
      .click();
    await expect.poll(async () => Number(await shown.textContent())).toBeGreaterThan(2);
    await page.keyboard.press('i');
    await expect(page.getByText('3 of 144 readings')).toBeVisible();
    await expect(page.getByText('Everything is saved.')).toBeVisible();
    const { readings } = await documentOf(server, id);
    expect(readings.map(({ source }) => source)).toEqual(['instrument', 'typed', 'instrument']);
    expect(readings[0]?.parts[0]?.text).toMatch(/^\d\.\d\d m\/s$/);
  } finally {
    program.kill('SIGKILL');
  }
});

test('letters are no keys and nothing sounds where the tester has turned them off', async ({
  page,
  server,
}) => {
  await fansAnew(page, server);
  await startSession(page);
  await page.keyboard.press('?');
  await page.getByText('Single letters are keys').click();
  await page.getByText(/^Short sounds/).click();
  await page.keyboard.press('Escape');
  await page.keyboard.press('s');
  await expect(page.getByRole('textbox', { name: /^Reading of/ })).toHaveValue('s');
  await expect(page.getByText(/skipped/)).toBeHidden();
  await page.reload();
  await page.getByRole('textbox', { name: /^Reading of/ }).fill('');
  await page.keyboard.press('?');
  await expect(page.getByRole('checkbox', { name: /Single letters/ })).not.toBeChecked();
});
