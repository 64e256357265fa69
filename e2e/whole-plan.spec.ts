import { readFileSync } from 'node:fs';
import type { StudyDocument } from '../core/model/study-document.ts';
import { type BenchServer, type Page, expect, startSession, test } from './bench-server.ts';

test.use({ demo: true });

/** Opens a demo study; all but the desk fans as a copy of the plan, so that nothing is read yet. */
const open = async (page: Page, server: BenchServer, title: string, stage: string) => {
  const id = title === 'Desk fans' ? (await server.study(title)).id : await server.planOf(title);
  await page.goto(`${server.address}/study/${id}/${stage}`);
  if (stage === 'bench') await startSession(page);
  return id;
};
const documentOf = (server: BenchServer, id: string) => server.get<StudyDocument>(`/studies/${id}/document`);

test('one reading of each form is recorded by keyboard alone', async ({ page, server }) => {
  const id = '01900000-0000-7000-8000-0000000000aa';
  await server.post('/studies', { id, title: 'Every form', question: '', rounds: 1, seed: 1 });
  await page.goto(`${server.address}/study/${id}/plan`);
  await page.getByLabel('Add an item').fill('Almo');
  await page.keyboard.press('Enter');
  const forms = [
    ['Count', 'count'],
    ['Timed', 'timed'],
    ['Ramp', 'ramp'],
    ['Grid', 'grid'],
    ['Before and after', 'before-after'],
    ['Fed and recovered', 'fed-recovered'],
    ['Against a reference', 'against-reference'],
    ['Level', 'level'],
    ['Score', 'score'],
  ] as const;
  for (const [i, [label]] of forms.entries()) {
    await page.getByRole('button', { name: 'Another measurand' }).click();
    const group = page.getByRole('group', { name: `Measurand ${String(i + 1)}`, exact: true });
    await group.getByRole('button', { name: /How it is read/ }).click();
    await page.getByRole('option', { name: new RegExp(`^${label}`) }).click();
    await expect(
      group.getByRole('button', { name: new RegExp(`${label}.*How it is read|How it is read.*${label}`) }),
    ).toBeVisible();
  }
  await page.getByRole('button', { name: 'To the bench' }).click();

  const type = (text: string) => page.keyboard.type(text);
  const press = (key: string) => page.keyboard.press(key);
  const seesRead = async (n: number) => {
    await expect(page.getByText(`${String(n)} of 9 readings`)).toBeVisible();
  };
  await seesRead(0);
  for (let i = 0; i < 6; i += 1) await press('Space');
  // Held down so that it comes again, it counts once.
  for (let i = 0; i < 3; i += 1) await page.keyboard.down('Space');
  await page.keyboard.up('Space');
  await press('-');
  await press('Enter');
  await seesRead(1);
  await type('4:18.6');
  await expect(page.getByText(/= 258\.6.s/)).toBeVisible();
  await press('Enter');
  await seesRead(2);
  await type('31,5');
  await press('Enter');
  await type('34 1/2');
  await press('Enter');
  await seesRead(3);
  await type('8');
  await press('ArrowRight');
  await type('12');
  await press('ArrowDown');
  await type('10');
  await press('Control+Enter');
  await seesRead(4);
  await type('1.46');
  await press('Enter');
  await type('2.896');
  await press('Enter');
  await seesRead(5);
  await type('100');
  await press('Enter');
  await type('104');
  await press('Enter');
  await expect(page.getByText('More came back than was fed: a yield over 100 %.')).toBeVisible();
  await press('Enter');
  await seesRead(6);
  await type('10');
  await press('Enter');
  await type('9');
  await expect(page.getByText(/= −1 \(−10.%\)/)).toBeVisible();
  await press('Enter');
  await seesRead(7);
  await type('-23 dB');
  await press('Enter');
  await seesRead(8);
  await press('3');
  await press('Enter');
  await expect(page.getByRole('heading', { name: 'All 9 runs are done.' })).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();

  const { readings } = await documentOf(server, id);
  expect(readings.map(({ parts }) => parts.map(({ text, number }) => [text, number]))).toEqual([
    [['6', 6]],
    [['4:18.6', 258.6]],
    [
      ['31,5', 31.5],
      ['34 1/2', 34.5],
    ],
    [
      ['8', 8],
      ['12', 12],
      ['10', 10],
    ],
    [
      ['1.46', 1.46],
      ['2.896', 2.896],
    ],
    [
      ['100', 100],
      ['104', 104],
    ],
    [
      ['10', 10],
      ['9', 9],
    ],
    [['-23 dB', -23]],
    [['good', 3]],
  ]);
});

test('the stopwatch starts, splits and stops by keys', async ({ page, server }) => {
  const id = await open(page, server, 'Tap aerators', 'bench');
  await page
    .getByRole('navigation', { name: 'Run queue' })
    .getByRole('button', { name: /Time to fill/ })
    .first()
    .click();
  await expect(page.getByText(/Time to fill the jug, round 1/)).toBeVisible();
  // A key that is held down, so that it comes again, does once what it does.
  const hold = async (key: string) => {
    for (let i = 0; i < 2; i += 1) await page.keyboard.down(key);
    await page.keyboard.up(key);
  };
  await hold('Space');
  await page.waitForTimeout(600);
  // It runs on while the page is loaded again.
  await page.reload();
  await expect(page.getByLabel('Stopwatch')).toBeVisible();
  await page.waitForTimeout(600);
  await hold('l');
  await page.waitForTimeout(300);
  await hold('Space');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 of 90 readings')).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  const [reading] = (await documentOf(server, id)).readings;
  expect(reading?.source).toBe('timer');
  expect(reading?.parts.map(({ name }) => name)).toEqual(['time', 'split1']);
  expect(reading?.parts[0]?.number).toBeGreaterThan(1.4);
  expect(reading?.levels).toHaveLength(1);
});

test('a block is pasted into a grid, and a bad cell is told', async ({ page, server }) => {
  await open(page, server, 'Lawn sprinklers', 'bench');
  const first = page.getByLabel('Row 1, column 1 in mL');
  await expect(first).toBeFocused();
  await page.evaluate(() => {
    const clipboard = new DataTransfer();
    clipboard.setData('text/plain', '12\t18\n7\twet\n1\t2\t3\t4\t5\t6');
    document.activeElement?.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: clipboard, bubbles: true, cancelable: true }),
    );
  });
  await expect(page.getByLabel('Row 2, column 1 in mL')).toHaveValue('7');
  // Told at once, and not only when it is recorded.
  await expect(
    page.getByText('1 cell not understood. 1 cell of the block lay beyond the grid.'),
  ).toBeVisible();
  await expect(page.getByLabel('Row 2, column 2 in mL')).toHaveAttribute('aria-invalid', 'true');
  await page.getByRole('button', { name: /^Record/ }).click();
  await expect(page.getByText('Row 2, column 2: “wet” is not a number in mL.')).toBeVisible();
  await page.getByLabel('Row 2, column 2 in mL').fill('');
  await page.getByRole('button', { name: /^Record/ }).click();
  await expect(page.getByText('1 of 32 readings')).toBeVisible();
  // Eight cells with a mean of 6.5.
  await page.getByRole('link', { name: 'Screen' }).click();
  const map = page.getByRole('img', {
    name: /^Evenness: .*least 15.% at row 3, column 1, greatest 277.% at row 1, column 2$/,
  });
  await expect(map).toBeVisible();
  await expect(page.getByText('17 of 25 cells were left empty.')).toBeVisible();
  await page.getByText('As read', { exact: true }).click();
  await expect(page.getByRole('img', { name: /greatest 18.mL at row 1, column 2$/ })).toBeVisible();
  // A chosen reading is in the margin of a wide page, and under the picture of a narrow one.
  const strip = page.getByRole('listbox', { name: 'Evenness: all readings by item' });
  await strip.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  const cells = page.getByRole('img', { name: /^What was read: .*greatest 18.mL at row 1, column 2$/ });
  await expect(page.getByRole('complementary').filter({ has: cells })).toBeVisible();
  await page.setViewportSize({ width: 768, height: 1024 });
  await expect(page.locator('#content').filter({ has: cells })).toBeVisible();
  await expect(page.locator('#content').getByRole('button', { name: 'Leave it out…' })).toBeInViewport();
});

test('a factor makes a grid, a cell is struck out, too large a grid is refused with its count', async ({
  page,
  server,
}) => {
  const id = await open(page, server, 'Flour sieves', 'plan');
  await expect(page.getByRole('heading', { name: '4 items in 5 rounds: 40 readings.' })).toBeVisible();
  await page.getByRole('heading', { name: 'Factors' }).click();
  await page.getByRole('button', { name: 'A factor' }).click();
  await page.getByRole('button', { name: /What it is/ }).click();
  await page.getByRole('option', { name: /in numbers/ }).click();
  await expect(page.getByRole('button', { name: /What it is/ })).toContainText('A setting in numbers');
  const add = page.getByLabel('Add a level of Factor');
  await add.fill('many');
  await add.press('Enter');
  await expect(page.getByText('“many” is not a number.')).toBeVisible();
  await add.fill('1; 2,5; 3');
  await add.press('Enter');
  await expect(
    page.getByRole('heading', { name: '4 items in 5 rounds at 3 settings: 120 readings.' }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Strike out Ivel at 2.5' }).click();
  await expect(page.getByText('11 cells, 1 struck out: 110 readings in 5 rounds')).toBeVisible();
  const rounds = page.getByLabel('Rounds', { exact: true });
  await rounds.fill('500');
  await rounds.blur();
  await expect(page.getByText('11 cells, 1 struck out: 11 000 readings')).toBeVisible();
  await add.fill('4; 5; 6');
  await add.press('Enter');
  await expect(
    page.getByText(/This makes 2\d000 runs, and at most 20000 can be planned/).first(),
  ).toBeVisible();
  const { study, levels } = await documentOf(server, id);
  expect(study.rounds).toBe(500);
  expect(levels.length).toBeLessThan(6);
});

test('a derived measurand is written with completion, unit and preview', async ({ page, server }) => {
  await open(page, server, 'Desk fans', 'plan');
  await page.getByRole('button', { name: 'One worked out from others' }).click();
  const dialog = page.getByRole('dialog', { name: 'A derived measurand' });
  const box = dialog.getByLabel('Worked out as');
  await box.fill('price + pow');
  await dialog.getByRole('button', { name: /^Insert Power/ }).click();
  await expect(box).toHaveValue('price + power');
  await expect(dialog.getByText('“price + power”: EUR and W cannot be added.')).toBeVisible();
  await box.fill('price / air_speed_at_one_metre');
  await expect(dialog.getByLabel('Unit', { exact: true })).toHaveValue('EUR s/m');
  await expect(dialog.getByText(/^= \d+\.\d+.EUR s\/m with price = 34.EUR/)).toBeVisible();
  await dialog.getByRole('textbox', { name: 'Name' }).fill('Price of the air');
  // Closed by a slip, it is there as it was.
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
  await page.getByRole('button', { name: 'One worked out from others' }).click();
  await expect(box).toHaveValue('price / air_speed_at_one_metre');
  await expect(dialog.getByRole('textbox', { name: 'Name' })).toHaveValue('Price of the air');
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(dialog.getByText(/^Say which is better/)).toBeVisible();
  await dialog.getByText('Lower', { exact: true }).click();
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByRole('group', { name: 'Price of the air' })).toBeVisible();
  await page.getByRole('link', { name: 'Rank' }).click();
  await page.getByText('Price of the air', { exact: true }).click();
  await expect(page.getByText(/^Price of the air in EUR s\/m, lower is better/)).toBeVisible();
});

test('a claim is entered, checked in the ranking, and told as late when readings were there', async ({
  page,
  server,
}) => {
  await open(page, server, 'Desk fans', 'plan');
  await page.getByRole('heading', { name: 'Claims to check' }).click();
  await page.getByRole('button', { name: 'A claim' }).click();
  const dialog = page.getByRole('dialog', { name: 'A claim to check' });
  await dialog.getByText('A maker’s figure').click();
  const figure = dialog.getByRole('textbox', { name: 'Figure' });
  await figure.fill('11 kg');
  await dialog.getByRole('button', { name: 'Enter the claim' }).click();
  await expect(dialog.getByText('“11 kg” cannot be turned into m/s.')).toBeVisible();
  await figure.fill('18 km/h');
  await dialog.getByLabel('Who says so').fill('Shop window');
  // Closed by a slip, what was typed is there again.
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
  await page.getByRole('button', { name: 'A claim' }).click();
  await dialog.getByText('A maker’s figure').click();
  await expect(figure).toHaveValue('18 km/h');
  await expect(dialog.getByLabel('Who says so')).toHaveValue('Shop window');
  await dialog.getByRole('button', { name: 'Enter the claim' }).click();
  await expect(
    page.getByText('Air speed at one metre: Brunnow has 5\u202fm/s', { exact: true }),
  ).toBeVisible();
  await expect(page.getByRole('heading', { name: '1 claim entered after the first reading' })).toBeVisible();
  const why = page.getByLabel(/^Why: claim added/);
  await why.fill('Seen in the shop only now');
  await why.blur();
  await page.getByRole('link', { name: 'Rank' }).click();
  const claims = page.getByRole('region', { name: 'What was claimed' });
  await expect(claims.getByText(/Ours is 3\.\d+.m\/s ± 0\.\d+.m\/s, the figure 5\.00/)).toBeVisible();
  await page.getByRole('link', { name: 'Report' }).click();
  await expect(page.getByText(/Seen in the shop only now/)).toBeVisible();
});

test('a blind bench knows codes only, until they are opened', async ({ page, server }) => {
  const id = await open(page, server, 'Flour sieves', 'plan');
  await page.getByRole('heading', { name: 'Blind codes' }).click();
  await page.getByRole('button', { name: 'Use codes' }).click();
  await expect(page.getByText('Put these on the samples.')).toBeVisible();
  await page.getByRole('link', { name: 'Bench' }).click();
  await startSession(page);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Sample [A-Z]\d$/);
  await expect(page.getByRole('main')).not.toContainText(/Grann|Holm|Ivel|Jonna/);
  await page.getByRole('link', { name: 'Plan' }).click();
  await page.getByRole('heading', { name: 'Blind codes' }).click();
  await page.getByRole('button', { name: 'Open the codes' }).click();
  await expect(page.getByText(/^The codes were opened on .* with 0 readings taken/)).toBeVisible();
  await page.getByRole('link', { name: 'Bench' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Grann|Holm 40|Ivel|Jonna/);
  expect((await documentOf(server, id)).changes).toMatchObject([{ field: 'blind' }, { after: '"opened"' }]);
});

test('the order is made again for the runs to come only', async ({ page, server }) => {
  const id = await open(page, server, 'Lawn sprinklers', 'bench');
  const water = page
    .getByRole('navigation', { name: 'Run queue' })
    .getByRole('button', { name: /Water used/ });
  await water.first().click();
  await expect(page.getByText(/Water used, round 1/)).toBeVisible();
  await page.keyboard.type('9.5');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 of 32 readings')).toBeVisible();
  await page.getByRole('link', { name: 'Plan' }).click();
  const first = page.getByRole('region', { name: 'Order of the items' }).getByRole('listitem').first();
  const before = await first.textContent();
  await page.getByRole('button', { name: 'Shuffle the runs to come' }).click();
  await expect(page.getByText(/From run 2 on the order was made again/)).toBeVisible();
  expect((await first.textContent())?.slice(0, 9)).toBe(before?.slice(0, 9));
  const { study } = await documentOf(server, id);
  expect(study.reorders).toMatchObject([{ place: 1, kind: 'shuffled-rounds' }]);
});

test('an order that an earlier version drew is said to be one, until it is shuffled again', async ({
  page,
  server,
}) => {
  const early = readFileSync(new URL('../core/formats/versions/1-early.json', import.meta.url), 'utf8');
  const made = await server.post('/studies/import?copy=yes', JSON.parse(early));
  const { study } = (await made.json()) as { study: StudyDocument['study'] };
  expect(study.draws).toBe('by-stream');
  await page.goto(`${server.address}/study/${study.id}/plan`);
  const said = page.getByText('An earlier version drew this order, and its rounds depend on each other');
  await expect(said).toBeVisible();
  await page.getByRole('button', { name: 'Shuffle again' }).click();
  await expect(said).toBeHidden();
  await expect
    .poll(async () => (await server.get<StudyDocument['study']>(`/studies/${study.id}`)).draws)
    .toBe('mixed');
});

test('a study starts from a pattern, and from the plan of another', async ({ page, server }) => {
  await page.goto(server.address);
  for (const [option, title, measurand] of [
    [/^Sound levels/, 'Lawn mowers', 'Sound level'],
    [/^The plan of Tap aerators/, 'More aerators', 'Flow'],
  ] as const) {
    await page.getByRole('button', { name: 'New study' }).click();
    const dialog = page.getByRole('dialog', { name: 'New study' });
    await dialog.getByLabel('Name').fill(title);
    // A slip of the finger takes nothing of it away.
    await page.keyboard.press('Escape');
    await expect(dialog).toBeHidden();
    await page.getByRole('button', { name: 'New study' }).click();
    await expect(dialog.getByLabel('Name')).toHaveValue(title);
    await dialog.getByRole('button', { name: /Start from/ }).click();
    await page.getByRole('option', { name: option }).click();
    await dialog.getByRole('button', { name: 'Begin' }).click();
    await expect(page.getByRole('group', { name: measurand, exact: true })).toBeVisible();
    await expect(page.getByLabel('Name of the study')).toHaveValue(title);
    await page.getByRole('link', { name: 'Brackenridge, all studies' }).click();
  }
});

test('a measurand is measured on some items only', async ({ page, server }) => {
  await open(page, server, 'Flour sieves', 'plan');
  await page.getByRole('button', { name: 'Lumps left is measured on' }).click();
  const dialog = page.getByRole('dialog', { name: 'Lumps left is measured on' });
  await dialog.getByText('Grann').click();
  await dialog.getByText('Ivel').click();
  await dialog.getByRole('button', { name: 'Measure it there' }).click();
  await expect(page.getByRole('heading', { name: '4 items in 5 rounds: 30 readings.' })).toBeVisible();
});
