import { SIEVES } from '../../demo/truths.ts';
import type { Model } from '../meter.ts';

/** What the demo's flour sieves are fed with, g. */
const FED_G = 200;

/** A balance; with a sieve on the bench it weighs the flour that came through. */
export const balance: Model = {
  name: 'balance',
  title: 'Balance',
  identity: 'Brackenridge,Balance stand-in,0007,1.0',
  unit: 'g',
  periodS: 0.4,
  physics: {
    truth: ({ item }) => {
      const sieve = SIEVES.find(({ name }) => name === item);
      return sieve && (FED_G * sieve.yield) / 100;
    },
    idle: 0,
    noise: 0.08,
    resolution: 0.1,
    lagS: 0.8,
    cap: 2000,
  },
};
