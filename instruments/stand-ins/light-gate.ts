import type { Model } from '../meter.ts';

/** A light-gate timer: seconds from gate to gate; it is triggered twice now and then. */
export const lightGate: Model = {
  name: 'light-gate',
  title: 'Light-gate timer',
  identity: 'Brackenridge,Light-gate timer stand-in,0005,1.0',
  unit: 's',
  periodS: 1,
  physics: {
    // No demo item runs through it, so it times the same swing again and again.
    truth: () => 1.42,
    idle: 1.42,
    noise: 0.012,
    resolution: 0.001,
    dropouts: 0.02,
    doubles: 0.05,
  },
};
