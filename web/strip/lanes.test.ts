import { describe, expect, it } from 'vitest';
import { analyseStudy } from '../../core/analysis/analyse-study.ts';
import { atSetting } from '../../core/analysis/at-setting.ts';
import deskFans from '../../demo/desk-fans.json' with { type: 'json' };
import type { StudyDocument } from '../../core/model/study-document.ts';
import { placeRange } from '../../core/rank/place.ts';
import { leaderBand, stripLanes } from './lanes.ts';

const fans = deskFans as unknown as StudyDocument;
const measurand = fans.measurands[0] as StudyDocument['measurands'][0];
const analysis = atSetting(analyseStudy(fans, measurand.id, { resamples: 0 }));

describe('the lanes of the desk fans', () => {
  it('show every reading before anything is analysed', () => {
    const lanes = stripLanes(fans, measurand, '', undefined);
    expect(lanes.map(({ marks }) => marks.length)).toEqual([8, 8, 9, 8, 8, 8]);
    expect(lanes.every(({ mean, figure }) => mean === null && figure === '–')).toBe(true);
  });
  it('show what the rule leaves out as hollow, and places at their ends', () => {
    const lanes = stripLanes(fans, measurand, '', analysis, { places: true });
    expect(lanes.map(({ marks }) => marks.filter(({ out }) => out).length)).toEqual([0, 1, 1, 0, 1, 0]);
    expect(lanes.map(({ place }) => place)).toEqual(['2–3', '1', '4–5', '2–3', '4–5', '6']);
    expect(lanes[1]?.figure).toBe('3.443');
  });
  it('show what was recorded since the analysis behind what it knows, each once', () => {
    const earlier = { ...fans, readings: fans.readings.slice(0, -7) };
    const known = atSetting(analyseStudy(earlier, measurand.id, { resamples: 0 }));
    const ids = (analysed?: StudyDocument) =>
      stripLanes(fans, measurand, '', known, { analysed })
        .flatMap(({ marks }) => marks.map(({ id }) => id))
        .sort();
    const all = stripLanes(fans, measurand, '', analysis)
      .flatMap(({ marks }) => marks.map(({ id }) => id))
      .sort();
    expect(known.readings.length).toBeLessThan(analysis.readings.length);
    expect(ids(earlier)).toEqual(all);
    // Without the state, and with one that this does not follow from, all is looked through.
    expect(ids()).toEqual(all);
    expect(ids({ ...earlier, readings: earlier.readings.toReversed() })).toEqual(all);
  });
  it('drop what was withdrawn since the analysis, at once', () => {
    const last = analysis.readings.at(-1);
    const withdrawal = { ...(fans.decisions[0] as StudyDocument['decisions'][0]), id: 'w' };
    const after: StudyDocument = {
      ...fans,
      decisions: [
        ...fans.decisions,
        { ...withdrawal, action: 'withdraw', readingId: last?.id ?? '', sessionId: null, run: null },
      ],
    };
    const ids = stripLanes(after, measurand, '', analysis, { analysed: fans }).flatMap(({ marks }) =>
      marks.map(({ id }) => id),
    );
    expect(ids).toHaveLength(analysis.readings.filter(({ value }) => value !== null).length - 1);
    expect(ids).not.toContain(last?.id);
  });
  it('keep the marks of what has not changed', () => {
    const lanesOf = (found: typeof analysis) => stripLanes(fans, measurand, '', found, { analysed: fans });
    const [first, second] = [lanesOf(analysis), lanesOf({ ...analysis })];
    expect(second.map(({ marks }, lane) => marks === first[lane]?.marks)).toEqual(first.map(() => true));
    // One reading of the first item is left out: its lane alone is another.
    const out = { is: 'left out', by: 'hand', reason: 'a slip' } as const;
    const of = analysis.readings.findLastIndex(({ itemId }) => itemId === first[0]?.id);
    const readings = analysis.readings.map((reading, i) => (i === of ? { ...reading, use: out } : reading));
    const third = lanesOf({ ...analysis, readings });
    expect(third.map(({ marks }, lane) => marks === first[lane]?.marks)).toEqual(first.map((_, i) => i > 0));
    expect(third[0]?.marks.at(-1)?.out).toBe(true);
  });
  it('are those that are made from the start, however many readings change, come or go', () => {
    const out = { is: 'left out', by: 'hand', reason: 'a slip' } as const;
    const { readings } = analysis;
    const marksOf = (found: typeof analysis, of = measurand) =>
      stripLanes(fans, of, '', found, { analysed: fans }).map(({ marks }) => marks);
    const turned = (count: number) =>
      readings.map((reading, i) => (i % 2 === 0 && i < 2 * count ? { ...reading, use: out } : reading));
    const states = [
      ...[readings, turned(3), turned(1), turned(24), readings.slice(2), readings.toReversed(), readings],
      readings.map((reading, i) => (i === 5 ? { ...reading, value: 9 } : reading)),
      readings.map((reading, i) => (i === 5 ? { ...reading, value: null } : reading)),
      readings.map((reading, i) => (i === 5 ? { ...reading, id: 'another' } : reading)),
    ];
    for (const state of states) {
      const found = { ...analysis, readings: state };
      expect(marksOf(found)).toEqual(marksOf(found, structuredClone(measurand)));
    }
  });
  it('have the margin as a band around the leader', () => {
    const band = leaderBand(analysis, '', String);
    expect(band?.to).toBeCloseTo(3.5429, 4);
    expect(band?.label).toBe('within 0.1 of the leader');
    expect(leaderBand(undefined, '', String)).toBeUndefined();
  });
  it('print a range of places only where there is one', () => {
    expect([placeRange({ placeLow: 2, placeHigh: 2 }), placeRange({ placeLow: 2, placeHigh: 4 })]).toEqual([
      '2',
      '2–4',
    ]);
  });
});
