import type { SeededRandom } from '../core/random/seeded.ts';
import type { SoundPhysics } from './live-sound.ts';

/** What a stand-in senses at a moment. */
export interface Sensed {
  /** Name of the item on the bench; empty while nothing is said. */
  item: string;
  /** A number that was set besides the item, such as a pressure or a bath; undefined while none is. */
  level: number | undefined;
  /** Seconds since the instrument was switched on. */
  onS: number;
  /** Seconds since the item was put on the bench. */
  itemS: number;
  random: SeededRandom;
}

/** How a simulated instrument behaves; all in its own unit. */
export interface Physics {
  /** The true value; undefined where the instrument does not know the item. */
  truth: (sensed: Sensed) => number | undefined;
  /** What it shows while no known item is on the bench. */
  idle: number;
  /** Standard deviation of one reading. */
  noise: number;
  /** Step of its display. */
  resolution: number;
  /** What it shows too much right after switching on, and the time in which that fades to a third. */
  warmUp?: { excess: number; tauS: number };
  /** How slowly it comes to the value of a new item: time to two thirds of the way, seconds. */
  lagS?: number;
  /** It never shows more than this. */
  cap?: number;
  /** Share of readings that come to nothing. */
  dropouts?: number;
  /** Share of readings that it sends twice when it streams. */
  doubles?: number;
}

/** One simulated instrument. */
export interface Model {
  /** Short name, used in addresses and lists. */
  name: string;
  title: string;
  /** What it answers to *IDN?: maker, model, serial number, firmware. */
  identity: string;
  unit: string;
  /** Between two readings while it streams, seconds. */
  periodS: number;
  physics: Physics;
  /** What it hears, where it can send sound. */
  sound?: SoundPhysics;
}

/** A reading as the instrument shows it; undefined for a dropout. */
export function sense(physics: Physics, sensed: Sensed): number | undefined {
  const { random } = sensed;
  if (physics.dropouts !== undefined && random.unit() < physics.dropouts) return undefined;
  const truth = physics.truth(sensed);
  const { warmUp, lagS = 0, cap = Infinity, resolution } = physics;
  const come = lagS > 0 ? 1 - Math.exp(-sensed.itemS / lagS) : 1;
  const settled = truth === undefined ? physics.idle : physics.idle + come * (truth - physics.idle);
  const drift = warmUp ? warmUp.excess * Math.exp(-sensed.onS / warmUp.tauS) : 0;
  const shown = Math.min(cap, settled + drift + physics.noise * random.normal());
  return Math.round(shown / resolution) * resolution;
}

/** As the display writes it: with the decimals of its step. */
export function display(value: number, resolution: number): string {
  const decimals = Math.max(0, -Math.floor(Math.log10(resolution) + 1e-9));
  return value.toFixed(decimals);
}
