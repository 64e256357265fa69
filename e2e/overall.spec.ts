import type { StudyDocument } from '../core/model/study-document.ts';
import { expect, graveViolations, test } from './bench-server.ts';

test.use({ demo: true });

test('weights are moved by keys and typed, and who is first over all follows them', async ({
  page,
  server,
}) => {
  const study = await server.study();
  const saved = async () =>
    (await server.get<StudyDocument['study']>(`/studies/${study.id}`)).scoring.weights.map(
      ({ weight }) => weight,
    );
  await page.goto(`${server.address}/study/${study.id}/rank`);
  await page.getByText('Over all', { exact: true }).click();
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toHaveText(
    /^First place over all is not settled between Calvessa 2 and Fenwhir; Calvessa 2 has the best score/,
  );
  await expect(page.getByText('Single readings')).toBeVisible();
  expect(await graveViolations(page)).toEqual([]);

  // Sound louder in the score, key by key: Fenwhir comes first, and what is saved adds up to 1.
  const slider = page.getByRole('slider', { name: 'Sound level' });
  await slider.focus();
  for (let press = 0; press < 12; press += 1) await page.keyboard.press('ArrowRight');
  await expect(slider).toHaveAttribute('aria-valuetext', '52 per cent');
  await expect(heading).toHaveText(/Fenwhir has the best score/);
  await expect.poll(saved).toEqual([0.4, 0.52, 0.08, 0]);

  // Typed, and back again: what is wrong is said and stays typed.
  const field = page.getByRole('textbox', { name: 'Weight of Air speed at one metre' });
  await field.fill('140');
  await field.blur();
  await expect(page.getByText('A weight lies between 0 and 100 %.')).toBeVisible();
  await field.fill('100 %');
  await field.press('Enter');
  await expect(heading).toHaveText('Calvessa 2 is first over all.');
  await expect.poll(saved).toEqual([1, 0, 0, 0]);
  await page.reload();
  await page.getByText('Over all', { exact: true }).click();
  await expect(heading).toHaveText('Calvessa 2 is first over all.');
  await page.getByRole('button', { name: 'Weigh all alike' }).click();
  await expect(page.getByText('Nobody has said what matters more.')).toBeVisible();
  await expect.poll(saved).toEqual([]);
});

test('another way of scoring says what it cannot do, and the report shows the scores', async ({
  page,
  server,
}) => {
  const study = await server.study();
  await page.goto(`${server.address}/study/${study.id}/rank`);
  await page.getByText('Over all', { exact: true }).click();
  await page.getByText('Ratio to the best', { exact: true }).click();
  await expect(page.getByRole('heading', { name: 'There is no score', exact: true })).toBeVisible();
  await expect(page.getByText(/Sound level has no ratios to the best/)).toBeVisible();
  await page.getByText('Points by place', { exact: true }).click();
  await expect(page.getByRole('table', { name: /^Score, and what each/ })).toContainText('Quillop S');
  await expect
    .poll(async () => (await server.get<StudyDocument['study']>(`/studies/${study.id}`)).scoring.school)
    .toBe('points');
  await page.goto(`${server.address}/study/${study.id}/report`);
  await expect(page.getByRole('heading', { name: 'All measurands together' })).toBeVisible();
  await expect(page.getByText(/Scored by Points by place: Air speed at one metre 50/)).toBeVisible();
});

test('a result is held against the price, with the items that no other beats on both', async ({
  page,
  server,
}) => {
  const study = await server.study();
  await page.goto(`${server.address}/study/${study.id}/rank`);
  await page.getByText('Air speed at one metre against price').click();
  await expect(
    page.getByText(/^No other item beats Quillop S, Merrowick, Dappelin, Brunnow and Calvessa 2/),
  ).toBeVisible();
  await page.getByText('more is better').click();
  await expect(page.getByText(/^No other item beats Calvessa 2 on air speed/)).toBeVisible();
  await expect(page.getByRole('table', { name: 'Does it explain the result?' })).toContainText('Price');
  await page.getByRole('button', { name: 'Take the picture: Air speed at one metre against Price' }).click();
  const saved = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Save as SVG' }).click();
  expect((await saved).suggestedFilename()).toBe('air-speed-at-one-metre-against-price.svg');
  expect(await graveViolations(page)).toEqual([]);
});
