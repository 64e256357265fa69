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
import type { MeasurandAnalysis } from '../../core/analysis/analyse-study.ts';
import { Packer } from './packer.ts';
import { Unpacker } from './unpacker.ts';

/** What is sent to a page that has nothing yet. */
const packed = (document: StudyDocument, analysis: MeasurandAnalysis) =>
  new Packer().pack(document, analysis);
const unpacked = (document: StudyDocument, sent: ReturnType<typeof packed>) =>
  new Unpacker().unpack(document, structuredClone(sent));

/** A worker and a page that hear each other over and over. */
function talk() {
  const [packer, unpacker] = [new Packer(), new Unpacker()];
  const send = (document: StudyDocument, analysis: MeasurandAnalysis) =>
    structuredClone(
      packer.pack(document, analysis, unpacker.known(document.study.id, analysis.measurand.id)),
    );
  const hear = (document: StudyDocument, sent: ReturnType<typeof packed>) => unpacker.unpack(document, sent);
  return { send, hear };
}

const DEMOS = [aerators, fans, flasks, recorded, sieves, thermometers] as unknown as StudyDocument[];

describe('an analysis on its way to the page', () => {
  it.each(DEMOS.map((document) => [document.study.title, document] as const))(
    'comes out of “%s” as it was',
    (_, document) => {
      for (const { id } of document.measurands) {
        const analysis = analyseStudy(document, id, { resamples: 0 });
        const sent = packed(document, analysis);
        expect(unpacked(document, sent)).toEqual(analysis);
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
    expect(unpacked(corrected, sent)).toEqual(analysis);
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
    expect(unpacked(document, sent)).toEqual(doubted);
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
    expect(unpacked(document, sent)).toEqual(analysis);
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
    expect(unpacked(shuffled, sent)).toEqual(analysis);
    // Of the same readings in rounds others are made.
    const { send, hear } = talk();
    hear(shuffled, send(shuffled, analysis));
    const inRounds = analyseStudy(document, measurand.id, { resamples: 0 });
    expect(hear(document, send(document, inRounds))).toEqual(inRounds);
  });
  it('keeps what has not changed, where readings come, go, and are left out', () => {
    const { document, measurand, read, decide } = testStudy(['Ama', 'Bel'], { rounds: 30 });
    const { send, hear } = talk();
    const out = () => {
      const analysis = analyseStudy(document, measurand.id, { resamples: 0 });
      // The readings that the page has are those of a state by itself.
      const state = { ...document, readings: [...document.readings] };
      const found = hear(state, send(state, analysis));
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
  it('sends what a decision has changed, and all of it to a page that missed an answer', () => {
    const { document, measurand, read, decide } = testStudy(['Ama', 'Bel']);
    for (let i = 0; i < 40; i += 1) read(i % 2, 1 + Math.floor(i / 2), String(5 + (i % 7)));
    const { send, hear } = talk();
    const analysed = () => analyseStudy(document, measurand.id, { resamples: 0 });
    hear(document, send(document, analysed()));
    decide('leave-out', { readingId: document.readings[3]?.id ?? '', reason: 'a slip' });
    const less = send(document, analysed()).settings[0]?.readings;
    expect(less).toMatchObject({ count: 40, others: new Map([[0, expect.objectContaining({})]]) });
    expect(less?.kindOf).toHaveLength(1);
    // That answer was never heard.
    decide('leave-out', { readingId: document.readings[5]?.id ?? '', reason: 'a draught' });
    const whole = send(document, analysed());
    expect(whole.settings[0]?.readings.kindOf).toHaveLength(40);
    expect(hear(document, whole)).toEqual(analysed());
    expect(() => new Unpacker().unpack(document, send(document, analysed()))).toThrow('is not held');
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
          const { send, hear } = talk();
          const answer = (document: StudyDocument) => {
            const analysis = analyseStudy(document, id, { resamples: 0 });
            const found = hear(document, send(document, analysis));
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
