import { kernelBytes } from './bytes.ts';

/** Frames that are worked on at a time: few blocks to begin, which still stay in the processor’s second cache. */
export const MOST = 32768;
/** Samples of a step whose squares are summed up together. */
export const STEP = 16;
const CHANNELS = 8;
/** Bytes of a number. */
const NUMBER = 8;
/** Taps of the filters that look between samples; so many samples are kept of the block before. */
export const TAPS = 24;
/** Samples of a group, of which the least and the greatest are looked for together. */
export const GROUP = 8;

/** How the samples of a file are written. */
export const FORMATS = {
  unsigned8: 1,
  signed16: 2,
  signed24: 3,
  signed32: 4,
  float32: 5,
  float64: 6,
} as const;

/** Filters two channels, whose samples are so many bytes apart. */
type Filter = (frames: number, left: number, right: number, bytes: number, scale: number) => void;
/** How the kernel can filter. */
export type KernelFilter = 'sections' | 'weighA' | 'weighC';

/** What assembly.ts exports: functions, and places in its memory. */
interface Exports
  extends
    Record<KernelFilter, Filter>,
    Record<
      | 'BYTES'
      | 'ROOM'
      | 'ROOMS'
      | 'WORK'
      | 'SIDES'
      | 'ONE_STEP'
      | 'LEVELS'
      | 'COEFFICIENTS'
      | 'STATE'
      | 'KEPT'
      | 'FILTERS'
      | 'WEIGHTS',
      { value: number }
    > {
  memory: { buffer: ArrayBuffer };
  decode: (format: number, frames: number, channels: number, channel: number) => number;
  decodeStereo: (frames: number) => void;
  weave: (frames: number, left: number, right: number) => void;
  follow: (place: number, steps: number) => void;
  between: (place: number, frames: number, peak: number) => number;
  largest: (frames: number) => number;
}

/** What of WebAssembly is used; its types belong to browsers, which the core knows nothing of. */
interface Assembly {
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object) => { exports: unknown };
}

function load() {
  const { WebAssembly: assembly } = globalThis as unknown as { WebAssembly: Assembly };
  const exports = new assembly.Instance(new assembly.Module(kernelBytes())).exports as Exports;
  const { buffer } = exports.memory;
  const room = ({ value }: { value: number }, length: number) => new Float64Array(buffer, value, length);
  const rooms = (place: { value: number }, count: number) =>
    Array.from(
      { length: count },
      (_, i) => new Float64Array(buffer, place.value + i * exports.ROOM.value, MOST),
    );
  const sides = rooms(exports.SIDES, 2);
  /** Where samples lie in the kernel’s memory, into which they are copied where they came from elsewhere. */
  const placeOf = (samples: Float64Array, side: number): number => {
    if (samples.buffer === buffer) return samples.byteOffset;
    const room = sides[side] as Float64Array;
    room.set(samples);
    return room.byteOffset;
  };
  /** Where the samples of two channels lie; one channel is both. */
  const placesOf = (blocks: readonly Float64Array[]): [left: number, right: number] => {
    const [left, right = left] = blocks.map(placeOf) as [number, number?];
    return [left, right];
  };
  return {
    ...exports,
    /** Puts one or two channels beside each other into the room where they are filtered; one is there twice. */
    weaveIn: (blocks: readonly Float64Array[]): void => {
      exports.weave(blocks[0]?.length as number, ...placesOf(blocks));
    },
    /** Filters one or two channels into that room. */
    filterIn: (how: KernelFilter, blocks: readonly Float64Array[], scale: number): void => {
      exports[how](blocks[0]?.length as number, ...placesOf(blocks), NUMBER, scale);
    },
    /** Filters what is in that room once more. */
    filterAgain: (how: KernelFilter, frames: number, scale: number): void => {
      const left = exports.WORK.value;
      exports[how](frames, left, left + NUMBER, 2 * NUMBER, scale);
    },
    /** A block of a file, as it came. */
    bytes: new Uint8Array(buffer, exports.BYTES.value, MOST * CHANNELS * NUMBER),
    /** The samples of each channel of it. */
    rooms: rooms(exports.ROOMS, CHANNELS),
    /** Samples of two channels that are being filtered, beside each other. */
    work: room(exports.WORK, 2 * MOST),
    /** A step of them. */
    step: room(exports.ONE_STEP, 2 * STEP),
    /** Running levels of two channels, as assembly.ts has them. */
    levels: room(exports.LEVELS, 2 * 8),
    coefficients: room(exports.COEFFICIENTS, 12),
    state: room(exports.STATE, 18),
    /** The end of a block that was looked at between its samples; before that, the one of the block before. */
    kept: room(exports.KEPT, TAPS),
    /** The largest size of samples and of what is between them, or `peak` where that is larger; they stay. */
    between: (samples: Float64Array, peak: number): number =>
      exports.between(placeOf(samples, 0), samples.length, peak),
    filters: room(exports.FILTERS, 3 * TAPS),
    weights: room(exports.WEIGHTS, 5),
  };
}

/** So many samples of an array from a place on; where that is all of it the array itself, since a view of each block takes time. */
export const someOf = (samples: Float64Array, from: number, count: number): Float64Array =>
  from === 0 && count >= samples.length ? samples : samples.subarray(from, from + count);

/** What is smaller than this nothing hears. */
const TRACE = 1e-100;

/** Takes what is left of a sound in silence for silence: processors work on numbers near the smallest thirty times as long. */
export function forgetTraces(state: Float64Array): void {
  for (let i = 0; i < state.length; i += 1) if (Math.abs(state[i] as number) < TRACE) state[i] = 0;
}

let loaded: ReturnType<typeof load> | undefined;

/**
 * What is done with each sample, in WebAssembly. Its rooms are shared by all who call it: what is in them holds until the
 * next of them calls, so nobody waits for anything in between.
 */
export const kernel = (): ReturnType<typeof load> => (loaded ??= load());
