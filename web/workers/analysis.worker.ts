import { expose } from 'comlink';
import { v7 } from 'uuid';
import { checkClaims } from '../../core/claims/check.ts';
import { agreementOf } from '../../core/analysis/agree.ts';
import { precisionOf } from '../../core/analysis/precision.ts';
import {
  type StudyAnalysisOptions,
  analyseStudy,
  compareSchools,
} from '../../core/analysis/analyse-study.ts';
import {
  type Delimiter,
  type Matching,
  type ReadingsTable,
  guessMatching,
  packReadings,
  parseReadingsTable,
  readReadingsTable,
} from '../../core/formats/readings-table.ts';
import { pairsAgainst } from '../../core/analysis/against-baseline.ts';
import { type StudyMatching, guessStudyMatching } from '../../core/formats/study-columns.ts';
import { type StudyTableContext, studyFromTable } from '../../core/formats/study-table.ts';
import { associations } from '../../core/analysis/against.ts';
import { type ClassBasis, type ScoreBasis, scoreBasis } from '../../core/analysis/score-basis.ts';
import { scoreFlips } from '../../core/analysis/score-flips.ts';
import { classScores, classVerdicts } from '../../core/analysis/scores.ts';
import { occasionOf } from '../../core/analysis/occasion.ts';
import { sinceEarlier } from '../../core/analysis/since.ts';
import { overLevels, overSettings } from '../../core/analysis/over-levels.ts';
import { moreFigures } from '../../core/analysis/more-figures.ts';
import { noticedIn } from '../../core/claims/noticed.ts';
import { pooledSpread } from '../../core/analysis/pooled-spread.ts';
import { type PriceDesign, type SchoolPrice, schoolPrice } from '../../core/analysis/school-price.ts';
import type { RuleInForce } from '../../core/model/parts.ts';
import type { Scoring } from '../../core/model/study.ts';
import { composeReport } from '../../core/report/compose.ts';
import type { ComposeOptions } from '../../core/report/reported.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { dayAndTime } from '../ui/when.ts';
import { type StudyChange, changedStudy } from './held.ts';
import { Packer } from './packer.ts';

/** States of studies that are held, the latest last: a question may still be about the one before. */
const held = new Map<number, StudyDocument>();
const MOST_HELD = 4;

/** Questions that nobody waits for any more. */
const cancelled = new Set<number>();

function hold(number: number, change: StudyChange): void {
  const base = change.base === undefined ? undefined : held.get(change.base);
  if (change.base !== undefined && !base) throw new Error('The state before is not held.');
  held.set(number, changedStudy(base, change));
  for (const oldest of held.keys()) {
    if (held.size <= MOST_HELD) break;
    held.delete(oldest);
  }
}

/** How soon an answer is wanted: the picture at once, what stands beside it, what takes long. */
const [FIRST, BESIDE, LAST] = [0, 1, 2];

/** What stands beside the picture is not worked on before that is drawn, which needs the processor too, in ms. */
const DRAWN_MS = 30;

/** Questions that wait for their turn. */
const waiting: { rank: number; go: () => void }[] = [];

/**
 * Waits for a turn: what came in meanwhile is heard first, so that a question which was given up is not worked on, and what
 * is wanted soonest goes first.
 */
const turn = (rank: number): Promise<void> =>
  new Promise((resolve) => {
    waiting.push({ rank, go: resolve });
    setTimeout(
      () => {
        const soonest = waiting.reduce((best, question) => (question.rank < best.rank ? question : best));
        waiting.splice(waiting.indexOf(soonest), 1);
        soonest.go();
      },
      rank === BESIDE ? DRAWN_MS : 0,
    );
  });

/** Answers a question about a state that is held, unless nobody waits for the answer any more. */
function about<Asked extends unknown[], Answer>(
  work: (document: StudyDocument, ...asked: Asked) => Answer,
  rank = BESIDE,
) {
  return async (ticket: number, number: number, ...asked: Asked): Promise<Answer | undefined> => {
    await turn(rank);
    if (cancelled.delete(ticket)) return undefined;
    const document = held.get(number);
    if (!document) throw new Error('This state of the study is not held.');
    return work(document, ...asked);
  };
}

/** The same for what takes long: after each of its steps other questions have their turn. */
function inSteps<Asked extends unknown[], Answer>(
  work: (document: StudyDocument, ...asked: Asked) => Generator<unknown, Answer>,
) {
  return async (ticket: number, number: number, ...asked: Asked): Promise<Answer | undefined> => {
    const document = held.get(number);
    if (!document) throw new Error('This state of the study is not held.');
    const steps = work(document, ...asked);
    for (;;) {
      await turn(LAST);
      if (cancelled.delete(ticket)) return undefined;
      const step = steps.next();
      if (step.done) return step.value;
    }
  };
}

/** How the price of a school is simulated: so many readings before others have their turn. */
const PRICE = { seed: 1, readingsAtOnce: 10000 };

/** Until then what takes seconds waits before its next step: a machine may have few cores, and the page draws. */
let restUntil = 0;
const REST_MS = 300;
const rested = (): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, Math.max(0, restUntil - performance.now())));

async function priceSchool(
  ticket: number,
  design: PriceDesign,
  rule: RuleInForce,
): Promise<SchoolPrice | undefined> {
  let price: SchoolPrice | undefined;
  for (price of schoolPrice(design, rule, PRICE)) {
    await turn(LAST);
    if (performance.now() < restUntil) await rested();
    if (cancelled.delete(ticket)) return undefined;
  }
  return price;
}

/** Draws what the readings support of scores, unless nobody waits for it any more. */
async function drawScores(
  ticket: number,
  basis: ClassBasis,
  scoring: Scoring,
  level: Pick<ScoreBasis, 'alpha' | 'seed'>,
) {
  await turn(FIRST);
  if (cancelled.delete(ticket)) return undefined;
  return classVerdicts(classScores(basis, scoring), scoring, level);
}

/** The table that was taken apart last; it stays here, since to send a hundred thousand rows to and fro takes long. */
let table: ReadingsTable | undefined;

/** The head of a table, with how many rows it has and a first guess at what its columns hold. */
export type TableHead = Exclude<ReturnType<typeof parseTable>, { problem: string }>;

/** Rows of a table that the page shows. */
const SHOWN_ROWS = 6;

function parseTable(document: StudyDocument, text: string, delimiter?: Delimiter) {
  const found = parseReadingsTable(text, delimiter);
  if ('problem' in found) return found;
  table = found;
  const { rows, lines } = found;
  const guess = guessMatching(document, found);
  return {
    ...{ ...found, rows: rows.slice(0, SHOWN_ROWS), lines: lines.slice(0, SHOWN_ROWS) },
    ...{ rowCount: rows.length, guess },
  };
}

/** A table that becomes a study, with how many rows it has and a first guess at what its columns hold. */
function parseStudyTable(text: string, delimiter?: Delimiter) {
  const found = parseReadingsTable(text, delimiter);
  if ('problem' in found) return found;
  table = found;
  const { rows, lines } = found;
  return {
    ...{ ...found, rows: rows.slice(0, SHOWN_ROWS), lines: lines.slice(0, SHOWN_ROWS) },
    ...{ rowCount: rows.length, guess: guessStudyMatching(found) },
  };
}
export type StudyTableHead = Exclude<ReturnType<typeof parseStudyTable>, { problem: string }>;

/** What becomes of a table that is made a study; the study itself as JSON, so that a large one is no load. */
export type StudyTableRead = ReturnType<typeof readStudyTable>;

function readStudyTable(
  matching: StudyMatching,
  { title, seed }: Pick<StudyTableContext, 'title' | 'seed'>,
  onProgress: (share: number) => void,
) {
  if (!table) throw new Error('There is no table.');
  const context = { title, seed, newId: () => v7(), now: new Date().toISOString() };
  const { document, ...outcome } = studyFromTable(table, matching, context, onProgress);
  return {
    ...outcome,
    ...(document
      ? {
          id: document.study.id,
          items: document.items.map(({ name }) => name),
          measurands: document.measurands.map(({ name, unit }) => ({ name, unit })),
          factors: document.factors.map(({ name }) => name),
          json: new Blob([JSON.stringify(document)]),
        }
      : {}),
  };
}

/** What a table was read as. The readings are JSON without its opening brace, so that a hundred thousand are no load. */
export type TableRead = ReturnType<typeof readTable>;

function readTable(document: StudyDocument, matching: Matching, onProgress: (share: number) => void) {
  if (!table) throw new Error('There is no table.');
  const { readings, ...outcome } = readReadingsTable(document, table, matching, onProgress);
  return {
    ...outcome,
    count: readings.length,
    packed: new Blob([JSON.stringify(packReadings(readings)).slice(1)]),
  };
}

const packer = new Packer();

const analysis = {
  hold,
  cancel: (ticket: number) => {
    cancelled.add(ticket);
  },
  analyseStudy: about(
    (document: StudyDocument, measurandId: string, options: StudyAnalysisOptions, known?: number) =>
      packer.pack(document, analyseStudy(document, measurandId, options), known),
    FIRST,
  ),
  overLevels: about(overLevels, FIRST),
  overSettings: about(overSettings, FIRST),
  scoreBasis: about(scoreBasis, FIRST),
  drawScores,
  associations,
  pairsAgainst,
  scoreFlips: about(scoreFlips),
  composeReport: about((document: StudyDocument, options: Omit<ComposeOptions, 'when'>) =>
    composeReport(document, { ...options, when: dayAndTime }),
  ),
  occasionOf: about(occasionOf),
  sinceEarlier: about(sinceEarlier),
  checkClaims: about(checkClaims),
  moreFigures: about(moreFigures),
  noticedIn: about(noticedIn),
  agreementOf: about((...asked: Parameters<typeof agreementOf>) => agreementOf(...asked) ?? null),
  precisionOf: about((...asked: Parameters<typeof precisionOf>) => precisionOf(...asked) ?? null),
  compareSchools: inSteps(compareSchools),
  priceSchool,
  rest: () => {
    restUntil = performance.now() + REST_MS;
  },
  pooledSpread: about(pooledSpread),
  pooledSpreadOf: pooledSpread,
  parseTable,
  readTable,
  parseStudyTable,
  readStudyTable,
};
export type AnalysisWorker = typeof analysis;

expose(analysis);
