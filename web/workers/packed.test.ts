import fc from 'fast-check';
import { isEqual } from 'lodash';
import { describe, expect, it } from 'vitest';
import aerators from '../../demo/tap-aerators.json' with { type: 'json' };
import fans from '../../demo/desk-fans.json' with { type: 'json' };
import recorded from '../../demo/recorded-fans.json' with { type: 'json' };
import sieves from '../../demo/flour-sieves.json' with { type: 'json' };
import thermometers from '../../demo/kitchen-thermometers.json' with { type: 'json' };
import flasks from '../../demo/vacuum-flasks.json' with { type: 'json' };
import { analyseStudy } from '../../core/analysis/analyse-study.ts';
import { NO_CORRECTIONS } from '../../core/model/new-study.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { testId, testStudy } from '../../core/testing-study.ts';
import { packed, unpacked } from './packed.ts';

const DEMOS = [aerators, fans, flasks, recorded, sieves, thermometers] as unknown as StudyDocument[];

describe('an analysis on its way to the page', () => {
  it.each(DEMOS.map((document) => [document.study.title, document] as const))(
    'comes out of “%s” as it was',
    (_, document) => {
      for (const { id } of document.measurands) {
        const analysis = analyseStudy(document, id, { resamples: 0 });
        const sent = packed(document, analysis);
        expect(unpacked(document, structuredClone(sent))).toEqual(analysis);
        // Also what is worked out of parts or of other measurands is light.
        for (const { readings } of sent.settings)
          for (const { use, note } of readings.others.values())
            expect([use.is === 'kept' ? use.insisted : use.is, note]).not.toEqual([undefined, '']);
      }
    },
  );
  it('is light where readings are set right, with what that leaves open in each session', () => {
    const document = flasks as unknown as StudyDocument;
    const [read] = document.measurands;
    const conditionId = document.conditions[0]?.id ?? '';
    const estimates = document.sessions.map(({ id }, i) => ({ sessionId: id, value: 21, mayBeOff: 1 + i }));
    const corrected = {
      ...document,
      measurands: document.measurands.map((measurand) =>
        measurand === read
          ? {
              ...measurand,
              corrections: {
                ...NO_CORRECTIONS,
                tare: { on: true, value: 0.3 },
                ambient: { on: true, conditionId, reference: 20, perUnit: 0.7, estimates },
              },
            }
          : measurand,
      ),
    };
    const analysis = analyseStudy(corrected, read?.id ?? '', { resamples: 0 });
    const sent = packed(corrected, analysis);
    expect(analysis.settings[0]?.readings.some(({ estimated }) => estimated)).toBe(true);
    expect(sent.settings[0]?.readings.others.size).toBe(0);
    expect(sent.settings[0]?.readings.kinds).toHaveLength(2);
    expect(unpacked(corrected, structuredClone(sent))).toEqual(analysis);
  });
  it('is whole where what is said of readings differs from one to the next', () => {
    const { document, measurand, read } = testStudy(['Ama', 'Bel']);
    for (let i = 0; i < 300; i += 1) read(i % 2, 1 + Math.floor(i / 2), String(5 + (i % 7)));
    const analysis = analyseStudy(document, measurand.id, { resamples: 0 });
    const [setting] = analysis.settings;
    if (!setting) throw new Error('nothing was analysed');
    const doubted = {
      ...analysis,
      settings: [
        {
          ...setting,
          readings: setting.readings.map((reading, i) => ({ ...reading, doubts: [{ source: 'x', u: i }] })),
        },
      ],
    };
    const sent = packed(document, doubted);
    expect(sent.settings[0]?.readings.kinds).toHaveLength(200);
    expect(sent.settings[0]?.readings.others.size).toBe(100);
    expect(unpacked(document, structuredClone(sent))).toEqual(doubted);
  });
  it('is light where readings are plain, and whole where they are not', () => {
    const { document, measurand, read, decide } = testStudy(['Ama', 'Bel']);
    const readings = Array.from({ length: 40 }, (_, i) =>
      read(i % 2, 1 + Math.floor(i / 2), String(5 + (i % 7))),
    );
    decide('leave-out', { readingId: readings[3]?.id ?? '', reason: 'a slip' });
    const analysis = analyseStudy(document, measurand.id, { resamples: 0 });
    const sent = packed(document, analysis);
    expect([...(sent.settings[0]?.readings.others.keys() ?? [])]).toEqual([3]);
    expect(unpacked(document, structuredClone(sent))).toEqual(analysis);
    const again = unpacked(document, structuredClone(sent)).settings[0]?.readings;
    expect(again?.[0]).toBe(unpacked(document, structuredClone(sent)).settings[0]?.readings[0]);
    expect(() => unpacked({ ...document, readings: [] }, sent)).toThrow('another state of the study');
  });
  it('is light where all runs are shuffled, so that no reading shares its round', () => {
    const { document, measurand, read } = testStudy(['Ama', 'Bel']);
    for (let i = 0; i < 40; i += 1) read(i % 2, 1 + Math.floor(i / 2), String(5 + (i % 7)));
    const shuffled = { ...document, study: { ...document.study, runOrder: 'full-shuffle' as const } };
    const analysis = analyseStudy(shuffled, measurand.id, { resamples: 0 });
    expect(analysis.settings[0]?.readings.some(({ sharesRound }) => sharesRound)).toBe(false);
    const sent = packed(shuffled, analysis);
    expect(sent.settings[0]?.readings.others.size).toBe(0);
    expect(unpacked(shuffled, structuredClone(sent))).toEqual(analysis);
    // Of the same readings in rounds others are made.
    const inRounds = analyseStudy(document, measurand.id, { resamples: 0 });
    expect(unpacked(document, structuredClone(packed(document, inRounds)))).toEqual(inRounds);
  });
  it('keeps what has not changed, where readings come, go, and are left out', () => {
    const { document, measurand, read, decide } = testStudy(['Ama', 'Bel'], { rounds: 30 });
    const out = () => {
      const analysis = analyseStudy(document, measurand.id, { resamples: 0 });
      // The readings that the page has are those of a state by itself.
      const state = { ...document, readings: [...document.readings] };
      const found = unpacked(state, structuredClone(packed(state, analysis)));
      expect(found).toEqual(analysis);
      return found.settings[0]?.readings ?? [];
    };
    for (let i = 0; i < 20; i += 1) read(i % 2, 1 + Math.floor(i / 2), String(5 + (i % 7)));
    const first = out();
    read(0, 11, '6');
    const more = out();
    expect(more).toHaveLength(21);
    for (const [i, observation] of first.entries()) expect(more[i]).toBe(observation);
    decide('leave-out', { readingId: document.readings[4]?.id ?? '', reason: 'a slip' });
    const less = out();
    expect(less[4]).not.toBe(more[4]);
    expect(less[5]).toBe(more[5]);
    decide('leave-out', { readingId: document.readings[7]?.id ?? '', reason: 'a draught' });
    expect(out()[4]).toBe(less[4]);
    decide('take-back', { readingId: document.readings[7]?.id ?? '' });
    expect(out()[7]).toMatchObject({ use: { is: 'kept' } });
    decide('withdraw', { readingId: document.readings[2]?.id ?? '', reason: '' });
    const gone = out();
    expect(gone).toHaveLength(20);
    expect(gone[10]).toBe(less[11]);
  });
  it('keeps the same object of each observation that is as it was, whatever is decided', () => {
    const decision = fc.record({
      action: fc.constantFrom('leave-out', 'take-back', 'withdraw', 'restore', 'read' as const),
      about: fc.nat({ max: 143 }),
    });
    const start = fans as unknown as StudyDocument;
    const [, , power] = start.measurands;
    const derived = start.measurands.find(({ expression }) => expression !== null);
    fc.assert(
      fc.property(fc.array(decision, { minLength: 1, maxLength: 6 }), (steps) => {
        for (const id of [power?.id ?? '', derived?.id ?? '']) {
          const answer = (document: StudyDocument) => {
            const analysis = analyseStudy(document, id, { resamples: 0 });
            const found = unpacked(document, structuredClone(packed(document, analysis)));
            expect(found).toEqual(analysis);
            return found.settings.flatMap(({ readings }) => readings);
          };
          let document = start;
          let before = answer(document);
          for (const { action, about } of steps) {
            const reading = document.readings[about];
            if (!reading) throw new Error('there is no such reading');
            const { decisions, readings } = document;
            const decided = { ...decisions[0], id: testId(), action, readingId: reading.id, reason: 'so' };
            document =
              action === 'read'
                ? { ...document, readings: [...readings, { ...reading, id: testId(), round: 90 }] }
                : {
                    ...document,
                    decisions: [...decisions, decided as StudyDocument['decisions'][number]],
                  };
            const known = new Map(before.map((observation) => [observation.id, observation]));
            before = answer(document);
            for (const observation of before)
              if (isEqual(known.get(observation.id), observation))
                expect(observation).toBe(known.get(observation.id));
          }
        }
      }),
      { numRuns: 25 },
    );
  });
});
