import { expect, test } from './bench-server.ts';

test.use({ demo: true });

test('a finding is answered, the answer reaches the report, and can be changed', async ({ page, server }) => {
  const { id } = await server.study('Flour sieves');
  await page.goto(`${server.address}/study/${id}/screen`);
  await expect(page.getByRole('heading', { name: '1 thing to look at' })).toBeVisible();
  await page.getByRole('button', { name: 'Answer it…' }).click();
  const answer = page.getByLabel('Your answer, for the report');
  await answer.fill('Flour of the item before; cleaned since');
  await page.getByRole('button', { name: 'Not now' }).click();
  await page.getByRole('button', { name: 'Answer it…' }).click();
  await expect(answer).toHaveValue('Flour of the item before; cleaned since');
  await answer.press('Enter');
  await expect(page.getByRole('heading', { name: 'Looked at' })).toBeVisible();
  await expect(page.getByText('Flour of the item before; cleaned since')).toBeVisible();
  await page.goto(`${server.address}/study/${id}/report`);
  const noticed = page.getByRole('region', { name: 'What was noticed' });
  await expect(noticed.getByText('Flour of the item before; cleaned since')).toBeVisible();
  await page.goto(`${server.address}/study/${id}/screen`);
  await page.getByRole('button', { name: 'Change the answer' }).click();
  await expect(answer).toHaveValue('Flour of the item before; cleaned since');
  await answer.fill('');
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

test('readings of one round are looked at by themselves, and on an axis of equal ratios', async ({
  page,
  server,
}) => {
  const { id } = await server.study('Flour sieves');
  await page.goto(`${server.address}/study/${id}/screen`);
  await page.getByText('Lumps left', { exact: true }).first().click();
  const strip = page.getByRole('listbox', { name: 'Lumps left: all readings by item' });
  await expect(strip).toBeVisible();
  const table = page.getByText('The same as a table');
  await table.click();
  const grann = page.getByRole('row', { name: /^Grann/ }).first();
  await expect(grann).toContainText(';');
  await page.getByRole('button', { name: /Readings of/ }).click();
  await page.getByRole('option', { name: 'Round 2' }).click();
  await expect(grann).not.toContainText(';');
  await page.getByRole('button', { name: 'On an axis of equal ratios' }).click();
  await expect(page.getByRole('button', { name: 'On an even axis' })).toBeVisible();
  // Marks are chosen on it as on any.
  await strip.focus();
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('complementary')).toContainText('round 2');
});

test('readings are shown less the median of their round, which is what a rule judges', async ({
  page,
  server,
}) => {
  const { id } = await server.study('Desk fans');
  await page.goto(`${server.address}/study/${id}/screen`);
  await page.getByText('Less the round’s median').click();
  const strip = page.getByRole('listbox', {
    name: 'Air speed at one metre: readings less the median of their round',
  });
  await expect(strip).toBeVisible();
  await expect(page.getByText('The rule in force judges these distances.')).toBeVisible();
  // The misread of Calvessa 2, 2.31 m/s where its round lay at 3.055 m/s.
  await page.getByText('The same as a table').click();
  await expect(page.getByRole('row', { name: /^Calvessa 2/ }).first()).toContainText('−0.745');
  await strip.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Home');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('complementary')).toContainText('Calvessa 2, round 3: 2.31');
  // With when, by what and in which air it was taken, and what was noted of its session.
  await expect(page.getByRole('complementary')).toContainText('Vane anemometer');
  await expect(page.getByRole('complementary')).toContainText('Air temperature');
  await expect(page.getByRole('complementary')).toContainText('Street noise from round 5 on');
});

test('a dense picture shows after a decision what it shows when the page is loaded again', async ({
  page,
  server,
}) => {
  const rows = Array.from(
    { length: 800 },
    (_, i) => `Item ${String(i % 2)},${(3 + 0.4 * (i % 2) + Math.sin(12.9898 * i)).toFixed(3)}`,
  );
  const made = await server.post(
    '/studies/import?title=Dense',
    `item,value\n${rows.join('\n')}\n`,
    'text/csv',
  );
  const { study } = (await made.json()) as { study: { id: string } };
  await page.goto(`${server.address}/study/${study.id}/screen`);
  const picture = () =>
    page
      .getByRole('listbox', { name: /all readings by item/ })
      .locator('canvas')
      .evaluate(async (canvas: HTMLCanvasElement) => {
        // The picture is drawn a moment after the words.
        for (let frame = 0; frame < 3; frame += 1) await new Promise(requestAnimationFrame);
        return canvas.toDataURL();
      });
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toContainText('Every reading counts.');
  const before = await picture();
  for (const [round, left] of [
    ['1', '1 reading is'],
    ['2', '2 readings are'],
  ]) {
    await page.getByRole('button', { name: `Leave out Item 1, round ${String(round)}`, exact: true }).click();
    await page.getByLabel('Why it does not count').fill('a draught');
    await page.getByRole('button', { name: 'Leave it out' }).click();
    await expect(heading).toContainText(`${String(left)} left out.`);
  }
  const after = await picture();
  expect(after).not.toBe(before);
  await page.reload();
  await expect(heading).toContainText('2 readings are left out.');
  await expect.poll(picture).toBe(after);
});

test('errors are told against their reference: by item, by band, by setting, with the share within the spec', async ({
  page,
  server,
}) => {
  const { id } = await server.study('Kitchen thermometers');
  await page.goto(`${server.address}/study/${id}/screen`);
  const section = page.getByRole('region', { name: 'Error against the reference' });
  await expect(section.getByRole('img', { name: /error over the reference/ })).toBeVisible();
  for (const [view, words] of [
    ['Over the mean of both', /difference over the mean of both/],
    ['Indicated', /indicated over the reference/],
    ['Over time', /error over time/],
  ] as const) {
    await section.getByText(view, { exact: true }).click();
    await expect(section.getByRole('img', { name: words })).toBeVisible();
  }
  await expect(section.getByRole('row', { name: /^Dorrit/ })).toContainText(' of 12');
  await section.getByText('By band of the reference').click();
  await expect(section.getByRole('row', { name: /^middle/ })).toBeVisible();
  await section.getByText('By setting').click();
  await expect(section.getByRole('row', { name: /^90 °C/ })).toContainText(' of 15');
  await expect(section.getByText('All items are taken together.')).toBeVisible();
  await section.getByText('While the reference changed').click();
  const limit = section.getByLabel('Without pairs taken while it moved faster than');
  await limit.fill('fast');
  await expect(section.getByText('A number, 0 or more.')).toBeVisible();
  await limit.fill('5');
  await expect(section.getByText('It never moved faster than that.')).toBeVisible();
  await limit.fill('0.02');
  const without = section.getByRole('region', { name: 'Agreement with and without the fast pairs' });
  await expect(without.getByRole('row', { name: /^Casker 3/ })).toContainText('12');
  await section.getByRole('button', { name: /^Leave \d+ readings out/ }).click();
  await expect(page.getByRole('dialog')).toContainText('taken while the reference moved faster than 0.02');
  await page.keyboard.press('Escape');
  await section.getByText('Lines of indicated against reference').click();
  await expect(section.getByRole('row', { name: /^Dorrit 0/ })).toContainText('0.807');
});

test('why a reading is left out is asked beside the work, and what was typed stays until it is used', async ({
  page,
  server,
}) => {
  const { id } = await server.study('Desk fans');
  await page.goto(`${server.address}/study/${id}/screen`);
  const first = page.getByRole('button', { name: 'Leave out Quillop S, round 1' });
  await first.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Leave a reading out' });
  await expect(dialog.getByText('Quillop S, round 1: 2.71')).toBeVisible();
  const reason = dialog.getByRole('textbox', { name: 'Why it does not count' });
  await expect(reason).toBeFocused();
  await reason.pressSequentially('the door stood open');
  // The page behind it is in reach: another reading is asked about instead.
  await page.getByRole('button', { name: 'Leave out Fenwhir, round 1' }).press('Enter');
  await expect(dialog.getByText('Fenwhir, round 1: 3.18')).toBeVisible();
  await expect(reason).toHaveValue('the door stood open');
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('button', { name: 'Leave out Fenwhir, round 1' })).toBeFocused();
  // Of another measurand nothing is asked; back at this one it is there again.
  await first.press('Enter');
  await page.getByRole('radio', { name: 'Sound level' }).press('Space');
  await expect(dialog).toBeHidden();
  await page.getByRole('radio', { name: 'Air speed at one metre' }).press('Space');
  await expect(reason).toHaveValue('the door stood open');
  // It is there, too, when the page is loaded again.
  await page.reload();
  await first.press('Enter');
  await expect(reason).toHaveValue('the door stood open');
  await dialog.getByRole('button', { name: 'Leave it out' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(
    '3 readings are left out, besides 1 misfire.',
  );
  await expect(page.getByRole('button', { name: 'Take back Quillop S, round 1' })).toBeFocused();
  await page.getByRole('button', { name: 'Leave out Fenwhir, round 1' }).press('Enter');
  await expect(reason).toHaveValue('');
});
