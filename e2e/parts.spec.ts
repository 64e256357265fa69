import { type BenchServer, type Page, expect, readyStudy, test } from './bench-server.ts';

/** Keeps a file of the program from being fetched, until what comes back is called. */
async function withhold(page: Page, file: RegExp): Promise<() => Promise<void>> {
  await page.route(file, (route) => route.abort());
  return () => page.unroute(file);
}

const NOT_FETCHED = 'This part could not be fetched: the server is away, or newer than this page.';

/** What the browser says of a file that it did not get is what the test was after. */
function expectNotFetched(complaints: string[]): void {
  const said = complaints.splice(0);
  expect(said.length).toBeGreaterThan(0);
  for (const complaint of said) expect(complaint).toContain('dynamically imported module');
}

/** Opens the plan of a study that is ready for the bench. @returns its id */
async function openPlan(page: Page, server: BenchServer): Promise<string> {
  const { id } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/plan`);
  await expect(page.getByLabel('Name of the study')).toHaveValue('Three clips');
  return id;
}

test('the bench takes readings where what draws them is not fetched', async ({
  page,
  server,
  complaints,
}) => {
  const { id, readings } = await readyStudy(server);
  const fetchAgain = await withhold(page, /assets\/(?:bench-readings|strip)-/);
  await page.goto(`${server.address}/study/${id}/bench`);
  await expect(page.getByText(NOT_FETCHED)).toBeVisible();
  for (const [i, text] of ['120', '121'].entries()) {
    await page.getByRole('textbox').fill(text);
    await page.keyboard.press('Enter');
    await expect(page.getByText(`${String(i + 1)} of 12 readings`)).toBeVisible();
  }
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  expect((await readings()).map(({ parts }) => parts[0]?.text)).toEqual(['120', '121']);
  expectNotFetched(complaints);
  // What is typed and not recorded is there again with the page.
  await page.getByRole('textbox').fill('12');
  await fetchAgain();
  await page.getByRole('button', { name: 'Load the page again' }).click();
  await expect(page.getByText('The same as a table')).toBeVisible();
  await expect(page.getByRole('textbox')).toHaveValue('12');
});

test('a fold whose content is not fetched says so, and the plan goes on', async ({
  page,
  server,
  complaints,
}) => {
  await openPlan(page, server);
  const fetchAgain = await withhold(page, /assets\/folded-/);
  await page.getByRole('heading', { name: 'Factors', exact: true }).click();
  await expect(page.getByText(NOT_FETCHED)).toBeVisible();
  await page.getByLabel('Name of the study').fill('Four clips');
  await page.keyboard.press('Tab');
  await expect(page).toHaveTitle(/Four clips/);
  expectNotFetched(complaints);
  await fetchAgain();
  await page.getByRole('button', { name: 'Load the page again' }).click();
  await page.getByRole('heading', { name: 'Factors', exact: true }).click();
  await expect(page.getByText('Nothing else is varied.')).toBeVisible();
});

/** Answers who looks at the start page from another build; pages that are opened come as they are. */
const handOutAnother = (page: Page, address: string) =>
  page.route(`${address}/`, (route) => route.fulfill({ contentType: 'text/html', body: '<html></html>' }));

test('a page whose file is gone with a newer program is opened again by itself, once', async ({
  page,
  server,
}) => {
  const id = await openPlan(page, server);
  await handOutAnother(page, server.address);
  await page.route(/assets\/rank-/, (route) => route.abort(), { times: 1 });
  await page.getByRole('link', { name: 'Rank', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'No readings to rank yet.' })).toBeVisible();
  expect(new URL(page.url()).pathname).toBe(`/study/${id}/rank`);
});

test('a page that cannot be fetched of the same program says so, and is not opened over and over', async ({
  page,
  server,
  complaints,
}) => {
  await openPlan(page, server);
  const fetchAgain = await withhold(page, /assets\/rank-/);
  await page.getByRole('link', { name: 'Rank', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'The server is away.' })).toBeVisible();
  expectNotFetched(complaints);
  await fetchAgain();
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('heading', { name: 'No readings to rank yet.' })).toBeVisible();
});

test('a page whose worker is gone with a newer program says so, and waits to be loaded again', async ({
  page,
  server,
}) => {
  const { id } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/bench`);
  for (const text of ['120', '121', '122']) {
    await page.getByRole('textbox').fill(text);
    await page.keyboard.press('Enter');
  }
  await expect(page.getByText('3 of 12 readings')).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  await handOutAnother(page, server.address);
  const fetchAgain = await withhold(page, /assets\/analysis\.worker/);
  await page.goto(`${server.address}/study/${id}/screen`);
  await expect(page.getByText('The program on the server is newer than this page.')).toBeVisible();
  await fetchAgain();
  await page.unroute(`${server.address}/`);
  await page.getByRole('button', { name: 'Load the page again' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Every reading counts.');
  await expect(page.getByText('newer than this page')).toBeHidden();
});
