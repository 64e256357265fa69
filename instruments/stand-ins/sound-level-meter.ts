import { FANS } from '../../demo/truths.ts';
import type { Model } from '../meter.ts';

/** A sound level meter with the quiet room as its floor. */
export const soundLevelMeter: Model = {
  name: 'sound-level-meter',
  title: 'Sound level meter',
  identity: 'Brackenridge,Sound level meter stand-in,0002,1.0',
  unit: 'dB(A)',
  periodS: 0.5,
  physics: {
    truth: ({ item }) => FANS.find(({ name }) => name === item)?.levelDb,
    idle: 31,
    noise: 0.4,
    resolution: 0.1,
    lagS: 1,
    cap: 90,
  },
};
