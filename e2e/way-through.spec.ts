import type { StudyDocument } from '../core/model/study-document.ts';
import { type Page, expect, graveViolations, tabTo, test } from './bench-server.ts';

/** Chooses a file in the dialog behind “Import”. */
async function importFile(
  page: Page,
  file: { name: string; mimeType: string; buffer: Buffer },
): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import' }).click();
  await (await chooser).setFiles(file);
}

test('a newcomer goes the whole way by keyboard alone: three items, five rounds, one misfire', async ({
  page,
  server,
}) => {
  await page.goto(server.address);
  await expect(page.getByRole('heading', { name: 'What do you want to compare?' })).toBeVisible();

  // Studies: a new one.
  await tabTo(page, /New study/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'New study' }).getByLabel('Name')).toBeFocused();
  await page.keyboard.type('Three clips');
  await page.keyboard.press('Enter');

  // Plan: three names, a unit; five rounds are the default.
  await expect(page.getByRole('heading', { name: /The plan needs at least two items/ })).toBeVisible();
  await tabTo(page, /Add an item/);
  for (const name of ['Almo', 'Berrin', 'Castor 2']) {
    await page.keyboard.type(name);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('list', { name: 'Items' }).locator(`input[value="${name}"]`)).toBeVisible();
  }
  await tabTo(page, /^Unit/);
  await page.keyboard.type('g');
  await tabTo(page, /^Margin that matters/);
  await page.keyboard.press('Control+A');
  await page.keyboard.type('2');
  await expect(page.getByRole('heading', { name: '3 items in 5 rounds: 15 readings.' })).toBeVisible();
  await tabTo(page, /To the bench/);
  await page.keyboard.press('Enter');

  // Bench: the entry has the focus; a number and Enter, fifteen times, with one misfire on the way.
  const readings: Record<string, number[]> = {
    Almo: [120, 120.2, 120.1, 119.9, 120.3],
    Berrin: [121.1, 121.3, 120.9, 121, 121.2],
    'Castor 2': [150.2, 150, 150.3, 150.1, 149.9],
  };
  for (let run = 0; run < 15; run += 1) {
    const heading = page.getByRole('heading', { level: 1 });
    await expect(page.getByText(`${String(run)} of 15 readings`)).toBeVisible();
    const name = (await heading.textContent()) ?? '';
    if (run === 5) {
      await page.keyboard.press('m');
      await expect(page.getByRole('dialog', { name: `Misfire of ${name}` })).toBeVisible();
      await page.keyboard.press('2');
      await expect(page.getByText(/after 1 misfire/)).toBeVisible();
    }
    // By item and round, so that the drawn order of the runs decides nothing.
    await page.keyboard.type(String(readings[name]?.[Math.floor(run / 3)]));
    await page.keyboard.press('Enter');
  }
  await expect(page.getByRole('heading', { name: 'All 15 runs are done.' })).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();

  // Screen, Rank: by their tabs.
  await tabTo(page, /^Screen/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Every reading counts but 1 misfire.' })).toBeVisible();
  await tabTo(page, /^Rank/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Castor 2 is first.');
  await expect(page.getByText('Berrin and Almo are practically the same')).toBeVisible();

  // And what is stored is what was typed.
  const study = await server.study('Three clips');
  const document = await server.get<StudyDocument>(`/studies/${study.id}/document`);
  expect(document.items.map(({ code }) => code)).toEqual(['A', 'B', 'C2']);
  expect(document.readings).toHaveLength(16);
  expect(document.decisions.map(({ action, reason }) => [action, reason])).toEqual([
    ['misfire', 'Instrument slipped or was not ready'],
  ]);
});

test.describe('with the demo', () => {
  test.use({ demo: true });

  test('a reading is left out by hand with a reason and taken back, on the strip and by keys', async ({
    page,
    server,
  }) => {
    await page.goto(server.address);
    await page.getByRole('link', { name: 'Desk fans' }).click();
    await page.getByRole('link', { name: 'Screen' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText('2 readings are left out');
    const strip = page.getByRole('listbox', { name: /all readings by item/ });
    await strip.focus();
    await page.keyboard.press('Home');
    await page.keyboard.press('ArrowRight');
    await expect(strip.getByRole('option')).toHaveText(/Brunnow: 3\.\d+\sm\/s, round \d/);
    await page.keyboard.press('Enter');
    await page.getByRole('complementary').getByRole('button', { name: 'Leave it out…' }).click();
    await page.keyboard.press('Enter');
    await expect(page.getByText('Give a reason: the report will show it.')).toBeVisible();
    await page.keyboard.type('a draught');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { level: 1 })).toContainText('3 readings are left out');
    await expect(page.getByText('Left out by hand: a draught.')).toBeVisible();
    await page.getByRole('button', { name: 'Take it back' }).first().click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText('2 readings are left out');
  });

  test('another rule is tried and undone', async ({ page, server }) => {
    await page.goto(server.address);
    await page.getByRole('link', { name: 'Desk fans' }).click();
    await page.getByRole('link', { name: 'Screen' }).click();
    await page.getByRole('button', { name: 'Use Drop highest and lowest' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText('12 readings are left out');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText('2 readings are left out');
  });

  test('a way back that did not reach the server is offered again', async ({ page, server }) => {
    await page.goto(server.address);
    await page.getByRole('link', { name: 'Desk fans' }).click();
    await page.getByRole('link', { name: 'Screen' }).click();
    await page.getByRole('button', { name: 'Use Drop highest and lowest' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText('12 readings are left out');
    await server.kill();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(
      page.getByText('Not undone: The server is away; try it again when it is back.'),
    ).toBeVisible();
    await expect(page.getByRole('heading', { level: 1 })).toContainText('12 readings are left out');
    await server.start();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText('2 readings are left out');
  });

  test('the study is taken away as a file and brought back after it was deleted', async ({
    page,
    server,
  }) => {
    await page.goto(server.address);
    const whole = page.waitForEvent('download');
    await page.getByRole('link', { name: 'Back up everything' }).click();
    expect((await whole).suggestedFilename()).toMatch(/^brackenridge-[\d-]+\.zip$/);
    for (const [kind, label] of [
      ['json', 'Study as JSON'],
      ['csv', 'Readings as CSV'],
    ] as const) {
      await page.getByRole('button', { name: 'More for Desk fans' }).click();
      const [download] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('menuitem', { name: label }).click(),
      ]);
      expect(download.suggestedFilename()).toBe(`desk-fans.${kind}`);
      const file = await download.path();
      await page.getByRole('button', { name: 'More for Desk fans' }).click();
      await page.getByRole('menuitem', { name: 'Delete' }).click();
      await expect(page.getByRole('link', { name: 'Desk fans' })).toBeHidden();
      const contents = await import('node:fs').then(({ readFileSync }) => readFileSync(file));
      await importFile(page, {
        name: `desk-fans.${kind}`,
        mimeType: kind === 'csv' ? 'text/csv' : 'application/json',
        buffer: contents,
      });
      await expect(page.getByText('145 readings imported.').first()).toBeVisible();
      await page.getByRole('link', { name: 'Rank' }).click();
      await expect(page.getByRole('heading', { level: 1 })).toHaveText(
        'Calvessa 2 is first. Quillop S is last.',
      );
      await page.getByRole('link', { name: 'Brackenridge, all studies' }).click();
    }
  });

  test('what takes long says how far it has come, and can be stopped', async ({ page, server }) => {
    await page.goto(server.address);
    let letGo: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (letGo = resolve));
    await page.route('**/under-way/*', (route) =>
      route.fulfill({ json: { doing: 'Writing it down', share: 0.42 } }),
    );
    for (const address of ['**/export.zip?*', '**/studies/import?*']) {
      await page.route(address, async (route) => {
        await held;
        await route.continue().catch(() => undefined);
      });
    }
    const ask = async () => {
      await page.getByRole('button', { name: 'More for Desk fans' }).click();
      await page.getByRole('menuitem', { name: 'Study as a package with photos' }).click();
    };
    await ask();
    const dialog = page.getByRole('dialog', { name: 'Making the file' });
    await expect(dialog.getByRole('progressbar', { name: 'Writing it down…' })).toHaveAttribute(
      'aria-valuenow',
      '42',
    );
    expect(await graveViolations(page)).toEqual([]);
    await dialog.getByRole('button', { name: 'Stop' }).click();
    await expect(dialog).toBeHidden();
    await importFile(page, {
      name: 'two.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('item,value\nAma,3\nBel,4\n'),
    });
    const importing = page.getByRole('dialog', { name: 'Importing two.csv' });
    await importing.getByRole('progressbar').waitFor();
    // A press beside it is not meant to stop it.
    await page.mouse.click(5, 400);
    await importing.getByRole('button', { name: 'Stop' }).press('Escape');
    await expect(page.getByText('Stopped. Nothing was imported.').first()).toBeVisible();
    letGo();
    const [download] = await Promise.all([page.waitForEvent('download'), ask()]);
    expect(download.suggestedFilename()).toBe('desk-fans.zip');
    await expect(page.getByRole('link', { name: 'two' })).toBeHidden();
  });

  test('a file that is wrong is refused with where and why', async ({ page, server }) => {
    await page.goto(server.address);
    await importFile(page, {
      name: 'bad.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('item,value\nAma,3\nBel,fast\n'),
    });
    const dialog = page.getByRole('dialog', { name: 'The file was not imported' });
    await expect(dialog).toContainText('Line 3: column “value” is not a number: “fast”.');
    await dialog.getByRole('button', { name: 'Close' }).click();
    await expect(page.getByRole('link', { name: 'Desk fans' })).toBeVisible();
  });

  test('a deleted study comes back by undo, an archived one from the archive', async ({ page, server }) => {
    await page.goto(server.address);
    await page.getByRole('button', { name: 'More for Desk fans' }).click();
    await page.getByRole('menuitem', { name: 'Delete' }).click();
    await expect(page.getByRole('link', { name: 'Desk fans' })).toBeHidden();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('link', { name: 'Desk fans' })).toBeVisible();
    await page.getByRole('button', { name: 'More for Desk fans' }).click();
    await page.getByRole('menuitem', { name: 'Archive' }).click();
    await page.getByText('Archive (1)').click();
    await page.getByRole('button', { name: 'More for Desk fans' }).click();
    await page.getByRole('menuitem', { name: 'Take out of the archive' }).click();
    await expect(page.getByText('Archive (1)')).toBeHidden();
  });

  test('a plain table becomes a study with what it says', async ({ page, server }) => {
    await page.goto(server.address);
    await importFile(page, {
      name: 'Sieves of spring.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        'item;value;unit;left_out;reason\nAlmo;82,5;%;no;\nBerrin;61;%;no;\nAlmo;83,5;%;no;\nBerrin;12;%;yes;spilt\nBerrin;62;%;no;\nAlmo;;%;no;\n',
      ),
    });
    await expect(page.getByText('5 readings imported, 1 empty value skipped.').first()).toBeVisible();
    await expect(page.getByText('Left out by hand: spilt.')).toBeVisible();
    await page.getByRole('link', { name: 'Rank' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Almo is first.');
    await page.getByRole('link', { name: 'Brackenridge, all studies' }).click();
    await expect(page.getByRole('link', { name: 'Sieves of spring' })).toBeVisible();
    await page.getByRole('button', { name: 'More for Sieves of spring' }).click();
    await page.getByRole('menuitem', { name: 'Rename' }).click();
    await page.getByRole('dialog', { name: 'Rename the study' }).getByLabel('Name').fill('Sieves');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('link', { name: 'Sieves', exact: true })).toBeVisible();
  });

  test('the strip is walked by its keys, and its table holds the same', async ({ page, server }) => {
    await page.goto(server.address);
    await page.getByRole('link', { name: 'Desk fans' }).click();
    await page.getByRole('link', { name: 'Rank' }).click();
    const strip = page.getByRole('listbox', { name: /items in order of place/ });
    await strip.focus();
    await page.keyboard.press('ArrowDown');
    await expect(strip.getByRole('option')).toHaveText(/Calvessa 2: .*round \d/);
    await page.keyboard.press('Home');
    await expect(strip.getByRole('option')).toHaveText(/Calvessa 2: 2\.31\sm\/s, round 3, left out/);
    await page.keyboard.press('End');
    await expect(strip.getByRole('option')).toHaveText(/Calvessa 2: 3\.47/);
    for (const name of ['Brunnow', 'Fenwhir', 'Dappelin', 'Merrowick', 'Quillop S']) {
      await page.keyboard.press('ArrowDown');
      await expect(strip.getByRole('option')).toHaveText(new RegExp(name));
    }
    await page.keyboard.press('Escape');
    await expect(strip.getByRole('option')).toHaveText(/No reading chosen/);
    await page.getByText('The same as a table').click();
    await expect(page.getByRole('row', { name: /Calvessa 2 \(C2, triangle\)/ })).toContainText('2.31');
    await page.getByRole('button', { name: 'Show the far readings in place' }).click();
    await expect(page.getByRole('button', { name: 'Zoom to the readings that count' })).toBeVisible();
  });
});
