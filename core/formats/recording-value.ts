import { SOUND_PARTS, backgroundWords, clippedWords, soundHow, soundQuestion } from '../forms/recording.ts';
import type { FormSettings } from '../model/parts.ts';
import { withoutBackground } from '../sound/events.ts';
import type { SoundLevels } from '../sound/meter.ts';
import type { TimeWindow } from '../trace/series.ts';
import { FileProblem } from './file-problem.ts';
import { measureRecording, weightingRemarks } from './recording.ts';
import type { ReadAt } from './wav.ts';

/** Which stretch of a recording a level is wanted of, and what it is to be set right by. */
export interface SoundWindow {
  /** From 1. */
  channel: number;
  window: TimeWindow;
  /** A quiet stretch of the same recording; undefined where there is none. */
  quiet: TimeWindow | undefined;
  /** What a sample of 1 is, dB; undefined while nothing says so. */
  fullScale: number | undefined;
}

/** A level with what it was worked out from; dB. */
export interface SoundValue {
  value: number;
  /** The level of the quiet stretch, weighted as the value is. */
  background: number | undefined;
  /** Samples at full scale. */
  clipped: number;
  remarks: string[];
}

/** The level with its background taken off where that is asked for, and what is to be said of it. */
function setRight(
  found: SoundLevels,
  background: SoundLevels | undefined,
  settings: FormSettings,
): { level: number; said: string[] } | { problem: string } {
  const { quantity, lessBackground } = soundQuestion(settings);
  const level = found[quantity];
  if (!background) {
    return lessBackground
      ? { level, said: ['There is no quiet stretch beside it: no background is taken off.'] }
      : { level, said: [] };
  }
  const differs = found.equivalent - background.equivalent;
  if (!lessBackground) {
    const close = backgroundWords(differs, settings);
    return { level, said: close === undefined ? [] : [close] };
  }
  const corrected = withoutBackground(found.equivalent, background.equivalent);
  if ('problem' in corrected) return corrected;
  const { correction } = corrected;
  return {
    level: level - correction,
    said:
      correction > 0
        ? [`The background lies ${differs.toFixed(1)} dB lower: ${correction.toFixed(2)} dB taken off.`]
        : [],
  };
}

/**
 * The level of a window of a recording, as its measurand asks for it.
 * @param size of the file, bytes
 * @returns the level in the unit of the measurand, or a sentence why there is none
 */
export async function soundValue(
  read: ReadAt,
  size: number,
  { channel, window, quiet, fullScale }: SoundWindow,
  settings: FormSettings,
): Promise<SoundValue | { problem: string }> {
  const { filters, quantity, calibrated } = soundQuestion(settings);
  if (calibrated && fullScale === undefined)
    return { problem: 'The recorder is not calibrated: say what its levels are in dB.' };
  try {
    const of = (stretch: TimeWindow) =>
      measureRecording({ read, size, window: stretch, only: channel - 1 }, filters);
    const measured = await of(window);
    const heard = quiet && (await of(quiet));
    const [levels, background] = [measured.channels[0], heard?.channels[0]];
    if (!levels || !Number.isFinite(levels[quantity]))
      return { problem: `Channel ${String(channel)} is silent there.` };
    const right = setRight(levels, background, settings);
    if ('problem' in right) return right;
    const scale = calibrated ? (fullScale as number) : 0;
    const quietLevel = background?.equivalent;
    const clipped = clippedWords(levels.clipped, settings);
    return {
      value: right.level + scale,
      background: quietLevel !== undefined && Number.isFinite(quietLevel) ? quietLevel + scale : undefined,
      clipped: levels.clipped,
      remarks: [
        ...right.said,
        ...(clipped === undefined ? [] : [clipped]),
        ...measured.remarks,
        ...weightingRemarks(measured.head, filters),
      ],
    };
  } catch (error) {
    if (error instanceof FileProblem) return { problem: error.message };
    throw error;
  }
}

/** The parts of a reading that was worked out from a window of a recording, with all their figures. */
export function soundParts(
  { value, background, clipped }: SoundValue,
  { channel, window, quiet, fullScale }: SoundWindow,
  names: { fileId: string; calibrationId: string | undefined },
  settings: FormSettings,
): Record<string, string> {
  const { calibrated } = soundQuestion(settings);
  const figure = (level: number) => String(Number(level.toFixed(4)));
  return {
    [SOUND_PARTS.value]: figure(value),
    [SOUND_PARTS.from]: String(window.from),
    [SOUND_PARTS.to]: String(window.to),
    [SOUND_PARTS.channel]: String(channel),
    ...(background === undefined ? {} : { [SOUND_PARTS.background]: figure(background) }),
    ...(quiet
      ? { [SOUND_PARTS.quietFrom]: String(quiet.from), [SOUND_PARTS.quietTo]: String(quiet.to) }
      : {}),
    [SOUND_PARTS.clipped]: String(clipped),
    ...(calibrated && fullScale !== undefined && names.calibrationId !== undefined
      ? { [SOUND_PARTS.fullScale]: figure(fullScale), [SOUND_PARTS.calibration]: names.calibrationId }
      : {}),
    [SOUND_PARTS.file]: names.fileId,
    [SOUND_PARTS.how]: soundHow(settings),
  };
}
