import { describe, expect, it } from 'vitest';
import { ALPHA } from '../model/alpha.ts';
import type { Scoring } from '../model/study.ts';
import { SCORING_SCHOOLS } from '../model/words.ts';
import { seededRandom } from '../random/seeded.ts';
import { scored } from '../rank/scores.ts';
import { answerScores, flipSentence, scoreNotes, scoringSentence } from '../report/scores.ts';
import { overall } from '../report/overall.ts';
import { DEFAULT_RULE } from '../screening/rule.ts';
import { severalStudy, testId, withLevels } from '../testing-study.ts';
import { type ClassAnalysis, analyseStudy } from './analyse-study.ts';
import { associations } from './against.ts';
import { differencesFrom } from './differences.ts';
import { attributeFigures, perUnit, timesFigure } from './item-figures.ts';
import { scoreBasis } from './score-basis.ts';
import { scoreFlips } from './score-flips.ts';
import { classScores, classVerdicts } from './scores.ts';

const SPAN: Scoring = { school: 'span', missing: 'score-the-rest', weights: [] };

/** Three items, two measurands: the first item leads by one, the second by the other. */
function twoWays(
  change: (value: number, cell: { item: number; measurand: number; round: number }) => number | undefined = (
    value,
  ) => value,
) {
  const truth = [
    [30, 20, 10],
    [10, 30, 20],
  ];
  return severalStudy({ items: 3, measurands: 2, rounds: 4 }, (cell) =>
    change(
      (truth[cell.measurand]?.[cell.item] as number) +
        ([0, 0.2, -0.2, 0.1][(cell.round + cell.item) % 4] as number),
      cell,
    ),
  );
}
const classOf = (document: Parameters<typeof scoreBasis>[0], options = {}) => {
  const basis = scoreBasis(document, options);
  return { basis, group: basis.classes[0] as (typeof basis.classes)[number] };
};
const weigh = (measurands: { id: string }[], weights: number[]): Scoring => ({
  ...SPAN,
  weights: measurands.map(({ id }, i) => ({ measurandId: id, weight: weights[i] as number })),
});

describe('what scores are made of', () => {
  it('is every ranked measurand, and no other', () => {
    const { document, measurands } = twoWays();
    expect(classOf(document).group.measurands.map(({ name }) => name)).toEqual(['Pull', 'Measurand 2']);
    (measurands[1] as (typeof measurands)[number]).direction = { kind: 'unranked', target: null };
    expect(classOf({ ...document }).group.measurands.map(({ name }) => name)).toEqual(['Pull']);
  });
  it('is what is measured on an item of the class', () => {
    const { document, items, measurands } = twoWays();
    const [first, second, third] = items as [
      (typeof items)[number],
      (typeof items)[number],
      (typeof items)[number],
    ];
    third.class = 'Large';
    const [, other] = measurands as [(typeof measurands)[number], (typeof measurands)[number]];
    other.onItems = [first.id];
    document.readings = document.readings.filter(
      ({ itemId, measurandId }) => itemId === first.id || measurandId !== other.id,
    );
    const { classes } = scoreBasis(document);
    expect(classes.map((of) => of.measurands.map(({ name }) => name))).toEqual([
      ['Pull', 'Measurand 2'],
      ['Pull'],
    ]);
    expect(classes.map((of) => of.items.map(({ name }) => name))).toEqual([
      [first.name, second.name],
      [third.name],
    ]);
    // What is missing where it was to be measured keeps an item from its score; what was not, does not.
    const scores = classes.map((of) => classScores(of, { ...SPAN, missing: 'no-score' }).scores);
    expect(scores).toEqual([[1, null], [1]]);
  });
  it('is what has a weight', () => {
    const { document, measurands } = twoWays();
    const { group } = classOf(document);
    const weighedBy = (weights: number[]) =>
      classScores(group, weigh(measurands, weights)).weighed.map(({ name }) => name);
    expect(weighedBy([1, 0])).toEqual(['Pull']);
    expect(weighedBy([0, 1])).toEqual(['Measurand 2']);
    expect(weighedBy([0.999, 0.001])).toEqual(['Pull', 'Measurand 2']);
  });
  it('has ratios where nothing lies at zero or below it, and a range may begin there', () => {
    const ratios = (least: number, low: number | null = null) => {
      const { document, items, measurand } = twoWays((value, { item }) => (item === 2 ? least : value));
      if (low !== null) {
        const { version, createdAt, updatedAt } = document.study;
        document.readings = document.readings.filter(({ itemId }) => itemId !== items[0]?.id);
        document.figures.push({
          ...{ id: testId(), studyId: document.study.id, version, createdAt, updatedAt, levels: [] },
          ...{ itemId: items[0]?.id ?? '', measurandId: measurand.id, kind: 'range', source: '' },
          ...{ n: null, mean: null, sd: null, low, high: 30 },
        });
      }
      return classOf(document).group.criteria[0]?.hasRatios;
    };
    expect([ratios(10), ratios(0), ratios(-1), ratios(10, 0), ratios(10, -1)]).toEqual([
      ...[true, false, false],
      ...[true, false],
    ]);
  });
  it('keeps classes and controls apart', () => {
    const { document, items } = twoWays();
    (items[1] as (typeof items)[number]).class = 'Large';
    (items[2] as (typeof items)[number]).role = 'control';
    const { classes } = scoreBasis(document);
    expect(classes.map(({ name, items: members }) => [name, members.length])).toEqual([
      ['', 1],
      ['Large', 1],
    ]);
    expect(answerScores(classScores(classes[0] as never, SPAN), undefined)).toBe(
      'Item 1 is the only item with a score.',
    );
  });
  it('is one setting, or all of them, which then share the chance of an error', () => {
    const { document } = twoWays();
    const { factor, levels } = withLevels(document, 2);
    document.readings.forEach((reading, i) => {
      reading.levels = [{ factorId: factor.id, levelId: levels[i % 2]?.id as string }];
    });
    const all = classOf(document);
    const [first] = all.group.criteria;
    const single = classOf(document, { settingKey: first?.settingKey });
    expect(single.group.criteria.length).toBe(all.group.criteria.length / 2);
    expect(all.basis.alpha).toBeLessThan(0.05 / 2);
    expect(single.basis.alpha).toBe(all.basis.alpha);
    const scores = classScores(all.group, SPAN);
    expect(scores.weights.reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 12);
    // What the measurands give, all settings together, is the score.
    scores.given.forEach((given, item) => {
      const sum = given.reduce<number>((whole, part) => whole + (part ?? 0), 0);
      expect(sum).toBeCloseTo(scores.scores[item] as number, 12);
    });
  });
  it('knows where ratios mean nothing', () => {
    const { document, measurands } = twoWays();
    const [pull] = measurands as [(typeof measurands)[number]];
    const hasRatios = () =>
      classOf({ ...document, measurands: [...measurands] }).group.criteria[0]?.hasRatios;
    expect(hasRatios()).toBe(true);
    pull.unit = '°C';
    expect(hasRatios()).toBe(false);
    pull.unit = 'g';
    pull.direction = { kind: 'nearest', target: 20 };
    expect(hasRatios()).toBe(false);
  });
});

describe('scores of a study', () => {
  it('follow the weights, and the answer names who is first', () => {
    const { document, measurands } = twoWays();
    const { basis, group } = classOf(document);
    const said = (weights: number[]) => {
      const scoring = weigh(measurands, weights);
      const scores = classScores(group, scoring);
      return [answerScores(scores, classVerdicts(scores, scoring, basis)), scoringSentence(scores, scoring)];
    };
    expect(said([0.8, 0.2])).toEqual([
      'Item 1 is first over all.',
      'Span: Pull 80\u202f% and Measurand 2 20\u202f%.',
    ]);
    expect(said([0.2, 0.8])[0]).toBe('Item 2 is first over all.');
    expect(said([1, 0])[1]).toBe('Span: Pull 100\u202f%.');
    expect(said([0, 0])).toEqual(['There is no score.', 'Span: no weights.']);
  });
  it('say who lacks what, and what is made of that', () => {
    const { document, measurands } = twoWays((value, { item, measurand }) =>
      item === 2 && measurand === 1 ? undefined : value,
    );
    const { basis, group } = classOf(document);
    const scoring = weigh(measurands, [0.5, 0.5]);
    const scores = classScores(group, scoring);
    expect(scores.missing).toEqual([[], [], ['Measurand 2']]);
    expect(scoreNotes(scores, scoring)[0]).toMatchObject({ title: 'Item 3 has no Measurand 2' });
    expect(classVerdicts(scores, scoring, basis).draws).toBe(10000);
    const strict = { ...scoring, missing: 'no-score' } as const;
    expect(classScores(group, strict).scores[2]).toBeNull();
    expect(classVerdicts(classScores(group, strict), strict, basis).ranking).toHaveLength(2);
    expect(scoreNotes(classScores(group, strict), strict)[0]?.text).toBe(
      'It is not scored, as the study says.',
    );
  });
  it('take a mean from elsewhere as it is, and a range by what it surely allows', () => {
    const { document, items, measurands } = twoWays((value, { item, measurand }) =>
      item === 2 && measurand === 1 ? undefined : value,
    );
    const { id: studyId, version, createdAt, updatedAt } = document.study;
    const known = (change: object) => ({
      ...document,
      figures: [
        {
          ...{ id: testId(), studyId, version, createdAt, updatedAt, levels: [], source: '' },
          ...{ itemId: items[2]?.id ?? '', measurandId: measurands[1]?.id ?? '', kind: 'summary' as const },
          ...{ n: 4, mean: 60, sd: 0.2, low: null, high: null, ...change },
        },
      ],
    });
    const range = (low: number | null, high: number | null) =>
      known({ kind: 'range', n: null, mean: null, sd: null, low, high });
    const told = (changed: typeof document, weights: number[]) => {
      const scoring = weigh(measurands, weights);
      const { basis, group } = classOf(changed);
      const scores = classScores(group, scoring);
      return {
        scores,
        notes: scoreNotes(scores, scoring),
        verdicts: classVerdicts(scores, scoring, basis),
        answer: answerScores(scores, classVerdicts(scores, scoring, basis)),
      };
    };
    const summary = told(known({}), [0.2, 0.8]);
    expect(summary.notes).toEqual([]);
    expect(summary.scores.isRanged).toBe(false);
    expect(summary.verdicts.ranking[0]).toMatchObject({ index: 2, placeLow: 1, placeHigh: 1 });
    expect(summary.verdicts.ranking[0]?.shares).not.toBeNull();

    // Above all others by the second measurand, wherever it is: its own part is whole, those of the others are not.
    const above = told(range(60, null), [0.2, 0.8]);
    expect(above.notes).toMatchObject([
      { tone: 'plain', text: expect.stringContaining('Measurand 2 of Item 3 (> 60') as string },
    ]);
    expect(above.scores.isRanged).toBe(true);
    expect(above.scores.reach.given[2]?.[1]).toEqual([0.8, 0.8]);
    const [low, high] = above.scores.reach.given[1]?.[1] as [number, number];
    expect(low).toBeLessThan(0.001);
    expect(high).toBeGreaterThan(0.3);
    expect(above.verdicts.ranking[0]).toMatchObject({ index: 2, placeLow: 1, placeHigh: 1, shares: null });
    expect(above.answer).toBe('Item 3 is first over all.');

    // From below the others to above them: it may be first or last.
    const wide = told(range(0, 100), [0.2, 0.8]);
    expect(wide.verdicts.ranking.find(({ index }) => index === 2)).toMatchObject({
      ...{ placeLow: 1, placeHigh: 3 },
    });
    expect(wide.answer).toMatch(/has the best score by the middles of the ranges\.$/);
    // Of no weight, a range says nothing.
    const weightless = told(range(0, 100), [1, 0]);
    expect(weightless.scores.isRanged).toBe(false);
    expect(weightless.notes).toEqual([]);
  });
  it('say that single readings have no spread, and call nobody ahead', () => {
    const { document, measurands } = twoWays((value, { item, round }) =>
      item === 0 && round > 1 ? undefined : value,
    );
    const { basis, group } = classOf(document);
    const scoring = weigh(measurands, [0.5, 0.5]);
    const scores = classScores(group, scoring);
    const verdicts = classVerdicts(scores, scoring, basis);
    expect(verdicts.draws).toBe(0);
    expect(answerScores(scores, verdicts)).toMatch(/has the best score; whether by chance is not known\.$/);
    expect(scoreNotes(scores, scoring).at(-1)?.text).toContain('Item 1 has a single reading of Pull');
  });
  it('reach the report once weights are said, with what would flip them', () => {
    const { document, measurands } = twoWays();
    expect(overall(document, { soFar: false, pairAlpha: ALPHA })).toEqual([]);
    document.study.scoring = weigh(measurands, [0.8, 0.2]);
    const [lead, text, table] = overall({ ...document }, { soFar: false, pairAlpha: ALPHA });
    expect(lead).toEqual({ kind: 'lead', text: 'Item 1 is first over all.' });
    expect(text).toMatchObject({
      kind: 'text',
      text: expect.stringContaining('Item 2 leads once') as string,
    });
    expect(
      table?.kind === 'table' && table.table.rows.map(([place, item]) => [place?.text, item?.text]),
    ).toEqual([
      ['1', 'Item 1'],
      ['2', 'Item 2'],
      ['3', 'Item 3'],
    ]);
  });
});

describe('what would change who is first', () => {
  it('is the nearest weight, and other ways of scoring', () => {
    const { document, measurands } = twoWays();
    // By span 1·w + 0 against 0.5·w + (1 − w): alike near w = 2/3.
    const flips = scoreFlips(document, { className: '' }, weigh(measurands, [0.8, 0.2]));
    expect(flips?.leader).toBe(0);
    expect(flips?.weights[0]?.down?.share).toBeCloseTo(2 / 3, 1);
    expect(flips?.weights[0]?.down?.leader).toBe(1);
    expect(flips?.schools.map(({ school }) => school)).toEqual(['ratio', 'standard', 'points']);
    expect(flips?.counting).toBe(24);
    expect(flips?.readings).toEqual([]);
    expect(flipSentence({ basis: classOf(document).group }, flips as never)).toMatch(
      /^Item 2 leads once Pull weighs 66\.6\u202f% instead of 80\u202f%\./,
    );
  });
  it('is one reading, where the first place hangs on it', () => {
    const { document, measurands } = twoWays((value, { item, measurand, round }) =>
      // The third item is first by a single wild reading.
      measurand === 0 && item === 2 && round === 3 ? 200 : value,
    );
    const scoring = weigh(measurands, [1, 0]);
    const flips = scoreFlips(document, { className: '' }, scoring);
    expect(flips?.leader).toBe(2);
    // What has no weight is not tried.
    expect(flips?.counting).toBe(12);
    expect(flips?.readings).toHaveLength(1);
    expect(flips?.readings[0]).toMatchObject({ round: 3, value: 200, leader: 0 });
    const left = document.readings.find(({ id }) => id === flips?.readings[0]?.readingId);
    expect(left?.itemId).toBe(document.items[2]?.id);
    // A rule that leaves it out has another first.
    expect(flips?.rules.filter(({ leader }) => leader === 0).map(({ rule }) => rule)).toContain(
      'drop-extremes',
    );
  });
  it('agrees with leaving each reading out by hand', () => {
    const random = seededRandom(11);
    for (let study = 0; study < 12; study += 1) {
      const made = severalStudy({ items: 3, measurands: 2, rounds: 3 }, ({ round, item }) =>
        round === 2 && item === 1 && study % 3 === 0 ? undefined : 10 + 3 * random.normal(),
      );
      const scoring = weigh(made.measurands, [0.6, 0.4]);
      const found = scoreFlips(made.document, { className: '' }, scoring);
      const decisive = made.document.readings.filter(({ id }) => {
        const document = structuredClone(made.document);
        document.decisions.push({
          ...{ id: testId(), studyId: document.study.id, version: 1, createdAt: '', updatedAt: '' },
          ...{ action: 'leave-out', readingId: id, sessionId: null, run: null, reason: '', decidedAt: '' },
        });
        return classScores(classOf(document).group, scoring).order[0] !== found?.leader;
      });
      expect(found?.readings.map(({ readingId }) => readingId).sort()).toEqual(
        decisive.map(({ id }) => id).sort(),
      );
    }
  });
  it('of one measurand is a rule or a reading', () => {
    const { document, measurand } = twoWays();
    const flips = scoreFlips(document, { className: '', measurandId: measurand.id }, SPAN);
    expect(flips).toMatchObject({ leader: 0, weights: [], schools: [], readings: [] });
    expect(flipSentence({ basis: classOf(document).group }, flips as never)).toBe(
      'Item 1 leads whatever is tried: no other rule for bad readings and no single reading takes it away.',
    );
  });
  it('is nothing where nobody is first', () => {
    const { document, measurands } = twoWays(() => undefined);
    expect(scoreFlips(document, { className: '' }, SPAN)).toBeNull();
    expect(scoreFlips(twoWays().document, { className: 'none such' }, SPAN)).toBeNull();
    expect(
      scoreFlips(twoWays().document, { className: '' }, weigh(measurands, [0, 0]))?.leader,
    ).toBeDefined();
  });
});

// 5 % are promised; three standard errors of the simulation are left to chance.
describe('who is called ahead by scores', () => {
  it.each([
    ['equal items', 3, 2, 4, () => 0],
    [
      'two that make up for each other',
      4,
      2,
      5,
      (item: number, measurand: number) =>
        item < 2 ? ((item + measurand) % 2 === 0 ? 1.5 : -1.5) : item === 2 ? 4 : -4,
    ],
  ] as const)(
    'is ahead by what the items are, in all but one study of twenty: %s',
    (_what, items, count, rounds, truthOf) => {
      const random = seededRandom(21);
      const studies = 60;
      const wrong = new Map(SCORING_SCHOOLS.map((school) => [school, 0]));
      for (let study = 0; study < studies; study += 1) {
        const drift = Array.from({ length: rounds }, () => 4 * random.normal());
        const made = severalStudy(
          { items, measurands: count, rounds },
          ({ item, measurand, round }) =>
            50 + truthOf(item, measurand) + (drift[round - 1] as number) + random.normal(),
        );
        for (const measurand of made.measurands) measurand.rule = { ...DEFAULT_RULE };
        const { basis, group } = classOf(made.document);
        for (const school of SCORING_SCHOOLS) {
          const scoring: Scoring = { ...SPAN, school };
          const scores = classScores(group, scoring);
          const truth = scored(
            group.criteria.map((criterion, measurand) => ({
              ...criterion,
              values: criterion.values.map((_, item) => 50 + truthOf(item, measurand)),
            })),
            scores.weights,
            scoring,
          ).scores as number[];
          const false_ = classVerdicts(scores, scoring, basis).pairs.some(({ a, b, verdict }) => {
            const lead = (truth[a] as number) - (truth[b] as number);
            return (verdict === 'a ahead' && lead < 1e-9) || (verdict === 'b ahead' && lead > -1e-9);
          });
          if (false_) wrong.set(school, (wrong.get(school) ?? 0) + 1);
        }
      }
      for (const count_ of wrong.values()) expect(count_ / studies).toBeLessThan(0.05 + 0.084);
    },
  );
});

describe('what results go with', () => {
  const attributed = (rows: (Record<string, number | null> | undefined)[]) => {
    const { items } = severalStudy({ items: rows.length, measurands: 1, rounds: 1 }, () => undefined);
    items.forEach((item, i) => {
      item.attributes = Object.entries(rows[i] ?? {}).map(([name, value]) => ({
        name,
        value,
        unit: name === 'Mass' ? 'kg' : 'EUR',
      }));
    });
    return items;
  };
  it('is every attribute that two items have, and one for each unit of another', () => {
    const items = attributed([{ Price: 10, Mass: 2 }, { Price: 30, Mass: 0 }, { Price: null }, { Only: 3 }]);
    const [price, mass] = attributeFigures(items);
    expect(attributeFigures(items).map(({ name }) => name)).toEqual(['Price', 'Mass']);
    expect(perUnit(price as never, mass as never)).toMatchObject({
      name: 'Price per mass',
      unit: 'EUR/kg',
      // None where the other is 0 or missing.
      values: [5, null, null, null],
    });
    expect(timesFigure(price as never, mass as never)).toMatchObject({
      ...{ name: 'Price times mass', unit: 'EUR·kg', values: [20, 0, null, null] },
    });
  });
  it('does not mix units', () => {
    const items = attributed([{ Price: 10 }, { Price: 30 }, { Price: 900 }]);
    (items[2]?.attributes[0] as { unit: string }).unit = 'ct';
    expect(attributeFigures(items)[0]?.values).toEqual([10, 30, null]);
  });
  it('is said with its interval, corrected for what was tried, and with who carries it', () => {
    // R 4.2: cor.test(c(1, 2, 3, 4, 20), c(2, 1, 2, 1, 9)): r = 0.9698050006, p = 0.006269885.
    const items = attributed(
      [1, 2, 3, 4, 20].map((Price, i) => ({ Price, Mass: [3, 1, 4, 1, 5][i] as number })),
    );
    const found = associations(items, [2, 1, 2, 1, 9]);
    const price = found.find(({ figure }) => figure.name === 'Price');
    expect(price?.correlation.r).toBeCloseTo(0.9698050006, 9);
    // Both attributes, their ratio and their product. That product goes with it more closely: second of four by Holm.
    expect(found.map(({ figure }) => figure.name)).toEqual([
      ...['Price times mass', 'Price', 'Mass', 'Price per mass'],
    ]);
    expect(price?.p).toBeCloseTo(3 * 0.006269885, 8);
    expect(price?.correlation.interval?.[0]).toBeCloseTo(0.6063336351, 9);
    expect(price?.settled).toBe(true);
    expect(price?.carriedBy).toMatchObject({ index: 4 });
    // Without either of two no half of it is left: the one without which it turns its sign is named.
    const carried = attributed([4, 9, 5, 6, 7, 1].map((Price) => ({ Price })));
    const [byTwo] = associations(carried, [9, 8, 9, 4, 1, 0]);
    expect(byTwo?.carriedBy?.index).toBe(5);
    expect(byTwo?.carriedBy?.r).toBeCloseTo(-0.2990550486, 9);
    // Of four items the test alone says yes, and the interval no.
    const four = attributed([14, 32, 19, 24].map((Price) => ({ Price })));
    const [among] = associations(four, [79.3, 93.9, 84.8, 91.7]);
    expect(among?.p).toBeLessThan(0.05);
    expect(among?.correlation.interval?.[0]).toBeLessThan(0);
    expect(among?.settled).toBe(false);
    expect(associations(items, [null, null, 1, 2, null])).toEqual([]);
    expect(associations(items, [1, 1, 1, 1, 1])).toEqual([]);
  });
});

describe('what items differ by from one of them', () => {
  const groupOf = (made: ReturnType<typeof twoWays>) =>
    analyseStudy(made.document, made.measurand.id, { resamples: 0 }).settings[0]?.classes[0] as ClassAnalysis;
  it('is signed as seen from it, with the intervals of the pairs, and in per cent of it', () => {
    const made = twoWays();
    const group = groupOf(made);
    const [itself, second, third] = differencesFrom(group, 0, true);
    expect(itself).toBeUndefined();
    expect(second?.difference).toBeCloseTo(-10, 1);
    expect(second?.percent).toBeCloseTo(-33.3, 0);
    const pair = group.analysis.pairs.find(({ a, b }) => a === 0 && b === 1);
    expect(second?.interval).toEqual([pair?.low, pair?.high]);
    expect(second?.percentInterval?.[0]).toBeLessThan(second?.percent as number);
    expect(third?.percentInterval?.[1]).toBeGreaterThan(third?.percent as number);
    // Seen from the other side.
    const [back] = differencesFrom(group, 1, true);
    expect(back?.difference).toBeCloseTo(10, 1);
    expect(back?.interval).toEqual([-(pair?.high as number), -(pair?.low as number)]);
  });
  it('has no per cent without a true zero, and no interval of single readings', () => {
    expect(differencesFrom(groupOf(twoWays()), 0, false)[1]).toMatchObject({ percent: null });
    const single = groupOf(twoWays((value, { round }) => (round > 1 ? undefined : value)));
    expect(differencesFrom(single, 0, true)[1]).toMatchObject({ interval: null, percentInterval: null });
    expect(differencesFrom(single, 0, true)[1]?.percent).toBeCloseTo((100 * (19.8 - 30.2)) / 30.2, 9);
  });
});
