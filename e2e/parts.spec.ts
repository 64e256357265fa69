import { type Page, expect, readyStudy, test } from './bench-server.ts';

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
  const { id } = await readyStudy(server);
  await page.goto(`${server.address}/study/${id}/plan`);
  await expect(page.getByLabel('Name of the study')).toHaveValue('Three clips');
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
