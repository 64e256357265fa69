import { AERATORS, SPRINKLERS, flowAt } from '../../demo/truths.ts';
import type { Model } from '../meter.ts';

/** A turbine flow meter that cannot show more than 12 L/min; the level is the pressure in bar. */
export const flowMeter: Model = {
  name: 'flow-meter',
  title: 'Flow meter',
  identity: 'Brackenridge,Flow meter stand-in,0003,1.0',
  unit: 'L/min',
  periodS: 0.5,
  physics: {
    truth: ({ item, level = 1 }) => {
      const aerator = AERATORS.find(({ name }) => name === item);
      return aerator ? flowAt(aerator, level) : SPRINKLERS.find(({ name }) => name === item)?.flow;
    },
    idle: 0,
    noise: 0.06,
    resolution: 0.1,
    lagS: 1.5,
    cap: 12,
    dropouts: 0.005,
  },
};
