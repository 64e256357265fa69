import { describe, expect, it } from 'vitest';
import type { Flips } from '../analysis/score-flips.ts';
import type { ClassScores } from '../analysis/scores.ts';
import type { ScoreVerdicts } from '../rank/score-verdicts.ts';
import type { VerdictWord } from '../compare/verdict.ts';
import {
  answerScores,
  flipSentence,
  flipWords,
  reachWords,
  scoreNotes,
  scoreWords,
  scoringSentence,
  turnWords,
} from './scores.ts';

const NAMES = ['Ama', 'Bel', 'Cor', 'Dun', 'Eli', 'Fay', 'Gus'];
const plain = (text: string) => text.replaceAll('\u202f', ' ');

/** Scores of some items, in the order of their names. */
const scores = (count: number, change: Partial<ClassScores> = {}) =>
  ({
    basis: {
      ...{ items: NAMES.slice(0, count).map((name) => ({ name })), criteria: [] },
      measurands: [
        { id: 'speed', name: 'Speed' },
        { id: 'noise', name: 'Noise' },
      ],
    },
    ...{ order: NAMES.slice(0, count).map((_, i) => i), missing: [], weights: [], shares: [2 / 3, 1 / 3] },
    ...{ scores: [], isRanged: false },
    ...change,
  }) as unknown as ClassScores;

/** Verdicts of all pairs, of which the first `contenders` may be first. */
function verdicts(count: number, contenders: number, word: VerdictWord, share?: number): ScoreVerdicts {
  const ranking = NAMES.slice(0, count).map((_, index) => ({
    ...{
      index,
      placeLow: index < contenders ? 1 : 2,
      placeHigh: contenders === 1 && index === 0 ? 1 : count,
    },
    ...(share === undefined ? {} : { shares: [share] }),
  }));
  const pairs = ranking.flatMap(({ index: a }) =>
    ranking.filter(({ index: b }) => b > a).map(({ index: b }) => ({ a, b, verdict: word })),
  );
  return { ranking, pairs, draws: 0 } as unknown as ScoreVerdicts;
}

describe('the order by score in a sentence', () => {
  it.each<[string, Partial<ClassScores> & { count?: number }, ScoreVerdicts | undefined]>([
    ['There is no score.', { notScored: 'No weights.' }, undefined],
    ['No item has all that the score is made of.', { order: [] }, undefined],
    ['Bel is the only item with a score.', { order: [1] }, undefined],
    ['Ama has the best score.', {}, undefined],
    ['Ama has the best score by the middles of the ranges.', { isRanged: true }, undefined],
    ['Ama has the best score; whether by chance is not known.', {}, verdicts(3, 3, 'too few')],
    ['Ama is first over all.', {}, verdicts(3, 1, 'a ahead')],
    ['Ama and Bel are practically the same over all.', {}, verdicts(3, 2, 'same')],
    [
      'First place over all is not settled between Ama and Bel; Ama has the best score.',
      {},
      verdicts(3, 2, 'not settled'),
    ],
    [
      'First place over all is not settled between Ama and Bel; Ama has the best score, and comes first in 62 % of the draws.',
      {},
      verdicts(3, 2, 'not settled', 0.62),
    ],
  ])('%s', (sentence, change, found) => {
    expect(plain(answerScores(scores(3, change), found))).toBe(sentence);
  });
  it('counts those between whom it is open where they are many, and says so far', () => {
    expect(plain(answerScores(scores(7), verdicts(7, 7, 'not settled')))).toBe(
      'First place over all is not settled among 7 items; Ama has the best score.',
    );
    expect(plain(answerScores(scores(7), verdicts(7, 5, 'not settled')))).toBe(
      'First place over all is not settled between Ama, Bel, Cor, Dun and Eli; Ama has the best score.',
    );
    expect(plain(answerScores(scores(7), verdicts(7, 6, 'not settled')))).toMatch(/ among 6 items; /u);
    expect(answerScores(scores(3), verdicts(3, 1, 'a ahead'), true)).toBe('So far: Ama is first over all.');
    expect(answerScores(scores(3), undefined, true)).toBe('Ama has the best score.');
  });
});

describe('a score as it is printed', () => {
  it('has two decimals of points, else three, and its ends where they are printed apart', () => {
    expect([scoreWords(0.6789, { school: 'span' }), scoreWords(4.567, { school: 'points' })]).toEqual([
      '0.679',
      '4.57',
    ]);
    expect(reachWords(null, { school: 'span' })).toBe('–');
    expect(reachWords([0.67891, 0.67899], { school: 'span' })).toBe('0.679');
    expect(reachWords([0.6, 0.7], { school: 'span' })).toBe('0.600 to 0.700');
  });
  it('says how it is made, of what has a weight', () => {
    const sentence = (shares: number[]) =>
      plain(scoringSentence(scores(2, { shares }), { school: 'span' } as never));
    expect(sentence([2 / 3, 1 / 3])).toMatch(/: Speed 66\.7 % and Noise 33\.3 %\.$/);
    expect(sentence([1, 0])).toMatch(/: Speed 100 %\.$/);
    expect(sentence([0, 0])).toMatch(/: no weights\.$/);
  });
});

describe('what to know about scores', () => {
  const criteria = [
    { name: 'Speed', unit: 'm/s', ranges: [undefined, { low: 1, high: 2 }] },
    { name: 'Noise', unit: 'dB', ranges: [undefined, { low: 40, high: null }], notDrawn: 'Noise is marks' },
  ];
  const titles = (change: Partial<ClassScores>, missing = 'no-score') => {
    const made = scores(2, { weights: Float64Array.of(1, 1) as never, ...change });
    (made.basis as unknown as { criteria: object[] }).criteria = criteria;
    return scoreNotes(made, { missing } as never).map(({ title, text }) => `${title}: ${plain(text)}`);
  };
  it('is who lacks what, and what comes of it', () => {
    const missing = [[], ['Speed', 'Noise']] as never;
    expect(titles({ missing, weights: [0, 0] as never })).toEqual([
      'Bel has no Speed or Noise: It is not scored, as the study says.',
    ]);
    expect(titles({ missing, weights: [0, 0] as never }, 'score-the-rest')[0]).toMatch(
      /^Bel has no Speed or Noise: It is scored on what it has/,
    );
  });
  it('is why there is none', () => {
    expect(titles({ notScored: 'Nothing has a weight.', weights: [0, 0] as never })).toEqual([
      'There is no score: Nothing has a weight.',
    ]);
  });
  it('is what is known as a range, and what could not be drawn, where it has a weight and a score', () => {
    const both = titles({ scores: [0.5, 0.4] });
    expect(both[0]).toMatch(
      /^Some values are ranges, and so are scores: Known as a range: Speed of Bel \(1 to 2 m\/s\) and Noise of Bel/,
    );
    expect(both[1]).toMatch(/^How sure the order is, is not known: Noise is marks\./);
    expect(titles({ scores: [0.5, 0.4], weights: [1, 0] as never })).toEqual([
      expect.stringMatching(/Known as a range: Speed of Bel \(1 to 2 m\/s\)\. Items stand/),
    ]);
    expect(titles({ scores: [0.5, null] as never, weights: [1, 0] as never })).toEqual([]);
  });
});

describe('what would take the lead', () => {
  const flips = (change: Partial<Flips> = {}): Flips => ({
    ...{ leader: 0, weights: [], schools: [], rules: [], readings: [], counting: 12, untried: [] },
    ...change,
  });
  const basis = scores(3);
  const reading = { readingId: '', itemId: '', measurandId: '', round: 1, value: 1, leader: 1 };
  it('is nothing, said of all that was tried', () => {
    expect(flipSentence(basis, flips())).toBe(
      'Ama leads whatever is tried: no other rule for bad readings and no single reading takes it away.',
    );
    expect(flipSentence(basis, flips({ counting: 0 }))).toBe(
      'Ama leads whatever is tried: no other rule for bad readings takes it away.',
    );
    const tried = flips({
      weights: [{ measurandId: 'speed', share: 0.6, down: null, up: null }] as never,
      schools: [
        { school: 'points', leader: 0 },
        { school: 'ratio', leader: null },
      ] as never,
      rules: [
        { rule: 'dixon', leader: 0 },
        { rule: 'grubbs', leader: null },
      ] as never,
    });
    expect(flipSentence(basis, tried)).toMatch(
      /: no single weight, no other way of scoring, no other rule for bad readings and no single reading takes it away\.$/,
    );
    expect(Object.values(flipWords(basis, tried)).every(({ holds }) => holds)).toBe(true);
  });
  it('is the nearest weight, told as it holds', () => {
    const { weights } = flipWords(
      basis,
      flips({
        weights: [
          {
            measurandId: 'speed',
            share: 0.6,
            down: { share: 0.2, leader: 1 },
            up: { share: 0.9, leader: 2 },
          },
          { measurandId: 'noise', share: 0.4, down: { share: 0.29, leader: 2 }, up: null },
        ] as never,
      }),
    );
    expect(plain(weights.what)).toBe('Cor leads once Noise weighs 29 % instead of 40 %.');
    expect(weights.holds).toBe(false);
  });
  it('is another way of scoring, another rule, or a reading less', () => {
    const found = flips({
      schools: [
        { school: 'points', leader: 1 },
        { school: 'ratio', leader: 1 },
      ] as never,
      rules: [{ rule: 'dixon', leader: 2 }] as never,
      readings: [reading, { ...reading, leader: 2 }],
      untried: ['Ease'],
    });
    const words = flipWords(basis, found);
    expect(words.schools.what).toMatch(/^Bel leads by .+ and .+\.$/);
    expect(words.rules.what).toBe('Cor leads under another rule for bad readings: Dixon.');
    expect(words.readings.what).toBe(
      'Bel or Cor leads without any one of 2 readings of 12. Marks (Ease) were not tried one by one.',
    );
    expect(flipWords(basis, flips({ readings: [reading] })).readings.what).toBe(
      'Bel leads without a single reading of 12.',
    );
    expect(flipWords(basis, flips()).readings.what).toBe('None of the 12 readings decides by itself.');
    expect(flipWords(basis, flips({ counting: 0 })).readings.what).toBe('No single reading was tried.');
    const sentence = flipSentence(basis, found);
    for (const part of [words.schools, words.rules, words.readings]) expect(sentence).toContain(part.what);
  });
  it('is a weight rounded away from where it is now, within 0 and 1', () => {
    expect(
      [turnWords(0.2501, 0.5), turnWords(0.2501, 0.1), turnWords(0.9999, 0.1), turnWords(0.00001, 0.5)].map(
        plain,
      ),
    ).toEqual(['25 %', '25.1 %', '100 %', '0 %']);
    expect(plain(turnWords(0.3, 0.5))).toBe('30 %');
    expect(plain(turnWords(0.3, 0.1))).toBe('30 %');
  });
});
