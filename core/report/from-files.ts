import { SOUND_PARTS, recording, soundQuestion, soundQuestionText } from '../forms/recording.ts';
import { TRACE_PARTS, takenOff, trace, traceQuantityLabel, traceUnit } from '../forms/trace.ts';
import { partNumber } from '../forms/read-parts.ts';
import { FILE_PARTS, partText } from '../forms/worked-out.ts';
import type { Measurand, Reading } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { spanText } from '../quantity/clock.ts';
import { counted, formatNumber, formatPlain, withUnit, wordFor } from '../quantity/format.ts';
import { recordOf } from '../record/record.ts';

/** How many different texts a part has in some readings. */
const different = (readings: readonly Reading[], name: string): Set<string> =>
  new Set(readings.flatMap((reading) => partText(reading, name) ?? []));

/** The window that a reading was worked out in; empty where it does not say. */
function windowWords({ parts }: Reading): string {
  const [from, to] = [partNumber(parts, TRACE_PARTS.from), partNumber(parts, TRACE_PARTS.to)];
  return from === null || to === null ? '' : `from ${spanText(from)} to ${spanText(to)} after the start`;
}

/** What readings were worked out from traces, and how. */
function tracedWords({ name, settings }: Measurand, traced: readonly Reading[]): string {
  const files = different(traced, TRACE_PARTS.file);
  const windows = new Set(traced.map(windowWords));
  const off = takenOff(settings);
  const [column] = different(traced, TRACE_PARTS.less);
  const taken =
    off.kind === 'none'
      ? ''
      : `, with ${off.kind === 'fixed' ? withUnit(formatPlain(off.value), traceUnit(settings)) : column === undefined ? 'another column' : `“${column}”`} taken off`;
  const [only = '', second] = windows;
  const where = second === undefined ? only : 'in windows of their own';
  return `${counted(traced.length, 'reading')} of ${name} ${wordFor(traced.length, 'was', 'were')} worked out from ${counted(files.size, 'logged file')}: ${traceQuantityLabel(settings).toLowerCase()}${taken}${where && `, ${where}`}.`;
}

/** What readings were worked out from recordings, how, and by what their levels are in dB. */
function recordedWords(
  { name, settings }: Measurand,
  recorded: readonly Reading[],
  { calibrations }: StudyDocument,
): string {
  const files = different(recorded, SOUND_PARTS.file);
  const used = different(recorded, SOUND_PARTS.calibration);
  const found = calibrations.filter(({ id }) => used.has(id));
  const scales = found.map(({ fullScale }) => fullScale);
  const [low, high] = [Math.min(...scales), Math.max(...scales)];
  const tones = found.filter(({ toneLevel }) => toneLevel !== null).length;
  const by =
    tones === found.length
      ? 'a calibrator’s tone'
      : tones === 0
        ? 'a figure for full scale'
        : 'calibrators’ tones and figures for full scale';
  const scale = !soundQuestion(settings).calibrated
    ? 'relative to full scale, of recordings that must have the same gain'
    : found.length === 0
      ? 'in dB'
      : `in dB by ${by} (full scale ${low === high ? '' : `${formatNumber(low, 1)} to `}${formatNumber(high, 1)} dB)`;
  const question = soundQuestionText(settings);
  return `${counted(recorded.length, 'reading')} of ${name} ${wordFor(recorded.length, 'was', 'were')} worked out from ${counted(files.size, 'recording')}: ${question.charAt(0).toLowerCase()}${question.slice(1)}, ${scale}.`;
}

/** What readings were worked out from, and how, for each measurand that is read from files. */
export function fileWords(document: StudyDocument): string[] {
  return document.measurands.flatMap((measurand) => {
    if (measurand.expression !== null) return [];
    const readings = recordOf(document).readings.flatMap(({ reading, standing }) =>
      reading.measurandId === measurand.id && standing.is === 'kept' && partText(reading, FILE_PARTS.file)
        ? [reading]
        : [],
    );
    if (readings.length === 0) return [];
    if (measurand.form === trace.name) return [tracedWords(measurand, readings)];
    return measurand.form === recording.name ? [recordedWords(measurand, readings, document)] : [];
  });
}
