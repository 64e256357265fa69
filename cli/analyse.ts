import { readFileSync } from 'node:fs';
import { analyse } from '../core/analysis/analyse.ts';
import { decodeText } from '../core/formats/csv-read.ts';
import { FileProblem } from '../core/formats/file-problem.ts';
import { commandOptions } from './options.ts';
import { noticed } from './noticed.ts';
import { jsonDocument, table } from './print.ts';
import { recordingAnswers, recordingOptions, recordingTable } from './recording.ts';
import { readReadings, stepWritten } from './readings.ts';
import { traceAnswers, traceOptions, traceTable } from './trace.ts';

function readBytes(file: string): Uint8Array {
  try {
    return readFileSync(file);
  } catch (error) {
    const code = error instanceof Error && 'code' in error ? String(error.code) : '';
    throw new FileProblem(
      code === 'ENOENT' ? `There is no file “${file}”.` : `The file “${file}” cannot be read (${code}).`,
    );
  }
}

const readFile = (file: string): string => decodeText(readBytes(file));

/** Values of a trace, for people or as JSON. */
function printTrace(args: readonly string[]): void {
  const options = traceOptions(args);
  const found = traceAnswers(readBytes(options.file), options);
  process.stdout.write(`${options.json ? JSON.stringify(found, null, 1) : traceTable(found)}\n`);
}

/** Levels of a recording, for people or as JSON; a level of silence is null there. */
async function printRecording(args: readonly string[]): Promise<void> {
  const options = recordingOptions(args);
  const found = await recordingAnswers(options);
  process.stdout.write(`${options.json ? JSON.stringify(found, null, 1) : recordingTable(found)}\n`);
}

/** What the readings of a table support. */
async function printAnalysis(args: readonly string[]): Promise<void> {
  const options = commandOptions(args);
  const readings = readReadings(readFile(options.file), options);
  const resolution = options.analysis.resolution ?? stepWritten(readings);
  const analysis = analyse(readings, { ...options.analysis, resolution });
  const seen = noticed(readings, options);
  const printed = options.json
    ? JSON.stringify(jsonDocument(readings, options, analysis, seen), null, 1)
    : table(readings, options, analysis, seen);
  // What draws pictures is loaded where a report is asked for.
  if (options.report !== undefined)
    (await import('./report.ts')).writeReport(readings, options, options.report);
  process.stdout.write(`${printed}\n`);
}

try {
  const args = process.argv.slice(2);
  const about = (option: string) => args.some((arg) => arg === option || arg.startsWith(`${option}=`));
  if (about('--trace')) printTrace(args);
  else if (about('--recording')) await printRecording(args);
  else await printAnalysis(args);
} catch (error) {
  if (!(error instanceof FileProblem || error instanceof RangeError)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 2;
}
