import { analyse } from '../core/analysis/analyse.ts';
import { decodeText } from '../core/formats/csv-read.ts';
import { commandOptions } from './options.ts';
import { noticed } from './noticed.ts';
import { jsonDocument, table } from './print.ts';
import { readBytes } from './read-file.ts';
import { readReadings, stepWritten } from './readings.ts';

/** What the readings of a table support, for people or as JSON. */
export async function printedAnalysis(args: readonly string[]): Promise<string> {
  const options = commandOptions(args);
  const readings = readReadings(decodeText(readBytes(options.file)), options);
  const resolution = options.analysis.resolution ?? stepWritten(readings);
  const analysis = analyse(readings, { ...options.analysis, resolution });
  const seen = noticed(readings, options);
  // What draws pictures is loaded where a report is asked for.
  if (options.report !== undefined)
    (await import('./report.ts')).writeReport(readings, options, options.report);
  return options.json
    ? JSON.stringify(jsonDocument(readings, options, analysis, seen), null, 1)
    : table(readings, options, analysis, seen);
}
