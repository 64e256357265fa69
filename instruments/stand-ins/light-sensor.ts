import type { Model } from '../meter.ts';

/** A light sensor under the lamp of the bench, which takes minutes to come to its full light. */
export const lightSensor: Model = {
  name: 'light-sensor',
  title: 'Light sensor',
  identity: 'Brackenridge,Light sensor stand-in,0006,1.0',
  unit: 'lx',
  periodS: 0.5,
  physics: {
    truth: () => 480,
    idle: 480,
    noise: 2.5,
    resolution: 1,
    warmUp: { excess: -60, tauS: 180 },
    cap: 2000,
  },
};
