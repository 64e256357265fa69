import { describe, expect, it } from 'vitest';
import tapAerators from '../../demo/tap-aerators.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { seededRandom } from '../random/seeded.ts';
import { answerOverLevels } from '../report/over-levels.ts';
import { levelledStudy, testId } from '../testing-study.ts';
import { overLevels } from './over-levels.ts';
import { factorsRead } from './series.ts';

type Levelled = ReturnType<typeof levelledStudy>;

const random = seededRandom(31);
/** Readings around a mean of each item at each level, with a spread of 0.05 and a drift that rounds share. */
function study(means: readonly (readonly number[])[], rounds = 5): Levelled {
  const drift = Array.from({ length: rounds }, () => random.normal());
  const made = levelledStudy(
    { items: means.length, levels: means[0]?.length ?? 0, rounds },
    ({ item, level, round }) => {
      const mean = means[item]?.[level];
      return mean === undefined || Number.isNaN(mean)
        ? undefined
        : mean + (drift[round - 1] as number) + 0.05 * random.normal();
    },
  );
  made.measurand.direction = { kind: 'higher', target: null };
  return made;
}

function over({ document, measurand, factor }: Levelled) {
  const found = overLevels(document, measurand.id, factor.id);
  if (!found?.classes[0]) throw new Error('Nothing was read at two levels.');
  return { found, group: found.classes[0], ...answerOverLevels(found, found.classes[0]) };
}

describe('a measurand over the levels of a factor', () => {
  it('says what each item changes by, although rounds drift by twenty times as much as readings scatter', () => {
    const { group, found } = over(
      study([
        [10, 12, 14],
        [20, 20, 19],
        [30, 31, 33],
      ]),
    );
    expect(found.numeric).toBe(true);
    const verdicts = group.changes.map((changes) =>
      changes.map(({ from, to, verdict }) => `${String(from)}${String(to)} ${verdict}`),
    );
    expect(verdicts[0]).toEqual(['01 rises', '02 rises', '12 rises']);
    expect(verdicts[1]?.slice(1)).toEqual(['02 falls', '12 falls']);
    const [first] = group.changes[0] ?? [];
    expect(first?.difference).toBeCloseTo(2, 0);
    expect(first?.percent).toBeCloseTo(20, -1);
    expect(first?.interval?.[0]).toBeGreaterThan(1.5);
  });
  it('calls a change inside the margin no appreciable difference', () => {
    const made = study([
      [10, 10.02],
      [20, 22],
      [15, 18],
    ]);
    made.measurand.margin = { kind: 'absolute', value: 0.5 };
    const { group, notes } = over(made);
    expect(group.changes.map(([change]) => change?.verdict)).toEqual(['same', 'rises', 'rises']);
    expect(notes.map(({ title }) => title)).toContain('Item 1 does not rise from 1 bar to 2 bar');
  });
  it('names who is first everywhere, and who is first where', () => {
    expect(
      over(
        study([
          [10, 11, 12],
          [20, 21, 22],
        ]),
      ).sentence,
    ).toBe('Item 2 is first at all 3 levels.');
    const turned = over(
      study([
        [10, 14, 18],
        [12, 13, 14],
      ]),
    );
    expect(turned.sentence).toBe(
      'Item 2 is first at 1 bar; Item 1 is first at 2 bar and 3 bar. Item 2 and Item 1 change places between 1 bar and 2 bar.',
    );
    const [turn] = turned.group.turns;
    expect(turn).toMatchObject({ before: 1, after: 0, from: 0, to: 1, settled: true });
    // By hand: the gap goes from 2 to −1 over one bar.
    expect(turn?.at).toBeCloseTo(1 + 2 / 3, 1);
  });
  it('says of two that change places by how much each is ahead of the other, whoever else is there', () => {
    const { group, notes } = over(
      study([
        [30, 30],
        [10, 14],
        [12, 13],
      ]),
    );
    const leads = group.levels.map((level) => {
      const pair = level?.analysis.pairs.find(({ a, b }) => a === 1 && b === 2);
      return Math.abs(pair?.lead ?? Number.NaN).toFixed(2);
    });
    const note = notes.find(({ title }) => title === 'Item 3 and Item 2 change places');
    const [first = '', second = ''] = leads;
    expect(note?.text.replaceAll('\u202f', ' ')).toMatch(
      new RegExp(`^Item 3 is ahead by ${first} g at 1 bar, Item 2 is ahead by ${second} g at 2 bar\\.`, 'u'),
    );
  });
  it('says at how many levels first place is settled, where it is at none', () => {
    expect(
      over(
        study([
          [10, 12],
          [10, 12],
        ]),
      ).sentence,
    ).toBe('First place is settled at neither level.');
  });
  it('points out what does not go one way', () => {
    const { notes } = over(
      study([
        [10, 14, 11],
        [20, 21, 22],
      ]),
    );
    const note = notes.find(({ title }) => title === 'Item 1 does not go one way');
    expect(note?.text).toMatch(/^It rises by [\d.]+\sg from 1 bar to 2 bar and falls by/);
  });
  it('finds where a limit of the spec is crossed, with an interval', () => {
    const made = study([
      [10, 14, 18],
      [30, 31, 32],
    ]);
    made.measurand.spec = { kind: 'absolute', low: 16, high: null, below: null, share: 95 };
    const { found, group, notes } = over(made);
    expect(group.crossings).toHaveLength(1);
    const [crossing] = group.crossings;
    expect(crossing?.at).toBeGreaterThan(1.9);
    expect(crossing?.at).toBeLessThan(3);
    for (const end of [crossing?.low, crossing?.high]) {
      if (end !== null) expect(Math.sign((end as number) - (crossing?.at as number))).not.toBe(0);
    }
    expect(notes.some(({ title }) => title.startsWith('Item 1 reaches 16'))).toBe(true);
    // As far as the intervals were read.
    const put = (low: number | null, high: number | null): string | undefined => {
      const known = crossing as NonNullable<typeof crossing>;
      const crossings = [{ ...known, at: 2.5, low, high }];
      const note = answerOverLevels(found, { ...group, crossings }).notes.find(({ title }) =>
        title.includes('reaches'),
      );
      return note && `${note.title}. ${note.text}`.replace(/\s/g, ' ');
    };
    const start =
      'Item 1 reaches 16 g at 2.5 bar. By straight lines between the levels; the means’ intervals put it';
    expect(put(2.3, 2.8)).toBe(`${start} between 2.3 bar and 2.8 bar.`);
    expect(put(2.3, null)).toBe(`${start} from 2.3 bar on; the other end is beyond what was read.`);
    expect(put(null, 2.8)).toBe(`${start} up to 2.8 bar; the other end is beyond what was read.`);
    expect(put(null, null)).toBe(`${start} anywhere between the levels that were read.`);
  });
  it('knows a baseline that is not the first level', () => {
    const made = study([
      [10, 12, 14],
      [20, 22, 24],
    ]);
    made.levels.forEach((level, i) => (level.baseline = i === 2));
    const { found, group } = over(made);
    expect(found.baseline).toBe(2);
    expect(group.changes[0]?.map(({ from, to, verdict }) => [from, to, verdict])).toEqual([
      [2, 0, 'falls'],
      [2, 1, 'falls'],
      [1, 2, 'rises'],
      [0, 1, 'rises'],
    ]);
  });
  it('leaves out levels and cells at which nothing was read', () => {
    const { found, group } = over(
      study([
        [10, Number.NaN, 14, 15],
        [20, Number.NaN, 24, Number.NaN],
      ]),
    );
    expect(found.levels.map(({ name }) => name)).toEqual(['1 bar', '3 bar', '4 bar']);
    expect(group.changes[1]?.map(({ from, to }) => [from, to])).toEqual([[0, 1]]);
  });
  it('has no per cent of an error and of a temperature', () => {
    const made = study([
      [10, 12],
      [20, 22],
    ]);
    made.measurand.unit = '°C';
    expect(
      over(made)
        .group.changes.flat()
        .every(({ percent }) => percent === null),
    ).toBe(true);
  });
  it('lets the meter’s accuracy decide about single readings', () => {
    const made = study(
      [
        [160, 153],
        [160, 128],
      ],
      1,
    );
    made.measurand.instrument = { ...made.measurand.instrument, accuracyPercent: 10 };
    const { group } = over(made);
    // ± 10 % of 160 as a rectangle: U = 2 · 16/√3 = 18.5, and √2 · U = 26.1.
    expect(group.changes[0]?.[0]).toMatchObject({ verdict: 'too few', withinAccuracy: true, interval: null });
    expect(group.changes[1]?.[0]?.verdict).toBe('falls');
  });
  it('is not there without a factor, nor for one level', () => {
    const made = study([[10], [20]]);
    expect(factorsRead(made.document)).toEqual([]);
    expect(overLevels(made.document, made.measurand.id, made.factor.id)).toBeNull();
    expect(overLevels(made.document, made.measurand.id, testId())).toBeNull();
    expect(() => overLevels(study([[10, 11]]).document, testId(), made.factor.id)).not.toThrow();
  });
  it('shares the level of the pairs over all settings, on the page of one setting too', () => {
    const { group } = over(
      study([
        [10, 11, 12],
        [20, 21, 22],
      ]),
    );
    // Šidák over three levels.
    expect(group.levels.map((level) => level?.analysis.pairAlpha)).toEqual(
      Array(3).fill(expect.closeTo(1 - 0.95 ** (1 / 3), 12)),
    );
  });
});

describe('the tap aerators', () => {
  const document = structuredClone(tapAerators) as unknown as StudyDocument;
  const [flow, fill] = document.measurands;
  const factorId = document.factors[0]?.id as string;
  it('have a control apart, measured at every level and in no class', () => {
    const controlled = structuredClone(document);
    const [open] = controlled.items;
    if (open) open.role = 'control';
    const over = overLevels(controlled, flow?.id as string, factorId);
    expect(over?.controls?.items.map(({ name }) => name)).toEqual(['No aerator']);
    expect(over?.controls?.levels.map((level) => level?.analysis.items[0]?.summary.mean)).toEqual([
      ...[expect.closeTo(9.3667, 3) as number, 12, 12],
    ]);
    expect(over?.classes.flatMap(({ items }) => items.map(({ name }) => name))).not.toContain('No aerator');
  });
  it('show the one misread as what keeps 2 bar open', () => {
    const found = overLevels(document, flow?.id as string, factorId);
    const [group] = found?.classes ?? [];
    expect(found && group && answerOverLevels(found, group).sentence).toBe(
      'Korre Eco is first at 1 bar and 3 bar; first place is not settled at 2 bar. One reading of Korre Eco stands out.',
    );
  });
  it('show that Halvard and Jettik change places, as far as three rounds can', () => {
    const found = overLevels(document, fill?.id as string, factorId);
    const [group] = found?.classes ?? [];
    const notes = found && group ? answerOverLevels(found, group).notes : [];
    expect(notes.map(({ title }) => title)).toContain('Halvard and Jettik may change places');
    expect(group?.test?.interaction?.p).toBeLessThan(1e-6);
  });
});
