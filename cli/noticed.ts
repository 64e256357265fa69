import { inspectStudy } from '../core/analysis/inspect-study.ts';
import { counted } from '../core/quantity/format.ts';
import { studyOfFile } from './file-study.ts';
import type { CommandOptions } from './options.ts';
import type { FileReadings } from './readings.ts';

/** More readings than this are not looked over: it would take longer than the rest. */
const MOST_LOOKED_OVER = 50_000;

/** Something that is noticed in a file, by kind, and in words. */
export interface Noticed {
  kind: string;
  message: string;
  todo: string;
}

/** What is noticed in the readings of a file, in the order in which they stand in it; as the screen stage notices it. */
export function noticed(
  readings: readonly FileReadings[],
  options: CommandOptions,
): { findings: Noticed[]; note?: string } {
  const count = readings.reduce((sum, { values }) => sum + values.length, 0);
  if (count > MOST_LOOKED_OVER) {
    return {
      findings: [],
      note: `Not looked over for drift and the like: of more than ${counted(MOST_LOOKED_OVER, 'reading')} that takes long.`,
    };
  }
  const study = studyOfFile(readings, options, '', '1970-01-01T00:00:00.000Z');
  return { findings: inspectStudy(study).map(({ kind, message, todo }) => ({ kind, message, todo })) };
}
