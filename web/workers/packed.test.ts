import { describe, expect, it } from 'vitest';
import aerators from '../../demo/tap-aerators.json' with { type: 'json' };
import fans from '../../demo/desk-fans.json' with { type: 'json' };
import recorded from '../../demo/recorded-fans.json' with { type: 'json' };
import sieves from '../../demo/flour-sieves.json' with { type: 'json' };
import thermometers from '../../demo/kitchen-thermometers.json' with { type: 'json' };
import { analyseStudy } from '../../core/analysis/analyse-study.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { testStudy } from '../../core/testing-study.ts';
import { packed, unpacked } from './packed.ts';

const DEMOS = [aerators, fans, recorded, sieves, thermometers] as unknown as StudyDocument[];

describe('an analysis on its way to the page', () => {
  it.each(DEMOS.map((document) => [document.study.title, document] as const))(
    'comes out of “%s” as it was',
    (_, document) => {
      for (const { id } of document.measurands) {
        const analysis = analyseStudy(document, id, { resamples: 0 });
        expect(unpacked(document, structuredClone(packed(document, analysis)))).toEqual(analysis);
      }
    },
  );
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
});
