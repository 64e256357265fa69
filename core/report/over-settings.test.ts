import { describe, expect, it } from 'vitest';
import { overLevels, overSettings } from '../analysis/over-levels.ts';
import { factorsRead } from '../analysis/series.ts';
import { seededRandom } from '../random/seeded.ts';
import { twoFactorStudy } from '../testing-study.ts';
import { composeReport } from './compose.ts';
import { answerOverSettings, turnsOverSettings } from './over-settings.ts';

const random = seededRandom(17);
/** Three items at two pressures in cold and warm water, six rounds, spread 0.05; means by item, water and pressure. */
function study(means: readonly (readonly (readonly number[])[])[]) {
  const made = twoFactorStudy(
    { items: means.length, levels: 2, others: ['cold', 'warm'], rounds: 6 },
    ({ item, level, other }) => {
      const mean = means[item]?.[other]?.[level];
      return mean === undefined || Number.isNaN(mean) ? undefined : mean + 0.05 * random.normal();
    },
  );
  made.measurand.direction = { kind: 'higher', target: null };
  return made;
}

const said = (means: Parameters<typeof study>[0], soFar = false) => {
  const { document, measurand, factor } = study(means);
  const series = overSettings(document, measurand.id, factor.id);
  return { series, sentence: answerOverSettings(series, '', soFar), turns: turnsOverSettings(series, '') };
};

describe('a measurand at all settings of two factors', () => {
  it('is one series over the one for each level of the other, as each stands alone', () => {
    const { document, measurand, factor, other } = study([
      [
        [10, 12],
        [11, 13],
      ],
      [
        [20, 22],
        [21, 23],
      ],
    ]);
    for (const along of [factor, other]) {
      const all = overSettings(document, measurand.id, along.id);
      expect(all).toHaveLength(2);
      const keys = factorsRead(document).find(({ over }) => over.factor.id === along.id)?.series ?? [];
      expect(all).toEqual(keys.map(({ key }) => overLevels(document, measurand.id, along.id, key)));
    }
    expect(overSettings(document, measurand.id, factor.id).map(({ held }) => held)).toEqual(['cold', 'warm']);
    expect(overSettings(document, measurand.id, 'no such factor')).toEqual([]);
  });
  it('says who is first at all of them', () => {
    const { sentence, turns } = said([
      [
        [10, 12],
        [11, 13],
      ],
      [
        [20, 22],
        [21, 23],
      ],
    ]);
    expect(sentence).toBe('Item 2 is first at all 4 settings.');
    expect(turns).toEqual([]);
  });
  it('says who is first where, and which pair turns', () => {
    const { sentence, turns } = said(
      [
        [
          [10, 12],
          [15, 13],
        ],
        [
          [11, 13],
          [12, 14],
        ],
      ],
      true,
    );
    expect(sentence).toBe(
      'So far: Item 2 is first at 3 of the 4 settings; Item 1 is first at “1 bar, warm”. Item 1 and Item 2 change places.',
    );
    expect(turns).toEqual([
      {
        names: ['Item 1', 'Item 2'],
        ahead: [['1 bar, warm'], ['1 bar, cold', '2 bar, cold', '2 bar, warm']],
        sentence: 'Item 1 is ahead at “1 bar, warm”, Item 2 at 3 of the 4 settings.',
      },
    ]);
  });
  it('counts the pairs that turn where they are several', () => {
    const { sentence, turns } = said([
      [
        [10, 10],
        [30, 10],
      ],
      [
        [20, 20],
        [20, 20],
      ],
      [
        [5, 5],
        [25, 5],
      ],
    ]);
    expect(turns.map(({ names }) => names.join())).toEqual(['Item 1,Item 2', 'Item 2,Item 3']);
    expect(sentence).toMatch(/ The order of 2 pairs turns\.$/);
  });
  it('says where first place is not settled, and where nothing was read', () => {
    const { sentence } = said([
      [
        [10, 12],
        [10, Number.NaN],
      ],
      [
        [10.001, 13],
        [20, Number.NaN],
      ],
    ]);
    // In warm water items were read at one pressure alone.
    expect(sentence).toBe(
      'Item 2 is first at “2 bar, cold” and “1 bar, warm”; first place is not settled at “1 bar, cold”.',
    );
    expect(
      said([
        [
          [10, 12],
          [10, 12],
        ],
        [
          [10.001, 12],
          [10, 12.001],
        ],
      ]).sentence,
    ).toBe('First place is settled at none of the 4 settings.');
    expect(answerOverSettings([], '')).toBe('Too little was read for an order at any setting.');
  });
  it('leads the report, with every setting in its tables', () => {
    const { document } = study([
      [
        [10, 12],
        [15, 13],
      ],
      [
        [11, 13],
        [12, 14],
      ],
    ]);
    const { parts } = composeReport(document, { when: (instant) => instant, program: '1' });
    const blocks = (name: string) => parts.find((part) => part.name === name)?.blocks ?? [];
    expect(blocks('answer')).toEqual([
      {
        kind: 'lead',
        text: 'Item 2 is first at 3 of the 4 settings; Item 1 is first at “1 bar, warm”. Item 1 and Item 2 change places.',
      },
      { kind: 'text', text: 'cold: Item 2 is first at both 1 bar and 2 bar.' },
      {
        kind: 'text',
        text: expect.stringMatching(
          /^warm: Item 1 is first at 1 bar; Item 2 is first at 2 bar\. Item 1 and Item 2 change places/u,
        ) as string,
      },
    ]);
    expect(blocks('picture')).toHaveLength(2);
    expect(
      blocks('ranking').map((block) => block.kind === 'table' && block.table.rows.map((row) => row.length)),
    ).toEqual([
      [3, 3],
      [3, 3],
    ]);
  });
  it('shows a few pictures of many settings, and says how many more there are', () => {
    const made = twoFactorStudy(
      { items: 2, levels: 2, others: ['a', 'b', 'c', 'd', 'e', 'f'], rounds: 3 },
      ({ item, level }) => 10 * (item + 1) + level + 0.05 * random.normal(),
    );
    made.measurand.direction = { kind: 'higher', target: null };
    const { parts } = composeReport(made.document, {
      ...{ when: (instant: string) => instant, program: '1' },
    });
    const blocks = (name: string) => parts.find((part) => part.name === name)?.blocks ?? [];
    expect(blocks('answer')[0]).toEqual({ kind: 'lead', text: 'Item 2 is first at all 12 settings.' });
    expect(blocks('picture').filter(({ kind }) => kind === 'picture')).toHaveLength(4);
    expect(blocks('picture').at(-1)).toMatchObject({
      text: '2 more settings of the other factors: see the ranking.',
    });
    expect(blocks('ranking')).toHaveLength(6);
  });
  it('does not depend on the factor that it is looked at along', () => {
    const { document, measurand, factor, other } = study([
      [
        [10, 12],
        [15, 13],
      ],
      [
        [11, 13],
        [12, 14],
      ],
      [
        [9, 9],
        [16, 20],
      ],
    ]);
    const [pressure, water] = [factor, other].map(({ id }) => overSettings(document, measurand.id, id));
    const count = (series: typeof pressure) => turnsOverSettings(series ?? [], '').map(({ names }) => names);
    expect(count(pressure)).toEqual(count(water));
    expect(count(pressure).length).toBeGreaterThan(1);
    expect(answerOverSettings(pressure ?? [], '')).toBe(answerOverSettings(water ?? [], ''));
  });
});
