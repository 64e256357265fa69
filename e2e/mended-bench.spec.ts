import { v7 } from 'uuid';
import type { StudyDocument } from '../core/model/study-document.ts';
import { type BenchServer, type Page, expect, readyStudy, test } from './bench-server.ts';

const documentOf = (server: BenchServer, id: string) => server.get<StudyDocument>(`/studies/${id}/document`);

const entry = (page: Page) => page.getByRole('textbox').first();

test('a reading taken again puts the cursor back, and is no misfire', async ({ page, server }) => {
  const { id } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/bench`);
  const heading = page.getByRole('heading', { level: 1 });
  const first = (await heading.textContent()) ?? '';
  await entry(page).fill('100');
  await page.keyboard.press('Enter');
  const queue = page.getByRole('navigation', { name: 'Run queue' });
  await queue.getByRole('button', { name: `${first} 100` }).click();
  // What is typed over a recorded reading is not dropped without a word.
  await page.keyboard.type('7');
  await expect(page.getByRole('alert')).toContainText('read already');
  await page.keyboard.press('r');
  await expect(entry(page)).toBeFocused();
  await page.keyboard.type('102');
  await page.keyboard.press('Enter');
  await expect(queue.getByRole('button', { name: `${first} 102` })).toBeVisible();
  await expect
    .poll(async () => (await documentOf(server, id)).decisions.map(({ action }) => action))
    .toEqual(['take-again']);
});

test('what is typed beside the entry goes into it', async ({ page, server }) => {
  const { id } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/bench`);
  await expect(entry(page)).toBeFocused();
  await page.getByRole('heading', { level: 1 }).click();
  await page.evaluate(() => {
    (document.activeElement as HTMLElement).blur();
  });
  await page.keyboard.type('104');
  await expect(entry(page)).toHaveValue('104');
});

test('a wait that is still on asks before it is recorded, and the reading says so', async ({
  page,
  server,
}) => {
  const { id } = await readyStudy(server);
  const { study } = await documentOf(server, id);
  const waits = [{ what: 'Belt settles', durationS: 600, when: 'reading' }];
  await server.patch(`/studies/${id}`, {
    version: study.version,
    procedure: { ...study.procedure, beforeSession: ['Belt on'], waits },
  });
  await page.goto(`${server.address}/study/${id}/bench`);
  await page.getByRole('button', { name: 'Start the session' }).click();
  await entry(page).fill('100');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('“Belt settles” is not over yet.');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('alert')).toBeHidden();
  await expect(entry(page)).toHaveValue('100');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 of 12 readings')).toBeVisible();
  await expect
    .poll(async () => (await documentOf(server, id)).notes.map(({ text }) => text))
    .toEqual(['Taken before the wait was over: Belt settles']);
  // One undo takes both back.
  await page.keyboard.press('u');
  await expect(page.getByText('0 of 12 readings')).toBeVisible();
});

test('a level without a way back asks first, and says what would be lost', async ({ page, server }) => {
  const { id } = await readyStudy(server);
  const factor = { name: 'State', kind: 'treatment', unit: '', irreversible: true, position: 1 };
  const factorId = v7();
  await server.post(`/studies/${id}/factors`, { id: factorId, ...factor });
  for (const [i, name] of ['Whole', 'Cut'].entries()) {
    const level = { factorId, name, value: null, baseline: false, position: i + 1 };
    await server.post(`/studies/${id}/levels`, { id: v7(), ...level });
  }
  await page.goto(`${server.address}/study/${id}/bench`);
  const queue = page.getByRole('navigation', { name: 'Run queue' });
  await expect(queue.getByRole('heading').first()).toHaveText(/^Whole: round 1/);
  await queue.getByRole('button', { name: /Cut/ }).first().click();
  await expect(page.getByRole('heading', { name: /^Not yet: .* at Cut\.$/ })).toBeVisible();
  await expect(page.getByText(/there is no way back to them/)).toBeVisible();
  await page.getByRole('button', { name: 'Open it all the same' }).click();
  await expect(entry(page)).toBeFocused();
});
