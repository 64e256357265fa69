import type { MethodGroup } from './method-entry.ts';

const PAIRS = 'reference 10, 20, 30, 40; indicated 11, 19, 32, 42';

export const errorMethods: MethodGroup = {
  title: 'Error against a reference',
  about: 'e = indicated − reference, pair by pair.',
  entries: [
    {
      name: 'agreement',
      label: 'Bias and limits of agreement',
      says: 'By how much an instrument reads high on average, and between which limits 95 of 100 of its errors lie.',
      formula:
        'bias = ē; limits ē ± 1.96·SD; intervals of the limits from SE² = SD²·(1/n + 1.96²/(2(n − 1)))',
      source: 'Bland and Altman 1986, 1999',
      misleads: 'When errors grow with what is measured: then look at the bands of the reference.',
      example: {
        given: PAIRS,
        gives: 'Errors 1, −1, 2, 2: bias 1.00, SD 1.414, limits −1.77 to 3.77.',
        figures: ['1.00', '1.414', '3.77'],
      },
    },
    {
      name: 'relative-error',
      label: 'Mean absolute relative difference',
      says: 'How large errors are as a share of the reference, whichever way they go.',
      formula: 'mean of |e|/reference, references of 0 left out and counted; RMSE = √(mean of e²)',
      source: 'common practice',
      misleads: 'Near a reference of 0, where any error is a large share.',
      example: { given: PAIRS, gives: '6.7 % on average; RMSE 1.58.', figures: ['6.7', '1.58'] },
    },
    {
      name: 'deming',
      label: 'Deming’s line',
      says: 'The line of indicated over reference where both have errors.',
      formula: 'slope from s_xx, s_yy and s_xy with both errors alike; interval by the jackknife',
      source: 'Deming 1943; Linnet 1990',
      misleads: 'When one bad pair carries it.',
      example: { given: PAIRS, gives: 'Slope 1.064, intercept −0.605.', figures: ['1.064', '0.605'] },
    },
    {
      name: 'passing-bablok',
      label: 'Passing and Bablok’s line',
      says: 'The middle of all slopes between two pairs, which bad pairs hardly move.',
      formula: 'shifted median of the slopes; intercept the median of y − b·x',
      source: 'Passing and Bablok 1983',
      misleads: 'When the two do not go in proportion.',
      example: { given: PAIRS, gives: 'Slope 1.042.', figures: ['1.042'] },
    },
  ],
};

export const relationMethods: MethodGroup = {
  title: 'What goes with what',
  about: 'Results against attributes of the items, and orders against each other.',
  entries: [
    {
      name: 'pearson',
      label: 'Correlation',
      says: 'How closely two figures lie along a line. Of all that were tried, p is adjusted for their number.',
      formula: 'r; interval by Fisher’s z = ½·ln((1 + r)/(1 − r)), SE = 1/√(n − 3); Holm over all tried',
      source: 'Fisher 1921; Holm 1979',
      misleads: 'With few items, when one of them carries it; and always as a cause.',
      example: {
        given: 'x 1, 2, 3, 4, 5 and y 2, 4, 5, 4, 5',
        gives: 'r = 0.775, 95 % interval −0.34 to 0.98.',
        figures: ['0.775', '0.98'],
      },
    },
    {
      name: 'spearman',
      label: 'Rank correlation',
      says: 'How well one order agrees with another: a claim with what was found, a test with an earlier one.',
      formula: 'Pearson’s r of the ranks, ties shared',
      source: 'Spearman 1904',
      misleads: 'With four items any order agrees within ± 0.8 once in six.',
      example: {
        given: 'x 1, 2, 3, 4, 5 and y 2, 4, 5, 4, 5',
        gives: '0.738.',
        figures: ['0.738'],
      },
    },
    {
      name: 'least-squares',
      label: 'Least-squares line',
      says: 'The line that lies nearest to all points, straight up and down.',
      formula: 'b = s_xy/s_xx; interval by t with n − 2 degrees of freedom',
      source: 'Gauss 1809',
      misleads: 'Beyond the items that there are.',
      example: {
        given: 'x 1, 2, 3, 4, 5 and y 2, 4, 5, 4, 5',
        gives: 'Slope 0.600, 95 % interval −0.300 to 1.500.',
        figures: ['0.600', '1.500'],
      },
    },
    {
      name: 'two-way',
      label: 'Two factors and their interaction',
      says: 'Whether items differ, levels differ, and whether the order of the items depends on the level.',
      formula: 'analysis of variance, sums of squares of type II where cells are uneven',
      source: 'Fisher 1935; Yates 1934',
      misleads: 'Without repeats in a cell, where interaction looks like spread.',
      example: {
        given: 'cells (1, 2), (3, 4) of the one item and (2, 3), (8, 9) of the other',
        gives: 'Interaction: F = 16.0 with 1 and 4 degrees of freedom.',
        figures: ['16.0'],
      },
    },
  ],
};
