/** npm run bench -- --quiet: how often a study in which nothing is wrong shows anything; the aim is one in twenty. */
import { inspectStudy } from '../core/analysis/inspect-study.ts';
import { simulatedStudy } from '../core/testing-study.ts';

const STUDIES = 1000;
const DESIGNS = [
  { items: 6, rounds: 8, step: 0.2 },
  { items: 3, rounds: 8, step: 0.2 },
  { items: 12, rounds: 5, step: 0.2 },
  { items: 6, rounds: 8, step: 1 },
  { items: 6, rounds: 8, step: 2 },
  { items: 4, rounds: 20, step: 0.05 },
  { items: 3, rounds: 5, step: 0.5 },
];

for (const design of DESIGNS) {
  const kinds = new Map<string, number>();
  let loud = 0;
  for (let seed = 1; seed <= STUDIES; seed += 1) {
    const found = inspectStudy(simulatedStudy(design, seed).document);
    if (found.length > 0) loud += 1;
    for (const { kind } of found) kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
  }
  const { items, rounds, step } = design;
  const words = [...kinds].map(([kind, count]) => `${kind} ${String(count)}`).join(', ');
  console.log(
    `${String(items)} items × ${String(rounds)} rounds in steps of ${String(step)} SD: ${((100 * loud) / STUDIES).toFixed(1)} % show something (aim 5 %): ${words}`,
  );
}
