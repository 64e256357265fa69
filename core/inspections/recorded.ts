import { SOUND_PARTS, recording } from '../forms/recording.ts';
import { partText } from '../forms/worked-out.ts';
import type { Reading } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { counted, formatNumber, wordFor } from '../quantity/format.ts';
import { recordOf } from '../record/record.ts';
import { median, sorted } from '../summary/quantile.ts';
import { COMMON, type Inspection, fact } from './inspection.ts';

/** Backgrounds of recordings of one bench hardly differ by more than this, dB. */
const SAME_ROOM = 6;

const numberOf = ({ parts }: Reading, name: string): number | null =>
  parts.find((part) => part.name === name)?.number ?? null;

/** The readings of a measurand that count. */
const keptOf = (document: StudyDocument, measurandId: string): Reading[] =>
  recordOf(document).readings.flatMap(({ reading, standing }) =>
    reading.measurandId === measurandId && standing.is === 'kept' ? [reading] : [],
  );

/** Levels of sounds that were too loud for their recorder. */
export const clipped: Inspection = ({ document, measurands }) =>
  measurands.flatMap(({ measurand }) => {
    if (measurand.form !== recording.name) return [];
    const found = keptOf(document, measurand.id).filter(
      (reading) => (numberOf(reading, SOUND_PARTS.clipped) as number) > 0,
    );
    if (found.length === 0) return [];
    return [
      fact({
        id: `clipped/${measurand.id}`,
        kind: 'clipped',
        measurandId: measurand.id,
        message: `${counted(found.length, 'reading')} of ${measurand.name} ${wordFor(found.length, 'is', 'are')} of sounds that were too loud for the recorder: ${wordFor(found.length, 'its level is', 'their levels are')} at least that.`,
        why: 'What is clipped looks quieter than it was, and like others that were clipped.',
        todo: 'Record again with less gain, or leave these readings out.',
        source: COMMON,
        readingIds: found.map(({ id }) => id),
      }),
    ];
  });

/** Readings of each recording whose levels are not by a tone in that very recording. */
function borrowed(document: StudyDocument, readings: readonly Reading[]): Map<string, Reading[]> {
  const byFile = new Map<string, Reading[]>();
  for (const reading of readings) {
    const file = partText(reading, SOUND_PARTS.file);
    if (file === undefined) continue;
    const calibration = document.calibrations.find(
      ({ id }) => id === partText(reading, SOUND_PARTS.calibration),
    );
    if (calibration?.fileId === file) continue;
    byFile.set(file, [...(byFile.get(file) ?? []), reading]);
  }
  return byFile;
}

/** Recordings that share a calibration, or have none, and whose backgrounds differ: the gain may have been moved. */
export const otherGain: Inspection = ({ document, measurands }) =>
  measurands.flatMap(({ measurand }) => {
    if (measurand.form !== recording.name) return [];
    const backgrounds = [...borrowed(document, keptOf(document, measurand.id))].flatMap(
      ([file, readings]) => {
        const levels = readings.flatMap((reading) => numberOf(reading, SOUND_PARTS.background) ?? []);
        const name = document.files.find(({ id }) => id === file)?.name ?? 'a recording';
        return levels.length === 0 ? [] : [{ name, readings, level: median(sorted(levels)) }];
      },
    );
    const [quiet, loud] = [...backgrounds]
      .sort((a, b) => a.level - b.level)
      .filter((_, i, { length }) => i === 0 || i === length - 1);
    if (!quiet || !loud || loud.level - quiet.level <= SAME_ROOM) return [];
    return [
      fact({
        id: `other gain/${measurand.id}`,
        kind: 'other gain',
        measurandId: measurand.id,
        message: `The background of ${loud.name} lies ${formatNumber(loud.level - quiet.level, 1)} dB above that of ${quiet.name}, and neither was calibrated by a tone of its own.`,
        why: 'If the gain of the recorder was moved in between, levels of the two cannot be compared.',
        todo: 'Calibrate each recording by a tone in it, or make sure that the gain was the same.',
        source: COMMON,
        readingIds: loud.readings.map(({ id }) => id),
      }),
    ];
  });
