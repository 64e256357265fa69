import { seededRandom } from '../core/random/seeded.ts';
import type { StudyPreview } from '../core/analysis/preview.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import type { Locator } from '@playwright/test';
import { type BenchServer, type Page, benchFetched, expect, startSession, test } from './bench-server.ts';

test.use({ demo: true });

interface ListedStudy {
  study: { id: string };
  preview: StudyPreview | null;
  renewing?: boolean;
}

const countsOf = async (server: BenchServer, id: string) => {
  for (;;) {
    const listed = await server.get<ListedStudy[]>('/studies');
    const found = listed.find(({ study }) => study.id === id);
    if (!found?.renewing) return found?.preview?.runs;
  }
};

/** What a hand may do at the bench, in no good order; letters land in the entry where something is typed there. */
const hand = (page: Page, server: BenchServer, below: (most: number) => number) => {
  const key = (name: string) => () => page.keyboard.press(name);
  const record = async () => {
    // Over whatever is in the entry, if that is where the focus is.
    await page.keyboard.press('Control+a');
    await page.keyboard.type(['3.1', '3,2', '2.9'][below(3)] as string);
    await page.keyboard.press('Enter');
    await page.waitForTimeout(50);
    if (await page.getByRole('button', { name: /Keep it/ }).isVisible()) await page.keyboard.press('Enter');
  };
  // A click that finds something in its way is not done.
  const click = (button: Locator) => button.click({ timeout: 2000 }).catch(() => undefined);
  return [
    ...[record, record, record, record],
    () => page.keyboard.type(['1/4', 'abc', '999999', '-3', '3.3 m/s'][below(5)] as string),
    ...['Enter', 'Tab', 'Escape', 'u', 'u', 's', 'a', 'r'].map(key),
    async () => {
      await page.keyboard.press('m');
      await page.keyboard.press(String(1 + below(3)));
    },
    () => click(page.getByRole('navigation', { name: 'Run queue' }).getByRole('button').nth(below(12))),
    () => click(page.getByRole('button', { name: /^(Pause|Go on)$/ }).first()),
    async () => {
      await page.reload();
      // Without the server a page that is just being loaded would have nothing to show.
      await expect(page.getByRole('navigation', { name: 'Run queue' })).toBeVisible();
      await benchFetched(page);
    },
    async () => {
      await server.kill();
      await record();
      await server.start();
    },
  ];
};

test('what a hasty hand does in any order is recorded as shown, and undone to nothing', async ({
  page,
  server,
}) => {
  test.slow();
  const random = seededRandom(1);
  const id = await server.planOf('Desk fans');
  await page.goto(`${server.address}/study/${id}/bench`);
  await startSession(page);
  const can = hand(page, server, (most) => random.below(most));
  for (let step = 0; step < 60; step += 1) {
    await can[random.below(can.length)]?.();
    // A question left open, or a dialog, is closed as often as not.
    if (await page.getByRole('dialog').isVisible()) await page.keyboard.press('Escape');
  }
  await page.reload();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  const counts = await countsOf(server, id);
  await expect(page.getByText(`${String(counts?.done)} of ${String(counts?.of)} readings`)).toBeVisible();
  const { readings, decisions } = await server.get<StudyDocument>(`/studies/${id}/document`);
  const ids = readings.map((reading) => reading.id);
  expect(ids).toEqual([...new Set(ids)].sort());
  expect(ids.length + decisions.length).toBeGreaterThan(5);

  const undo = page.getByRole('button', { name: /undo/i });
  await expect(async () => {
    if (await undo.isEnabled()) await undo.click({ timeout: 1000 });
    await expect(undo).toBeDisabled({ timeout: 200 });
  }).toPass({ timeout: 60000, intervals: [0] });
  await expect(page.getByRole('heading', { name: 'Before the first reading' })).toBeVisible();
  await expect(page.getByText('Everything is saved.')).toBeVisible();
  expect(await countsOf(server, id)).toEqual({ done: 0, of: 144 });
});
