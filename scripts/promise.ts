/**
 * Simulates whole studies as a page calls the analysis, and prints how often its promises are broken.
 *   tsx scripts/promise.ts [--studies 400] [--long] [--only rounds,6x8] [--only levels]
 */
import { parseArgs } from 'node:util';
import { baseline } from './promise/baseline.ts';
import type { Asked } from './promise/design.ts';
import { elsewhere } from './promise/elsewhere.ts';
import { estimates } from './promise/estimates.ts';
import { levels } from './promise/levels.ts';
import { pairs } from './promise/pairs.ts';
import { scores } from './promise/scores.ts';
import { since } from './promise/since.ts';

/** What is simulated besides the pairs of plain studies, by the word that asks for it alone. */
const PROMISES = { levels, scores, since, baseline, estimates, elsewhere };

const { values: given } = parseArgs({
  options: {
    studies: { type: 'string' },
    long: { type: 'boolean', default: false },
    only: { type: 'string' },
  },
});
const asked: Asked = {
  studies: Number(given.studies ?? (given.long ? 2000 : 300)),
  long: given.long,
};
const words = (given.only ?? '').split(',').filter((word) => word !== '');

pairs(asked, words);
for (const [word, simulate] of Object.entries(PROMISES)) {
  if (words.length === 0 || words.includes(word)) simulate(asked);
}
