import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { type BenchServer, type Page, expect, graveViolations, test } from './bench-server.ts';

test.use({ demo: true });

const started = promisify(execFile);

async function open(page: Page, server: BenchServer, title = 'Desk fans') {
  const { id } = await server.study(title);
  await page.goto(`${server.address}/study/${id}/report`);
  await expect(page.getByRole('heading', { name: 'The answer' })).toBeVisible();
  await expect(page.locator('article svg[role=img]').first()).toBeVisible();
  return id;
}

const parts = (page: Page) => page.locator('article > section > h2').allInnerTexts();

test('a study is one page: answer, picture, ranking, what was left out, method', async ({ page, server }) => {
  await open(page, server);
  await expect(page.locator('article .lead').first()).toHaveText('Calvessa 2 is first. Quillop S is last.');
  await expect(page.getByRole('row', { name: /Quillop S.*2\.699 ± 0\.084/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /Door opened during the reading/ })).toBeVisible();
  expect((await parts(page)).slice(0, 3)).toEqual([
    'The answer',
    'The readings that carry it',
    'The ranking',
  ]);
  await expect(page.getByText('145 readings were taken in rounds', { exact: false })).toBeVisible();
  // A study with levels is one story, not a section per level.
  await open(page, server, 'Tap aerators');
  await expect(page.getByRole('img', { name: /^Flow over Pressure/ })).toHaveCount(1);
});

test('the screening shows what the printed uncertainty is made of', async ({ page, server }) => {
  const { id } = await server.study();
  await page.goto(`${server.address}/study/${id}/screen`);
  await page.getByText('What the means are uncertain by').click();
  const row = page
    .getByRole('region', { name: 'Uncertainty of the means' })
    .getByRole('row', { name: /Quillop S/ });
  // The report prints 2.699 ± 0.084.
  await expect(row).toContainText('0.084');
  await expect(row).toContainText('the stated accuracy');
});

test('parts are moved and hidden, and the way back is offered', async ({ page, server }) => {
  await open(page, server);
  await page.getByRole('button', { name: 'Arrange and write' }).click();
  await page.getByRole('button', { name: 'Move “The ranking” up' }).click();
  await expect
    .poll(async () => (await parts(page)).slice(0, 3))
    .toEqual(['The answer', 'The ranking', 'The readings that carry it']);
  await page.getByRole('button', { name: 'Hide “Cautions”' }).click();
  await expect(page.getByRole('heading', { name: 'Cautions' })).toBeHidden();
  await page.reload();
  await expect.poll(async () => (await parts(page))[1]).toBe('The ranking');
  await page.getByRole('button', { name: 'Show “Cautions”' }).click();
  await expect(page.getByRole('heading', { name: 'Cautions' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(page.getByRole('heading', { name: 'Cautions' })).toBeHidden();
});

test('the tester’s words stay, and a number that no longer holds is pointed out', async ({
  page,
  server,
}) => {
  const id = await open(page, server);
  await page.getByRole('button', { name: 'Arrange and write' }).click();
  await page.getByRole('button', { name: 'Write under “The answer”' }).click();
  const words = page.getByLabel('Your words under “The answer”');
  await words.fill('Quillop S is 0.743 behind, for 34 EUR.\nWe would not buy it.');
  await words.blur();
  await expect
    .poll(async () => (await server.study()).report.words)
    .toEqual([
      {
        under: 'answer',
        text: 'Quillop S is 0.743 behind, for 34 EUR.\nWe would not buy it.',
        figures: ['0.743'],
      },
    ]);
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByText('We would not buy it.')).toBeVisible();
  await expect(page.getByText('not in the report any more')).toBeHidden();
  const [speed] = (
    await server.get<{ measurands: { id: string; version: number }[] }>(`/studies/${id}/document`)
  ).measurands;
  await server.patch(`/studies/${id}/measurands/${speed?.id ?? ''}`, {
    version: speed?.version,
    rule: { name: 'none', parameter: null, level: 'study', judges: 'distance' },
  });
  await expect(page.getByText('0.743 is not in the report any more')).toBeVisible();
  await expect(page.getByText('We would not buy it.')).toBeVisible();
});

test('one file to hand on needs no server, is sound to axe, and is the study again', async ({
  page,
  server,
}) => {
  const id = await open(page, server);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'One file to hand on' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('desk-fans.html');
  const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-report-'));
  try {
    const saved = path.join(folder, 'desk-fans.html');
    await file.saveAs(saved);
    const html = readFileSync(saved, 'utf8');
    expect(html).not.toMatch(/<(?:button|link|iframe|object)|src="http|href="http|\son[a-z]+=/);
    expect(html.match(/<script/g)).toEqual(['<script']);
    const asked: string[] = [];
    page.on('request', (request) => {
      if (!request.url().startsWith('data:')) asked.push(request.url());
    });
    await page.goto(`file://${saved}`);
    await expect(page.getByText('Calvessa 2 is first. Quillop S is last.')).toBeVisible();
    await expect(page.locator('svg[role=img]')).toHaveCount(4);
    expect(asked).toEqual([`file://${saved}`]);
    expect(await graveViolations(page)).toEqual([]);
    await page.goto(server.address);
    await page.locator('input[type=file]').setInputFiles(saved);
    await expect(page.getByText('This very study is here already; nothing was changed.')).toBeVisible();
    await expect(page).toHaveURL(new RegExp(id));
    const other = path.join(folder, 'other.html');
    writeFileSync(other, '<!DOCTYPE html><p>A page</p>');
    await page.goto(server.address);
    await page.locator('input[type=file]').setInputFiles(other);
    await expect(page.getByText('There is no study in this page.', { exact: false })).toBeVisible();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('without the server the file is refused in words, and the page stays', async ({ page, server }) => {
  await open(page, server);
  await server.kill();
  await page.getByRole('button', { name: 'One file to hand on' }).click();
  await expect(
    page.getByText('The server is away, and the file holds what it keeps.', { exact: false }),
  ).toBeVisible();
  await expect(page.locator('article .lead').first()).toHaveText('Calvessa 2 is first. Quillop S is last.');
});

test('a table is copied, and a picture saved with its caption, sharp and light', async ({
  page,
  server,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.emulateMedia({ colorScheme: 'dark' });
  await open(page, server);
  await page.getByRole('button', { name: /^Take the table: Air speed/ }).click();
  await page.getByRole('menuitem', { name: 'Copy for a spreadsheet' }).click();
  await expect(page.getByText('The table is copied.')).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied.split('\n')[1]).toBe('1\tCalvessa 2\t3.44 ± 0.10\t7\t\t');
  await page.getByRole('button', { name: 'Copy the answer' }).click();
  await expect(page.getByText('The answer is copied.')).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe(
    'Desk fans\nWhich desk fan moves the most air at one metre, at full speed?\nCalvessa 2 is first. Quillop S is last.',
  );
  const save = async (choice: string) => {
    await page.getByRole('button', { name: /^Take the picture: Air speed at one metre/ }).click();
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('menuitem', { name: choice, exact: true }).click(),
    ]);
    return { name: file.suggestedFilename(), bytes: readFileSync(await file.path()) };
  };
  const svg = await save('Save as SVG');
  expect(svg.name).toBe('air-speed-at-one-metre.svg');
  const text = svg.bytes.toString('utf8');
  expect(text).toContain('2 readings left out by Generalized ESD');
  expect(text).toContain('#fdfbf5');
  expect(text).not.toContain('var(--');
  const png = await save('Save as PNG');
  expect(png.bytes.subarray(1, 4).toString('latin1')).toBe('PNG');
  // Three pixels for each on the screen.
  expect(png.bytes.readUInt32BE(16)).toBeGreaterThan(2400);
});

for (const [format, titles] of [
  [
    'A4',
    [
      'Desk fans',
      'Tap aerators',
      'Flour sieves',
      'Kitchen thermometers',
      'Lawn sprinklers',
      'Vacuum flasks, five months on',
    ],
  ],
  ['Letter', ['Desk fans', 'Tap aerators']],
] as const) {
  test(`demo studies print on ${format}: text, page numbers, no buttons`, async ({ page, server }) => {
    const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-print-'));
    try {
      for (const title of titles) {
        await open(page, server, title);
        await expect(page.getByText('Drawing…')).toHaveCount(0);
        const pdf = path.join(folder, 'report.pdf');
        await page.pdf({ path: pdf, format });
        const { stdout: text } = await started('pdftotext', ['-layout', pdf, '-'], { encoding: 'utf8' });
        for (const heading of await parts(page)) expect(text).toContain(heading);
        const pages = text.split('\f').filter((sheet) => sheet.trim() !== '');
        pages.forEach((sheet, i) => {
          expect(sheet).toMatch(new RegExp(`\\b${String(i + 1)} ?/ ?${String(pages.length)}\\s*$`));
          expect(sheet).toContain(title);
          // A heading never stands alone at the foot of a page.
          const lines = sheet.split('\n').filter((line) => line.trim() !== '');
          expect(['The answer', 'The ranking', 'Method', 'Cautions']).not.toContain(lines.at(-2)?.trim());
        });
        expect(text).not.toMatch(/Arrange and write|One file to hand on|Print, or save/);
        // Nothing lies beyond the sheet: a page as wide as the paper's text holds every box.
        const beyond = await page.evaluate(
          () =>
            [...document.querySelectorAll('article *')].filter(
              (element) => element.getBoundingClientRect().right > innerWidth + 1,
            ).length,
        );
        expect(beyond).toBe(0);
      }
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });
}

test('the strip is taken from the ranking and from the screening, though it is painted', async ({
  page,
  server,
}) => {
  const { id } = await server.study();
  for (const [stage, what, told] of [
    ['rank', 'Air speed at one metre', 'Calvessa 2 3.443, place 1'],
    ['screen', 'Air speed at one metre, all readings', 'Calvessa 2 3.443'],
  ] as const) {
    await page.goto(`${server.address}/study/${id}/${stage}`);
    await expect(page.getByText('3.443').first()).toBeVisible();
    await page.getByRole('button', { name: `Take the picture: ${what}`, exact: true }).click();
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('menuitem', { name: 'Save as SVG' }).click(),
    ]);
    const svg = readFileSync(await file.path(), 'utf8');
    expect(svg).toContain('every reading, 2 readings left out by');
    expect(svg).toContain('<path');
    expect(svg).not.toContain('var(--');
    // What was drawn to be taken is gone again.
    await expect(page.locator(`svg[aria-label*="${told}"]`)).toHaveCount(0);
  }
});

test('what each rule would do is taken as a picture, with what it costs', async ({ page, server }) => {
  const { id } = await server.study();
  await page.goto(`${server.address}/study/${id}/screen`);
  await page
    .getByRole('button', { name: 'Take the picture: Air speed at one metre, what each rule would do' })
    .click();
  const [file] = await Promise.all([
    page.waitForEvent('download', { timeout: 60000 }),
    page.getByRole('menuitem', { name: 'Save as SVG' }).click(),
  ]);
  const svg = readFileSync(await file.path(), 'utf8');
  for (const words of [
    'Generalized ESD',
    'in force; leaves out 2 readings',
    'Chauvenet',
    'Calvessa 2',
    'false winners',
  ])
    expect(svg).toContain(words);
  // Every rule has a share of clean samples and one of false winners, the promise beside them.
  expect(svg.match(/\u202f%<\/text>/g)).toHaveLength(2 * 11 + 1);
  expect(svg).not.toContain('var(--');
});
