import type { StudyDocument } from '../core/model/study-document.ts';
import { v7 } from 'uuid';
import { newItem, newMeasurand } from '../core/plan/new-parts.ts';
import { type BenchServer, expect, test } from './bench-server.ts';

interface Asked {
  /** Readings of each item, one a round. */
  readings: Record<string, number[]>;
  items?: Record<string, object>;
  measurand?: object;
}

/** A study with its readings taken, and the address of one of its stages. */
async function takenStudy(server: BenchServer, { readings, items = {}, measurand = {} }: Asked) {
  const id = v7();
  const measurandId = v7();
  const rounds = Math.max(...Object.values(readings).map(({ length }) => length));
  await server.post('/studies', { id, title: 'Four clips', question: '', rounds, seed: 5 });
  await server.post(`/studies/${id}/measurands`, {
    id: measurandId,
    ...newMeasurand('Pull', 1),
    unit: 'g',
    rule: { name: 'none', parameter: null, level: 'study', judges: 'distance' },
    ...measurand,
  });
  for (const [place, [name, values]] of Object.entries(readings).entries()) {
    const itemId = v7();
    const made = await server.post(`/studies/${id}/items`, {
      id: itemId,
      ...newItem(name, []),
      mark: place,
      position: place + 1,
      ...items[name],
    });
    expect(made.status).toBe(201);
    for (const [i, value] of values.entries()) {
      await server.post(`/studies/${id}/readings`, {
        id: v7(),
        itemId,
        measurandId,
        sessionId: null,
        round: i + 1,
        place: i,
        levels: [],
        parts: [{ name: 'value', text: String(value), number: value }],
        source: 'typed',
        takenAt: new Date().toISOString(),
      });
    }
  }
  return (stage: string) => `${server.address}/study/${id}/${stage}`;
}

test('half a unit is not called a win', async ({ page, server }) => {
  // Common practice, no source: 338.3 against 338.8 is a tie at any margin from 0.2 % up.
  const addressOf = await takenStudy(server, {
    readings: { Almo: [338.3, 338.4, 338.2, 338.3, 338.3], Berrin: [338.8, 338.9, 338.7, 338.8, 338.8] },
    measurand: { margin: { kind: 'percent', value: 0.2 } },
  });
  await page.goto(addressOf('rank'));
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Berrin and Almo are practically the same.',
  );
  await expect(page.getByText('of the best mean does not matter')).toBeVisible();
});

test('what is not settled says how many more readings it takes', async ({ page, server }) => {
  const addressOf = await takenStudy(server, {
    readings: { Almo: [10, 12, 9, 11], Berrin: [9, 11, 10, 10], Castor: [2, 2.2, 1.9, 2.1] },
  });
  await page.goto(addressOf('rank'));
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    /^First place is not settled between Almo and Berrin; Almo comes first in \d+\s% of the draws\. Castor is last\.$/,
  );
  await expect(page.getByText(/About \d+ more readings of each would be likely to tell/)).toBeVisible();
  await expect(page.getByRole('cell', { name: 'open' })).toBeVisible();
});

test('single readings settle nothing', async ({ page, server }) => {
  const addressOf = await takenStudy(server, { readings: { Almo: [10], Berrin: [3] } });
  await page.goto(addressOf('rank'));
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Too few readings for an order: one reading shows no spread.',
  );
});

test('classes are ranked apart, and a control is never ranked', async ({ page, server }) => {
  const addressOf = await takenStudy(server, {
    readings: {
      Almo: [10, 10.1, 9.9],
      Berrin: [8, 8.1, 7.9],
      Castor: [50, 50.1, 49.9],
      Blank: [90, 90.1, 89.9],
    },
    items: { Castor: { class: 'large' }, Blank: { role: 'control', code: 'BL' } },
  });
  await page.goto(addressOf('rank'));
  await expect(page.getByRole('heading', { name: 'Almo is first.' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Castor is the only item with readings.' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Controls, measured and not ranked' })).toBeVisible();
});

test('another way of comparing is chosen, and one that does not apply says why', async ({ page, server }) => {
  const addressOf = await takenStudy(server, { readings: { Almo: [10, 10.1, 9.9, 10], Berrin: [8] } });
  await page.goto(addressOf('rank'));
  await expect(page.getByText(/Tamhane’s T2\. It allows each item its own spread/)).toBeVisible();
  await page.getByRole('button', { name: /Compared by/ }).click();
  await page.getByRole('option', { name: /Games–Howell/ }).click();
  await expect(page.getByText('with fewer it calls somebody ahead too often')).toBeVisible();
  await page.getByRole('button', { name: /Compared by/ }).click();
  await page.getByRole('option', { name: /^Rounds, one spread/ }).click();
  await expect(page.getByText(/no two items were read together in two rounds/)).toBeVisible();
});

test('a margin that is changed after the readings is told in the ranking', async ({ page, server }) => {
  const addressOf = await takenStudy(server, { readings: { Almo: [10, 10.1, 9.9], Berrin: [8, 8.1, 7.9] } });
  await page.goto(addressOf('plan'));
  const margin = page.getByLabel('Margin that matters');
  await margin.fill('3');
  await margin.blur();
  await expect(page.getByRole('heading', { name: '1 change after the first reading' })).toBeVisible();
  await page.getByRole('link', { name: 'Rank' }).click();
  await expect(page.getByText(/margin from 0\sg to 3\sg/)).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Almo and Berrin are practically the same.',
  );
  await page.getByRole('link', { name: 'Report' }).click();
  await expect(page.getByText(/margin from 0\sg to 3\sg/)).toBeVisible();
});

test('nearest to a target puts the nearest first, from either side', async ({ page, server }) => {
  const addressOf = await takenStudy(server, {
    readings: { Almo: [99, 99.1, 98.9], Berrin: [103, 103.1, 102.9], Castor: [110, 110.1, 109.9] },
    measurand: { direction: { kind: 'nearest', target: 100 } },
  });
  await page.goto(addressOf('rank'));
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Almo is first. Castor is last.');
  await expect(page.getByText('nearest to 100')).toBeVisible();
});

test('a planned look is said at the bench, and until the end the ranking speaks of so far', async ({
  page,
  server,
}) => {
  const addressOf = await takenStudy(server, {
    readings: { Almo: [10, 10.1, 9.9, 10], Berrin: [8, 8.1, 7.9, 8] },
  });
  await page.goto(addressOf('plan'));
  const rounds = page.getByLabel('Rounds', { exact: true });
  await rounds.fill('8');
  await rounds.blur();
  await expect(page.getByRole('heading', { name: /^2 items in 8 rounds/ })).toBeVisible();
  await page.getByText('Looks before the end', { exact: true }).click();
  const looks = page.getByLabel('Look after rounds');
  await looks.fill('4, 9');
  await looks.blur();
  await expect(page.getByText('“9” is no round before the last one, which is 8.')).toBeVisible();
  await looks.fill('6 and 4');
  await looks.blur();
  await expect(page.getByText('after rounds 4 and 6, strict early')).toBeVisible();
  // Lan and DeMets (1983), spending like O’Brien and Fleming’s, half of the readings in: 0.305 %.
  await expect(page.getByRole('row', { name: /after round 4/ })).toContainText(/0\.3\d.%/);
  await page.getByRole('link', { name: 'Bench' }).click();
  await expect(page.getByRole('heading', { name: 'Planned look after round 4' })).toBeVisible();
  await expect(page.getByText('First place is settled, so you may stop here.')).toBeVisible();
  await page.getByRole('link', { name: 'Rank' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('So far: Almo is first.');
  await expect(page.getByText('4 of 8 rounds complete')).toBeVisible();
});

test('a look without a plan is recorded, and what looking costs is said', async ({ page, server }) => {
  const addressOf = await takenStudy(server, {
    readings: { Almo: [10, 10.1, 9.9, 10], Berrin: [8, 8.1, 7.9, 8] },
  });
  await page.goto(addressOf('plan'));
  const rounds = page.getByLabel('Rounds', { exact: true });
  await rounds.fill('8');
  await rounds.blur();
  await expect(page.getByRole('heading', { name: /^2 items in 8 rounds/ })).toBeVisible();
  await page.getByRole('link', { name: 'Rank' }).click();
  // Armitage, McPherson and Rowe (1969): a look half-way and one at the end cost 8.3 %.
  await expect(page.getByText(/a false one now has a chance of about 8.%, not 5.%/)).toBeVisible();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Looked at 1 time before the end' })).toBeVisible();
});

test('the schools stand side by side with their price, and one is put in force and taken back', async ({
  page,
  server,
}) => {
  const addressOf = await takenStudy(server, {
    readings: {
      Almo: [10, 10.2, 9.9, 10.1, 10, 14],
      Berrin: [8, 8.1, 7.9, 8.2, 8, 8.1],
      Castor: [9, 9.2, 8.9, 9, 9.1, 9],
    },
  });
  await page.goto(addressOf('screen'));
  const table = page.getByRole('region', { name: 'What each rule would do' });
  await expect(table.getByRole('row', { name: /Generalized ESD/ })).toContainText('leaves out 1: A\u00a014');
  await expect(table.getByRole('row', { name: /Trimmed mean/ })).toContainText('needs 10 readings');
  // The simulation fills in what each school costs.
  await expect(table.getByRole('row', { name: /Drop highest/ })).toContainText(/100.%/);
  await table.getByRole('button', { name: /^Use Generalized ESD/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('1 reading is left out.');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Every reading counts.');

  // Items of another class are compared among themselves.
  const id = /study\/([^/]+)\//.exec(page.url())?.[1] ?? '';
  const { items } = await server.get<StudyDocument>(`/studies/${id}/document`);
  const castor = items.find(({ name }) => name === 'Castor');
  expect(
    (
      await server.patch(`/studies/${id}/items/${castor?.id ?? ''}`, {
        version: castor?.version,
        class: 'Tower',
      })
    ).status,
  ).toBe(200);
  await expect(page.getByRole('radio', { name: 'Without a class' })).toBeChecked();
  await expect(table.getByRole('row', { name: /^None/ })).toContainText('Almo');
  await page.getByText('Tower', { exact: true }).click();
  await expect(table.getByRole('row', { name: /^None/ })).toContainText('Castor');
  await expect(table.getByRole('row', { name: /Generalized ESD/ })).toContainText('leaves out nothing');
});
