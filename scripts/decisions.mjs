/** How long a decision on the screen stage takes to be seen, and how long the page is held meanwhile. */
import { quantile } from './quantile.mjs';

const DESIGNS = [
  { items: 12, readings: 6000, runs: 7, aim: 'under 50 ms' },
  { items: 20, readings: 10000, runs: 7, aim: 'under 50 ms' },
  { items: 20, readings: 100000, runs: 3, aim: 'under 500 ms' },
];

/**
 * In the page: from the last press to the change of its heading, and the longest stretch, until a second later, in which
 * nothing else could be done. No time where the heading is the same afterwards: a rule may take back as many.
 */
const timed = async ([reason]) => {
  const heading = document.querySelector('h1');
  const before = heading.textContent;
  let longest = 0;
  let last = performance.now();
  let over = false;
  const watch = () => {
    const now = performance.now();
    longest = Math.max(longest, now - last);
    last = now;
    if (!over) watcher.port2.postMessage(0);
  };
  const watcher = new MessageChannel();
  watcher.port1.onmessage = watch;
  const start = performance.now();
  last = start;
  watcher.port2.postMessage(0);
  const seen = new Promise((resolve) => {
    new MutationObserver((_, observer) => {
      if (heading.textContent === before) return;
      observer.disconnect();
      resolve(performance.now() - start);
    }).observe(heading, { childList: true, characterData: true, subtree: true });
    setTimeout(resolve, 5000);
  });
  [...document.querySelectorAll('[role=dialog] button')]
    .find(({ textContent }) => textContent.includes(reason))
    .click();
  const took = await seen;
  // The task in which it is drawn counts, and what is drawn a little later.
  await new Promise((resolve) => setTimeout(resolve, 1000));
  over = true;
  return [took, longest];
};

/** @param row prints a figure beside its aim */
export async function decisions({ browser, address, post, row }) {
  for (const { items, readings, runs, aim } of DESIGNS) {
    const rows = Array.from(
      { length: readings },
      (_, i) => `item ${i % items},${(3 + (i % items) * 0.2 + Math.sin(i * 12.9898) * 0.3).toFixed(3)}`,
    );
    const { study } = await post(
      `/studies/import?title=Decisions`,
      `item,value\n${rows.join('\n')}\n`,
      'text/csv',
    );
    const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await tab.goto(`${address}/study/${study.id}/screen`);
    await tab
      .getByText('Every reading counts.')
      .or(tab.getByText(/left out/))
      .first()
      .waitFor({ timeout: 120000 });
    await tab.waitForTimeout(4000);
    const [times, holds] = [[], []];
    for (let run = 0; run < runs; run += 1) {
      await tab
        .getByRole('button', { name: /^Leave out item/ })
        .nth(run)
        .click();
      await tab
        .getByRole('dialog')
        .getByLabel(/[Rr]eason|Why/)
        .first()
        .fill('looked odd');
      await tab.waitForTimeout(3000);
      const [took, longest] = await tab.evaluate(timed, ['Leave it out']);
      if (took !== undefined) times.push(took);
      holds.push(longest);
      await tab.waitForTimeout(5000);
    }
    const what = `a decision, ${readings.toLocaleString('en')} readings of ${items} items`;
    row(`${what}: seen`, `${quantile(times, 0.5).toFixed(0)} ms`, aim);
    row(`${what}: page held, longest`, `${Math.max(...holds).toFixed(0)} ms`, 'under 50 ms');
    await tab.close();
  }
}
