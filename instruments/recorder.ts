import type { SeededRandom } from '../core/random/seeded.ts';
import { seededRandom } from '../core/random/seeded.ts';
import { WeightingFilter } from '../core/sound/weighting.ts';
import { pcm16, writtenHead } from '../core/formats/wav-write.ts';

/** Something that sounds before the microphone. */
export interface Source {
  from: number;
  to: number;
  /** What a sound level meter would show, dB(A). */
  level: number;
  /** A calibrator’s tone of 1 kHz, the rushing of air, or a short bark. */
  kind: 'tone' | 'rush' | 'bark';
  /** Time in which it comes to two thirds of its size, and fades to a third, s. */
  rampS?: number;
}

export interface RecorderOptions {
  sampleRate: number;
  lengthS: number;
  /** What a sample of 1 is, dB: the gain of the recorder. */
  fullScale: number;
  /** The level of the room, dB(A). */
  background: number;
  random: SeededRandom;
  /** A wall that sends the sound back. */
  echo?: { afterS: number; lossDb: number };
  /** How much louder it records at the end than at the beginning, dB. */
  driftDb?: number;
  /** Stretches in which it wrote silence, s. */
  dropouts?: readonly { from: number; to: number }[];
}

/** A factor as it is on every machine, whose powers and logarithms may differ in the last place. */
const same = (factor: number): number => Number(factor.toPrecision(9));
const factorOf = (decibels: number): number => same(10 ** (decibels / 20));

/** Noise with less and less of what is high, as of moving air: two low passes, one after the other. */
function rushing(random: SeededRandom, hz: number, sampleRate: number): () => number {
  const keep = same(Math.exp((-2 * Math.PI * hz) / sampleRate));
  let [once, twice] = [0, 0];
  return () => {
    // Three even draws together are near enough to a normal one, and the same on every machine.
    const white = 2 * (random.unit() + random.unit() + random.unit()) - 3;
    once += (1 - keep) * (white - once);
    twice += (1 - keep) * (once - twice);
    return twice;
  };
}

/** What a sound must be multiplied by to have an A-weighted level of 0 dB where a sample of 1 is 0 dB. */
function unitLevel(next: () => number, sampleRate: number): number {
  const samples = Float64Array.from({ length: 2 * sampleRate }, next);
  new WeightingFilter('A', sampleRate).filter(samples);
  const settled = samples.subarray(sampleRate / 2);
  return same(1 / Math.sqrt(settled.reduce((sum, x) => sum + x * x, 0) / settled.length));
}

const [RUSH_HZ, ROOM_HZ, TONE_HZ, BARK_HZ] = [900, 250, 1000, 500];

/** A sine whose period is a whole number of samples, from a table of one period. */
function sine(hz: number, sampleRate: number): (k: number) => number {
  const period = Math.round(sampleRate / hz);
  const table = Array.from({ length: period }, (_, k) =>
    same(Math.SQRT2 * Math.sin((2 * Math.PI * k) / period)),
  );
  return (k) => table[k % period] as number;
}

/** How far each source has come, sample by sample. */
function envelopes(sources: readonly Source[], sampleRate: number): ((t: number) => number)[] {
  return sources.map(({ from, to, rampS = 0.01 }) => {
    const step = same(1 - Math.exp(-1 / (sampleRate * rampS)));
    let size = 0;
    return (t) => {
      size += step * ((t >= from && t < to ? 1 : 0) - size);
      return size;
    };
  });
}

/** The pressure at the microphone, where a sample of 1 is `fullScale`. */
function pressures(sources: readonly Source[], options: RecorderOptions): Float64Array {
  const { sampleRate, lengthS, fullScale, background, random, echo } = options;
  const noise = (hz: number, stream: number) => {
    const scale = unitLevel(rushing(seededRandom(1, stream), hz, sampleRate), sampleRate);
    return { next: rushing(random, hz, sampleRate), scale };
  };
  const [rush, room] = [noise(RUSH_HZ, 1), noise(ROOM_HZ, 2)];
  const [tone, bark] = [sine(TONE_HZ, sampleRate), sine(BARK_HZ, sampleRate)];
  const sizes = envelopes(sources, sampleRate);
  const factors = sources.map(({ level }) => factorOf(level - fullScale));
  const quiet = factorOf(background - fullScale) * room.scale;
  const heard = new Float64Array(Math.round(lengthS * sampleRate));
  for (let k = 0; k < heard.length; k += 1) {
    const t = k / sampleRate;
    const air = rush.scale * rush.next();
    let sum = quiet * room.next();
    sources.forEach(({ kind }, i) => {
      const size = (sizes[i] as (t: number) => number)(t) * (factors[i] as number);
      sum += size * (kind === 'rush' ? air : kind === 'tone' ? tone(k) : bark(k) * (1 + air));
    });
    heard[k] = sum;
  }
  if (!echo) return heard;
  const [late, share] = [Math.round(echo.afterS * sampleRate), factorOf(-echo.lossDb)];
  return heard.map((sample, k) => sample + (k < late ? 0 : share * (heard[k - late] as number)));
}

/** Samples from −1 to 1 as a WAV file of one channel, 16 bits. */
export function wavOf(samples: Float64Array, sampleRate: number): Uint8Array {
  const head = writtenHead({ sampleRate, channels: 1, dataBytes: 2 * samples.length });
  const bytes = new Uint8Array(head.length + 2 * samples.length);
  bytes.set(head);
  bytes.set(pcm16(samples), head.length);
  return bytes;
}

/** What a sound recorder writes: one channel of 16 bits, clipped where it is too loud. */
export function recordedWav(sources: readonly Source[], options: RecorderOptions): Uint8Array {
  const { sampleRate, lengthS, driftDb = 0, dropouts = [] } = options;
  const samples = pressures(sources, options);
  const grown = same(10 ** (driftDb / 20) - 1);
  for (let k = 0; k < samples.length; k += 1) {
    const t = k / sampleRate;
    if (dropouts.some(({ from, to }) => t >= from && t < to)) samples[k] = 0;
    else if (driftDb !== 0) samples[k] = (samples[k] as number) * (1 + (grown * t) / lengthS);
  }
  return wavOf(samples, sampleRate);
}
