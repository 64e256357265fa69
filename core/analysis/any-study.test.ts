import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RULE_JUDGES, RULE_LEVELS, RULE_NAMES } from '../model/words.ts';
import { METHODS } from '../compare/methods.ts';
import { answer } from '../report/answer.ts';
import { composeReport } from '../report/compose.ts';
import { answerOverLevels } from '../report/over-levels.ts';
import { finished, testId, testStudy, withLevels } from '../testing-study.ts';
import { analyseStudy, compareSchools } from './analyse-study.ts';
import { atSetting, groupsOf } from './at-setting.ts';
import { overLevels } from './over-levels.ts';

const NAMES = ['Ama', 'Bel', 'Cor', 'Dun'];

/** Numbers in the result that are none. */
function badNumbers(value: unknown, path = ''): string[] {
  if (typeof value === 'number') {
    // What is open at one end has no end.
    const mayBeOpen = /\.(?:df|low|high|advantage\[\d\])$/.test(path);
    return Number.isFinite(value) || (mayBeOpen && !Number.isNaN(value)) ? [] : [path];
  }
  if (Array.isArray(value)) return value.flatMap((entry, i) => badNumbers(entry, `${path}[${String(i)}]`));
  if (value !== null && typeof value === 'object') {
    return Object.entries(value).flatMap(([key, entry]) => badNumbers(entry, `${path}.${key}`));
  }
  return [];
}

const reading = fc.record({
  item: fc.integer({ min: 0, max: 3 }),
  round: fc.integer({ min: 1, max: 6 }),
  text: fc.oneof(
    fc.integer({ min: -5, max: 5 }).map(String),
    fc.constantFrom('0.5', '1e-9', '1000000', '0.333333333333', '9999999.99'),
  ),
  decision: fc.constantFrom(undefined, undefined, undefined, 'leave-out', 'keep', 'misfire', 'withdraw'),
});

const end = fc.constantFrom(null, -3, 0, 0.5, 2, 1e6);
const figure = fc.record({
  item: fc.integer({ min: 0, max: 3 }),
  known: fc.oneof(
    fc
      .tuple(end, end)
      .filter(([low, high]) => (low ?? high) !== null && (low === null || high === null || low <= high))
      .map(([low, high]) => ({ kind: 'range' as const, n: null, mean: null, sd: null, low, high })),
    fc.record({
      ...{ kind: fc.constant('summary' as const), n: fc.constantFrom(2, 3, 40), low: end, high: end },
      ...{ mean: fc.constantFrom(-2, 0, 1.5, 1e6), sd: fc.constantFrom(0, 0.1, 1e3) },
    }),
    fc.constant({ kind: 'summary' as const, n: 1, mean: 3, sd: null, low: null, high: null }),
  ),
});

const study = fc.record({
  figures: fc.array(figure, { maxLength: 3 }),
  readings: fc.array(reading, { maxLength: 40 }),
  rule: fc.record({
    name: fc.constantFrom(...RULE_NAMES),
    parameter: fc.constant(null),
    level: fc.constantFrom(...RULE_LEVELS),
    judges: fc.constantFrom(...RULE_JUDGES),
  }),
  form: fc.constantFrom('value', 'value', 'score', 'level'),
  direction: fc.constantFrom(
    { kind: 'higher' as const, target: null },
    { kind: 'lower' as const, target: null },
    { kind: 'nearest' as const, target: 1 },
    { kind: 'unranked' as const, target: null },
  ),
  margin: fc.constantFrom({ kind: 'absolute' as const, value: 0 }, { kind: 'percent' as const, value: 5 }),
  resolution: fc.constantFrom(null, 0.1, 2),
  accuracy: fc.constantFrom(null, 1),
  runOrder: fc.constantFrom('shuffled-rounds' as const, 'full-shuffle' as const),
  control: fc.boolean(),
});

type Made = typeof study extends fc.Arbitrary<infer T> ? T : never;

function made({
  figures,
  readings,
  rule,
  form,
  direction,
  margin,
  resolution,
  accuracy,
  runOrder,
  control,
}: Made) {
  const planned = testStudy(NAMES, { rounds: 6, runOrder });
  Object.assign(planned.measurand, { rule, form, direction, margin, limits: { low: -4, high: 1e6 } });
  planned.measurand.instrument.resolution = resolution;
  planned.measurand.instrument.accuracyConstant = accuracy;
  if (control) (planned.items[3] as (typeof planned.items)[0]).role = 'control';
  const { id: studyId, version, createdAt, updatedAt } = planned.document.study;
  planned.document.figures = figures.map(({ item, known }) => ({
    ...{ id: testId(), studyId, version, createdAt, updatedAt, levels: [], source: '' },
    ...{ itemId: (planned.items[item] as (typeof planned.items)[0]).id, measurandId: planned.measurand.id },
    ...known,
  }));
  const part = { value: 'value', score: 'mark', level: 'level' }[form];
  for (const { item, round, text, decision } of readings) {
    const taken = planned.read(item, round, text);
    taken.parts = taken.parts.map((typed) => ({ ...typed, name: part }));
    if (decision) planned.decide(decision, { readingId: taken.id, reason: 'seen' });
  }
  return planned;
}

describe('any study', () => {
  it('is judged without a number that is none, in places that agree with their ranges', () => {
    fc.assert(
      fc.property(study, (given) => {
        const { document, measurand } = made(given);
        const { classes, controls } = atSetting(analyseStudy(document, measurand.id, { resamples: 50 }));
        for (const { items, analysis } of groupsOf({ classes, controls })) {
          expect(badNumbers(analysis)).toEqual([]);
          for (const { place, placeLow, placeHigh } of analysis.ranking) {
            expect(place).toBeGreaterThanOrEqual(placeLow);
            expect(place).toBeLessThanOrEqual(placeHigh);
          }
          const { sentence, notes } = answer(
            items.map(({ name }) => name),
            analysis,
            'g',
          );
          expect([sentence, ...notes.map(({ text }) => text)].join(' ')).not.toMatch(
            /NaN|undefined|Infinity/,
          );
          // Who is said to be first is ahead of every other one.
          const [leader] = analysis.ranking;
          if (leader?.placeHigh === 1 && analysis.ranking.length > 1) {
            const against = analysis.pairs.filter(({ a, b }) => a === leader.index || b === leader.index);
            expect(
              against.every(({ a, verdict }) => verdict === (a === leader.index ? 'a ahead' : 'b ahead')),
            ).toBe(true);
          }
          const chances = analysis.ranking.map(({ chanceFirst }) => chanceFirst);
          if (chances.every((chance) => chance !== null) && chances.length > 1) {
            expect(chances.reduce((sum, chance) => sum + chance, 0)).toBeCloseTo(1, 9);
          }
        }
      }),
      { numRuns: 300 },
    );
  });
  it('is compared by every way that applies, and says so where one does not', () => {
    fc.assert(
      fc.property(study, fc.constantFrom(...METHODS), (given, { name }) => {
        const { document, measurand } = made(given);
        let said: unknown;
        try {
          said = atSetting(analyseStudy(document, measurand.id, { method: name, resamples: 20 })).classes;
        } catch (error) {
          expect(error).toBeInstanceOf(RangeError);
          expect((error as RangeError).message).toMatch(/[.]$/);
          return;
        }
        expect(badNumbers(said)).toEqual([]);
      }),
      { numRuns: 200 },
    );
  });
  it('over the levels of a factor and in its report holds no number that is none', () => {
    fc.assert(
      fc.property(
        study,
        fc.array(fc.integer({ min: 0, max: 2 }), { minLength: 40, maxLength: 40 }),
        (given, which) => {
          const { document, measurand } = made(given);
          const { factor, levels } = withLevels(document, 3);
          document.readings.forEach((taken, i) => {
            taken.levels = [{ factorId: factor.id, levelId: levels[which[i] ?? 0]?.id as string }];
          });
          const over = overLevels(document, measurand.id, factor.id);
          expect(badNumbers(over)).toEqual([]);
          for (const group of over?.classes ?? []) {
            for (const { interval, difference } of group.changes.flat()) {
              if (!interval) continue;
              expect(difference).toBeGreaterThanOrEqual(interval[0]);
              expect(difference).toBeLessThanOrEqual(interval[1]);
            }
            if (over)
              expect(JSON.stringify(answerOverLevels(over, group))).not.toMatch(/NaN|undefined|Infinity/);
          }
          const report = composeReport(document, {
            when: (instant) => instant,
            program: '1.0.0',
          });
          expect(JSON.stringify(report)).not.toMatch(/NaN|undefined|Infinity/);
        },
      ),
      { numRuns: 150 },
    );
  });
  it('is looked at by all schools without one that fails', () => {
    fc.assert(
      fc.property(study, (given) => {
        const { document, measurand } = made(given);
        const { schools, design } = finished(compareSchools(document, measurand.id, ''));
        expect(badNumbers({ schools, design })).toEqual([]);
        expect(schools).toHaveLength(RULE_NAMES.length);
      }),
      { numRuns: 40 },
    );
  });
});
