import { formatNumber } from '../quantity/format.ts';
import { FORMATS, kernel, someOf } from '../sound/kernel/kernel.ts';
import { FileProblem } from './file-problem.ts';

/** What a WAV file says about its samples. */
export interface WavHead {
  channels: number;
  sampleRate: number;
  bits: number;
  float: boolean;
  /** Where the samples begin, bytes. */
  dataStart: number;
  /** Samples of each channel that are there. */
  frames: number;
  /** When the recorder says that it began, by its own clock and without a zone: 2026-09-19T13:02:11. */
  recordedAt: string | undefined;
  /** What was odd about the file, as sentences. */
  remarks: string[];
}

/** Reads bytes of a file; fewer at its end. */
export type ReadAt = (from: number, length: number) => Promise<Uint8Array>;

const MOST_CHANNELS = 8;
const [LOWEST_RATE, HIGHEST_RATE] = [8000, 192000];

/** Whether recordings of so many channels, and samples a second, can be read. */
export const isReadable = ({ sampleRate, channels }: Pick<WavHead, 'sampleRate' | 'channels'>): boolean =>
  channels >= 1 && channels <= MOST_CHANNELS && sampleRate >= LOWEST_RATE && sampleRate <= HIGHEST_RATE;

const [PCM, FLOAT, EXTENSIBLE] = [1, 3, 0xfffe];
/** A size that says that it is elsewhere, or was never filled in. */
const UNKNOWN = 0xffffffff;
const MOST_CHUNKS = 1000;

const text = (bytes: Uint8Array, from: number) => String.fromCharCode(...bytes.subarray(from, from + 4));
const view = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/** What a file is that is no WAV, where it can be told. */
function otherKind(bytes: Uint8Array): string {
  const [first = 0, second = 0] = bytes;
  if (text(bytes, 0).startsWith('ID3') || (first === 0xff && (second & 0xe0) === 0xe0)) return 'an MP3';
  const kinds: Record<string, string> = {
    ...{ fLaC: 'a FLAC file', OggS: 'an Ogg file', RIFX: 'a WAV with its bytes the other way round' },
    ...{ FORM: 'an AIFF file' },
  };
  return kinds[text(bytes, 0)] ?? 'something else';
}

/** The format of the samples, from the chunk that says it. */
function formatOf(chunk: Uint8Array): Pick<WavHead, 'channels' | 'sampleRate' | 'bits' | 'float'> {
  if (chunk.length < 16) throw new FileProblem('The file’s format is cut off.');
  const data = view(chunk);
  let kind = data.getUint16(0, true);
  const [channels, sampleRate] = [data.getUint16(2, true), data.getUint32(4, true)];
  const [frame, bits] = [data.getUint16(12, true), data.getUint16(14, true)];
  if (kind === EXTENSIBLE && chunk.length >= 26) kind = data.getUint16(24, true);
  if (kind !== PCM && kind !== FLOAT) {
    throw new FileProblem(`The samples are compressed (format ${String(kind)}): PCM and float can be read.`);
  }
  const allowed = kind === FLOAT ? [32, 64] : [8, 16, 24, 32];
  if (!allowed.includes(bits)) {
    throw new FileProblem(
      `The samples have ${String(bits)} bits, where ${kind === FLOAT ? 'float has 32 or 64' : 'PCM has 8, 16, 24 or 32'}.`,
    );
  }
  if (channels < 1 || channels > MOST_CHANNELS)
    throw new FileProblem(
      `The file has ${String(channels)} channels; 1 to ${String(MOST_CHANNELS)} can be read.`,
    );
  if (sampleRate < LOWEST_RATE || sampleRate > HIGHEST_RATE) {
    throw new FileProblem(
      `The file has ${formatNumber(sampleRate, 0)} samples a second; ${formatNumber(LOWEST_RATE, 0)} to ${formatNumber(HIGHEST_RATE, 0)} can be read.`,
    );
  }
  if (frame !== (channels * bits) / 8)
    throw new FileProblem('The file contradicts itself about the size of its samples.');
  return { channels, sampleRate, bits, float: kind === FLOAT };
}

/** A day and a time as ten and eight signs; undefined for what is none, or was never filled in. */
function momentOf(bytes: Uint8Array): string | undefined {
  const signs = String.fromCharCode(...bytes);
  const found = /^(\d{4})\D(\d{2})\D(\d{2})(\d{2})\D(\d{2})\D(\d{2})$/.exec(signs);
  if (!found) return undefined;
  const [, year = '', month = '', day = '', hour = '', minute = '', second = ''] = found;
  const moment = `${year}-${month}-${day}T${hour}:${minute}:${second}`;
  const read = new Date(`${moment}Z`);
  return !Number.isNaN(read.getTime()) && read.toISOString().startsWith(moment) ? moment : undefined;
}

/**
 * Understands the head of a WAV file: PCM of 8 to 32 bits, float of 32 or 64, extensible, RF64 above 4 GB.
 * @param size of the whole file, bytes
 * @throws FileProblem for what is no such file
 * @source RIFF WAVE and WAVEFORMATEXTENSIBLE as Microsoft published them, EBU Tech 3306 for RF64, 3285 for bext (from memory)
 */
export async function wavHead(read: ReadAt, size: number): Promise<WavHead> {
  const first = await read(0, 12);
  if (first.length === 0) throw new FileProblem('The file is empty.');
  const riff = text(first, 0);
  if (first.length < 12 || (riff !== 'RIFF' && riff !== 'RF64') || text(first, 8) !== 'WAVE')
    throw new FileProblem(`This is no WAV file but ${otherKind(first)}.`);
  let format: ReturnType<typeof formatOf> | undefined;
  let longSize: number | undefined;
  let recordedAt: string | undefined;
  let place = 12;
  for (let chunks = 0; chunks < MOST_CHUNKS; chunks += 1) {
    const head = await read(place, 8);
    if (head.length < 8) break;
    const name = text(head, 0);
    const said = view(head).getUint32(4, true);
    if (name === 'fmt ') format = formatOf(await read(place + 8, Math.min(said, 64)));
    // A broadcast file’s day and time stand behind its description and who made it.
    if (name === 'bext' && said >= 338) recordedAt = momentOf(await read(place + 8 + 320, 18));
    if (name === 'ds64') {
      const sizes = await read(place + 8, 16);
      if (sizes.length === 16) longSize = Number(view(sizes).getBigUint64(8, true));
    }
    if (name === 'data') {
      if (!format) throw new FileProblem('The file does not say how its samples are written.');
      return { ...headOf(format, place + 8, said === UNKNOWN ? longSize : said, size), recordedAt };
    }
    place += 8 + said + (said % 2);
    if (place >= size) break;
  }
  throw new FileProblem('The file holds no samples.');
}

function headOf(
  format: ReturnType<typeof formatOf>,
  dataStart: number,
  said: number | undefined,
  size: number,
): Omit<WavHead, 'recordedAt'> {
  const remarks: string[] = [];
  const there = size - dataStart;
  const frame = (format.channels * format.bits) / 8;
  // A recorder that was switched off in the middle never fills its size in.
  const unknown = said === undefined || said === 0;
  if (!unknown && said > there) {
    const share = formatNumber((100 * there) / said, 0);
    remarks.push(`The file is cut off: ${share} % of the samples that it speaks of are there.`);
  }
  if (unknown && there > 0) remarks.push('The file does not say how long it is: all to its end is taken.');
  const frames = Math.floor(Math.min(unknown ? there : said, there) / frame);
  if (frames === 0) throw new FileProblem('The file holds no samples.');
  return { ...format, dataStart, frames, remarks };
}

/** How the samples of a file are written, in the kernel’s terms. */
function kernelFormat({ bits, float }: Pick<WavHead, 'bits' | 'float'>): number {
  if (float) return bits === 64 ? FORMATS.float64 : FORMATS.float32;
  if (bits === 8) return FORMATS.unsigned8;
  if (bits === 16) return FORMATS.signed16;
  return bits === 24 ? FORMATS.signed24 : FORMATS.signed32;
}

/**
 * The samples of a block as numbers from −1 to 1.
 * @param bytes at most `MOST` whole frames
 * @param wanted the channels, from 0
 * @returns the samples of each, in the kernel’s rooms, and how many were no number and are taken for silence
 */
export function readSamples(
  head: Pick<WavHead, 'channels' | 'bits' | 'float'>,
  bytes: Uint8Array,
  wanted: readonly number[],
): { blocks: Float64Array[]; lost: number } {
  const { bytes: room, rooms, decode, decodeStereo } = kernel();
  const format = kernelFormat(head);
  const frames = Math.floor((8 * bytes.length) / (head.bits * head.channels));
  room.set(bytes);
  let lost = 0;
  if (format === FORMATS.signed16 && head.channels === 2) decodeStereo(frames);
  else for (const channel of wanted) lost += decode(format, frames, head.channels, channel);
  return { blocks: wanted.map((channel) => someOf(rooms[channel] as Float64Array, 0, frames)), lost };
}
