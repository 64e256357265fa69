import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { agreementOf } from '../../core/analysis/agree.ts';
import { associations } from '../../core/analysis/against.ts';
import { pairsAgainst } from '../../core/analysis/against-baseline.ts';
import { BASELINE_FAMILIES } from '../../core/analysis/baseline-families.ts';
import { analyseStudy, compareSchools } from '../../core/analysis/analyse-study.ts';
import { atSetting } from '../../core/analysis/at-setting.ts';
import { inspectStudy } from '../../core/analysis/inspect-study.ts';
import { moreFigures } from '../../core/analysis/more-figures.ts';
import { occasionOf } from '../../core/analysis/occasion.ts';
import { overLevels, overSettings } from '../../core/analysis/over-levels.ts';
import { pooledSpread } from '../../core/analysis/pooled-spread.ts';
import { precisionOf } from '../../core/analysis/precision.ts';
import { priceDesign } from '../../core/analysis/school-price.ts';
import { scoreBasis } from '../../core/analysis/score-basis.ts';
import { scoreFlips } from '../../core/analysis/score-flips.ts';
import { classScores, classVerdicts } from '../../core/analysis/scores.ts';
import { factorsRead } from '../../core/analysis/series.ts';
import { settingsRead } from '../../core/analysis/settings.ts';
import { type SinceEarlier, sinceEarlier } from '../../core/analysis/since.ts';
import { asIfDecided, changesBetween } from '../../core/analysis/tried.ts';
import { benchLog } from '../../core/bench/log.ts';
import { lookState } from '../../core/bench/look-state.ts';
import { openingEarly, queueGroups } from '../../core/bench/irreversible.ts';
import { type Run, runQueue } from '../../core/bench/queue.ts';
import { understoodWords, yardstick } from '../../core/bench/run-entry.ts';
import { sessionsRead, waitBefore } from '../../core/bench/session.ts';
import { readingQuestion } from '../../core/bench/slip.ts';
import { undoSteps } from '../../core/bench/undo.ts';
import { checkClaims } from '../../core/claims/check.ts';
import { noticedIn } from '../../core/claims/noticed.ts';
import { PAIR_METHODS } from '../../core/compare/method-names.ts';
import { type PlainCsvOptions, plainCsv } from '../../core/formats/plain-csv.ts';
import {
  guessMatching,
  matchingProblem,
  parseReadingsTable,
  readReadingsTable,
} from '../../core/formats/readings-table.ts';
import { guessStudyMatching } from '../../core/formats/study-columns.ts';
import { studyFromCsv, studyToCsv } from '../../core/formats/study-csv.ts';
import { studyFromTable } from '../../core/formats/study-table.ts';
import { readingForm } from '../../core/forms/index.ts';
import { ALPHA } from '../../core/model/alpha.ts';
import { measurandsInOrder } from '../../core/model/in-order.ts';
import type { Measurand } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { blindStudy } from '../../core/plan/blind.ts';
import { claimWords } from '../../core/plan/claim-words.ts';
import { studyDuration } from '../../core/plan/duration.ts';
import { planFindings } from '../../core/plan/findings.ts';
import { composeReport } from '../../core/report/compose.ts';
import { sinceNotes, sinceSentence, sinceTable } from '../../core/report/since.ts';
import { said } from './said.ts';
import { disturbedAnswers } from './disturbed-answers.ts';
import { garbledAnswers } from './garbled-answers.ts';
import { singleAnswers } from './single-answers.ts';
import { sweptAnswers } from './swept-answers.ts';
import { testBefore, variedStudy } from './varied-studies.ts';
import { finished, idsNamed, testId } from '../../core/testing-study.ts';

const demo = (name: string) =>
  JSON.parse(readFileSync(new URL(`../${name}.json`, import.meta.url), 'utf8')) as StudyDocument;

/** How many studies of seeded chance are asked about, beside those of the demo. */
const VARIED = 40;

/** A study, and the tests before it. */
type Answered = () => readonly [StudyDocument, ...StudyDocument[]];

const ALONE = [
  ...['desk-fans', 'flour-sieves', 'kitchen-thermometers', 'lawn-sprinklers', 'tap-aerators'],
  ...['recorded-fans', 'vacuum-flasks', 'logged-flasks'],
];
const AGAIN = ['vacuum-flasks', 'logged-flasks'];

/** Every study whose answers are recorded, by its name. */
export const STUDIES: ReadonlyMap<string, Answered> = new Map<string, Answered>([
  ...ALONE.map((name): [string, Answered] => [name, () => [demo(name)]]),
  ...AGAIN.map((name): [string, Answered] => [`${name}-again`, () => [demo(`${name}-again`), demo(name)]]),
  ...Array.from({ length: VARIED }, (_, number): [string, Answered] => [
    `varied ${String(number)}`,
    () => {
      const study = variedStudy(number);
      return [study, ...[1, 3].slice(number % 3).map((years) => testBefore(study, years))];
    },
  ]),
]);

/** Draws of a ranking: enough to see that they are the same. */
const RESAMPLES = 200;

/** What the program says of one measurand. */
function* ofMeasurand(document: StudyDocument, measurand: Measurand): Generator<[string, unknown]> {
  const { id, name } = measurand;
  const whole = analyseStudy(document, id, { resamples: RESAMPLES });
  yield [`${name}: analysis`, whole];
  for (const method of PAIR_METHODS)
    yield [`${name}: ${method}`, said(() => analyseStudy(document, id, { method, resamples: 0 }).settings)];
  const [first] = whole.settings;
  if (first) {
    // Every school is an analysis of its own.
    const group = first.classes[0]?.name ?? '';
    yield [`${name}: schools`, finished(compareSchools(document, id, group, first.setting.key))];
  }
  for (const { key, words } of settingsRead(document)) {
    const where = words === '' ? name : `${name}, ${words}`;
    const setting = atSetting(whole, key);
    yield [`${where}: more figures`, moreFigures(document, id, key)];
    yield [`${where}: claims`, checkClaims(document, id, key)];
    for (const { name: group, items, analysis } of setting.classes) {
      const { pairs, pairAlpha, ranksOnly, exact } = analysis;
      const compared = { items: analysis.items, pairs, pairAlpha, ranksOnly, exact };
      yield [
        `${where}, ${group}: around it`,
        [
          said(() => priceDesign(document, measurand, group, key)),
          associations(
            items,
            analysis.items.map(({ placedBy }) => placedBy),
          ),
          BASELINE_FAMILIES.map((family) => said(() => pairsAgainst(compared, 0, family))),
        ],
      ];
    }
  }
  for (const { over, series } of factorsRead(document)) {
    const { id: factorId, name: factor } = over.factor;
    yield [`${name} over ${factor}`, series.map(({ key }) => overLevels(document, id, factorId, key))];
    yield [`${name} over all of ${factor}`, overSettings(document, id, factorId, { resamples: 0 })];
  }
  const [reading] = document.readings.filter(({ measurandId }) => measurandId === id);
  if (reading) {
    const without = analyseStudy(asIfDecided(document, [reading.id], 'leave-out'), id, { resamples: 0 });
    yield [`${name}: one reading less`, changesBetween(atSetting(whole), atSetting(without))];
  }
  yield [
    `${name}: its readings`,
    [
      agreementOf(document, id),
      agreementOf(document, id, 0.5),
      precisionOf(document, id),
      pooledSpread(document, id),
    ],
  ];
}

/** What stands on the page of what changed since earlier tests. */
const sinceWords = (since: SinceEarlier | string | null) =>
  typeof since === 'object' &&
  since?.tests
    .slice(0, -1)
    .map((_, test) => [
      sinceSentence(since, test),
      sinceNotes(since, test),
      sinceTable(since, test, 'Since'),
    ]);

/** What the program says of all measurands of a study together, and against what was before. */
function* together(document: StudyDocument, earlier: readonly StudyDocument[]): Generator<[string, unknown]> {
  const { scoring } = document.study;
  const basis = scoreBasis(document);
  for (const group of basis.classes) {
    const scores = classScores(group, scoring);
    yield [`scores ${group.name}`, [scores, classVerdicts(scores, scoring, basis)]];
    yield [`flips ${group.name}`, scoreFlips(document, { className: group.name }, scoring)];
  }
  const [first] = sessionsRead(document);
  const before = [
    ...(first ? [occasionOf(document, first.id)] : []),
    ...earlier.map((test) => occasionOf(test)),
  ].map((occasion) => ({ occasion, matches: [] }));
  const now = occasionOf(document, sessionsRead(document).at(-1)?.id);
  for (const { id, name } of measurandsInOrder(document)) {
    for (const { key, words } of settingsRead(document)) {
      for (const lessAmbient of [false, true]) {
        const since = said(() => sinceEarlier(document, id, now, before, { settingKey: key, lessAmbient }));
        yield [`${name} ${words} since${lessAmbient ? ', less ambient' : ''}`, [since, sinceWords(since)]];
      }
    }
  }
}

/** What somebody types into a cell of the bench, well or not. */
const TYPED = [
  '12',
  ' 12,5 ',
  '1 2',
  '12.1 g',
  '0.0131 kg',
  '1e3',
  '131',
  '1.31',
  '21.3',
  '-3',
  'twelve',
  '12;13',
  '',
];

/** What the bench says to a cell as it is typed. */
function entered(document: StudyDocument, run: Run, text: string): unknown {
  const measurand = document.measurands.find(({ id }) => id === run.measurandId);
  const form = measurand && readingForm(measurand.form);
  if (!form) return null;
  const [first] = form.parts(measurand);
  const texts = { [first?.name ?? '']: text };
  const read = form.read(texts, measurand);
  return 'problem' in read
    ? read
    : [
        read,
        understoodWords(measurand, texts),
        readingQuestion(read.parts, measurand, { ...yardstick(document, run), itemName: 'Item' }),
      ];
}

/** What the bench says while the study is worked on. */
function* atBench(document: StudyDocument, queue: readonly Run[]): Generator<[string, unknown]> {
  const [session] = document.sessions;
  const minutes = (count: number) =>
    Date.parse(session?.startedAt ?? document.study.createdAt) + 60000 * count;
  yield [
    'bench',
    [queue.map(({ key, state }) => [key, state]), benchLog(document), lookState(document, queue, ALPHA)],
  ];
  const some = queue.filter((_, i) => i % 7 === 0);
  yield ['typed', some.map((run) => TYPED.map((text) => entered(document, run, text)))];
  yield [
    'waits',
    some.map((run) => [openingEarly(document, queue, run), waitBefore(document, run, session, minutes(1))]),
  ];
  yield ['steps back', undoSteps(document)];
  yield ['groups', queueGroups(document, queue).map((group) => ({ ...group, runs: group.runs.length }))];
  yield ['blind', [blindStudy(document).items, document.claims.map((claim) => claimWords(claim, document))]];
}

/** What goes wrong in a table that is typed, row after row. */
const SLIPS: readonly ((row: string) => string)[] = [
  (row) => row,
  (row) => row.replace(/\d/u, 'x'),
  (row) => row.replace('Item', 'Iten'),
  (row) => `${row},1,2`,
  (row) => row.split(',').slice(0, 4).join(','),
  (row) => row.replace(/(\d)\.(\d)/u, '$1,$2'),
  (row) => row.replace(/\d{4}-\d\d-/u, '31/12/'),
];

/** What is read from the tables that are written of a study, and from one with slips in it. */
function* readBack(document: StudyDocument): Generator<[string, unknown]> {
  const written = (options: PlainCsvOptions) => [...plainCsv(document, options)].join('');
  const first = written({ layout: 'long', decimal: '.', units: 'names', leftOut: true });
  const tables = {
    first,
    slips: first
      .split('\r\n')
      .map((row, i) => (i === 0 || row === '' ? row : (SLIPS[i % SLIPS.length]?.(row) ?? row)))
      .join('\r\n'),
    long: written({ layout: 'long', decimal: ',', units: 'line', leftOut: true }),
    wide: written({ layout: 'wide', decimal: '.', units: 'names', leftOut: false }),
  };
  const now = document.study.createdAt;
  const empty = { ...document, readings: [], decisions: [], notes: [] };
  for (const [name, text] of Object.entries(tables)) {
    const table = parseReadingsTable(text);
    if ('problem' in table) {
      yield [`read ${name}`, table];
      continue;
    }
    const matching = guessMatching(document, table);
    const wrong = matchingProblem(document, matching);
    const asStudy = guessStudyMatching(table);
    const context = { title: name, seed: 1, newId: testId, now };
    yield [
      `read ${name}`,
      [
        ...[matching, wrong, wrong === undefined && readReadingsTable(empty, table, matching)],
        ...[asStudy, studyFromTable(table, asStudy, context)],
        studyFromTable(table, { ...asStudy, measurand: 'Pull', dates: 'day', unit: 'g' }, context),
      ],
    ];
  }
  yield ['read whole', said(() => studyFromCsv(studyToCsv(document), { title: 'Back', newId: testId, now }))];
}

/**
 * All that the program says of a study, question by question.
 * @param earlier tests of the same items before it
 */
export function* answersOf(
  document: StudyDocument,
  ...earlier: readonly StudyDocument[]
): Generator<[string, unknown]> {
  const queue = runQueue(document);
  yield ['plan', [planFindings(document), studyDuration(document)]];
  yield* atBench(document, queue);
  yield ['findings', [inspectStudy(document), noticedIn(document)]];
  for (const measurand of measurandsInOrder(document)) yield* ofMeasurand(document, measurand);
  yield* together(document, earlier);
  const named = earlier.map(({ study: { id: studyId, title } }) => ({ studyId, title, matches: [] }));
  const [gone] = named;
  const told = {
    ...document,
    study: {
      ...document.study,
      earlier: [...(gone ? [{ ...gone, studyId: testId(), title: 'Gone' }] : []), ...named],
    },
  };
  const options = { earlier: earlier.map((test) => occasionOf(test)), when: (instant: string) => instant };
  yield ['report', composeReport(told, { ...options, program: '1' })];
  yield ['report alone', composeReport(document, { when: (instant) => instant, program: '1' })];
  yield* readBack(document);
  yield [
    'tables',
    [
      studyToCsv(document),
      [...plainCsv(document, { layout: 'long', decimal: '.', units: 'names', leftOut: true })],
      [...plainCsv(document, { layout: 'wide', decimal: ',', units: 'line', leftOut: false })],
    ],
  ];
}

/** Digits that a number is compared to: the last few are the processor’s. */
const DIGITS = 12;

/** An answer as text: numbers to their digits, ids by when they are first named. */
export function answerText(answer: unknown): string {
  const text = JSON.stringify(
    // Nothing is no JSON.
    answer ?? null,
    (_key, value: unknown) => {
      if (typeof value === 'number')
        return Number.isFinite(value) ? Number(value.toPrecision(DIGITS)) : String(value);
      if (value instanceof Map || value instanceof Set) return [...(value as Iterable<unknown>)];
      if (ArrayBuffer.isView(value)) return Array.from(value as Float64Array);
      return value;
    },
    1,
  );
  return idsNamed(text);
}

/** A few characters that are others for any other text. */
export const digest = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 12);

/** All answers that are recorded, question by question: of each study, and of single pieces. */
export const ANSWERED: ReadonlyMap<string, () => Generator<[string, unknown]>> = new Map([
  ...[...STUDIES].map(([name, study]) => [name, () => answersOf(...study())] as const),
  ['single pieces', singleAnswers] as const,
  ['what is garbled', garbledAnswers] as const,
  ['what goes wrong', disturbedAnswers] as const,
  ['step by step', sweptAnswers] as const,
]);
