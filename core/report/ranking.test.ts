import { describe, expect, it } from 'vitest';
import { analyseStudy } from '../analysis/analyse-study.ts';
import type { Ranking } from '../model/ranking.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { levelledStudy, testId, testStudy } from '../testing-study.ts';
import { answer } from './answer.ts';
import { rankingOf } from './ranking.ts';

type Group = Ranking['settings'][number]['classes'][number];

/** Three items of which the last is far ahead; each read in four rounds. */
function study(change: (document: StudyDocument) => void = () => undefined) {
  const made = testStudy(['Ama', 'Bel', 'Cor']);
  made.measurand.direction = { kind: 'higher', target: null };
  for (const round of [1, 2, 3, 4])
    [10, 10.1, 20].forEach((mean, item) =>
      made.read(item, round, String(mean + 0.1 * ((round * (item + 2)) % 3))),
    );
  change(made.document);
  const ranking = rankingOf(made.document, made.measurand.id);
  return { ...made, ranking, group: ranking.settings[0]?.classes[0] as Group };
}

describe('the ranking as plain figures', () => {
  it('says what the page says, item by item and pair by pair', () => {
    const { document, measurand, items, ranking, group } = study();
    expect(ranking).toMatchObject({ measurandId: measurand.id, measurand: 'Pull', unit: 'g' });
    expect(ranking.settings.map(({ setting }) => setting)).toEqual(['']);
    const found = analyseStudy(document, measurand.id, { resamples: 500 }).settings[0]?.classes[0];
    expect(group.answer).toBe(answer(['Ama', 'Bel', 'Cor'], found?.analysis as never, 'g').sentence);
    expect(group.ranking.map(({ item, placeLow, placeHigh }) => [item, placeLow, placeHigh])).toEqual([
      ['Cor', 1, 1],
      ['Ama', 2, 3],
      ['Bel', 2, 3],
    ]);
    const [first] = group.ranking;
    expect(first).toMatchObject({ itemId: items[2]?.id, place: 1, n: 4, typed: null, chanceFirst: 1 });
    expect(first?.mean).toBeCloseTo(20.1, 1);
    expect(first?.interval?.[0]).toBeLessThan(first?.mean as number);
    expect(group.pairs).toHaveLength(3);
    const [pair] = group.pairs.filter(({ a, b }) => a === items[0]?.id && b === items[2]?.id);
    expect(pair).toMatchObject({ verdict: 'b ahead', matters: 'yes' });
    expect(pair?.interval?.[0]).toBeLessThan(pair?.difference as number);
    expect(pair?.interval?.[1]).toBeGreaterThan(pair?.difference as number);
  });
  it('has no interval of single readings, and says which items are from elsewhere', () => {
    const single = study((document) => {
      document.readings = document.readings.filter(({ round }) => round === 1);
    });
    expect(single.group.ranking.map(({ interval, chanceFirst }) => [interval, chanceFirst])).toEqual([
      [null, null],
      [null, null],
      [null, null],
    ]);
    expect(single.group.pairs.map(({ interval, verdict }) => [interval, verdict])).toEqual([
      [null, 'too few'],
      [null, 'too few'],
      [null, 'too few'],
    ]);
    const { group } = study((document) => {
      const [item, measurand] = [document.items[0], document.measurands[0]];
      const { version, createdAt, updatedAt } = document.study;
      document.readings = document.readings.filter(({ itemId }) => itemId !== item?.id);
      document.figures.push({
        ...{ id: testId(), studyId: document.study.id, version, createdAt, updatedAt, levels: [] },
        ...{ itemId: item?.id ?? '', measurandId: measurand?.id ?? '', kind: 'range', source: '' },
        ...{ n: null, mean: null, sd: null, low: 30, high: null },
      });
    });
    const [first] = group.ranking;
    expect(first).toMatchObject({ item: 'Ama', typed: { low: 30, high: null } });
    const open = group.pairs.flatMap(({ interval }) => interval ?? []).filter((end) => end === null);
    expect(open.length).toBeGreaterThan(0);
  });
  it('has its settings in words and its classes apart, and codes in a blind study', () => {
    const made = levelledStudy(
      { items: 2, levels: 2, rounds: 3 },
      ({ item, level, round }) => 10 * item + level + 0.1 * (round % 2),
    );
    expect(rankingOf(made.document, made.measurand.id).settings.map(({ setting }) => setting)).toEqual([
      '1 bar',
      '2 bar',
    ]);
    const { ranking } = study((document) => {
      document.items.forEach((item, i) => (item.class = i === 0 ? 'small' : 'large'));
    });
    expect(
      ranking.settings[0]?.classes.map(({ class: name, ranking: { length } }) => [name, length]),
    ).toEqual([
      ['small', 1],
      ['large', 2],
    ]);
    const { group } = study((document) => (document.study.blind = 'blind'));
    expect(group.ranking.map(({ item }) => item).join()).not.toMatch(/Ama|Bel|Cor/);
    expect(group.answer).not.toMatch(/Ama|Bel|Cor/);
  });
  it('is none of a measurand that there is not', () => {
    expect(() => rankingOf(testStudy(['Ama']).document, 'none')).toThrow(RangeError);
  });
});
