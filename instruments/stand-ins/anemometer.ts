import { FANS } from '../../demo/truths.ts';
import type { Model } from '../meter.ts';

/** A vane anemometer: it reads high until its bearing is warm, and the vane takes a moment to spin up. */
export const anemometer: Model = {
  name: 'anemometer',
  title: 'Vane anemometer',
  identity: 'Brackenridge,Vane anemometer stand-in,0001,1.0',
  unit: 'm/s',
  periodS: 0.5,
  physics: {
    truth: ({ item }) => FANS.find(({ name }) => name === item)?.speed,
    idle: 0,
    noise: 0.022,
    resolution: 0.01,
    warmUp: { excess: 0.12, tauS: 90 },
    lagS: 2,
    dropouts: 0.01,
  },
};
