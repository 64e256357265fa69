import { anova } from '../compare/anova.ts';
import { type Blocks, completeRounds } from '../compare/blocks.ts';
import { blockedAnova, friedman } from '../compare/complete-rounds.ts';
import { kruskalWallis } from '../compare/kruskal-wallis.ts';
import type { Sample } from '../compare/sample.ts';
import { welchAnova } from '../compare/welch-anova.ts';
import type { Analysis, Remark } from './compare-screened.ts';

/** The tests of all items at once that the readings allow. */
export function testsOfAll(
  samples: readonly Sample[],
  blocks: Blocks | undefined,
  remarks: Remark[],
): Analysis['tests'] {
  const tests: Analysis['tests'] = {};
  if (samples.length < 2) return tests;
  const groups = samples.map(({ kept }) => kept);
  const classical = anova(groups);
  const welch = welchAnova(samples);
  const kruskal = kruskalWallis(groups);
  if (classical) tests.anova = classical;
  if (welch) tests.welchAnova = welch;
  else {
    remarks.push({
      about: 'tests',
      text: 'Welch’s test of all items is not available, because an item has one reading or no spread.',
    });
  }
  if (kruskal) tests.kruskalWallis = kruskal;
  const rows = blocks ? completeRounds(blocks) : [];
  const ranksInRounds = friedman(rows);
  if (ranksInRounds) tests.friedman = ranksInRounds;
  const residual = blockedAnova(rows);
  if (residual) tests.blockedAnova = residual;
  return tests;
}
