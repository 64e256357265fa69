import type { Model } from '../meter.ts';

/** A resistance meter on a carbon film resistor, which warms as it is measured. */
export const resistanceMeter: Model = {
  name: 'resistance-meter',
  title: 'Resistance meter',
  identity: 'Brackenridge,Resistance meter stand-in,0008,1.0',
  unit: 'ohm',
  periodS: 0.5,
  physics: {
    truth: () => 981,
    idle: 981,
    noise: 0.7,
    resolution: 0.5,
    warmUp: { excess: 4, tauS: 60 },
  },
};
