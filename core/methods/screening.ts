import type { MethodGroup } from './method-entry.ts';

/** The readings of most examples of screening: seven that agree and one that does not. */
const EIGHT = '10.1, 10.2, 10.2, 10.3, 10.4, 10.4, 10.5 and 13.0';

export const screeningMethods: MethodGroup = {
  title: 'Leaving readings out',
  about:
    'A rule looks at the readings of one item at one setting. What it leaves out stays in the record and can be kept by hand. No rule that goes by statistics leaves out a reading within two steps of the median of the others: rounding alone makes such gaps.',
  entries: [
    {
      name: 'generalized-esd',
      label: 'Generalized ESD',
      says: 'Takes the farthest reading out, again and again up to a quarter of them, and asks of each how far it was among those that were left. The last one that was too far counts, with all before it, so that two bad readings on one side cannot hide each other. All samples of a study share the level, so that a clean study loses a reading in one case of twenty or fewer.',
      formula:
        'R_i = max|x − x̄|/s of the readings left; λ_i = (n − i)·t/√((n − i − 1 + t²)(n − i + 1)), t with n − i − 1 degrees of freedom at α/(2(n − i + 1)). The number left out is the largest i with R_i > λ_i.',
      source: 'Rosner 1983, Technometrics 25',
      misleads: 'Where readings are skewed by nature, as waiting times are: their long tail is no error.',
      example: {
        given: `${EIGHT}, at most 2, level 0.05`,
        gives: 'R₁ = 2.452 over λ₁ = 2.127, so 13.0 is left out; R₂ = 1.414 is under λ₂ = 2.020.',
        figures: ['2.452', '2.127'],
      },
    },
    {
      name: 'grubbs',
      label: 'Grubbs',
      says: 'Asks whether the farthest reading is too far for a normal sample of that size, leaves it out if so, and asks again.',
      formula:
        'G = max|x − x̄|/s; limit (n − 1)/√n · √(t²/(n − 2 + t²)), t with n − 2 degrees of freedom at α/(2n)',
      source: 'Grubbs 1969, Technometrics 11; ASTM E178',
      misleads: 'With two bad readings on the same side: they stretch s, and hide each other.',
      example: {
        given:
          '199.31, 199.53, 200.19, 200.82, 201.92, 201.95, 202.18 and 245.57, level 0.05 (Tietjen and Moore 1972)',
        gives: 'G = 2.469 over 2.127: 245.57 is left out.',
        figures: ['2.469', '2.127'],
      },
    },
    {
      name: 'dixon',
      label: 'Dixon',
      says: 'Compares the gap beside the farthest reading with the range of all, or of most.',
      formula:
        'r10 = (x₂ − x₁)/(xₙ − x₁) for 3 to 7 readings, r11 for 8 to 10, r21 for 11 to 13, r22 for 14 to 30; from the other end alike; the larger counts, against a limit by simulation',
      source: 'Dixon 1953, Biometrics 9; Rorabacher 1991, Analytical Chemistry 63',
      misleads:
        'With two bad readings side by side, whose gap is small; and with few steps between readings.',
      example: {
        given: '10.1, 10.2, 10.2, 10.3 and 12.6, level 0.05',
        gives: 'r10 = (12.6 − 10.3)/(12.6 − 10.1) = 0.920 over 0.710: 12.6 is left out.',
        figures: ['0.920', '0.710'],
      },
    },
    {
      name: 'fences',
      label: 'Fences',
      says: 'Leaves out what lies more than 1.5 interquartile ranges beyond the quartiles.',
      formula: 'outside Q₁ − 1.5·(Q₃ − Q₁) and Q₃ + 1.5·(Q₃ − Q₁), quartiles by linear interpolation',
      source: 'Tukey 1977, Exploratory Data Analysis',
      misleads:
        'As a rule at all: fences were made to point at readings worth a look, and cost every fourth clean sample of eight a reading. What is left then scatters too little, and false winners follow.',
      example: {
        given: EIGHT,
        gives:
          'Quartiles 10.200 and 10.425, so the upper fence is 10.7625: 13.0 lies 11.4 ranges above Q₃ and is left out.',
        figures: ['11.4'],
      },
    },
    {
      name: 'modified-z',
      label: 'Modified z',
      says: 'Measures how far a reading lies from the median in median deviations, which bad readings hardly move.',
      formula:
        '0.6745·|x − median|/MAD > 3.5; where MAD is 0, the mean absolute deviation times 1.2533 stands in',
      source: 'Iglewicz and Hoaglin 1993',
      misleads:
        'On five or six readings, where a small MAD comes by chance: one clean sample in seven loses a reading.',
      example: {
        given: EIGHT,
        gives: 'Median 10.35, MAD 0.15: 0.6745·2.65/0.15 = 11.92 over 3.5, so 13.0 is left out.',
        figures: ['11.92', '3.5'],
      },
    },
    {
      name: 'chauvenet',
      label: 'Chauvenet',
      says: 'Leaves out a reading of which fewer than half a one would be expected so far off.',
      formula: 'n·P(|Z| > |x − x̄|/s) < ½, once',
      source: 'Chauvenet 1863; Taylor, An Introduction to Error Analysis',
      misleads: 'Always a little: it costs every fourth clean sample a reading, and s holds the bad one.',
      example: {
        given: '46, 48, 44, 38, 45, 47, 58, 44, 45 and 43 (after Taylor)',
        gives: '58 lies 2.405 standard deviations off; of ten readings 0.162 would. It is left out.',
        figures: ['0.162'],
      },
    },
    {
      name: 'peirce',
      label: 'Peirce',
      says: 'Asks which is likelier: that all readings are good, or that one, two, … doubtful ones are not.',
      formula: 'left out where |x − x̄|/s > R(n, m), R by Gould’s procedure for m doubtful readings',
      source: 'Peirce 1852; Gould 1855; Ross 2003',
      misleads: 'On few readings, where it costs every third clean sample one.',
      example: {
        given: 'ten readings, one doubtful',
        gives: 'R(10, 1) = 1.878.',
        figures: ['1.878'],
      },
    },
    {
      name: 'drop-extremes',
      label: 'Drop highest and lowest',
      says: 'Always takes the highest and the lowest reading off, good or bad.',
      formula:
        'mean of the rest; its standard error is the winsorized one, s_w/((1 − 2γ)√n) with h − 1 degrees of freedom, h readings being left',
      source: 'common practice; Tukey and McLaughlin 1963; pairs by Yuen 1974',
      misleads:
        'When the spread of the rest is taken at its word: it is too small, and plain t-tests after it name a false winner in up to 15 of 100 studies.',
      example: {
        given: '4, 5, 6, 7 and 20',
        gives:
          'Mean of 5, 6 and 7: 6.000. Winsorized 5, 5, 6, 7, 7: s_w = 1, so the standard error is 1/(0.6·√5) = 0.745.',
        figures: ['6.000', '0.745'],
      },
    },
    {
      name: 'trimmed',
      label: 'Trimmed mean',
      says: 'Always takes a share of the readings off each end, a tenth unless said otherwise.',
      formula: '⌊p·n⌋ readings off each end; standard error as above',
      source: 'Tukey and McLaughlin 1963',
      misleads: 'Under ten readings, where a tenth is nothing.',
      example: {
        given: '1, 2, 3, …, 10, a tenth',
        gives: 'Mean of 2 to 9: 5.5, of 8 readings.',
        figures: ['5.5', '8'],
      },
    },
    {
      name: 'plausibility',
      label: 'Limits of plausibility',
      says: 'Leaves out what the plan calls impossible.',
      formula: 'x < low or x > high',
      source: 'common practice',
      misleads: 'When the limits are set after the readings were seen.',
      example: {
        given: '9.8, 10.1 and 101, plausible from 5 to 20',
        gives: '101 is left out, and the mean is 9.95.',
        figures: ['101', '9.95'],
      },
    },
  ],
};
