import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { StudyDocument } from '../core/model/study-document.ts';
import { runQueue } from '../core/bench/queue.ts';
import { recordOf } from '../core/record/record.ts';
import { type BenchServer, type Page, expect, graveViolations, startSession, test } from './bench-server.ts';
import { FANS } from '../demo/truths.ts';
import recorded from '../demo/recorded-fans.json' with { type: 'json' };

test.use({ demo: true });

const TITLE = 'Fan noise, recorded';
/** What the recorder wrote in a round, from 1. */
const round = (number: number): Buffer =>
  readFileSync(path.join('demo/files', recorded.files[number - 1]?.file ?? ''));

const addFile = async (page: Page, name: string, buffer: Buffer) => {
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Add a recording' }).click(),
  ]);
  await chooser.setFiles({ name, mimeType: 'audio/wav', buffer });
};
const readingsOf = async (server: BenchServer, id: string) =>
  recordOf(await server.get<StudyDocument>(`/studies/${id}/document`)).readings.flatMap(
    ({ item, reading, value, standing }) =>
      standing.is === 'kept' ? [{ item: item.name, round: reading.round, value }] : [],
  );
const row = (page: Page, sound: number) =>
  page.getByRole('row').filter({ has: page.getByRole('button', { name: String(sound), exact: true }) });

test('a recording becomes readings in the order of the runs, without the dog, and they are taken back', async ({
  page,
  server,
}) => {
  const id = await server.planOf(TITLE);
  await page.goto(`${server.address}/study/${id}/bench/recordings`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('No recording yet.');
  expect(await graveViolations(page)).toEqual([]);

  // What is no recording is refused with what it is, and nothing of it is kept.
  await addFile(page, 'song.wav', Buffer.from('ID3 and a song that was called a recording'));
  await expect(page.getByText('song.wav: This is no WAV file but an MP3.')).toBeVisible();
  await addFile(page, 'round-2.wav', round(2));
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Sound level, from 1 recording.');
  await expect(page.getByRole('row')).toHaveCount(9);
  await expect(row(page, 2)).toContainText('The recorder is not calibrated');
  await expect(page.getByText('Nothing here can be taken yet.')).toBeVisible();

  // The first sound is the calibrator’s tone.
  await page.getByRole('button', { name: '1', exact: true }).click();
  await page.getByRole('button', { name: 'Sound 1 is its tone' }).click();
  await expect(page.getByText('Full scale is 104.0 dB')).toBeVisible();
  await expect(row(page, 1)).toContainText('the calibrator’s tone');
  await expect(row(page, 2)).toContainText('48.9 dB');
  await expect(row(page, 5)).toContainText('It is much shorter than the others: is it a reading?');
  expect(await graveViolations(page)).toEqual([]);

  // The dog is no reading; the keys say so.
  await page.getByRole('button', { name: '5', exact: true }).click();
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('x');
  await expect(row(page, 5)).toContainText('no reading');
  await page.getByLabel('Begin after').fill('0.5');
  await page.getByLabel('Begin after').press('Enter');
  await page.getByLabel('Length').fill('2.3');
  await page.getByLabel('Length').press('Enter');
  await expect(row(page, 2)).toContainText('0:00:06.03 to 0:00:08.33');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('6 readings of Sound level taken.').first()).toBeVisible();
  await expect.poll(async () => (await readingsOf(server, id)).length).toBe(6);

  // The same windows as in the study that the recording is of, whose second round was this one.
  const original = recordOf(recorded as unknown as StudyDocument).readings.filter(
    ({ reading }) => reading.round === 2,
  );
  const taken = await readingsOf(server, id);
  expect(taken.map(({ round: number }) => number)).toEqual([1, 1, 1, 1, 1, 1]);
  taken.forEach(({ value }, i) => {
    expect(Math.abs((value ?? 0) - (original[i]?.value ?? 0))).toBeLessThan(0.05);
  });

  await page.getByRole('button', { name: 'Take them back' }).click();
  await expect.poll(async () => (await readingsOf(server, id)).length).toBe(0);
  await expect(page.getByRole('button', { name: /^Take 6 readings/ })).toBeVisible();
});

test('what sounds at the bench is recorded there, run after run, and becomes readings', async ({
  page,
  server,
}) => {
  const port = 20000 + Math.floor(Math.random() * 20000);
  const recorder = spawn(process.execPath, [
    ...['dist/node/instruments.js', '--only', 'sound-recorder', '--port', String(port)],
  ]);
  try {
    const id = await server.planOf(TITLE);
    await page.goto(`${server.address}/study/${id}/bench`);
    await startSession(page);
    // The recorder listens behind the eight others.
    await expect
      .poll(async () => {
        await server.post('/instruments', { host: '127.0.0.1', port: port + 8 });
        return (await server.get<{ state: string }[]>('/instruments'))[0]?.state;
      })
      .toBe('ready');
    await expect(page.getByRole('button', { name: /^Record from the Sound recorder/ })).toBeVisible();
    const [first, second] = await page
      .getByRole('navigation', { name: 'Run queue' })
      .getByRole('button')
      .allInnerTexts();
    await page.getByRole('textbox', { name: /^Reading of/ }).press('Space');
    const heading = page.getByRole('heading', { level: 1 });
    await expect(page.getByRole('timer')).toHaveText('0:00:09 recorded');
    expect(await graveViolations(page)).toEqual([]);
    await expect(heading).toContainText(first ?? '');
    // The keys go where the level is shown, without a pointer.
    await page.keyboard.press('Enter');
    await expect(heading).toContainText(second ?? '');
    // It goes on without the page.
    await page.reload();
    // A slow machine may be back only after the second sound has ended.
    await expect(page.getByRole('timer')).toHaveText(/^0:00:(1[5-9]|2\d) recorded$/);
    // It is seen on the page of the recordings too, where it can be stopped as well.
    const other = await page.context().newPage();
    await other.goto(`${server.address}/study/${id}/bench/recordings`);
    await expect(other.getByRole('button', { name: 'Stop what is being recorded' })).toBeVisible();
    await other.close();
    await page.getByRole('textbox', { name: /^Level that is recorded of/ }).press('Space');
    await expect(heading).toHaveText('Sound level, from 1 recording.');
    await page.getByRole('button', { name: '1', exact: true }).click();
    await page.getByRole('button', { name: 'Sound 1 is its tone' }).click();
    await expect(page.getByText('Full scale is 104.0 dB')).toBeVisible();
    await page.getByLabel('Begin after').fill('0.5');
    await page.getByLabel('Begin after').press('Enter');
    await page.getByLabel('Length').fill('2.3');
    await page.getByLabel('Length').press('Enter');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('2 readings of Sound level taken.').first()).toBeVisible();
    await expect
      .poll(async () => (await readingsOf(server, id)).map(({ item }) => item))
      .toEqual([first, second]);
    for (const { item, value } of await readingsOf(server, id)) {
      const truth = FANS.find(({ name }) => name === item)?.levelDb ?? 0;
      expect(Math.abs((value ?? 0) - truth)).toBeLessThan(0.5);
    }
    // The bench goes on with the run behind them.
    await page.getByRole('button', { name: 'Back to the bench' }).click();
    await expect(page.getByText('2 of 18 readings')).toBeVisible();
  } finally {
    recorder.kill('SIGKILL');
  }
});

test('what was missed, drawn by hand or asked otherwise is set right, and it can be heard', async ({
  page,
  server,
}) => {
  const id = await server.planOf(TITLE);
  await page.goto(`${server.address}/study/${id}/bench`);
  await startSession(page);
  const first = (await page.getByRole('heading', { level: 1 }).textContent()) ?? '';
  await page.getByRole('button', { name: 'Work it out from a recording' }).click();
  await addFile(page, 'round-1.wav', round(1));
  await page.getByLabel('Or full scale, dB').fill('nothing');
  await page.getByLabel('Or full scale, dB').press('Enter');
  await expect(page.getByText('“nothing” is not a number', { exact: false })).toBeVisible();
  await page.getByLabel('Or full scale, dB').fill('104');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Full scale is 104.0 dB')).toBeVisible();
  await expect(page.getByRole('row')).toHaveCount(8);

  // It plays, and stops by the same key.
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible();
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Play Space' })).toBeVisible();

  // The tone is no reading here, and the first fan was not heard.
  await page.keyboard.press('x');
  await page.keyboard.press('ArrowDown');
  await expect(row(page, 2)).toContainText(first);
  await page.keyboard.press('m');
  await expect(row(page, 2)).toContainText('1 missed before');
  await expect(row(page, 2).getByRole('button', { name: first })).toHaveCount(0);

  // A window by hand, nearer, is one more sound; as no reading it is gone.
  await page.keyboard.press('z');
  await page.keyboard.press('+');
  await page.keyboard.press('w');
  await page.keyboard.press('n');
  await expect(page.getByRole('row')).toHaveCount(8);
  const slider = page.getByRole('slider', { name: 'From' });
  const before = await slider.getAttribute('aria-valuetext');
  await slider.press('ArrowLeft');
  await expect(slider).not.toHaveAttribute('aria-valuetext', before ?? '');
  await slider.evaluate((thumb) => {
    (thumb as HTMLElement).blur();
  });
  await page.keyboard.press('x');

  // A threshold above the quietest leaves it out; what is typed wrong is said.
  await page.getByLabel('Sounds above').fill('loud');
  await page.getByLabel('Sounds above').press('Enter');
  await expect(page.getByText('“loud” is not a number', { exact: false })).toBeVisible();
  await page.getByLabel('Sounds above').fill('60');
  await page.getByLabel('Sounds above').press('Enter');
  await expect(page.getByRole('row')).toHaveCount(2);
  await page.getByLabel('Sounds above').fill('41');
  await page.getByLabel('Sounds above').press('Enter');
  await expect(page.getByRole('row')).toHaveCount(8);
  await page.getByRole('button', { name: /^Take 6 readings/ }).click();
  await expect.poll(async () => (await readingsOf(server, id)).length).toBe(6);
  // The run that was not heard waits for nothing any more, until all of it is taken back.
  await expect(page.getByText('6 readings of Sound level taken, 1 run skipped.').first()).toBeVisible();
  const stateOfFirst = async () => {
    const queue = runQueue(await server.get<StudyDocument>(`/studies/${id}/document`));
    return queue.find(({ item, round: number }) => item.name === first && number === 1)?.state;
  };
  expect(await stateOfFirst()).toBe('skipped');
  await page.getByRole('button', { name: 'Take them back' }).click();
  await expect.poll(stateOfFirst).toBe('to come');
  await expect(row(page, 2)).toContainText('1 missed before');
  await page.getByRole('button', { name: /^Take 6 readings/ }).click();
  await expect.poll(async () => (await readingsOf(server, id)).length).toBe(6);

  // Another question of the same windows.
  const [measurand] = (await server.get<StudyDocument>(`/studies/${id}/document`)).measurands;
  if (!measurand) throw new Error('no measurand');
  const settings = { ...measurand.settings, quantity: 'l90', weighting: 'Z' };
  await server.patch(`/studies/${id}/measurands/${measurand.id}`, { version: measurand.version, settings });
  await expect(
    page.getByText('6 readings of Sound level were worked out otherwise', { exact: false }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Work them out again' }).click();
  await expect(page.getByText('were worked out otherwise', { exact: false })).toBeHidden();
  await expect
    .poll(async () => (await readingsOf(server, id)).every(({ value }) => value !== null))
    .toBe(true);

  // Where letters are no keys, none does anything here, and none is shown.
  await expect(page.getByRole('button', { name: 'Add a window N' })).toBeVisible();
  await page.evaluate(() => {
    localStorage.setItem('brackenridge-preferences', JSON.stringify({ letterKeys: false }));
  });
  await page.reload();
  await expect(page.getByRole('button', { name: 'Add a window', exact: true })).toBeVisible();
  await expect(page.getByRole('row')).toHaveCount(8);
  await page.keyboard.press('n');
  await page.keyboard.press('p');
  await expect(page.getByRole('button', { name: 'Play Space' })).toBeVisible();
  await expect(page.getByRole('row')).toHaveCount(8);
});

test('the recordings of a study are seen on a wide page and a narrow one, in both themes', async ({
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
    await page.goto(`${server.address}/study/${id}/bench/recordings`);
    await expect(page.getByText('All that sounds here is taken, or is no reading.')).toBeVisible();
    if (width > 390) expect(await graveViolations(page)).toEqual([]);
    const overflow = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
    expect(overflow).toBeLessThanOrEqual(0);
  }
  await page.setViewportSize({ width: 1280, height: 900 });
  // The gain was another one in the last round: its own tone is what its levels are by.
  await expect(page.getByText('Full scale is 101.0 dB')).toBeVisible();
  await page.getByRole('button', { name: /^round-3\.wav Recording$/ }).click();
  await page.getByRole('option', { name: 'round-1.wav' }).click();
  await expect(page.getByText('Full scale is 104.0 dB')).toBeVisible();
});
