import type { MethodGroup } from './method-entry.ts';

export const scoringMethods: MethodGroup = {
  title: 'Scores over several measurands',
  about:
    'Each measurand is turned so that more is better; weights sum to 1. There is no right school: see what another one would do.',
  entries: [
    {
      name: 'span',
      label: 'Span',
      says: 'The best of the items gets 1, the worst 0, the others by where they lie between.',
      formula: '(x − worst)/(best − worst)',
      source: 'common practice',
      misleads: 'With an item far off, which squeezes the others together.',
      example: { given: '4, 6 and 9', gives: '0, 0.4 and 1.', figures: ['0', '0.4', '1'] },
    },
    {
      name: 'ratio',
      label: 'Ratio to the best',
      says: 'The best gets 1, half as good gets 0.5.',
      formula: 'x/best; best/x where less is better',
      source: 'common practice',
      misleads: 'Without a true zero: degrees, decibels.',
      example: { given: '4, 6 and 8', gives: '0.5, 0.75 and 1.', figures: ['0.5', '0.75', '1'] },
    },
    {
      name: 'standard',
      label: 'Standard score',
      says: 'How many standard deviations of the items an item lies above their average.',
      formula: '(x − x̄)/s',
      source: 'common practice',
      misleads: 'When measurands that hardly differ are meant to count little: here they count as much.',
      example: { given: '4, 6 and 8', gives: '−1, 0 and 1.', figures: ['0', '1'] },
    },
    {
      name: 'points',
      label: 'Points by place',
      says: 'The first of k gets k points, the last 1.',
      formula: 'k + 1 − place, ties shared',
      source: 'Borda 1781',
      misleads: 'When a hair’s breadth should not count as much as a mile.',
      example: { given: '4, 6 and 6', gives: '1, 2.5 and 2.5.', figures: ['1', '2.5'] },
    },
    {
      name: 'scored-range',
      label: 'A range in a score',
      says: 'Where of a value only a range is known, scores are worked out for all that it allows, and one item is ahead of another only where it is so in all of it.',
      formula: 'least and most of the score over the ends of the range, and between the values of the others',
      source: 'by search; our simulation',
      misleads:
        'When the order of the list is read as settled: it goes by the middle of the range; the places do not.',
      example: {
        given: '4, 6 and “8 to 12”, by span',
        gives: '6 scores 0.25 to 0.5; the range scores 1.',
        figures: ['0.25', '0.5', '1'],
      },
    },
    {
      name: 'flips',
      label: 'What would flip it',
      says: 'The nearest weight at which another item is first, the others in proportion; and each reading that decides alone.',
      formula: 'scores are linear in one weight: the first crossing on either side',
      source: 'by search',
      misleads: 'When it is read as a chance: it says how far, not how likely.',
      example: {
        given: 'a scores 1 and 0, b 0 and 1 by two measurands, weights 0.6 and 0.4',
        gives: 'a is first until its weight falls to 0.5.',
        figures: ['0.5'],
      },
    },
  ],
};

export const planningMethods: MethodGroup = {
  title: 'Planning',
  about: 'How many readings, in which order, and when to look.',
  entries: [
    {
      name: 'readings-needed',
      label: 'Readings per item',
      says: 'How many readings of each item give a good chance of seeing a difference of the margin.',
      formula: 'power of the two-sided t-test by the noncentral t distribution',
      source: 'Cohen 1988; as R’s power.t.test',
      misleads: 'When the spread is a guess: then it is the number that is a guess.',
      example: {
        given: 'a difference of one SD, 90 %, level 0.05',
        gives: '22.02, so 23 of each.',
        figures: ['22.02', '23'],
      },
    },
    {
      name: 'looks',
      label: 'Looks before the end',
      says: 'Whoever stops as soon as somebody seems ahead is wrong more often. Planned looks share the 5 % among them.',
      formula: 'levels by an α-spending function, late (as O’Brien and Fleming) or even (as Pocock)',
      source: 'Lan and DeMets 1983, Biometrika 70',
      misleads: 'When there are looks that were not planned.',
      example: {
        given: 'looks after a half, three quarters and all, late',
        gives: 'Levels 0.0031, 0.018 and 0.044.',
        figures: ['0.0031', '0.018', '0.044'],
      },
    },
  ],
};
