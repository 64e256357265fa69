import { counted } from '../quantity/format.ts';
import { type SoundLevels, SoundMeter } from '../sound/meter.ts';
import type { Weighting } from '../sound/weighting.ts';
import { FileProblem } from './csv-read.ts';
import { type ReadAt, type WavHead, readSamples, wavHead } from './wav.ts';

/** Frames that are read at a time. */
const BLOCK = 65536;
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
  channels: SoundLevels[];
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
 * Levels of a window of a recording, channel by channel, relative to full scale. The file is read a little at a time.
 * @param size of the file, bytes
 * @throws FileProblem for what is no WAV file, and for a window outside it
 */
export async function measureRecording(
  read: ReadAt,
  size: number,
  weighting: Weighting,
  { from = 0, to }: RecordingWindow = {},
): Promise<Recording> {
  const head = await wavHead(read, size);
  const { channels, sampleRate, bits, frames, dataStart } = head;
  const lengthS = frames / sampleRate;
  const end = to ?? lengthS;
  if (!(from >= 0 && end > from && end <= lengthS + 0.5 / sampleRate)) {
    throw new FileProblem(`The window must lie within the file, from 0 to ${lengthS.toFixed(3)} s.`);
  }
  const [first, last] = [Math.round(from * sampleRate), Math.min(frames, Math.round(end * sampleRate))];
  const width = (channels * bits) / 8;
  const meters = Array.from({ length: channels }, () => new SoundMeter(weighting, sampleRate));
  const blocks = meters.map(() => new Float64Array(BLOCK));
  let lost = 0;
  for (let frame = first; frame < last; frame += BLOCK) {
    const count = Math.min(BLOCK, last - frame);
    const bytes = await read(dataStart + frame * width, count * width);
    if (bytes.length < count * width) throw new FileProblem('The file became shorter while it was read.');
    lost += readSamples(head, bytes, blocks);
    meters.forEach((meter, channel) => meter.push((blocks[channel] as Float64Array).subarray(0, count)));
  }
  const levels = meters.map((meter) => meter.levels());
  return {
    head,
    window: { from: first / sampleRate, to: last / sampleRate },
    channels: levels,
    remarks: [
      ...head.remarks,
      ...(lost > 0 ? [`${counted(lost, 'sample')} without a number, taken for silence.`] : []),
      ...levels.flatMap(({ clipped, samplePeak }, i) => [
        ...(clipped > 0
          ? [
              `Channel ${String(i + 1)}: ${counted(clipped, 'sample')} clipped, so that its peak is at least this.`,
            ]
          : []),
        ...(samplePeak < SILENCE ? [`Channel ${String(i + 1)} is silent.`] : []),
      ]),
      ...(weighting !== 'Z' && sampleRate < 40000
        ? [
            `At ${counted(sampleRate, 'sample')} a second nothing above ${counted(sampleRate / 2, 'Hz', 'Hz')} is in the file, which the weighting would count.`,
          ]
        : []),
    ],
  };
}
