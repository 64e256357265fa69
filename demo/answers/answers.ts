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
import { sinceEarlier } from '../../core/analysis/since.ts';
import { asIfDecided, changesBetween } from '../../core/analysis/tried.ts';
import { benchLog } from '../../core/bench/log.ts';
import { lookState } from '../../core/bench/look-state.ts';
import { runQueue } from '../../core/bench/queue.ts';
import { sessionsRead } from '../../core/bench/session.ts';
import { checkClaims } from '../../core/claims/check.ts';
import { noticedIn } from '../../core/claims/noticed.ts';
import { PAIR_METHODS } from '../../core/compare/method-names.ts';
import { plainCsv } from '../../core/formats/plain-csv.ts';
import { studyToCsv } from '../../core/formats/study-csv.ts';
import { ALPHA } from '../../core/model/alpha.ts';
import { measurandsInOrder } from '../../core/model/in-order.ts';
import type { Measurand } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { studyDuration } from '../../core/plan/duration.ts';
import { planFindings } from '../../core/plan/findings.ts';
import { composeReport } from '../../core/report/compose.ts';
import { variedStudy } from './varied-studies.ts';
import { finished } from '../../core/testing-study.ts';

const demo = (name: string) =>
  JSON.parse(readFileSync(new URL(`../${name}.json`, import.meta.url), 'utf8')) as StudyDocument;

/** How many studies of seeded chance are asked about, beside those of the demo. */
const VARIED = 40;

/** A study, and the test before it where there is one. */
type Answered = () => readonly [StudyDocument, StudyDocument?];

const ALONE = [
  ...['desk-fans', 'flour-sieves', 'kitchen-thermometers', 'lawn-sprinklers', 'tap-aerators'],
  ...['recorded-fans', 'vacuum-flasks', 'logged-flasks'],
];
const AGAIN = ['vacuum-flasks', 'logged-flasks'];

/** Every study whose answers are recorded, by its name. */
export const ANSWERED: ReadonlyMap<string, Answered> = new Map<string, Answered>([
  ...ALONE.map((name): [string, Answered] => [name, () => [demo(name)]]),
  ...AGAIN.map((name): [string, Answered] => [`${name}-again`, () => [demo(`${name}-again`), demo(name)]]),
  ...Array.from({ length: VARIED }, (_, number): [string, Answered] => [
    `varied ${String(number)}`,
    () => [variedStudy(number)],
  ]),
]);

/** Draws of a ranking: enough to see that they are the same. */
const RESAMPLES = 200;

/** What the program says of something, or why it says nothing. */
function said(ask: () => unknown): unknown {
  try {
    return ask();
  } catch (error) {
    if (error instanceof RangeError) return error.message;
    throw error;
  }
}

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

/** What the program says of all measurands of a study together, and against what was before. */
function* together(document: StudyDocument, earlier?: StudyDocument): Generator<[string, unknown]> {
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
    ...(earlier ? [occasionOf(earlier)] : []),
  ].map((occasion) => ({ occasion, matches: [] }));
  const now = occasionOf(document, sessionsRead(document).at(-1)?.id);
  for (const { id, name } of measurandsInOrder(document)) {
    for (const { key, words } of settingsRead(document)) {
      const options = { settingKey: key, lessAmbient: false };
      yield [`${name} ${words} since`, said(() => sinceEarlier(document, id, now, before, options))];
      yield [
        `${name} ${words} since, less ambient`,
        said(() => sinceEarlier(document, id, now, before, { ...options, lessAmbient: true })),
      ];
    }
  }
}

/**
 * All that the program says of a study, question by question.
 * @param earlier a test of the same items before it
 */
export function* answersOf(document: StudyDocument, earlier?: StudyDocument): Generator<[string, unknown]> {
  const queue = runQueue(document);
  yield ['plan', [planFindings(document), studyDuration(document)]];
  yield [
    'bench',
    [queue.map(({ key, state }) => [key, state]), benchLog(document), lookState(document, queue, ALPHA)],
  ];
  yield ['findings', [inspectStudy(document), noticedIn(document)]];
  for (const measurand of measurandsInOrder(document)) yield* ofMeasurand(document, measurand);
  yield* together(document, earlier);
  yield ['report', composeReport(document, { when: (instant) => instant, program: '1' })];
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
  const ids = new Map<string, string>();
  return text.replace(/[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}/g, (id) => {
    const known = ids.get(id) ?? `id ${String(ids.size + 1)}`;
    ids.set(id, known);
    return known;
  });
}

/** A few characters that are others for any other text. */
export const digest = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 12);
