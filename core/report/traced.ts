import { TRACE_PARTS, takenOff, trace, traceQuantityLabel, traceUnit } from '../forms/trace.ts';
import type { Reading } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { spanText } from '../quantity/clock.ts';
import { counted, formatPlain, withUnit } from '../quantity/format.ts';
import { recordOf } from '../record/record.ts';

const part = ({ parts }: Reading, name: string) => parts.find((found) => found.name === name);

/** What readings were worked out from, and how, for each measurand that is read from traces. */
export function tracedWords(document: StudyDocument): string[] {
  return document.measurands.flatMap((measurand) => {
    if (measurand.form !== trace.name || measurand.expression !== null) return [];
    const traced = recordOf(document).readings.flatMap(({ reading, standing }) =>
      reading.measurandId === measurand.id && standing.is === 'kept' && part(reading, TRACE_PARTS.file)
        ? [reading]
        : [],
    );
    if (traced.length === 0) return [];
    const files = new Set(traced.map((reading) => part(reading, TRACE_PARTS.file)?.text));
    const windows = new Set(
      traced.map(
        (reading) =>
          `${spanText(part(reading, TRACE_PARTS.from)?.number ?? 0)} to ${spanText(part(reading, TRACE_PARTS.to)?.number ?? 0)}`,
      ),
    );
    const off = takenOff(measurand.settings);
    const [column] = new Set(traced.map((reading) => part(reading, TRACE_PARTS.less)?.text));
    const taken =
      off.kind === 'none'
        ? ''
        : `, with ${off.kind === 'fixed' ? withUnit(formatPlain(off.value), traceUnit(measurand.settings)) : `“${column ?? 'another column'}”`} taken off`;
    const [only, second] = windows;
    return [
      `${counted(traced.length, 'reading')} of ${measurand.name} ${traced.length === 1 ? 'was' : 'were'} worked out from ${counted(files.size, 'logged file')}: ${traceQuantityLabel(measurand.settings).toLowerCase()}${taken}, ${second === undefined ? `from ${only ?? ''} after the start` : 'in windows of their own'}.`,
    ];
  });
}
