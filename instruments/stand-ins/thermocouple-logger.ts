import { THERMOMETERS } from '../../demo/truths.ts';
import type { Model } from '../meter.ts';

/** A thermocouple logger; with a thermometer on the bench it sends what that shows in the bath, lag included. */
export const thermocoupleLogger: Model = {
  name: 'thermocouple-logger',
  title: 'Thermocouple logger',
  identity: 'Brackenridge,Thermocouple logger stand-in,0004,1.0',
  unit: '°C',
  periodS: 1,
  physics: {
    truth: ({ item, level = 30, itemS }) => {
      const probe = THERMOMETERS.find(({ name }) => name === item);
      if (!probe) return level;
      const settled = level + probe.offset + (probe.per100 * level) / 100;
      return 21 + (settled - 21) * (1 - Math.exp(-itemS / probe.lagS));
    },
    idle: 21,
    noise: 0.05,
    resolution: 0.1,
    warmUp: { excess: -0.3, tauS: 120 },
  },
};
