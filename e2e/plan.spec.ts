import { expect, test } from './bench-server.ts';

test.use({ demo: true });

test.beforeEach(async ({ page, server }) => {
  await page.goto(server.address);
  await page.goto(`${server.address}/study/${(await server.study()).id}/plan`);
  await expect(page.getByRole('heading', { name: '6 items in 8 rounds: 144 readings.' })).toBeVisible();
});

test('two tabs edit the same field: nobody’s text is lost', async ({ page, context }) => {
  const other = await context.newPage();
  await other.goto(page.url());
  const mine = page.getByLabel('Question');
  await expect(other.getByLabel('Question')).toHaveValue(/Which desk fan/);
  await mine.fill('What I typed');
  const theirs = other.getByLabel('Question');
  await theirs.fill('What the other typed');
  await theirs.blur();
  await expect(theirs).toHaveValue('What the other typed');
  await other.waitForTimeout(300);
  await mine.blur();
  await expect(page.getByText('Changed somewhere else to “What the other typed”.')).toBeVisible();
  await expect(mine).toHaveValue('What I typed');
  await page.getByRole('button', { name: 'Keep mine' }).click();
  await expect(page.getByText('Changed somewhere else')).toBeHidden();
  await page.reload();
  await expect(page.getByLabel('Question')).toHaveValue('What I typed');
});

test('two tabs edit different fields: both stay', async ({ page, context, server }) => {
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel('Question').fill('Other question');
  await other.getByLabel('Question').blur();
  await expect.poll(async () => (await server.study()).question).toBe('Other question');
  await page.getByLabel('Name of the study').fill('Fans on desks');
  await page.getByLabel('Name of the study').blur();
  await expect
    .poll(async () => (await server.study('Fans on desks').catch(() => undefined))?.question)
    .toBe('Other question');
});

test('what is wrong is said at the field and stays typed', async ({ page }) => {
  const code = page.getByLabel('Code of Dappelin');
  await code.fill('BR');
  await code.blur();
  await expect(page.getByText('The code “BR” is taken by Brunnow.')).toBeVisible();
  await expect(code).toHaveValue('BR');
  const name = page.getByLabel('Name of item 3');
  await name.fill('x'.repeat(300));
  await name.blur();
  await expect(page.getByText(/at most 120 characters; this has 300/)).toBeVisible();
  await name.fill('');
  await name.blur();
  await expect(page.getByText(/must not be empty/)).toBeVisible();
  const airSpeed = page.getByRole('group', { name: 'Air speed at one metre' });
  await airSpeed.getByText('Instrument and rule').click();
  const margin = airSpeed.getByLabel('Margin that matters');
  await margin.fill('-1');
  await margin.blur();
  await expect(page.getByText('A margin is 0 or more.')).toBeVisible();
  const accuracy = airSpeed.getByLabel('Accuracy, ± %');
  await accuracy.fill('-2');
  await accuracy.blur();
  await expect(page.getByText('An accuracy is 0 or more.')).toBeVisible();
  await airSpeed.getByLabel('Calibrated on').fill('2026-04-01');
  await airSpeed.getByLabel('Calibrated on').blur();
  const from = airSpeed.getByLabel('Plausible from');
  await from.fill('9');
  await from.blur();
  await expect(page.getByText('Must be below the upper limit.')).toBeVisible();
  await from.fill('a lot');
  await from.blur();
  await expect(page.getByText('“a lot” is not a number in m/s.')).toBeVisible();
  await page.reload();
  await expect(airSpeed.getByLabel('Calibrated on')).toHaveValue('2026-04-01');
  await expect(accuracy).toHaveValue('2');
});

test('items are put in order by buttons, by dragging, and pasted as a column', async ({ page }) => {
  const names = () =>
    page
      .getByRole('list', { name: 'Items' })
      .getByLabel(/^Name of item/)
      .evaluateAll((inputs) => inputs.map((input) => (input as HTMLInputElement).value));
  await page.getByRole('button', { name: 'Move Quillop S up' }).click();
  await expect
    .poll(names)
    .toEqual(['Brunnow', 'Calvessa 2', 'Dappelin', 'Fenwhir', 'Quillop S', 'Merrowick']);
  // By keys: Enter picks it up, Tab goes from line to line, Enter puts it down, Escape leaves it.
  const grip = page.getByRole('button', { name: 'Move Brunnow', exact: true });
  await grip.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('To place 2, where Calvessa 2 is')).toBeFocused();
  await page.keyboard.press('Tab');
  await expect(page.getByLabel('To place 3, where Dappelin is')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect
    .poll(names)
    .toEqual(['Calvessa 2', 'Dappelin', 'Brunnow', 'Fenwhir', 'Quillop S', 'Merrowick']);
  await expect(grip).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(grip).not.toBeFocused();
  await page.keyboard.press('Escape');
  await expect(grip).toBeFocused();
  // By a pointer, to the first place; a press on the very middle would be a screen reader's.
  await grip.hover({ position: { x: 8, y: 12 } });
  await page.mouse.down();
  const first = await page.getByLabel('Name of item 1').boundingBox();
  if (!first) throw new Error('The list has no first item.');
  await page.mouse.move(first.x + 20, first.y + 30, { steps: 5 });
  await page.mouse.move(first.x + 30, first.y + 10, { steps: 5 });
  await page.mouse.up();
  await expect
    .poll(names)
    .toEqual(['Brunnow', 'Calvessa 2', 'Dappelin', 'Fenwhir', 'Quillop S', 'Merrowick']);
  await page.getByLabel('Add an item').evaluate((input) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', 'Rumbold\nמאוורר\nSallow 9');
    input.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  });
  await expect.poll(async () => (await names()).slice(6)).toEqual(['Rumbold', 'מאוורר', 'Sallow 9']);
  await expect(page.getByLabel('Code of Sallow 9')).toHaveValue('S9');
});

test('an item with readings stays, one without is removed and comes back by undo', async ({ page }) => {
  await page.getByRole('button', { name: 'Remove Brunnow' }).click();
  await expect(page.getByText('This item has 24 readings, so it stays in the record.')).toBeVisible();
  await page.getByLabel('Add an item').fill('Spare');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Remove Spare' }).click();
  await expect(page.getByLabel('Code of Spare')).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Code of Spare')).toBeVisible();
});

test('a typed name is kept when the stage is left without leaving the field', async ({ page, server }) => {
  await page.getByLabel('Question').fill('Half typed');
  await page.evaluate(() => {
    history.back();
  });
  await expect(page).toHaveURL(`${server.address}/`);
  await expect(page.getByText('Desk fans').first()).toBeVisible();
  await page.goForward();
  await expect(page.getByLabel('Question')).toHaveValue('Half typed');
});

test('the number of readings, the order and the time follow each other', async ({ page }) => {
  await page.getByText('How many readings', { exact: true }).click();
  await expect(page.getByLabel(/Spread of one item/)).not.toHaveValue('');
  await page.getByLabel(/Spread of one item/).fill('0.1');
  await page.getByLabel('Difference to be seen').fill('0.1');
  // R, noncentral t for all 15 pairs at once within rounds, df = 3(n − 1):
  // uniroot(function(n) 1 - pt(qt(1 - a/2, 3*(n-1)), 3*(n-1), ncp = sqrt(n/2)) - 0.8, c(2, 100)) with
  // a = 1 - 0.95^(1/15) gives 29.88.
  await expect(page.getByText('30 readings of each item show a difference of 0.1')).toBeVisible();
  await expect(page.getByText(/Where items turn out to scatter differently, it is 0\.27/)).toBeVisible();
  await expect(page.getByText(/“Rounds, one spread for all” sees 0\.19/)).toBeVisible();
  await page.getByLabel(/Spread of one item/).fill('wide');
  await expect(page.getByText('“wide” is not a number in m/s.')).toBeVisible();
  await page.getByText('How long', { exact: true }).click();
  // By hand: 48·(20 + 15 + 10) s of readings, 47·(25 + 30) s of changes and waits (round 5 begins with the item that
  // ended round 4), 7·60 s between rounds: 86 min.
  await expect(page.getByText('About 1 hour 26 minutes in 1 session')).toBeVisible();
  await page.getByLabel('One reading of Power').fill('600');
  await page.getByLabel('One reading of Power').blur();
  // 48·590 s more: 558 min, in sessions of 90 min.
  await expect(page.getByText(/About 9 hours 18 minutes in 7 sessions/)).toBeVisible();
});

test('procedure, confounds, conditions and cautions are written down and reach the bench', async ({
  page,
}) => {
  await page.getByText('Procedure', { exact: true }).click();
  await page.getByLabel('Add a step').nth(1).fill('Blades at rest before switching on');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('step 4')).toHaveValue('Blades at rest before switching on');
  await page.getByText('What else changes with the item', { exact: true }).click();
  await page.getByLabel('Add a confound').fill('Age of the bearings');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Confound 4')).toHaveValue('Age of the bearings');
  await page.getByText('Conditions to record', { exact: true }).click();
  await page.getByRole('button', { name: 'Another condition' }).click();
  await page.getByLabel('Condition', { exact: true }).nth(2).fill('Humidity');
  await page.getByLabel('Condition', { exact: true }).nth(2).blur();
  await expect(page.getByText('Air temperature, Mains voltage and Humidity')).toBeVisible();
  await page.getByText('Cautions', { exact: true }).click();
  await page.getByText('Loud sound', { exact: true }).click();
  await expect(page.getByText('From 85 dB(A) on wear hearing protection')).toBeVisible();
  // One more round, so that there is something to read.
  await page.getByLabel('Rounds', { exact: true }).fill('9');
  await page.getByLabel('Rounds', { exact: true }).blur();
  await page.getByRole('link', { name: 'Bench' }).click();
  await expect(page.getByText('From 85 dB(A) on wear hearing protection')).toBeVisible();
  await page.getByText('I have read the cautions.').click();
  await page.getByLabel('Air temperature').fill('31');
  await expect(page.getByText(/Air temperature 31.°C, your limit is 30.°C/)).toBeVisible();
  await page.getByRole('button', { name: 'Start the session' }).click();
  await page.getByRole('button', { name: 'Start without Humidity' }).click();
  await expect(page.getByText('Blades at rest before switching on')).toBeVisible();
  await expect(page.getByText(/Not recorded/)).toBeVisible();
});

test('attributes are typed, and pasted as a table whose bad cells are marked', async ({ page }) => {
  await page.getByText('Attributes of the items', { exact: true }).click();
  await expect(page.getByLabel('Price of Brunnow')).toHaveValue('34');
  await page.getByLabel('New attribute').fill('Mass');
  await page.getByLabel('Its unit').fill('kg');
  // The column is saved item by item; what is typed before that is over is no conflict.
  let sent = 0;
  await page.route('**/items/*', async (route) => {
    sent += 1;
    if (sent > 1) await new Promise((resolve) => setTimeout(resolve, 500));
    await route.continue();
  });
  await page.getByRole('button', { name: 'Add', exact: true }).nth(1).click();
  await page.getByLabel('Mass of Dappelin').fill('2,4');
  await page.getByLabel('Mass of Dappelin').blur();
  await expect(page.getByLabel('Mass of Dappelin')).toHaveValue('2.4');
  await page.getByRole('button', { name: 'From a table or file' }).click();
  const dialog = page.getByRole('dialog', { name: 'Items from a table' });
  await dialog
    .getByLabel('Copied from a spreadsheet')
    .fill('Item\tMass (kg)\tPrice (EUR)\nBrunnow\t1,9\theavy\nSorrel\t3.1\t55\nToo few\n');
  await expect(dialog.getByText('2 places are not understood')).toBeVisible();
  // What was pasted is there still where the dialog was left by mistake.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'From a table or file' }).click();
  await expect(dialog.getByText('2 places are not understood')).toBeVisible();
  await dialog.getByRole('button', { name: 'Take over 2 items' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByLabel('Mass of Brunnow')).toHaveValue('1.9');
  await expect(page.getByLabel('Price of Brunnow')).toHaveValue('34');
  await expect(page.getByLabel('Price of Sorrel')).toHaveValue('55');
  await expect(page.getByLabel('Name of item 7')).toHaveValue('Sorrel');
});

test('the run sheet has every run in order, and prints', async ({ page }) => {
  await page.getByRole('button', { name: 'Run sheet for paper' }).click();
  await expect(page.getByRole('heading', { name: 'Desk fans' })).toBeVisible();
  const rows = page.getByRole('row');
  await expect(rows).toHaveCount(49);
  await expect(rows.nth(1)).toContainText('Quillop S (QS)');
  await expect(page.getByText('Doors and windows shut')).toBeVisible();
  await expect(page.getByText('Air temperature at the start, °C (required)')).toBeVisible();
  await expect(
    page.getByText('Work on mains wiring is for licensed electricians', { exact: false }),
  ).toBeVisible();
  for (const format of ['A4', 'Letter'] as const) {
    const pdf = await page.pdf({ format });
    // Each page is an object of this type; 48 runs and the head take two or three pages.
    const pages = pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g)?.length ?? 0;
    expect(pages).toBeGreaterThanOrEqual(2);
    expect(pages).toBeLessThanOrEqual(3);
  }
});

test('an edit while the server is away is said, kept typed, and saved when it is back', async ({
  page,
  server,
}) => {
  const question = page.getByLabel('Question');
  await server.kill();
  await question.fill('Typed without a server');
  await question.blur();
  await expect(page.getByText('The server is away. What you typed is still here.')).toBeVisible();
  await expect(question).toHaveValue('Typed without a server');
  await server.start();
  await question.focus();
  await question.blur();
  await expect(page.getByText('The server is away. What you typed is still here.')).toBeHidden();
  await page.reload();
  await expect(page.getByLabel('Question')).toHaveValue('Typed without a server');
});

test('the order of the runs can be a balanced square until there are readings', async ({ page, server }) => {
  await page.goto(server.address);
  await page.getByRole('button', { name: 'More for Desk fans' }).click();
  await page.getByRole('menuitem', { name: 'Copy the plan' }).click();
  await page.getByRole('link', { name: 'Desk fans (copy)' }).click();
  await page.getByRole('button', { name: /Order of the runs/ }).click();
  await page.getByRole('option', { name: /Balanced square/ }).click();
  await expect(page.getByText('The square is complete after 6 rounds')).toBeVisible();
  await page.getByLabel('Rounds', { exact: true }).fill('6');
  await page.getByLabel('Rounds', { exact: true }).blur();
  await expect(page.getByText('The square is complete after 6 rounds')).toBeHidden();
  await expect(page.getByText('Every item stands in the middle of the order on average')).toBeVisible();
  const seed = page.getByLabel('Seed of the order');
  const before = await page.getByRole('region', { name: 'Order of the items' }).innerText();
  await seed.fill('77');
  await seed.blur();
  await expect
    .poll(() => page.getByRole('region', { name: 'Order of the items' }).innerText())
    .not.toBe(before);
});

test('notes stay in sight under the way on while the plan is read, and their end where they are long', async ({
  page,
}) => {
  const notes = page.getByRole('complementary', { name: 'Notes on the plan' });
  const wayOn = page.getByRole('button', { name: 'To the bench' });
  const edges = async () => {
    const [box, above] = [await notes.boundingBox(), await wayOn.boundingBox()];
    return {
      top: box?.y ?? 0,
      bottom: (box?.y ?? 0) + (box?.height ?? 0),
      above: (above?.y ?? 0) + (above?.height ?? 0),
    };
  };
  const read = () => page.getByRole('heading', { name: 'Cautions', exact: true }).scrollIntoViewIfNeeded();
  await page.setViewportSize({ width: 1280, height: 800 });
  await read();
  const { top, above } = await edges();
  expect(above).toBeGreaterThan(0);
  expect(top).toBeGreaterThanOrEqual(above);
  expect(top).toBeLessThan(above + 40);
  // Too low for all of them: they end where the window does.
  await page.setViewportSize({ width: 1280, height: 300 });
  await read();
  await expect.poll(async () => Math.round((await edges()).bottom)).toBe(300);
});
