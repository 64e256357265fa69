import { v7 } from 'uuid';
import { benchFetched, expect, readyStudy, test } from './bench-server.ts';

test('readings go on while the server is killed, and each arrives once when it is back', async ({
  page,
  server,
}) => {
  const { id, readings } = await readyStudy(server, undefined, 10);
  await page.goto(`${server.address}/study/${id}/bench`);
  const enter = async (text: string) => {
    await page.getByRole('textbox').fill(text);
    await page.keyboard.press('Enter');
    const keep = page.getByRole('button', { name: /Keep it/ });
    if (await keep.isVisible()) await page.keyboard.press('Enter');
  };
  for (const text of ['120', '121', '119']) await enter(text);
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  await benchFetched(page);

  await server.kill();
  const away = Array.from({ length: 20 }, (_, i) => (120 + ((i * 7) % 20) / 10).toFixed(1));
  for (const text of away) await enter(text);
  await expect(page.getByRole('heading', { name: 'The server is away' })).toBeVisible();
  await expect(page.getByText('20 readings held safe in this browser.', { exact: false })).toBeVisible();
  await expect(page.getByText('23 of 30 readings')).toBeVisible();
  // Undo works without the server too.
  await page.keyboard.press('u');
  await expect(page.getByText('22 of 30 readings')).toBeVisible();
  await expect(page.getByRole('textbox')).toHaveValue(away[19] as string);
  await page.keyboard.press('Enter');

  await server.start();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  const stored = await readings();
  expect(stored.map(({ parts }) => parts[0]?.text)).toEqual(['120', '121', '119', ...away, away[19]]);
  expect(new Set(stored.map((reading) => reading.id)).size).toBe(24);
  await page.reload();
  await expect(page.getByText('23 of 30 readings')).toBeVisible();
});

test('a slip is questioned, and one key keeps, corrects or discards it', async ({ page, server }) => {
  const { id, readings } = await readyStudy(server, { low: 10, high: 500 });
  await page.goto(`${server.address}/study/${id}/bench`);
  const entry = page.getByRole('textbox');
  for (const text of ['120', '121', '119']) {
    await entry.fill(text);
    await page.keyboard.press('Enter');
  }
  await expect(page.getByText('3 of 12 readings')).toBeVisible();

  await entry.fill('1205');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('may have its decimal point moved');
  await page.keyboard.press('t');
  await expect(page.getByText('4 of 12 readings')).toBeVisible();

  await entry.fill('600');
  await page.keyboard.down('Enter');
  await expect(page.getByRole('alert')).toContainText('above your limit of 500');
  // Held down so that it comes again, it does not answer what it brought up.
  await page.keyboard.down('Enter');
  await page.keyboard.down('Enter');
  await page.keyboard.up('Enter');
  await expect(page.getByRole('alert')).toContainText('above your limit of 500');
  await expect(page.getByText('4 of 12 readings')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('5 of 12 readings')).toBeVisible();

  await entry.fill('5');
  await page.keyboard.press('Enter');
  await page.keyboard.press('m');
  await page.keyboard.press('1');
  await expect(page.getByText(/after 1 misfire/)).toBeVisible();
  await expect(page.getByText('5 of 12 readings')).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  expect((await readings()).map(({ parts }) => parts[0]?.text)).toEqual([
    '120',
    '121',
    '119',
    '120.5',
    '600',
    '5',
  ]);
});

test('text for a number is answered at once, and stays to be mended', async ({ page, server }) => {
  const { id, readings } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/bench`);
  const entry = page.getByRole('textbox');
  for (const text of ['12o', 'NaN', '1e999', '1.2.3']) {
    await entry.fill(text);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toContainText(`“${text}”`);
    await expect(entry).toHaveValue(text);
  }
  await entry.fill('12,5 g');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 of 12 readings')).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  expect((await readings()).map(({ parts }) => parts[0])).toEqual([
    { name: 'value', text: '12,5 g', number: 12.5 },
  ]);
});

test('skip, go back to it, undo step by step', async ({ page, server }) => {
  const { id } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/bench`);
  const heading = page.getByRole('heading', { level: 1 });
  const first = (await heading.textContent()) ?? '';
  await page.keyboard.press('s');
  await expect(heading).not.toHaveText(first);
  const queue = page.getByRole('navigation', { name: 'Run queue' });
  await queue.getByRole('button', { name: `${first} skipped` }).click();
  await expect(heading).toHaveText(first);
  await page.getByRole('textbox').fill('100');
  await page.keyboard.press('Enter');
  await expect(queue.getByRole('button', { name: `${first} 100` })).toBeVisible();
  const entry = page.getByRole('textbox');
  await entry.fill('101');
  await page.keyboard.press('Enter');
  await expect(page.getByText('2 of 12 readings')).toBeVisible();
  // By one key all the way: each text comes back, and the next undo is not typed into it.
  await page.keyboard.press('u');
  await expect(entry).toHaveValue('101');
  await page.keyboard.press('u');
  await expect(entry).toHaveValue('100');
  await expect(queue.getByRole('button', { name: `${first} 100` })).toBeHidden();
  await expect(page.getByText('0 of 12 readings')).toBeVisible();
  // The right number is typed over the wrong one; from then on letters are letters.
  await page.keyboard.type('99');
  await expect(entry).toHaveValue('99');
  await page.keyboard.type('u');
  await expect(entry).toHaveValue('99u');
});

test('works by touch on a tablet', async ({ browser, server }) => {
  const { id } = await readyStudy(server);
  const context = await browser.newContext({ viewport: { width: 768, height: 1024 }, hasTouch: true });
  const page = await context.newPage();
  await page.goto(`${server.address}/study/${id}/bench`);
  await page.getByRole('textbox').tap();
  await page.keyboard.type('120');
  await page.getByRole('button', { name: /Record/ }).tap();
  await expect(page.getByText('1 of 12 readings')).toBeVisible();
  await page.getByRole('button', { name: /undo/ }).tap();
  await expect(page.getByText('0 of 12 readings')).toBeVisible();
  const small = await page
    .locator('main button:visible')
    .evaluateAll((buttons) =>
      buttons
        .filter((button) => button.getBoundingClientRect().height < 44)
        .map(({ textContent }) => textContent),
    );
  expect(small).toEqual([]);
  const width = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(width).toBeLessThanOrEqual(768);
  await context.close();
});

test('two tabs at the same bench without a server: each reading arrives once, and both tabs know', async ({
  page,
  context,
  server,
}) => {
  const { id, readings } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/bench`);
  const other = await context.newPage();
  await other.goto(`${server.address}/study/${id}/bench`);
  await expect(other.getByText('0 of 12 readings')).toBeVisible();
  for (const tab of [page, other]) await benchFetched(tab);
  await server.kill();
  await page.bringToFront();
  await page.getByRole('textbox').fill('120');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 of 12 readings')).toBeVisible();
  // The other tab takes the next run, since it has heard of the first.
  await expect(other.getByText('1 of 12 readings')).toBeVisible();
  await other.bringToFront();
  await other.getByRole('textbox').fill('121');
  await other.keyboard.press('Enter');
  await expect(page.getByText('2 of 12 readings')).toBeVisible();
  await server.start();
  for (const tab of [page, other]) {
    await expect(tab.getByText('Everything is saved.')).toBeVisible();
    await expect(tab.getByText('2 of 12 readings')).toBeVisible();
  }
  const stored = await readings();
  expect(stored.map(({ parts }) => parts[0]?.text)).toEqual(['120', '121']);
  expect(new Set(stored.map(({ itemId, round }) => `${itemId}/${String(round)}`)).size).toBe(2);
});

test('a recorded reading is opened from the queue, marked as a misfire, and its run comes again', async ({
  page,
  server,
}) => {
  const { id, readings } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/bench`);
  const heading = page.getByRole('heading', { level: 1 });
  const first = (await heading.textContent()) ?? '';
  await page.getByRole('textbox').fill('100');
  await page.keyboard.press('Enter');
  const queue = page.getByRole('navigation', { name: 'Run queue' });
  await queue.getByRole('button', { name: `${first} 100` }).click();
  await expect(page.getByLabel(`Recorded reading of ${first}`)).toHaveValue('100');
  await page.getByRole('button', { name: /It was a misfire/ }).click();
  await page.getByLabel('Another reason').fill('Fell off the hook');
  await page.keyboard.press('Enter');
  await expect(heading).toHaveText(first);
  await expect(page.getByText(/after 1 misfire/)).toBeVisible();
  await page.getByRole('textbox').fill('101');
  await page.keyboard.press('Enter');
  await expect(queue.getByRole('button', { name: `${first} 101` })).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  expect((await readings()).map(({ parts }) => parts[0]?.text)).toEqual(['100', '101']);
  // The misfire is told at the screening, with its reason, and can be taken back.
  await page.getByRole('link', { name: 'Screen' }).click();
  await expect(page.getByText('Misfire: Fell off the hook.')).toBeVisible();
});

test('the reason for a misfire is asked for, and Escape leaves everything as it was', async ({
  page,
  server,
}) => {
  const { id, readings } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/bench`);
  await page.getByRole('textbox').fill('99');
  await page.getByRole('button', { name: /misfire/ }).click();
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText('Say in a word what went wrong, or choose a reason above.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page.getByRole('textbox')).toHaveValue('99');
  expect(await readings()).toEqual([]);
});

test('the keys are shown on a sheet', async ({ page, server }) => {
  const { id } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/bench`);
  await expect(page.getByRole('textbox')).toBeFocused();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys at the bench' })).toContainText('undo the last step');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('textbox')).toBeFocused();
});

for (const [width, height] of [
  [1280, 800],
  [768, 1024],
] as const) {
  test(`of thousands of runs those are drawn that are seen, ${String(width)} px wide`, async ({
    page,
    server,
  }) => {
    await page.setViewportSize({ width, height });
    const { id, readings } = await readyStudy(server, { low: null, high: null }, 500);
    await page.goto(`${server.address}/study/${id}/bench`);
    const queue = page.getByRole('navigation', { name: 'Run queue' });
    const runs = queue.getByRole('button');
    await expect(queue.locator('[aria-current]')).toBeVisible();
    expect(await runs.count()).toBeLessThan(80);
    // What is read is seen in it, and what comes next is in sight.
    const heading = page.getByRole('heading', { level: 1 });
    const first = (await heading.textContent()) ?? '';
    await page.getByRole('textbox').fill('100');
    await page.keyboard.press('Enter');
    await expect(queue.getByRole('button', { name: `${first} 100` })).toBeVisible();
    // From anywhere in it a run is chosen, and read.
    await queue.evaluate((box) => {
      box.scrollTo(box.scrollWidth / 2, box.scrollHeight / 2);
    });
    await expect(queue.getByRole('heading', { name: /^Round 2[45]\d of 500$/ }).first()).toBeAttached();
    const middle = runs.nth(Math.floor((await runs.count()) / 2));
    const name = (await middle.textContent()) ?? '';
    await middle.click();
    await expect(heading).toHaveText(name);
    await expect(queue.locator('[aria-current]')).toHaveText(name);
    await page.getByRole('textbox').fill('101');
    await page.keyboard.press('Enter');
    await expect(page.getByText('Everything is saved.')).toBeVisible();
    const far = (await readings()).find(({ parts }) => parts[0]?.text === '101');
    expect(far?.round).toBeGreaterThan(200);
  });
}

test('a study without items leads to its plan', async ({ page, server }) => {
  const id = v7();
  await server.post('/studies', { id, title: 'Empty', question: '', rounds: 4, seed: 5 });
  for (const [stage, title, action] of [
    ['bench', 'Nothing to read yet.', 'To the plan'],
    ['screen', 'No readings to screen yet.', 'To the bench'],
    ['rank', 'No readings to rank yet.', 'To the bench'],
    ['report', 'Nothing to report yet.', 'To the bench'],
  ] as const) {
    await page.goto(`${server.address}/study/${id}/${stage}`);
    await expect(page.getByRole('heading', { name: title })).toBeVisible();
    await expect(page.getByRole('button', { name: action })).toBeVisible();
  }
});
