import type { RunningRecording } from '../../../../core/model/instrument.ts';
import { spanText } from '../../../../core/quantity/clock.ts';
import { counted } from '../../../../core/quantity/format.ts';

/** How much there is of what is being recorded. */
export const recordedWords = ({ seconds }: RunningRecording): string =>
  `${spanText(Math.floor(seconds))} recorded`;

/** What was too loud in it. */
export const clippedWords = ({ clipped }: RunningRecording): string =>
  `${counted(clipped, 'sample')} clipped: turn the recorder’s gain down.`;
