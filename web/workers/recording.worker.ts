import { expose } from 'comlink';
import { type SoundValue, type SoundWindow, soundValue } from '../../core/formats/recording-value.ts';
import { BLOCK, eachBlock, fullScaleOf, measureRecording } from '../../core/formats/recording.ts';
import { type ReadAt, type WavHead, wavHead } from '../../core/formats/wav.ts';
import type { FormSettings } from '../../core/model/parts.ts';
import type { SoundFilters } from '../../core/sound/filters.ts';
import { type Columns, Overview, columnsOfSamples } from '../../core/sound/overview.ts';
import { isCalibratorTone, toneFrequency } from '../../core/sound/tone.ts';
import { TrackMeter } from '../../core/sound/track.ts';
import type { TimeWindow } from '../../core/trace/series.ts';

/** What a recording says about itself. */
export interface SoundHead extends Pick<
  WavHead,
  'channels' | 'sampleRate' | 'bits' | 'float' | 'frames' | 'recordedAt' | 'remarks'
> {
  lengthS: number;
}

/** What of a recording is in a picture: of which stretch and channel. */
export interface SoundColumns extends Columns, TimeWindow {
  channel: number;
}

/** Said while a recording is read: how much of it was. */
export type SaySo = (share: number) => void;

/** Bytes that are fetched at a time: of all of a file, and of a little of it. */
const [MANY, FEW] = [4 << 20, 1 << 19];
/** How often it is said how far it has come, ms. */
const SAY_MS = 120;
/** A tone whose level moves by more than this is hardly a calibrator’s, dB. */
const STEADY = 1;
/** So much of a tone is enough to tell its frequency, s. */
const HEARD_S = 2;

/** How a file is read, and how long it is. */
interface Source {
  read: ReadAt;
  size: number;
}

/** Reads pieces that are larger than what is asked for, and keeps the last one. */
function inPieces(fetchPiece: ReadAt, piece: number): ReadAt {
  let start = 0;
  let bytes: Uint8Array = new Uint8Array(0);
  return async (from, length) => {
    if (from < start || from + length > start + bytes.length) {
      bytes = await fetchPiece(from, Math.max(piece, length));
      start = from;
    }
    return bytes.subarray(from - start, from - start + length);
  };
}

const ofBlob = (blob: Blob): Source => ({
  size: blob.size,
  read: async (from, length) => new Uint8Array(await blob.slice(from, from + length).arrayBuffer()),
});

/** Reads all of a recording from its start to its end: the next piece comes while the last one is worked on. */
function onwards({ read, size, head: { channels, bits } }: Opened): ReadAt {
  // Whole blocks, so that none lies in two pieces.
  const block = (BLOCK * channels * bits) / 8;
  const piece = block * Math.ceil(MANY / block);
  let ahead: { from: number; bytes: Promise<Uint8Array> } | undefined;
  return inPieces(async (from, length) => {
    const bytes = await (ahead?.from === from && length === piece ? ahead.bytes : read(from, length));
    const next = from + bytes.length;
    ahead = next < size ? { from: next, bytes: read(next, piece) } : undefined;
    // What went wrong is said when it is asked for.
    ahead?.bytes.catch(() => undefined);
    return bytes;
  }, piece);
}

/** A file that is kept on the server, of which only the pieces are fetched that are wanted. */
async function ofServer(file: string): Promise<Source> {
  const address = `/api/v1/files/${file}`;
  const fetchPiece = async (from: number, length: number) => {
    const answer = await fetch(address, {
      headers: { Range: `bytes=${String(from)}-${String(from + length - 1)}` },
      cache: 'no-store',
    });
    if (answer.status === 404) throw new Error('The file is not on this server: only its readings are.');
    if (answer.status === 416) return { bytes: new Uint8Array(0), size: from };
    if (!answer.ok) throw new Error('The file cannot be fetched just now.');
    const size = Number(answer.headers.get('content-range')?.split('/')[1]);
    return { bytes: new Uint8Array(await answer.arrayBuffer()), size };
  };
  const { size } = await fetchPiece(0, 1);
  return { size, read: async (from, length) => (await fetchPiece(from, length)).bytes };
}

/** What is known of a recording that was opened. */
interface Opened extends Source {
  head: WavHead;
  /** Made once it is looked at: of a long recording it takes its room. */
  overview: Overview | undefined;
  /** All of it, being read or read. */
  whole: Promise<void> | undefined;
  say: SaySo[];
  /** The samples that were looked at last. */
  near: { channel: number; first: number; samples: Float32Array } | undefined;
}

const opened = new Map<string, Promise<Opened>>();
const MOST_OPEN = 6;
async function openSource({ read, size }: Source): Promise<Opened> {
  const head = await wavHead(inPieces(read, FEW), size);
  return {
    ...{ read, size, head, overview: undefined, whole: undefined, say: [], near: undefined },
  };
}

function hold(file: string, found: Promise<Opened>): Promise<Opened> {
  opened.set(file, found);
  found.catch(() => opened.delete(file));
  const [oldest] = opened.keys();
  if (opened.size > MOST_OPEN && oldest !== undefined) opened.delete(oldest);
  return found;
}

function open(file: string): Promise<Opened> {
  const known = opened.get(file) ?? ofServer(file).then(openSource);
  // What was asked for last goes last.
  opened.delete(file);
  return hold(file, known);
}

/** Says how far something has come, now and then. */
function saying(frames: number, say: (share: number) => void): (frame: number) => void {
  let saidAt = performance.now();
  return (frame) => {
    if (performance.now() - saidAt < SAY_MS) return;
    saidAt = performance.now();
    say(frame / frames);
  };
}

const channelsOf = ({ channels }: WavHead): number[] => Array.from({ length: channels }, (_, i) => i);

const overviewOf = (found: Opened): Overview =>
  (found.overview ??= new Overview(found.head.channels, found.head.frames));

/** Reads all of a recording once, for its picture. */
async function readWhole(found: Opened): Promise<void> {
  const { head } = found;
  const overview = overviewOf(found);
  const said = saying(head.frames, (share) => {
    for (const say of found.say) say(share);
  });
  await eachBlock(
    onwards(found),
    head,
    channelsOf(head),
    { first: 0, last: head.frames },
    (blocks, frame) => {
      overview.push(blocks, frame);
      said(frame);
    },
  );
  found.say = [];
}

/** Samples of a stretch, channel by channel. */
async function samplesOf(
  { read, head }: Opened,
  channels: readonly number[],
  first: number,
  last: number,
): Promise<Float32Array<ArrayBuffer>[]> {
  const [from, to] = [Math.max(0, first), Math.min(head.frames, last)];
  if (to <= from) return channels.map(() => new Float32Array(0));
  const found = channels.map(() => new Float32Array(to - from));
  await eachBlock(inPieces(read, FEW), head, channels, { first: from, last: to }, (blocks, frame) => {
    blocks.forEach((block, i) => found[i]?.set(block, frame - from));
  });
  return found;
}

/** The columns of a picture from the samples themselves; those around are read along, so that moving on needs no fetching. */
async function nearColumns(
  found: Opened,
  channel: number,
  first: number,
  last: number,
  count: number,
): Promise<Columns> {
  const { near } = found;
  const around = near?.channel === channel ? near : undefined;
  const end = Math.min(found.head.frames, last);
  if (!around || first < around.first || end > around.first + around.samples.length) {
    const room = 2 * (last - first);
    const [samples] = await samplesOf(found, [channel - 1], first - room, last + room);
    found.near = { channel, first: Math.max(0, first - room), samples: samples ?? new Float32Array(0) };
  }
  const { first: start, samples } = found.near as NonNullable<Opened['near']>;
  return columnsOfSamples(samples.subarray(first - start, last - start), count);
}

const worker = {
  head: async (file: string): Promise<SoundHead> => {
    const { channels, sampleRate, bits, float, frames, recordedAt, remarks } = (await open(file)).head;
    return { channels, sampleRate, bits, float, frames, recordedAt, remarks, lengthS: frames / sampleRate };
  },
  /** Opens a file that is not kept yet, by a ticket in place of its name. @throws what is wrong with it */
  tryOut: async (ticket: string, blob: Blob): Promise<void> => {
    await hold(ticket, openSource(ofBlob(blob)));
  },
  /** What was tried out is kept under this name now, or not at all. */
  keptAs: (ticket: string, file: string | undefined): void => {
    const found = opened.get(ticket);
    opened.delete(ticket);
    if (found && file !== undefined) void hold(file, found);
  },
  /** Reads all of a recording for its picture, once. */
  overview: async (file: string, say: SaySo): Promise<void> => {
    const found = await open(file);
    found.say.push(say);
    found.whole ??= readWhole(found);
    await found.whole;
  },
  /** The smallest and largest samples of the columns of a picture, as far as they were read. */
  columns: async (
    file: string,
    channel: number,
    { from, to }: TimeWindow,
    count: number,
  ): Promise<SoundColumns> => {
    const found = await open(file);
    const { sampleRate } = found.head;
    const [first, last] = [Math.floor(from * sampleRate), Math.ceil(to * sampleRate)];
    const overview = overviewOf(found);
    const near = (last - first) / count < overview.finest;
    const columns = near
      ? await nearColumns(found, channel, first, last, count)
      : overview.columns(channel - 1, first, last, count);
    return { ...columns, channel, from, to };
  },
  /** The level of each hundredth of a second, dB relative to full scale. */
  track: async (file: string, channel: number, filters: SoundFilters, say: SaySo): Promise<Float32Array> => {
    const found = await open(file);
    // The picture first: both at once would take twice as long.
    await found.whole;
    const { head } = found;
    const meter = new TrackMeter(filters, head.sampleRate, head.frames);
    const said = saying(head.frames, say);
    await eachBlock(
      onwards(found),
      head,
      [channel - 1],
      { first: 0, last: head.frames },
      ([block], frame) => {
        if (block) meter.push(block);
        said(frame);
      },
    );
    return meter.track();
  },
  value: async (
    file: string,
    window: SoundWindow,
    settings: FormSettings,
  ): Promise<SoundValue | { problem: string }> => {
    const { read, size } = await open(file);
    return soundValue(inPieces(read, FEW), size, window, settings);
  },
  /**
   * What a calibrator’s tone makes of full scale, and what is odd about the tone.
   * @throws FileProblem where there is none
   */
  tone: async (
    file: string,
    channel: number,
    window: TimeWindow,
    level: number,
  ): Promise<{ fullScale: number; remarks: string[] }> => {
    const opened = await open(file);
    const { read, size, head } = opened;
    const measured = { read: inPieces(read, FEW), size, window, only: channel - 1 };
    const found = await measureRecording(measured, { weighting: 'Z' });
    const [levels] = found.channels;
    if (!levels) throw new Error(`The file has no channel ${String(channel)}.`);
    const moves = levels.l10 - levels.l90;
    const first = Math.floor(window.from * head.sampleRate);
    const heard = Math.min(Math.ceil(window.to * head.sampleRate), first + HEARD_S * head.sampleRate);
    const [samples] = await samplesOf(opened, [channel - 1], first, heard);
    const hz = samples ? toneFrequency(samples, head.sampleRate) : null;
    return {
      fullScale: fullScaleOf(levels, level),
      remarks: [
        ...(levels.clipped > 0 ? ['The tone is clipped: it makes all levels too low.'] : []),
        ...(moves > STEADY
          ? [`The level there moves by ${moves.toFixed(1)} dB: is all of it the calibrator’s tone?`]
          : []),
        ...(hz !== null && !isCalibratorTone(hz)
          ? [`The tone is one of ${hz.toFixed(0)} Hz; a calibrator sounds at 1000 Hz or 250 Hz.`]
          : []),
      ],
    };
  },
  /** Samples of all channels, to be played. */
  samples: async (file: string, { from, to }: TimeWindow): Promise<Float32Array<ArrayBuffer>[]> => {
    const found = await open(file);
    const { sampleRate } = found.head;
    return samplesOf(
      found,
      channelsOf(found.head).slice(0, 2),
      Math.floor(from * sampleRate),
      Math.ceil(to * sampleRate),
    );
  },
};
export type RecordingWorker = typeof worker;

expose(worker);
