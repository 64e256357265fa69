import { statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { version } from '../package.json' with { type: 'json' };
import { FileProblem } from '../core/formats/file-problem.ts';
import { reportArticle } from '../core/formats/report-html.ts';
import { MOST_CARRIED, reportFile } from '../core/formats/report-file.ts';
import { documentProblems } from '../core/formats/study-json.ts';
import { studyToCsv } from '../core/formats/study-csv.ts';
import { ALPHA } from '../core/model/alpha.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { composeReport } from '../core/report/compose.ts';
import { LIGHT_COLOURS } from '../web/ui/tokens.ts';
import type { CommandOptions } from './options.ts';
import type { FileReadings } from './readings.ts';
import { studyOfFile, tooLong } from './file-study.ts';
import { picturesOf } from './report-pictures.ts';

/** What a report has no word for; it goes by the same defaults as the pages. */
function refuse({ analysis }: CommandOptions): void {
  const problem = (what: string) => new FileProblem(`A report ${what}.`);
  if (analysis.method !== undefined) throw problem('compares as suits the readings: leave out --method');
  if (analysis.alpha !== ALPHA) throw problem(`goes by a level of ${String(ALPHA)}: leave out --alpha`);
}

/** The report of a file as one page of HTML, with the study inside it. */
export function reportOfFile(document: StudyDocument, program: string): string {
  const carried = document.readings.length <= MOST_CARRIED;
  const report = composeReport(document, { program, when: (instant) => instant.slice(0, 10) });
  const article = reportArticle(report, document.study.report, {
    picture: picturesOf(document, report.pairAlpha),
    photo: () => '',
    lastReading: '',
  });
  return reportFile({
    title: report.title,
    article,
    colours: LIGHT_COLOURS,
    study: carried ? { json: JSON.stringify(document), csv: studyToCsv(document) } : undefined,
  });
}

/** Writes the report of a file beside what else the command prints. */
export function writeReport(readings: readonly FileReadings[], options: CommandOptions, file: string): void {
  refuse(options);
  const title = path.basename(options.file, path.extname(options.file));
  const takenAt = statSync(options.file).mtime.toISOString();
  const study = studyOfFile(readings, options, title, takenAt);
  const [problem] = [...tooLong(study), ...documentProblems(study)];
  if (problem) throw new FileProblem(`A report cannot be made of this file: ${problem.message}`);
  const html = reportOfFile(study, version);
  try {
    writeFileSync(file, html);
  } catch (error) {
    const code = error instanceof Error && 'code' in error ? String(error.code) : '';
    throw new FileProblem(`The report cannot be written to “${file}” (${code}).`);
  }
}
