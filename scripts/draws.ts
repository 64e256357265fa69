/** Times the draws of places for 12 items of 30 readings each, and prints the median in ms. */
import { drawPlaces } from '../core/rank/draws.ts';

const known = Array.from({ length: 12 }, (_, item) => ({ mean: 3 + 0.02 * item, se: 0.02, df: 29 }));
const times = Array.from({ length: 21 }, (_, run) => {
  const start = performance.now();
  drawPlaces({
    known: [known],
    worthOf: ([drawn], worth) => {
      worth.set(drawn as Float64Array);
    },
    draws: 10000,
    seed: run,
  });
  return performance.now() - start;
});
console.log(times.sort((a, b) => a - b)[10]);
