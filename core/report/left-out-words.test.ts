import { describe, expect, it } from 'vitest';
import type { LeftOutBy } from '../observations/observation.ts';
import { spanWords } from './figures.ts';
import { gaveWayWords, leftOutWords, stripCaption } from './left-out-words.ts';

const out = (...by: LeftOutBy[]) => ({ readings: by.map((reason) => ({ use: { by: reason } })) }) as never;

describe('what was left out, in words', () => {
  it('is counted by what it was left out by', () => {
    expect(leftOutWords(out(), 'dixon')).toBe('every reading counts');
    expect(leftOutWords(out('rule'), 'dixon')).toBe('1 reading left out by Dixon');
    expect(
      leftOutWords(out('rule', 'hand', 'rule', 'source', 'correction', 'again', 'misfire'), 'dixon'),
    ).toBe(
      '2 readings left out by Dixon, 1 reading left out by hand, 1 value left out with what they come from, 1 reading that cannot be set right, 1 reading taken again at the bench and 1 misfire',
    );
    expect(gaveWayWords(out('rule', 'hand'))).toEqual([]);
    expect(gaveWayWords(out('misfire', 'misfire'))).toEqual(['2 misfires']);
  });
  it('stands under the strip, with where it is and what the marks are', () => {
    const captionOf = (
      leftOut: ReturnType<typeof out>,
      unit: string,
      words: string,
      ...given: [boolean, boolean?]
    ) =>
      stripCaption(
        {
          measurand: { name: 'Pull', unit, rule: { name: 'dixon' } },
          ...{ setting: { words }, leftOut },
        } as never,
        { ranksOnly: given[0], ...(given[1] === undefined ? {} : { placed: given[1] }) },
      );
    const caption = (...given: [string, string, boolean, boolean?]) => captionOf(out('hand'), ...given);
    expect(captionOf(out(), 'g', '', false)).toBe(
      'Pull in g: every reading counts. Bars are 95 % intervals of the means.',
    );
    expect(captionOf(out(), 'g', '', true)).toBe(
      'Pull in g: every reading counts. Marks in an order; the last column is the place.',
    );
    expect(caption('g', '2 bar', false)).toBe(
      'Pull in g at 2 bar: every reading, 1 reading left out by hand. Bars are 95 % intervals of the means; what was left out is hollow.',
    );
    expect(caption('', '', true)).toBe(
      'Pull: every reading, 1 reading left out by hand. Marks in an order; the last column is the place.',
    );
    expect(caption('', '', true, false)).toMatch(/Marks in an order\.$/);
  });
});

describe('an interval in words', () => {
  it.each([
    [[1, 2], '1 to 2'],
    [[-Infinity, 2], 'at most 2'],
    [[1, Infinity], 'at least 1'],
    [[-Infinity, Infinity], 'anything'],
  ] as const)('%o is %s', (interval, words) => {
    expect(spanWords(interval, String)).toBe(words);
  });
});
