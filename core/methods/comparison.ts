import type { MethodGroup } from './method-entry.ts';

const PAIR = 'a: 10.0, 10.2, 10.4, 10.6; b: 11.0, 11.2, 11.4, 11.6';
const ROUNDS = 'rounds of a and b: (10, 11.1), (12, 13.0), (9, 10.2), (14, 15.1)';

export const comparisonMethods: MethodGroup = {
  title: 'Comparing items',
  about:
    'All intervals of one measurand hold at once: the chance that any of them misses is 5 %. In simulated studies with nothing to find the default names a winner in at most about one of twenty.',
  entries: [
    {
      name: 'within-rounds',
      label: 'Within rounds',
      says: 'The default wherever two items were read in the same rounds: what drifts from round to round falls on both, and cancels in their difference. With few rounds a pair’s own spread is hardly known, so the pairs lend each other strength, half of what they could.',
      formula:
        't = d̄/√(s̃²/n) over the n rounds that both share; s̃² = (d₀·s₀² + (n − 1)·s²)/(d₀ + n − 1) on d₀ + n − 1 degrees of freedom, d₀ and s₀² from the spread of all pairs; Šidák over the pairs. For two items the paired t-test.',
      source: 'Smyth 2004, Statistical Applications in Genetics and Molecular Biology 3; Šidák 1967',
      misleads:
        'With strongly skewed readings of very different spread, three items: up to 9 false winners in 100.',
      example: {
        given: ROUNDS,
        gives:
          'Differences 1.1, 1.0, 1.2, 1.1: mean 1.100, standard error 0.041, 95 % interval 0.970 to 1.230. b is ahead.',
        figures: ['1.100', '0.041', '0.970', '1.230'],
      },
    },
    {
      name: 'own-differences',
      label: 'Own differences',
      says: 'The same without strength lent: each pair goes by its own rounds alone.',
      formula: 't = d̄/(s/√n) on n − 1 degrees of freedom, Šidák over the pairs',
      source: 'Student 1908; Šidák 1967',
      misleads: 'Hardly ever; but with four rounds it sees little.',
      example: {
        given: ROUNDS,
        gives: 'The same as above for two items: 0.970 to 1.230.',
        figures: ['0.970', '1.230'],
      },
    },
    {
      name: 'rounds',
      label: 'Rounds, one spread for all',
      says: 'What is left when item and round are taken off is the spread of all pairs.',
      formula: 'studentized range on √(MS residual/n)',
      source: 'Tukey 1953; Fisher 1935',
      misleads: 'When one item scatters more than the others: then up to 25 false winners in 100 studies.',
      example: {
        given: '22 runners by three ways around first base (Hollander and Wolfe 1973)',
        gives: 'MS residual = 0.00745, F = 6.288.',
        figures: ['0.00745', '6.288'],
      },
    },
    {
      name: 'tamhane-t2',
      label: 'Tamhane’s T2',
      says: 'The default where items share no rounds: each pair by its own spreads, with the level shared by all pairs.',
      formula: 'Welch’s t, p = 1 − (1 − p_w)ᵐ for m pairs, the interval at the matching t',
      source: 'Tamhane 1979, Journal of the American Statistical Association 74; Šidák 1967',
      misleads: 'In rounds: there the drift between them counts as spread, and it sees little.',
      example: {
        given: PAIR,
        gives: 'Difference 1.000, standard error 0.183, 95 % interval 0.553 to 1.447.',
        figures: ['1.000', '0.183', '0.553', '1.447'],
      },
    },
    {
      name: 'games-howell',
      label: 'Games–Howell',
      says: 'The same by the studentized range, a little bolder.',
      formula: 'Welch’s standard error and degrees of freedom, q/√2 in place of t',
      source: 'Games and Howell 1976, Journal of Educational Statistics 1',
      misleads: 'Under seven readings of each item: up to 12 false winners in 100 studies.',
      example: { given: PAIR, gives: 'For two items the same: 0.553 to 1.447.', figures: ['0.553', '1.447'] },
    },
    {
      name: 'tukey',
      label: 'Tukey’s HSD',
      says: 'Takes all items to scatter alike, and pools their spread.',
      formula: 'q·√(s²/2·(1/n_a + 1/n_b)), s² pooled',
      source: 'Tukey 1953; Kramer 1956',
      misleads: 'When they do not scatter alike.',
      example: { given: PAIR, gives: 'Equal spreads, so again 0.553 to 1.447.', figures: ['0.553', '1.447'] },
    },
    {
      name: 'dunn',
      label: 'Dunn’s test, with Holm',
      says: 'Compares mean ranks: for marks in an order, or where nothing is known of how readings scatter.',
      formula: 'z = (R̄_a − R̄_b)/√(N(N + 1)/12·(1/n_a + 1/n_b)), ties taken off; p by Holm',
      source: 'Dunn 1964, Technometrics 6; Holm 1979',
      misleads: 'It says who is ahead, and not by how much.',
      example: {
        given: 'a: 1, 2, 3; b: 4, 5, 6',
        gives: 'Mean ranks 2 and 5: z = 3/√(3.5·2/3) = 1.964, p = 0.0495.',
        figures: ['0.0495'],
      },
    },
    {
      name: 'rank-sums',
      label: 'Rank sums within rounds',
      says: 'Marks given in the same rounds are ranked round by round.',
      formula: 'differences of rank sums against all shuffles within rounds',
      source: 'Friedman 1937; Nemenyi 1963',
      misleads: 'With few rounds, which settle nothing: four rounds of two items have only 16 shuffles.',
      example: {
        given: '22 runners by three ways around first base (Hollander and Wolfe 1973)',
        gives: 'Friedman’s χ² = 11.143.',
        figures: ['11.143'],
      },
    },
    {
      name: 'dunnett',
      label: 'Against the baseline',
      says: 'Where only the differences from one item matter, fewer comparisons share the level, and the intervals are narrower.',
      formula: 'd ± c·s·√(1/n + 1/n₀), c such that all hold at once',
      source: 'Dunnett 1955, Journal of the American Statistical Association 50',
      misleads: 'When it is used to compare the others with each other.',
      example: {
        given: 'two items against a baseline, ten readings each (27 degrees of freedom), 95 %',
        gives: 'c = 2.333, where all three pairs would take 2.479.',
        figures: ['2.333', '2.479'],
      },
    },
    {
      name: 'verdict',
      label: 'The verdict of a pair',
      says: 'Practically the same if the whole interval lies within the margin; else ahead if it excludes 0; else not settled. It matters if it lies beyond the margin.',
      formula: 'D = [lo, hi]: same if −M < lo and hi < M; ahead if lo > 0; it matters if lo > M',
      source: 'Schuirmann 1987 (interval inclusion)',
      misleads: 'With a margin of 0, which nothing is ever the same within.',
      example: {
        given: `${PAIR}; margin 2, then margin 0.5`,
        gives:
          'With a margin of 2 they are the same: 0.553 to 1.447 lies within. With 0.5 b is ahead, and it matters.',
        figures: ['0.553', '1.447'],
      },
    },
    {
      name: 'place-range',
      label: 'Place range',
      says: 'An item’s best and worst place that the verdicts allow.',
      formula: 'from 1 + how many are ahead of it, to k − how many it is ahead of',
      source: 'Mohamad, Goeman and van Zwet 2019; Klein, Wright and Wieczorek 2020',
      misleads: 'When it is read as “equal”: not settled is not the same.',
      example: {
        given: 'three items, the first ahead of both others, these not settled',
        gives: 'Places 1, 2–3 and 2–3.',
        figures: ['1', '2–3'],
      },
    },
    {
      name: 'how-often-first',
      label: 'How often first',
      says: 'Draws every item’s mean again from what is known of it, 10,000 times, and counts places.',
      formula: 'x̄ + SE·t in each draw; share of the draws in each place',
      source: 'Goldstein and Spiegelhalter 1996, Journal of the Royal Statistical Society A 159',
      misleads:
        'When it is taken for the chance that an item is the best one; it only says what these readings allow.',
      example: {
        given: 'two items with means 0 and 1, each known exactly',
        gives: 'The second is first in 100 % of the draws, printed as > 99 %.',
        figures: ['100'],
      },
    },
  ],
};
