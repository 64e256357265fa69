import { AxeBuilder } from '@axe-core/playwright';
import { type Page, expect, test } from './bench-server.ts';

test.use({ demo: true });

const SCREENS = [
  '/',
  '/design',
  '/interface',
  '/methods',
  'plan',
  'bench',
  'screen',
  'rank',
  'report',
  'sheet',
  '/nothing',
];

async function open(page: Page, address: string, screen: string, studyId: string) {
  await page.goto(screen.startsWith('/') ? `${address}${screen}` : `${address}/study/${studyId}/${screen}`);
  await expect(page.getByRole('heading').first()).toBeVisible();
  await page.waitForLoadState('load');
}

/** What a theme and a width can change; every other rule of axe sees the same page in all of them. */
const OF_THEME = ['color-contrast'];
const OF_WIDTH = [
  'color-contrast',
  'scrollable-region-focusable',
  'target-size',
  'bypass',
  'button-name',
  'link-name',
];

const LOOKS = [
  ['light', 1280, 800, undefined],
  ['dark', 1280, 800, OF_THEME],
  ['light', 768, 1024, OF_WIDTH],
] as const;

/** They are made of what the others show: axe sees nothing else in them in another theme or width. */
const SEEN_ONCE = ['/methods', '/nothing', 'sheet'];

// Some screens each, so that two can be looked at beside each other.
for (const screens of [SCREENS.slice(0, 6), SCREENS.slice(6)]) {
  test(`screens are sound to axe and fit, in each theme and width: ${screens.join(', ')}`, async ({
    page,
    server,
  }) => {
    const study = await server.study();
    for (const screen of screens) {
      for (const [theme, width, height, rules] of LOOKS) {
        await page.setViewportSize({ width, height });
        await page.emulateMedia({ colorScheme: theme });
        if (!rules) await open(page, server.address, screen, study.id);
        if (!rules || !SEEN_ONCE.includes(screen)) {
          const axe = new AxeBuilder({ page });
          const { violations } = await (rules ? axe.withRules([...rules]) : axe).analyze();
          const grave = violations
            .filter(({ impact }) => impact === 'serious' || impact === 'critical')
            .map(
              ({ id, nodes }) =>
                `${screen}: ${id} at ${nodes.map(({ target }) => target.join(' ')).join(' | ')}`,
            );
          expect(grave, `${theme}, ${String(width)} px`).toEqual([]);
        }
        const overflow = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
        expect(overflow, `${screen} is wider than ${String(width)} px`).toBeLessThanOrEqual(0);
      }
    }
  });
}

test('dialogs and menus are sound to axe', async ({ page, server }) => {
  const study = await server.study();
  const check = async () => {
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(
      violations.filter(({ impact }) => impact === 'serious' || impact === 'critical').map(({ id }) => id),
    ).toEqual([]);
  };
  await page.goto(server.address);
  await page.getByRole('button', { name: 'New study' }).click();
  await check();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'More for Desk fans' }).click();
  await check();
  await page.goto(`${server.address}/study/${study.id}/plan`);
  await page.getByRole('button', { name: /^Mark of Brunnow/ }).click();
  await check();
  await page.keyboard.press('Escape');
  await page.getByText('Instrument and rule').first().click();
  await page
    .getByRole('button', { name: /Rule for bad readings/ })
    .first()
    .click();
  await check();
});

test('the chosen theme is kept', async ({ page, server }) => {
  await page.goto(server.address);
  await page.getByRole('button', { name: /Dark theme/ }).click();
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
  await expect(page.getByRole('button', { name: /Light theme/ })).toBeVisible();
});

test('an unknown study says so and leads back', async ({ page, server }) => {
  await page.goto(`${server.address}/study/0192f0aa-0000-7000-8000-000000000000/rank`);
  await expect(page.getByRole('heading', { name: 'There is nothing here.' })).toBeVisible();
  await page.getByRole('button', { name: 'To the studies' }).click();
  await expect(page.getByRole('link', { name: 'Desk fans' })).toBeVisible();
});
