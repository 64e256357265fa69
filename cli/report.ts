import { statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { v7 } from 'uuid';
import { version } from '../package.json' with { type: 'json' };
import type { AnalysisOptions } from '../core/analysis/analyse.ts';
import { FileProblem } from '../core/formats/csv-read.ts';
import { reportArticle } from '../core/formats/report-html.ts';
import { MOST_CARRIED, reportFile } from '../core/formats/report-file.ts';
import { documentProblems } from '../core/formats/study-json.ts';
import { studyToCsv } from '../core/formats/study-csv.ts';
import { readingForm } from '../core/forms/index.ts';
import { ALPHA } from '../core/model/alpha.ts';
import { NAME_LIMIT } from '../core/model/limits.ts';
import { EMPTY, NEW_STUDY } from '../core/model/new-study.ts';
import type { Direction, Factor, Item, Level, Measurand, Reading } from '../core/model/parts.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { newItem, newMeasurand } from '../core/plan/new-parts.ts';
import { composeReport } from '../core/report/compose.ts';
import { DEFAULT_RULE } from '../core/screening/rule.ts';
import { LIGHT_COLOURS } from '../web/ui/tokens.ts';
import type { CommandOptions } from './options.ts';
import type { FileReadings } from './readings.ts';
import { picturesOf } from './report-pictures.ts';

/** A study counts no further. */
const [MOST_ROUNDS, MOST_PLANNED] = [10000, 500];

/** What a report has no word for; it goes by the same defaults as the pages. */
function refuse({ analysis }: CommandOptions): void {
  const problem = (what: string) => new FileProblem(`A report ${what}.`);
  if (analysis.method !== undefined) throw problem('compares as suits the readings: leave out --method');
  if (analysis.alpha !== ALPHA) throw problem(`goes by a level of ${String(ALPHA)}: leave out --alpha`);
}

/** What is too long for a study, which the readings of any file may be. */
function tooLong({ items, levels, factors, measurands, readings }: StudyDocument): { message: string }[] {
  const long = [...items, ...levels, ...factors, ...measurands].find(({ name }) => name.length > NAME_LIMIT);
  return [
    ...(long
      ? [{ message: `“${long.name.slice(0, 40)}…” has more than ${String(NAME_LIMIT)} characters.` }]
      : []),
    ...(readings.some(({ round }) => round > MOST_ROUNDS)
      ? [{ message: `there are more than ${String(MOST_ROUNDS)} rounds.` }]
      : []),
  ];
}

const directionOf = ({ better }: AnalysisOptions): Direction =>
  better.kind === 'nearest'
    ? { kind: 'nearest', target: better.target }
    : { kind: better.kind === 'lower' ? 'lower' : 'higher', target: null };

/** The form that the readings of the file are of. */
const formOf = ({ reference, analysis }: CommandOptions): string =>
  reference !== undefined ? 'against-reference' : analysis.average === 'energy' ? 'level' : 'value';

/**
 * A study made of the readings of a file, so that it is reported as one.
 * @param takenAt when the readings are taken to be of: the file says nothing of it
 */
export function studyOfFile(
  readings: readonly FileReadings[],
  options: CommandOptions,
  title: string,
  takenAt: string,
): StudyDocument {
  const studyId = v7();
  const part = () => ({ id: v7(), studyId, version: 1, createdAt: takenAt, updatedAt: takenAt });
  const items: Item[] = [];
  for (const { item: name } of readings) {
    const role = name === options.baseline ? 'baseline' : 'candidate';
    items.push({ ...part(), ...newItem(name, items), role });
  }
  const form = formOf(options);
  const { rule, margin, resolution } = options.analysis;
  const fresh = newMeasurand(options.value, 1, form);
  const measurand: Measurand = {
    ...{ ...part(), ...fresh, margin },
    // Errors are best near 0, whatever is better of what is read.
    direction: options.reference === undefined ? directionOf(options.analysis) : fresh.direction,
    instrument: { ...fresh.instrument, resolution: resolution ?? null },
    rule: {
      ...DEFAULT_RULE,
      name: rule.name,
      parameter: rule.parameter ?? null,
      level: rule.level ?? 'study',
    },
  };
  const factors = options.factors.map((name, i): Factor => ({
    ...{ ...part(), name, kind: 'treatment', unit: '', irreversible: false, position: i + 1 },
  }));
  const levels = factors.flatMap(({ id: factorId }, i) =>
    [...new Set(readings.flatMap((ofItem) => ofItem.levels.map((row) => row[i] ?? '')))].map(
      (name, place): Level => ({
        ...{ ...part(), factorId, name, value: null },
        ...{ baseline: place === 0, position: place + 1 },
      }),
    ),
  );
  const asks = readingForm(form)?.parts(measurand) ?? [];
  const made: Reading[] = readings.flatMap((ofItem, item) =>
    ofItem.values.map((value, i): Reading => ({
      ...part(),
      ...{ itemId: items[item]?.id ?? '', measurandId: measurand.id, sessionId: null },
      // Without rounds the number says nothing, but a study has no higher one.
      round: (ofItem.rounds?.[i] ?? i % MOST_ROUNDS) + 1,
      place: ofItem.lines[i] ?? 0,
      levels: factors.map(({ id: factorId }, factor) => ({
        factorId,
        levelId:
          levels.find((level) => level.factorId === factorId && level.name === ofItem.levels[i]?.[factor])
            ?.id ?? '',
      })),
      parts: asks.map(({ name }) => {
        const number = name === 'reference' ? (ofItem.references?.[i] ?? Number.NaN) : value;
        return { name, text: String(number), number };
      }),
      ...{ source: 'import', takenAt },
    })),
  );
  const rounds = made.reduce((most, { round }) => Math.max(most, round), 1);
  const inRounds = readings.some((ofItem) => ofItem.rounds !== undefined);
  return {
    ...EMPTY,
    study: {
      ...{ id: studyId, version: 1, createdAt: takenAt, updatedAt: takenAt },
      // A plan has no more rounds than that; what was read may.
      ...{ ...NEW_STUDY, title, question: '', rounds: Math.min(rounds, MOST_PLANNED) },
      seed: options.analysis.seed,
      runOrder: inRounds ? 'shuffled-rounds' : 'full-shuffle',
      // A file says nothing of a plan, nor of who held to it.
      report: { ...NEW_STUDY.report, hidden: ['plan'] },
    },
    ...{ items, measurands: [measurand], factors, levels },
    // Readings without a reference say nothing of an error.
    readings: made.filter(({ parts }) => parts.every(({ number }) => !Number.isNaN(number))),
  };
}

/** The report of a file as one page of HTML, with the study inside it. */
export function reportOfFile(document: StudyDocument, program: string): string {
  const carried = document.readings.length <= MOST_CARRIED;
  const report = composeReport(document, { soFar: false, program, when: (instant) => instant.slice(0, 10) });
  const article = reportArticle(report, document.study.report, {
    picture: picturesOf(document),
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
