import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import vacuumFlasks from '../../demo/vacuum-flasks.json' with { type: 'json' };
import { runOfReading } from '../bench/run-records.ts';
import { NO_CORRECTIONS } from '../model/new-study.ts';
import type { Decision, Reading, RuleInForce } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { RULE_JUDGES, RULE_LEVELS, RULE_NAMES } from '../model/words.ts';
import { finished, testId, testStudy, withLevels } from '../testing-study.ts';
import { type StudyAnalysisOptions, analyseStudy, compareSchools } from './analyse-study.ts';

const ACTIONS = [
  'leave-out',
  'take-back',
  'keep',
  'misfire',
  'withdraw',
  'restore',
  'take-again',
  'add-run',
] as const;

interface Taken {
  item: number;
  round: number;
  level: number;
  text: string;
}

const taken: fc.Arbitrary<Taken> = fc.record({
  ...{ item: fc.integer({ min: 0, max: 2 }), round: fc.integer({ min: 1, max: 8 }) },
  ...{ level: fc.integer({ min: 0, max: 1 }) },
  text: fc.oneof(fc.integer({ min: -9, max: 9 }).map(String), fc.constantFrom('50', '0.25', 'nothing')),
});

/** A reading, or a decision about an earlier one. */
const step = fc.oneof(taken, fc.record({ action: fc.constantFrom(...ACTIONS), about: fc.nat({ max: 40 }) }));

/** By round and item: what a rule leaves out, and says by how much. */
const FAR = new Map([
  ['3/0', '90'],
  ['5/1', '-70'],
]);

const rule = fc.record({
  name: fc.constantFrom(...RULE_NAMES),
  parameter: fc.constant(null),
  level: fc.constantFrom(...RULE_LEVELS),
  judges: fc.constantFrom(...RULE_JUDGES),
});

/** What a page makes of a state that shares with the one before whatever has not changed. */
const nextState = (
  document: StudyDocument,
  readings: StudyDocument['readings'],
  decisions: Decision[],
): StudyDocument => ({
  ...document,
  readings: readings.length === document.readings.length ? document.readings : [...readings],
  decisions: decisions.length === document.decisions.length ? document.decisions : [...decisions],
});

it('says of a study that grew step by step what it says of the same study met for the first time', () => {
  fc.assert(
    fc.property(
      fc.array(step, { minLength: 1, maxLength: 20 }),
      rule,
      fc.boolean(),
      fc.boolean(),
      fc.boolean(),
      (steps, inForce, isShuffled, hasLevels, isCorrected) => {
        const planned = testStudy(['Ama', 'Bel', 'Cor'], {
          rounds: 8,
          runOrder: isShuffled ? 'full-shuffle' : 'shuffled-rounds',
        });
        const levels = hasLevels ? withLevels(planned.document, 2).levels : [];
        planned.measurand.rule = inForce;
        if (isCorrected)
          planned.measurand.corrections = { ...NO_CORRECTIONS, tare: { on: true, value: 0.5 } };
        const twice = { ...planned.measurand, id: testId(), name: 'Twice', expression: '2 * pull' };
        planned.document.measurands.push({ ...twice, corrections: NO_CORRECTIONS });
        const { readings, decisions } = planned.document;
        const read = ({ item, round, level: which, text }: Taken) => {
          const reading = planned.read(item, round, text);
          const level = levels[which];
          if (level) reading.levels = [{ factorId: level.factorId, levelId: level.id }];
        };
        // Enough of the first two items that a rule has something to judge.
        for (let round = 1; round <= 6; round += 1)
          for (const item of [0, 1])
            for (const level of hasLevels ? [0, 1] : [0])
              read({
                item,
                round,
                level,
                text: FAR.get(`${String(round)}/${String(item)}`) ?? String((17 * round + 5 * item) % 11),
              });
        let state: StudyDocument = { ...planned.document, readings: [...readings], decisions: [] };
        const { id } = planned.measurand;
        const analysed = (document: StudyDocument) =>
          [id, twice.id].map((of) => analyseStudy(document, of, { resamples: 20 }));
        const compared = (document: StudyDocument) => finished(compareSchools(document, id, ''));
        // In one go, since what is kept from the state before is let go of once another study is met.
        const answers = [[state, analysed(state)] as const];
        for (const made of steps) {
          if ('text' in made) read(made);
          else {
            const about = readings[made.about % readings.length] as Reading;
            planned.decide(made.action, {
              reason: 'because',
              ...(made.action === 'add-run' ? { run: runOfReading(about) } : { readingId: about.id }),
            });
          }
          state = nextState(state, readings, decisions);
          answers.push([state, analysed(state)]);
        }
        const schools = compared(state);
        for (const [of, answer] of answers) expect(answer).toEqual(analysed(structuredClone(of)));
        expect(schools).toEqual(compared(structuredClone(state)));
      },
    ),
    { numRuns: 60 },
  );
});

describe('what is worked out of a study', () => {
  const planned = testStudy(['Ama', 'Bel']);
  const { document, measurand } = planned;
  for (let round = 1; round <= 5; round += 1)
    for (const item of [0, 1]) planned.read(item, round, String(20 + 3 * item + ((7 * round + item) % 5)));
  const about = planned.document.readings[2]?.id ?? '';
  const leaveOut = (reason: string): Decision => ({
    ...testStudy([]).decide('leave-out', { readingId: about, reason }),
    studyId: document.study.id,
  });
  const analysisOf = (state: StudyDocument, options: StudyAnalysisOptions = {}) =>
    analyseStudy(state, measurand.id, { resamples: 20, ...options }).settings[0]?.classes[0]?.analysis;

  it('is the same once a decision is made as when it was tried out', () => {
    const tried = analysisOf({ ...document, decisions: [leaveOut('')] });
    const made = { ...document, decisions: [leaveOut('a slip')] };
    expect(analysisOf(made)).toBe(tried);
    expect(analyseStudy(made, measurand.id).settings[0]?.leftOut.readings[0]?.use).toMatchObject({
      reason: 'a slip',
    });
  });
  it('is worked out again where anything is asked otherwise', () => {
    const rule: RuleInForce = { name: 'fences', parameter: null, level: 'study', judges: 'reading' };
    const asked: [string, StudyDocument, StudyAnalysisOptions][] = [
      ['seed', { ...document, study: { ...document.study, seed: 6 } }, {}],
      ['method', document, { method: 'tukey' }],
      ['draws', document, { resamples: 21 }],
      ['level', document, { pairAlpha: 0.01 }],
      ['rule', document, { rule }],
      [
        'name',
        { ...document, items: document.items.map((item) => ({ ...item, name: `${item.name}o` })) },
        {},
      ],
      ['margin', { ...document, measurands: [{ ...measurand, margin: { kind: 'absolute', value: 9 } }] }, {}],
    ];
    for (const [what, state, options] of asked) {
      const plain = analysisOf(document);
      const other = analysisOf(state, options);
      expect(other, what).not.toBe(plain);
      expect(other, what).toEqual(analysisOf(structuredClone(state), options));
    }
  });
  it('follows what is noted of the surroundings, where readings are set right or others worked out by it', () => {
    const flasks = vacuumFlasks as unknown as StudyDocument;
    const ambient = { on: true, conditionId: flasks.conditions[0]?.id ?? '', reference: 20, perUnit: 0.35 };
    const setRight = flasks.measurands.map((read) =>
      read.expression === null
        ? { ...read, corrections: { ...NO_CORRECTIONS, ambient: { ...ambient, estimates: [] } } }
        : read,
    );
    const start = flasks.measurands.find(({ name }) => name === 'Water at start');
    const readingId = flasks.readings.find(({ measurandId }) => measurandId === start?.id)?.id ?? '';
    for (const measurands of [flasks.measurands, setRight]) {
      const noted: StudyDocument = { ...flasks, measurands };
      const sessions = noted.sessions.map((session) => ({
        ...session,
        conditions: session.conditions.map((condition) => ({
          ...condition,
          number: (condition.number ?? 0) + 2,
        })),
      }));
      const conditions = noted.conditions.map((condition) => ({ ...condition, quantity: 'Draught' }));
      const decisions = [...noted.decisions, testStudy([]).decide('leave-out', { readingId, reason: 'so' })];
      const states = [
        noted,
        { ...noted, conditions },
        { ...noted, sessions },
        { ...noted, decisions },
      ].flatMap((state) => [{ ...noted }, state]);
      for (const { id } of measurands) {
        const analysed = (state: StudyDocument) => analyseStudy(state, id, { resamples: 0 });
        const answers = states.map((state) => [state, analysed({ ...state })] as const);
        for (const [state, answer] of answers) expect(answer).toEqual(analysed(structuredClone(state)));
      }
    }
  });
});
