import { expect, test } from './bench-server.ts';

test.use({ demo: true });

test('a finding is answered, the answer reaches the report, and can be changed', async ({ page, server }) => {
  const { id } = await server.study('Flour sieves');
  await page.goto(`${server.address}/study/${id}/screen`);
  await expect(page.getByRole('heading', { name: '1 thing to look at' })).toBeVisible();
  await page.getByRole('button', { name: 'Answer it…' }).click();
  await page.getByLabel('Your answer, for the report').fill('Flour of the item before; cleaned since');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Looked at' })).toBeVisible();
  await expect(page.getByText('Flour of the item before; cleaned since')).toBeVisible();
  await page.goto(`${server.address}/study/${id}/report`);
  const noticed = page.getByRole('region', { name: 'What was noticed' });
  await expect(noticed.getByText('Flour of the item before; cleaned since')).toBeVisible();
  await page.goto(`${server.address}/study/${id}/screen`);
  await page.getByRole('button', { name: 'Change the answer' }).click();
  await page.getByLabel('Your answer, for the report').fill('');
  await page.getByRole('button', { name: 'Answer', exact: true }).click();
  await expect(page.getByRole('heading', { name: '1 thing to look at' })).toBeVisible();
});

test('a finding is acted on from where it stands', async ({ page, server }) => {
  const { id } = await server.study('Flour sieves');
  await page.goto(`${server.address}/study/${id}/screen`);
  await page.getByRole('button', { name: 'Leave it out…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Leave a reading out' });
  // What it would change is seen before it is decided.
  const without = dialog.getByRole('table', { name: 'Without it' });
  await expect(without.getByRole('row', { name: /^Ivel/ }).locator('del').first()).toHaveText('5');
  await dialog.getByLabel('Why it does not count').fill('more out than in');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('1 reading is left out.');
  await expect(page.getByRole('heading', { name: '1 thing to look at' })).toBeHidden();
});

test('a whole round is left out for one reason, and comes back by one undo', async ({ page, server }) => {
  const { id } = await server.study('Flour sieves');
  await page.goto(`${server.address}/study/${id}/screen`);
  await page.getByRole('button', { name: 'Leave several out…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Leave several out' });
  await dialog.getByRole('button', { name: /Which/ }).click();
  await page.getByRole('option', { name: /^Round 2: 4 readings/ }).click();
  await dialog.getByRole('button', { name: 'Leave 4 readings out' }).click();
  await expect(dialog.getByText('Give a reason: the report will show it.')).toBeVisible();
  await dialog.getByLabel('Why they do not count').fill('sieve shaken twice');
  await dialog.getByRole('button', { name: 'Leave 4 readings out' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('4 readings are left out.');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Every reading counts.');
});

test('errors are told against their reference: by item, by band, with the share within the spec', async ({
  page,
  server,
}) => {
  const { id } = await server.study('Kitchen thermometers');
  await page.goto(`${server.address}/study/${id}/screen`);
  const section = page.getByRole('region', { name: 'Error against the reference' });
  await expect(section.getByRole('img', { name: 'Error over the reference' })).toBeVisible();
  await expect(section.getByRole('row', { name: /^Dorrit/ })).toContainText(' of 12');
  await section.getByText('By band of the reference').click();
  await expect(section.getByRole('row', { name: /^middle/ })).toBeVisible();
  await section.getByText('Lines of indicated against reference').click();
  await expect(section.getByRole('row', { name: /^Dorrit/ })).toContainText('0.807');
});
