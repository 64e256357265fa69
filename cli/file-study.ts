import { v7 } from 'uuid';
import type { AnalysisOptions } from '../core/analysis/analyse.ts';
import { readingForm } from '../core/forms/index.ts';
import { NAME_LIMIT } from '../core/model/limits.ts';
import { EMPTY, NEW_STUDY } from '../core/model/new-study.ts';
import type { Direction, Factor, Item, Level, Measurand, Reading } from '../core/model/parts.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { newItem, newMeasurand } from '../core/plan/new-parts.ts';
import { quoted } from '../core/quantity/format.ts';
import { DEFAULT_RULE } from '../core/screening/rule.ts';
import type { CommandOptions } from './options.ts';
import type { FileReadings } from './readings.ts';

/** A study counts no further. */
const [MOST_ROUNDS, MOST_PLANNED] = [10000, 500];

/** What is too long for a study, which the readings of any file may be. */
export function tooLong({
  items,
  levels,
  factors,
  measurands,
  readings,
}: StudyDocument): { message: string }[] {
  const long = [...items, ...levels, ...factors, ...measurands].find(({ name }) => name.length > NAME_LIMIT);
  return [
    ...(long ? [{ message: `${quoted(long.name)} has more than ${String(NAME_LIMIT)} characters.` }] : []),
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

/** What is read in the file. */
function measurandOf(options: CommandOptions, form: string) {
  const { rule, margin, resolution } = options.analysis;
  const fresh = newMeasurand(options.value, 1, form);
  return {
    ...{ ...fresh, margin },
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
}

type Stamp = () => Pick<Item, 'id' | 'studyId' | 'version' | 'createdAt' | 'updatedAt'>;

/** The factors of the file, with the levels that are met there. */
function factorsOf(
  readings: readonly FileReadings[],
  options: CommandOptions,
  part: Stamp,
): { factors: Factor[]; levels: Level[] } {
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
  return { factors, levels };
}

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
  const measurand: Measurand = { ...part(), ...measurandOf(options, form) };
  const { factors, levels } = factorsOf(readings, options, part);
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
