import { counted } from '../quantity/format.ts';
import { holdsBand } from '../sound/bands.ts';
import type { SoundFilters } from '../sound/filters.ts';
import { type SoundLevels, SoundMeter } from '../sound/meter.ts';
import { MOST } from '../sound/kernel/kernel.ts';
import { FileProblem } from './file-problem.ts';
import { type ReadAt, type WavHead, readSamples, wavHead } from './wav.ts';

/** Frames that are read at a time. */
export const BLOCK = 65536;
/** Below this a channel is silent, dB relative to full scale. */
const SILENCE = -120;

export interface RecordingWindow {
  /** Seconds from the start; undefined for the start, and for the end. */
  from?: number | undefined;
  to?: number | undefined;
}

export interface Recording {
  head: WavHead;
  /** What was measured, s. */
  window: { from: number; to: number };
  /** Of all channels, or of the one that was asked for. */
  channels: SoundLevels[];
  /** What is odd about the file, as sentences; of its channels see `channelRemarks`, of a question `weightingRemarks`. */
  remarks: string[];
}

/** What a calibrator says a window of a file is: its level in dB, and what that makes of full scale. */
export function fullScaleOf(levels: SoundLevels, level: number): number {
  if (!Number.isFinite(levels.equivalent))
    throw new FileProblem('There is no tone in the window of the calibrator.');
  return level - levels.equivalent;
}

/** Levels in dB where a sample of 1 is `fullScale`. */
export const calibrated = ({ seconds, clipped, ...levels }: SoundLevels, fullScale: number): SoundLevels => ({
  ...(Object.fromEntries(Object.entries(levels).map(([name, level]) => [name, level + fullScale])) as Omit<
    SoundLevels,
    'seconds' | 'clipped'
  >),
  ...{ seconds, clipped },
});

/**
 * The first frame of a window and the one behind its last.
 * @throws FileProblem for a window that is not in the file
 */
export function framesOf(
  { frames, sampleRate }: WavHead,
  { from = 0, to }: RecordingWindow,
): { first: number; last: number } {
  const lengthS = frames / sampleRate;
  const end = to ?? lengthS;
  if (!(from >= 0 && end > from && end <= lengthS + 0.5 / sampleRate)) {
    throw new FileProblem(`The window must lie within the file, from 0 to ${lengthS.toFixed(3)} s.`);
  }
  const [first, last] = [Math.round(from * sampleRate), Math.min(frames, Math.round(end * sampleRate))];
  if (last <= first) throw new FileProblem('The window is shorter than a sample.');
  return { first, last };
}

/**
 * Reads frames of a file a little at a time, channel by channel.
 * @param wanted the channels, from 0
 * @param take is given the samples of each of them, which are overwritten afterwards
 * @returns how many samples were no number and were taken for silence
 */
export async function eachBlock(
  read: ReadAt,
  head: WavHead,
  wanted: readonly number[],
  { first, last }: { first: number; last: number },
  take: (blocks: readonly Float64Array[], frame: number) => void,
): Promise<number> {
  const width = (head.channels * head.bits) / 8;
  let lost = 0;
  for (let frame = first; frame < last; frame += BLOCK) {
    const count = Math.min(BLOCK, last - frame);
    const bytes = await read(head.dataStart + frame * width, count * width);
    if (bytes.length < count * width) throw new FileProblem('The file became shorter while it was read.');
    for (let k = 0; k < count; k += MOST) {
      const end = Math.min(count, k + MOST);
      const found = readSamples(head, bytes.subarray(k * width, end * width), wanted);
      lost += found.lost;
      take(found.blocks, frame + k);
    }
  }
  return lost;
}

/** What is odd about the levels of channels, as sentences. */
export const channelRemarks = (levels: readonly SoundLevels[]): string[] =>
  levels.flatMap(({ clipped, samplePeak }, i) => [
    ...(clipped > 0
      ? [
          `Channel ${String(i + 1)}: ${counted(clipped, 'sample')} clipped, so that its peak is at least this.`,
        ]
      : []),
    ...(samplePeak < SILENCE ? [`Channel ${String(i + 1)} is silent.`] : []),
  ]);

/** @throws FileProblem where a file cannot hold a band */
function checkBand({ sampleRate }: WavHead, { band }: SoundFilters): void {
  if (band !== undefined && !holdsBand(band, sampleRate))
    throw new FileProblem(
      `${counted(sampleRate, 'sample')} a second are too few for the band of ${band} Hz.`,
    );
}

/** What a file cannot hold of what its weighting counts. */
export const weightingRemarks = ({ sampleRate }: WavHead, { weighting, band }: SoundFilters): string[] =>
  band !== undefined || weighting === 'Z' || sampleRate >= 40000
    ? []
    : [
        `At ${counted(sampleRate, 'sample')} a second nothing above ${counted(sampleRate / 2, 'Hz', 'Hz')} is in the file, which the weighting would count.`,
      ];

/** A recording that is to be measured. */
export interface Measured {
  read: ReadAt;
  /** Of the file, bytes. */
  size: number;
  window?: RecordingWindow | undefined;
  /** The one channel that is wanted, from 0; all where undefined. */
  only?: number | undefined;
}

/**
 * Levels of a window of a recording, which is read a little at a time, channel by channel, relative to full scale.
 * @throws FileProblem for what is no WAV file, for a window outside it, and for a band that it cannot hold
 */
export async function measureRecording(
  { read, size, window = {}, only }: Measured,
  filters: SoundFilters,
): Promise<Recording> {
  const head = await wavHead(read, size);
  checkBand(head, filters);
  if (only !== undefined && only >= head.channels)
    throw new FileProblem(`The file has no channel ${String(only + 1)}.`);
  const frames = framesOf(head, window);
  const wanted = only === undefined ? Array.from({ length: head.channels }, (_, i) => i) : [only];
  const meter = new SoundMeter(filters, head.sampleRate, wanted.length);
  const lost = await eachBlock(read, head, wanted, frames, (blocks) => {
    meter.push(blocks);
  });
  return {
    head,
    window: { from: frames.first / head.sampleRate, to: frames.last / head.sampleRate },
    channels: meter.found(),
    remarks: [
      ...head.remarks,
      ...(lost > 0 ? [`${counted(lost, 'sample')} without a number, taken for silence.`] : []),
    ],
  };
}
