import { describe, expect, it } from 'vitest';
import deskFans from '../../demo/desk-fans.json' with { type: 'json' };
import type { Claim, Factor, Level } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { seededRandom } from '../random/seeded.ts';
import { DEFAULT_RULE } from '../screening/rule.ts';
import { levelledStudy, testId, testStudy } from '../testing-study.ts';
import { inspectStudy } from '../analysis/inspect-study.ts';
import { checkClaims } from './check.ts';
import { noticedIn } from './noticed.ts';
import { claimWords } from '../plan/claim-words.ts';

type Planned = ReturnType<typeof testStudy>;

function claim({ document, measurand }: Planned, change: Partial<Claim>): Claim {
  const { id: studyId, createdAt, updatedAt } = document.study;
  const made: Claim = {
    id: testId(),
    studyId,
    version: 1,
    createdAt,
    updatedAt,
    kind: 'figure',
    measurandId: measurand.id,
    order: [],
    itemId: null,
    value: null,
    unit: '',
    factorId: null,
    attribute: '',
    stepSize: null,
    source: '',
    ...change,
  };
  document.claims.push(made);
  return made;
}

const check = ({ document, measurand }: Planned) => checkClaims(document, measurand.id);

/** Three items whose readings lie far apart: 10, 20 and 30 g. */
function apart(): Planned {
  const planned = testStudy(['Ama', 'Bel', 'Cor']);
  for (const round of [1, 2, 3, 4]) {
    [10, 20, 30].forEach((mean, item) =>
      planned.read(item, round, String(mean + 0.1 * ((round * (item + 2)) % 3))),
    );
  }
  return planned;
}

describe('an expected order', () => {
  const ids = (planned: Planned, places: readonly number[]) =>
    places.map((i) => planned.items[i]?.id as string);
  it('holds when every pair is told apart that way', () => {
    const planned = apart();
    claim(planned, { kind: 'order', order: ids(planned, [2, 1, 0]) });
    expect(check(planned)[0]).toMatchObject({ outcome: 'holds' });
    expect(check(planned)[0]?.sentence).toContain('Cor > Bel > Ama (rank correlation 1.00)');
  });
  it('is contradicted by one pair the other way round, and says which', () => {
    const planned = apart();
    claim(planned, { kind: 'order', order: ids(planned, [2, 0, 1]) });
    const [checked] = check(planned);
    expect(checked?.outcome).toBe('contradicted');
    expect(checked?.sentence).toContain('2 as claimed, 1 the other way round, 0 not told apart');
    expect(checked?.sentence).toContain('Bel is ahead of Ama');
  });
  it('is pointed out where it is contradicted, with what was found', () => {
    const planned = apart();
    claim(planned, { kind: 'order', order: ids(planned, [2, 1, 0]) });
    expect(noticedIn(planned.document)).toEqual(inspectStudy(planned.document));
    const wrong = claim(planned, { kind: 'order', order: ids(planned, [2, 0, 1]), source: 'the maker' });
    const [found] = noticedIn(planned.document).filter(({ kind }) => kind === 'order against the claim');
    expect(found?.id).toBe(`against claim/${wrong.id}`);
    expect(found?.message).toContain(
      'The expected order in Pull, said by the maker, is contradicted: Found by mean',
    );
    expect(found?.message).toContain('Bel is ahead of Ama');
  });
  it('of errors goes by their size, whatever their sign', () => {
    const planned = testStudy(['Ama', 'Bel']);
    Object.assign(planned.measurand, {
      form: 'against-reference',
      unit: '°C',
      direction: { kind: 'nearest', target: 0 },
    });
    const take = (item: number, round: number, indicated: number) => {
      planned.read(item, round, '').parts = [
        { name: 'reference', text: '20', number: 20 },
        { name: 'indicated', text: String(indicated), number: indicated },
      ];
    };
    for (const round of [1, 2, 3, 4]) {
      take(0, round, 19.5 + 0.05 * (round % 2));
      take(1, round, 22 + 0.05 * (round % 2));
    }
    claim(planned, { kind: 'order', order: ids(planned, [0, 1]) });
    claim(planned, { kind: 'order', order: ids(planned, [1, 0]) });
    expect(check(planned).map(({ outcome }) => outcome)).toEqual(['holds', 'contradicted']);
  });
  it('turns with the direction', () => {
    const planned = apart();
    planned.measurand.direction = { kind: 'lower', target: null };
    claim(planned, { kind: 'order', order: ids(planned, [0, 1, 2]) });
    expect(check(planned)[0]?.outcome).toBe('holds');
  });
});

describe('a maker’s figure', () => {
  it('is turned into our unit and held against the interval', () => {
    const planned = apart();
    const [ama] = planned.items;
    planned.measurand.margin = { kind: 'absolute', value: 1 };
    claim(planned, { itemId: ama?.id as string, value: 0.01, unit: 'kg' });
    claim(planned, { itemId: ama?.id as string, value: 14, unit: 'g' });
    const [right, wrong] = check(planned);
    expect(right).toMatchObject({ outcome: 'holds' });
    expect(wrong).toMatchObject({ outcome: 'contradicted' });
    expect(wrong?.sentence).toMatch(/the figure 14\.00.g: −3\.88.g apart \(−27\.7.%\)/);
  });
  it('is not contradicted where our instrument may be off by as much', () => {
    const planned = apart();
    planned.measurand.instrument.accuracyConstant = 5;
    claim(planned, { itemId: planned.items[0]?.id as string, value: 14, unit: 'g' });
    expect(check(planned)[0]?.outcome).toBe('not contradicted');
  });
  it('is held against a single reading by what the instrument may be off by alone', () => {
    const planned = testStudy(['Ama', 'Bel']);
    planned.read(0, 1, '10');
    claim(planned, { itemId: planned.items[0]?.id as string, value: 14, unit: 'g' });
    expect(check(planned)[0]?.outcome).toBe('no readings');
    planned.measurand.instrument.accuracyConstant = 1;
    expect(check(planned)[0]?.outcome).toBe('contradicted');
    planned.measurand.instrument.accuracyConstant = 5;
    expect(check(planned)[0]?.outcome).toBe('not contradicted');
  });
  it('is contradicted in at most one of twenty studies where all that were claimed are right', () => {
    const random = seededRandom(77);
    const names = ['Ama', 'Bel', 'Cor', 'Dun', 'Eli', 'Fay'];
    const studies = 300;
    let contradicted = 0;
    for (let study = 0; study < studies; study += 1) {
      const planned = testStudy(names);
      planned.measurand.rule = DEFAULT_RULE;
      names.forEach((_, item) => {
        for (let round = 1; round <= 5; round += 1)
          planned.read(item, round, (50 + random.normal()).toFixed(3));
        claim(planned, { itemId: planned.items[item]?.id as string, value: 50, unit: 'g' });
      });
      if (check(planned).some(({ outcome }) => outcome === 'contradicted')) contradicted += 1;
    }
    // Each at 5 % would give 26 % of studies; three standard errors of 5 % in 300 are 3.8 %.
    expect(contradicted / studies).toBeLessThan(0.088);
    expect(contradicted).toBeGreaterThan(0);
  });
  it('shares the level with the other figures of the measurand, and says so', () => {
    const planned = apart();
    const figure = { itemId: planned.items[0]?.id as string, value: 10, unit: 'g' };
    claim(planned, figure);
    expect(check(planned)[0]?.sentence).toMatch(
      /Ours is 10\.13.g ± 0\.15.g, [^.]+\.00.g: 0\.13.g apart \(1\.3.%\)\.$/,
    );
    claim(planned, { ...figure, itemId: planned.items[1]?.id as string, value: 20 });
    // By the closed form of t with 3 degrees of freedom: 4.156 standard errors in place of 3.182.
    expect(check(planned)[0]?.sentence).toMatch(
      /Ours is 10\.13.g ± 0\.20.g, .* The interval is at 95.% for all 2 checks together\.$/,
    );
  });
  it('of an item without readings is not checked', () => {
    const planned = testStudy(['Ama', 'Bel']);
    claim(planned, { itemId: planned.items[0]?.id as string, value: 14, unit: 'g' });
    expect(check(planned)[0]?.outcome).toBe('no readings');
  });
});

describe('a rule of thumb', () => {
  it('along an attribute is held against the line through the items', () => {
    const planned = apart();
    planned.items.forEach(
      (item, i) => (item.attributes = [{ name: 'Mass', value: 100 * (i + 1), unit: 'g' }]),
    );
    claim(planned, { kind: 'step', attribute: 'Mass', stepSize: 100, value: 10 });
    claim(planned, { kind: 'step', attribute: 'Mass', stepSize: 100, value: 20 });
    const [right, wrong] = check(planned);
    expect(right?.outcome).toBe('not contradicted');
    expect(right?.sentence).toContain('From 3 items only');
    expect(wrong?.outcome).toBe('contradicted');
  });
  it('along a factor looks at each item on its own', () => {
    const planned = testStudy(['Ama', 'Bel'], { rounds: 2 });
    const { document } = planned;
    const { id: studyId, createdAt, updatedAt } = document.study;
    const stamp = { studyId, version: 1, createdAt, updatedAt };
    const factor: Factor = {
      id: testId(),
      ...stamp,
      name: 'Pressure',
      kind: 'numeric',
      unit: 'bar',
      irreversible: false,
      position: 1,
    };
    document.factors.push(factor);
    const levels = [1, 2, 3].map((value): Level => ({
      id: testId(),
      ...stamp,
      factorId: factor.id,
      name: `${String(value)} bar`,
      value,
      baseline: false,
      position: value,
    }));
    document.levels.push(...levels);
    for (const [i, level] of levels.entries()) {
      for (const item of [0, 1]) {
        // Ama starts at 5 and Bel at 50; both gain about 3 g a bar.
        const reading = planned.read(
          item,
          1,
          String((item === 0 ? 5 : 50) + 3 * i + 0.05 * ((i + item) % 2)),
        );
        reading.levels = [{ factorId: factor.id, levelId: level.id }];
      }
    }
    claim(planned, { kind: 'step', factorId: factor.id, stepSize: 1, value: 3 });
    claim(planned, { kind: 'step', factorId: factor.id, stepSize: 1, value: 5 });
    const [right, wrong] = check(planned);
    expect(right?.outcome).toBe('not contradicted');
    expect(right?.sentence).toContain('From 6 means of 2 items');
    expect(wrong?.outcome).toBe('contradicted');
  });
});

describe('what a claim cannot be checked by', () => {
  const ids = ({ items }: Planned) => items.map(({ id }) => id);
  it('is an order of what is not ranked, or of one item with readings', () => {
    const planned = apart();
    claim(planned, { kind: 'order', order: ids(planned) });
    planned.measurand.direction = { kind: 'unranked', target: null };
    expect(check(planned)[0]).toMatchObject({
      outcome: 'no readings',
      sentence: expect.stringMatching(/is not ranked/) as string,
    });
    const alone = testStudy(['Ama', 'Bel']);
    alone.measurand.direction = { kind: 'higher', target: null };
    for (const round of [1, 2]) alone.read(0, round, String(round));
    claim(alone, { kind: 'order', order: ids(alone) });
    expect(check(alone)[0]?.sentence).toBe('There are too few readings to check it by.');
  });
  it('is who is not in it: others take no part', () => {
    const planned = apart();
    const [ama, bel] = ids(planned) as [string, string];
    claim(planned, { kind: 'order', order: [bel, ama] });
    expect(check(planned)[0]).toMatchObject({ outcome: 'holds' });
    expect(check(planned)[0]?.sentence).toMatch(
      /^Found by mean: Bel > Ama .*Of 1 pair, 1 as claimed, 0 the other way/,
    );
  });
  it('is a factor or an attribute that draws no line', () => {
    const planned = apart();
    claim(planned, { kind: 'step', factorId: testId(), stepSize: 1, value: 3 });
    claim(planned, { kind: 'step', attribute: 'Mass', stepSize: 1, value: 3 });
    expect(check(planned).map(({ outcome }) => outcome)).toEqual(['no readings', 'no readings']);
  });
});

describe('a claim in more detail', () => {
  it('names up to three pairs that are the other way round', () => {
    const planned = testStudy(['Ama', 'Bel', 'Cor', 'Dun']);
    planned.measurand.direction = { kind: 'higher', target: null };
    for (const round of [1, 2, 3, 4])
      [0, 1, 2, 3].forEach((item) =>
        planned.read(item, round, String(10 * item + 0.1 * ((round * (item + 2)) % 3))),
      );
    const [ama, bel, cor, dun] = planned.items.map(({ id }) => id) as [string, string, string, string];
    claim(planned, { kind: 'order', order: [cor, dun, bel, ama] });
    claim(planned, { kind: 'order', order: [ama, bel, cor, dun] });
    const [single, all] = check(planned);
    expect(single?.sentence).toMatch(
      /5 as claimed, 1 the other way round, 0 not told apart\. Dun is ahead of Cor\.$/,
    );
    expect(all?.sentence).toMatch(/0 as claimed, 6 the other way round.* and others\.$/);
    // Three are all named.
    claim(planned, { kind: 'order', order: [dun, ama, bel, cor] });
    expect(check(planned)[2]?.sentence).toMatch(
      / 3 the other way round, 0 not told apart\. (?:Ama|Bel|Cor|Dun) is [^.]* and [^.]* is ahead of (?:Ama|Bel|Cor|Dun)\.$/,
    );
    expect(check(planned)[2]?.sentence).not.toContain('and others');
  });
  it('holds a figure against a margin in per cent, and one without unit as it is', () => {
    const planned = apart();
    planned.measurand.margin = { kind: 'percent', value: 5 };
    claim(planned, { itemId: planned.items[1]?.id as string, value: 20, unit: '' });
    claim(planned, { itemId: planned.items[1]?.id as string, value: 0.02, unit: 'kg' });
    claim(planned, { itemId: planned.items[1]?.id as string, value: 20, unit: 'dB' });
    expect(check(planned).map(({ outcome }) => outcome)).toEqual(['holds', 'holds', 'no readings']);
    planned.measurand.margin = { kind: 'percent', value: 0.1 };
    expect(check(planned)[0]?.outcome).toBe('not contradicted');
  });
  it('is over all levels what it is at each, and not contradicted where they differ in that', () => {
    // At the second level the readings scatter too much to settle it.
    const made = levelledStudy(
      { items: 2, levels: 2, rounds: 4 },
      ({ item, level, round }) => 10 + item + (level === 0 ? 0.05 : 1) * (((round * (item + 2)) % 3) - 1),
    );
    claim(made, { itemId: made.items[0]?.id as string, value: 10, unit: 'g' });
    const { id } = made.measurand;
    const over = (margin: number) => {
      made.measurand.margin = { kind: 'absolute', value: margin };
      return [undefined, ...made.levels.map((level) => level.id)].map(
        (key) => checkClaims({ ...made.document }, id, key)[0]?.outcome,
      );
    };
    expect(over(30)).toEqual(['holds', 'holds', 'holds']);
    expect(over(0.5)).toEqual(['not contradicted', 'holds', 'not contradicted']);
  });
  it('counts outcomes where there are more settings than can be told one by one', () => {
    const figures = [10, 10, 10, 10, 20];
    const made = levelledStudy(
      { items: 2, levels: 5, rounds: 4 },
      ({ item, level, round }) =>
        (figures[level] as number) + item + 0.05 * ((round * (item + 2) + level) % 3),
    );
    claim(made, { itemId: made.items[0]?.id as string, value: 10, unit: 'g' });
    made.measurand.margin = { kind: 'absolute', value: 1 };
    const { id } = made.measurand;
    const [over] = checkClaims(made.document, id);
    expect(over).toMatchObject({
      outcome: 'depends on the level',
      sentence: 'Holds at 1 bar, 2 bar, 3 bar and 4 bar. Contradicted at 5 bar.',
    });
    const keys = made.levels.map((level) => level.id);
    expect(checkClaims(made.document, id, keys[0])[0]?.outcome).toBe('holds');
    expect(checkClaims(made.document, id, keys[4])[0]).toMatchObject({ outcome: 'contradicted' });
    made.document.claims = [];
    claim(made, { itemId: made.items[0]?.id as string, value: 40, unit: 'g' });
    expect(checkClaims(made.document, id)[0]?.outcome).toBe('contradicted');
  });
  it('says of eight items and more only how many they are', () => {
    const names = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'];
    const planned = testStudy(names);
    planned.items.forEach((item, i) => (item.attributes = [{ name: 'Mass', value: i, unit: 'g' }]));
    for (const round of [1, 2])
      names.forEach((_, item) => planned.read(item, round, String(10 * item + ((round * (item + 2)) % 3))));
    claim(planned, { kind: 'step', attribute: 'Mass', stepSize: 1, value: 10 });
    expect(check(planned)[0]?.sentence).toMatch(/ From 8 items\.$/);
    expect(check(planned)[0]?.outcome).toBe('not contradicted');
  });
});

describe('the claims of the desk fans', () => {
  const document = deskFans as unknown as StudyDocument;
  it('are told in one line each', () => {
    expect(document.claims.map((claimed) => claimWords(claimed, document))).toEqual([
      'Air speed at one metre: Calvessa 2 > Fenwhir > Brunnow > Dappelin > Merrowick > Quillop S',
      'Air speed at one metre: Calvessa 2 has 12.6\u202fkm/h',
      'Air speed at one metre: Quillop S has 3.1\u202fm/s',
      'Air speed at one metre: each 10\u202fEUR of Price adds 0.2\u202fm/s',
    ]);
  });
  it('come out as planted: the box is right within our meter, the data sheet is not', () => {
    const outcomes = checkClaims(document, document.measurands[0]?.id as string);
    expect(outcomes.map(({ outcome }) => outcome)).toEqual([
      'not contradicted',
      'not contradicted',
      'contradicted',
      'not contradicted',
    ]);
  });
});
