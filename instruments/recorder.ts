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

/** Where a microphone stands, and what it is connected to. */
export interface Microphone {
  sampleRate: number;
  /** What a sample of 1 is, dB: the gain of the recorder. */
  fullScale: number;
  /** The level of the room, dB(A). */
  background: number;
  random: SeededRandom;
  /** A wall that sends the sound back. */
  echo?: { afterS: number; lossDb: number };
}

export interface RecorderOptions extends Microphone {
  lengthS: number;
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

/** After this nothing is left of a sound, s. */
const LONGEST_FADE_S = 5;
const [RUSH_HZ, ROOM_HZ, TONE_HZ, BARK_HZ] = [900, 250, 1000, 500];

/** A sine whose period is a whole number of samples, from a table of one period. */
function sine(hz: number, sampleRate: number): (k: number) => number {
  const period = Math.round(sampleRate / hz);
  const table = Array.from({ length: period }, (_, k) =>
    same(Math.SQRT2 * Math.sin((2 * Math.PI * k) / period)),
  );
  return (k) => table[k % period] as number;
}

/** How far a source has come, sample by sample; it may be cut short meanwhile. */
function envelope(source: Source, sampleRate: number): (t: number) => number {
  const step = same(1 - Math.exp(-1 / (sampleRate * (source.rampS ?? 0.01))));
  let size = 0;
  return (t) => {
    size += step * ((t >= source.from && t < source.to ? 1 : 0) - size);
    return size;
  };
}

/** Noise of a level of 0 dB(A) where a sample of 1 is 0 dB. */
function noise(random: SeededRandom, hz: number, stream: number, sampleRate: number): () => number {
  const scale = unitLevel(rushing(seededRandom(1, stream), hz, sampleRate), sampleRate);
  const next = rushing(random, hz, sampleRate);
  return () => scale * next();
}

/** The pressure at a microphone as it comes, where a sample of 1 is the full scale. */
export class Hearing {
  private heard: { source: Source; factor: number; sizeAt: (t: number) => number }[] = [];
  private readonly signals: Record<Source['kind'], (k: number, air: number) => number>;
  private readonly air: () => number;
  private readonly room: () => number;
  private readonly quiet: number;
  /** What was heard so long ago as a wall sends it back, round and round. */
  private readonly late: Float64Array;
  private readonly lateShare: number;
  private count = 0;

  constructor(private readonly microphone: Microphone) {
    const { sampleRate, fullScale, background, random, echo } = microphone;
    this.air = noise(random, RUSH_HZ, 1, sampleRate);
    this.room = noise(random, ROOM_HZ, 2, sampleRate);
    const [tone, bark] = [sine(TONE_HZ, sampleRate), sine(BARK_HZ, sampleRate)];
    this.signals = {
      rush: (_k, air) => air,
      tone,
      bark: (k, air) => bark(k) * (1 + air),
    };
    this.quiet = factorOf(background - fullScale);
    this.late = new Float64Array(echo ? Math.round(echo.afterS * sampleRate) : 0);
    this.lateShare = echo ? factorOf(-echo.lossDb) : 0;
  }

  /** How long it has heard, s. */
  get seconds(): number {
    return this.count / this.microphone.sampleRate;
  }

  /** Lets something sound from now on or later, by the time of the microphone. */
  add(source: Source): void {
    const { sampleRate, fullScale } = this.microphone;
    const factor = factorOf(source.level - fullScale);
    const sounding = { ...source };
    this.heard.push({ source: sounding, factor, sizeAt: envelope(sounding, sampleRate) });
  }

  /** Lets sounds of a kind end now, or never begin; what has ended long ago is not heard any more. */
  hush(kind: Source['kind']): void {
    const now = this.seconds;
    this.heard = this.heard.filter(({ source }) => now < source.to + LONGEST_FADE_S);
    for (const { source } of this.heard) if (source.kind === kind) source.to = Math.min(source.to, now);
  }

  /** The next samples. */
  next(frames: number): Float64Array {
    const samples = new Float64Array(frames);
    for (let i = 0; i < frames; i += 1) {
      const k = this.count;
      const air = this.air();
      let sum = this.quiet * this.room();
      for (const { source, factor, sizeAt } of this.heard)
        sum += sizeAt(this.seconds) * factor * this.signals[source.kind](k, air);
      samples[i] = sum;
      this.count += 1;
      if (this.late.length > 0) {
        const place = k % this.late.length;
        samples[i] = sum + this.lateShare * (this.late[place] as number);
        this.late[place] = sum;
      }
    }
    return samples;
  }
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
  const hearing = new Hearing(options);
  for (const source of sources) hearing.add(source);
  const samples = hearing.next(Math.round(lengthS * sampleRate));
  const grown = same(10 ** (driftDb / 20) - 1);
  for (let k = 0; k < samples.length; k += 1) {
    const t = k / sampleRate;
    if (dropouts.some(({ from, to }) => t >= from && t < to)) samples[k] = 0;
    else if (driftDb !== 0) samples[k] = (samples[k] as number) * (1 + (grown * t) / lengthS);
  }
  return wavOf(samples, sampleRate);
}
