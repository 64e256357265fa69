import type { SeededRandom } from '../core/random/seeded.ts';
import { display } from './meter.ts';

/** One probe of the logger. */
export interface Probe {
  name: string;
  /** What is true at its place, in its unit, seconds after the start. */
  truth: (t: number) => number;
  /** Comes to two thirds of a change in this time, s. */
  lagS?: number;
}

export interface LoggerOptions {
  unit: string;
  /** When it was started, ms since 1970. */
  startMs: number;
  lengthS: number;
  periodS: number;
  random: SeededRandom;
  /** Standard deviation of one sample. */
  noise: number;
  resolution: number;
  /** What it shows too much after a day: it drifts evenly. */
  driftPerDay?: number;
  /** Share of samples that a probe does not send. */
  dropouts?: number;
  /** Stretches in which the logger wrote nothing, s. */
  silent?: readonly { from: number; to: number }[];
}

/** The time of a row, in UTC, as loggers write it. */
const rowTime = (ms: number): string => new Date(ms).toISOString().slice(0, 19).replace('T', ' ');

/** What a logger with several probes writes: a table with a time and a column for each, as CSV. */
export function loggedTable(probes: readonly Probe[], options: LoggerOptions): string {
  const {
    unit,
    startMs,
    lengthS,
    periodS,
    random,
    noise,
    resolution,
    driftPerDay = 0,
    dropouts = 0,
  } = options;
  const shown = probes.map(({ truth }) => truth(0));
  const lines = [['time', ...probes.map(({ name }) => `${name} (${unit})`)].join(',')];
  for (let t = 0; t <= lengthS; t += periodS) {
    const cells = probes.map(({ truth, lagS = 0 }, i) => {
      const before = shown[i] as number;
      const settled = lagS > 0 ? before + (truth(t) - before) * (1 - Math.exp(-periodS / lagS)) : truth(t);
      shown[i] = settled;
      const sample = settled + (driftPerDay * t) / 86400 + noise * random.normal();
      return random.unit() < dropouts
        ? ''
        : display(Math.round(sample / resolution) * resolution, resolution);
    });
    if (!options.silent?.some(({ from, to }) => t > from && t < to))
      lines.push([rowTime(startMs + 1000 * t), ...cells].join(','));
  }
  return `${lines.join('\n')}\n`;
}
