import { describe, expect, it } from 'vitest';
import { testStudy } from '../testing-study.ts';
import { screenedOf } from './observed.ts';
import { roundDistances } from './round-distances.ts';

/** Three items whose level climbs by 10 a round, with a misread of Cip in the fourth. */
function climbing() {
  const { document, measurand, items, read } = testStudy(['Ama', 'Bel', 'Cip']);
  Object.assign(document.study, { rounds: 6, runOrder: 'shuffled-rounds' });
  const ids: string[][] = [];
  for (let round = 1; round <= 6; round += 1)
    ids.push(
      items
        .map((_, item) => read(item, round, String(10 * round + item + (item === 2 && round === 4 ? 5 : 0))))
        .map(({ id }) => id),
    );
  return { document, measurand, ids };
}

describe('distances of readings from the median of their round', () => {
  it('are free of what drifts from round to round', () => {
    const { document, measurand, ids } = climbing();
    const distances = roundDistances(screenedOf(document, measurand).observations);
    // By hand: the median of 10, 11, 12 is 11, and so in each round; the misread is 56 where the median is 41.
    for (const [round, [ama = '', bel = '', cip = '']] of ids.entries()) {
      expect([distances?.get(ama), distances?.get(bel)]).toEqual([-1, 0]);
      expect(distances?.get(cip)).toBe(round === 3 ? 6 : 1);
    }
  });
  it('are from medians in which what was left out by hand has no part', () => {
    const { document, measurand, ids } = climbing();
    const [ama = '', bel = '', cip = ''] = ids[3] ?? [];
    document.decisions.push({
      ...{ id: 'd', studyId: document.study.id, version: 1, createdAt: '', updatedAt: '' },
      ...{ action: 'leave-out', readingId: bel, run: null, sessionId: null, reason: 'a bump', decidedAt: '' },
    });
    const distances = roundDistances(screenedOf(document, measurand).observations);
    // The median of 40 and 47 is 43.5.
    expect([ama, bel, cip].map((id) => distances?.get(id))).toEqual([-3.5, -2.5, 3.5]);
  });
  it('are not there where nothing shares a round', () => {
    const { document, measurand } = climbing();
    document.study.runOrder = 'full-shuffle';
    expect(roundDistances(screenedOf({ ...document }, measurand).observations)).toBeUndefined();
  });
});
