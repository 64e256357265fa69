import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { type Page, expect, readyStudy, test } from './bench-server.ts';

test.use({ serviceWorkers: 'allow' });

const entry = (page: Page) => page.getByRole('textbox').first();

/** Waits until the browser holds the pages and the study, so that both are there without the server. */
async function heldInBrowser(page: Page): Promise<void> {
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
  });
  await expect
    .poll(() =>
      page.evaluate(async () => {
        const [name] = (await caches.keys()).filter((key) => key.startsWith('brackenridge-pages-'));
        return name === undefined ? 0 : (await (await caches.open(name)).keys()).length;
      }),
    )
    .toBeGreaterThan(20);
}

const record = async (page: Page, text: string) => {
  await entry(page).fill(text);
  await page.keyboard.press('Enter');
};

test('without the server the bench opens again, shows every reading, and goes on', async ({
  page,
  context,
  server,
}) => {
  const { id, readings } = await readyStudy(server);
  const bench = `${server.address}/study/${id}/bench`;
  await page.goto(bench);
  await record(page, '101');
  await record(page, '102');
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  await heldInBrowser(page);
  await server.kill();

  await page.reload();
  await expect(page.getByText(/On its own since/)).toBeVisible();
  await expect(page.getByText('2 of 12 readings')).toBeVisible();
  await record(page, '103');
  await expect(page.getByText('3 of 12 readings')).toBeVisible();
  // A second tab opens too, and knows what the first one has.
  const other = await context.newPage();
  await other.goto(bench);
  await expect(other.getByText('3 of 12 readings')).toBeVisible();
  await other.close();
  // The other stages open as well, and the list.
  await page.goto(`${server.address}/study/${id}/plan`);
  await expect(page.getByLabel('Name of the study')).toHaveValue('Three clips');
  await page.goto(server.address);
  await expect(page.getByText('Three clips')).toBeVisible();
  await page.goto(bench);
  await expect(page.getByText('3 of 12 readings')).toBeVisible();

  await server.start();
  await expect(page.getByText(/On its own since/)).toBeHidden();
  await expect
    .poll(async () => (await readings()).map(({ parts }) => parts[0]?.text))
    .toEqual(['101', '102', '103']);
});

test('a browser whose store was emptied says so, and loses nothing that was recorded', async ({
  page,
  server,
}) => {
  const { id } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/bench`);
  await record(page, '101');
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  await heldInBrowser(page);
  const client = await page.context().newCDPSession(page);
  await page.goto('about:blank');
  await client.send('Storage.clearDataForOrigin', { origin: server.address, storageTypes: 'indexeddb' });
  await server.kill();
  await page.goto(`${server.address}/study/${id}/bench`);
  await expect(page.getByRole('heading', { name: 'The server is away.' })).toBeVisible();
  await server.start();
  await page.reload();
  await expect(page.getByText('1 of 12 readings')).toBeVisible();
});

test('a new version of the program is what opens next, and the one after it without the server', async ({
  page,
  server,
}) => {
  const pages = mkdtempSync(path.join(tmpdir(), 'brackenridge-pages-'));
  try {
    cpSync('dist/web', pages, { recursive: true });
    const { id } = await readyStudy(server);
    await page.goto(`${server.address}/study/${id}/plan`);
    await heldInBrowser(page);
    const change = (file: string, from: string | RegExp, to: string) => {
      const place = path.join(pages, file);
      writeFileSync(place, readFileSync(place, 'utf8').replace(from, to));
    };
    const [, entry = ''] =
      /src="\/assets\/([^"]+\.js)"/.exec(readFileSync('dist/web/index.html', 'utf8')) ?? [];
    writeFileSync(path.join(pages, 'assets/later.js'), `import './${entry}';`);
    change('index.html', entry, 'later.js');
    change('index.html', '<title>', '<meta name="later" content="yes" /><title>');
    change('service-worker.js', /VERSION = "[0-9a-f]+"/, 'VERSION = "later"');
    await server.kill();
    server.pages = pages;
    await server.start();
    const isLater = () => page.locator('meta[name="later"]').count();
    // A page that is open goes on, and says that it is not the newest.
    await page.getByRole('button', { name: 'Load the page again' }).click();
    await expect.poll(isLater).toBe(1);
    await expect(page.getByLabel('Name of the study')).toHaveValue('Three clips');
    await expect(page.getByText('newer than this page')).toBeHidden();
    const installed = () =>
      page.evaluate(async () => {
        const worker = await navigator.serviceWorker.getRegistration();
        return (
          worker?.installing === null &&
          worker.waiting === null &&
          worker.active?.state === 'activated' &&
          (await caches.has('brackenridge-pages-later'))
        );
      });
    await expect.poll(installed).toBe(true);
    await server.kill();
    await page.reload();
    await expect(page.getByLabel('Name of the study')).toHaveValue('Three clips');
    expect(await isLater()).toBe(1);
  } finally {
    rmSync(pages, { recursive: true, force: true });
  }
});
