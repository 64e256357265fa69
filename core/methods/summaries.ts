import type { MethodGroup } from './method-entry.ts';

export const summaryMethods: MethodGroup = {
  title: 'Means, spread and what they are uncertain by',
  about: 'Of the readings that count, per item and setting.',
  entries: [
    {
      name: 'mean',
      label: 'Mean, SD, standard error, interval',
      says: 'The mean; how single readings scatter around it (SD); how well the mean itself is known (standard error and interval).',
      formula: 'x̄ = Σx/n; s² = Σ(x − x̄)²/(n − 1); SE = s/√n; x̄ ± t·SE with n − 1 degrees of freedom',
      source: 'Student 1908; two passes: Chan, Golub and LeVeque 1983',
      misleads:
        'When readings drift: they then have more in common than the interval knows. Rounds take care of that.',
      example: {
        given: '4, 5 and 6',
        gives: 'Mean 5.000, SD 1.000, standard error 0.577, interval 2.516 to 7.484.',
        figures: ['5.000', '1.000', '0.577', '2.516', '7.484'],
      },
    },
    {
      name: 'median',
      label: 'Median and MAD',
      says: 'The middle reading, and the middle distance from it: hardly moved by a bad reading.',
      formula: 'MAD = median of |x − median|',
      source: 'Gauss 1816; Hampel 1974',
      misleads: 'Nobody who looks at it; but it is known less well than the mean of good readings.',
      example: {
        given: '3, 4, 5, 6 and 60',
        gives: 'Median 5.0, MAD 1.0.',
        figures: ['5.0', '1.0'],
      },
    },
    {
      name: 'trimmed-mean',
      label: 'Trimmed mean, and intervals by drawing again',
      says: 'The mean without a tenth of the readings at each end, beside the mean of all. Its interval, and that of the median, come from drawing as many readings again with replacement, two thousand times.',
      formula: 'Mean without ⌊n/10⌋ readings at each end; the 2.5th and the 97.5th per cent of what is drawn',
      source: 'Tukey and McLaughlin 1963; Efron 1979',
      misleads:
        'With few readings: an interval by drawing again covers the median in 92 to 95 cases of 100, and is shown from 6 readings on.',
      example: {
        given: '1, 2, 3, 4, 5, 6, 7, 8, 9 and 100',
        gives: 'Trimmed mean 5.5, where the mean is 14.5.',
        figures: ['5.5', '14.5'],
      },
    },
    {
      name: 'energy-mean',
      label: 'Energy mean of levels',
      says: 'Decibels are logarithms: the loud half of a level’s readings carries nearly all of the energy, so energies are averaged.',
      formula:
        'L = 10·log₁₀(mean of 10^(L_i/10)); interval by the delta method, from an SD of 3 dB on by Cox’s method',
      source: 'ISO 3744 (from memory); Oehlert 1992; Land 1972',
      misleads: 'When a single loud event is in it that is not the item’s.',
      example: { given: '60 dB and 70 dB', gives: '67.4 dB, not 65.', figures: ['67.4'] },
    },
    {
      name: 'resolution',
      label: 'The step of the readings',
      says: 'Readings that all show the same figure do not agree perfectly: the display hides what they differ by. No variance is taken as less than that of a step.',
      formula: 's² ≥ a²/12, a the step: stated, or the finest decimal as typed',
      source: 'GUM, JCGM 100:2008, F.2.2.1',
      misleads: 'When the last digit is guessed between marks: say the step that can be trusted.',
      example: {
        given: '0.5, 0.5 and 0.5 in steps of 0.1',
        gives: 'The spread is taken as 0.1/√12 = 0.0289.',
        figures: ['0.0289'],
      },
    },
    {
      name: 'uncertainty',
      label: 'Expanded uncertainty of a mean',
      says: 'What a mean may be off by, all in all: the spread of its readings, their step, the stated accuracy of the instrument, and what corrections leave open.',
      formula:
        'u² = (s/√n)² + a²/12 + (±limit/√3)² + …; U = k·u with k from t at the effective degrees of freedom (Welch–Satterthwaite)',
      source: 'GUM, JCGM 100:2008, 4.2.3, 4.3.7, 5.1.2, G.4.1',
      misleads:
        'When two items read by the same instrument are compared by it: what they share cancels, and the verdicts do not count it.',
      example: {
        given: '4 readings of mean 100 with s = 2, in steps of 1, accuracy ± 3 %',
        gives: 'u = √(1² + 0.289² + 1.732²) = 2.02.',
        figures: ['2.02'],
      },
    },
    {
      name: 'wilson',
      label: 'Share with an interval',
      says: 'How many of a number keep to a limit, or come back out of what was fed.',
      formula: '(p̂ + z²/2n ± z·√(p̂(1 − p̂)/n + z²/4n²))/(1 + z²/n)',
      source: 'Wilson 1927, Journal of the American Statistical Association 22',
      misleads: 'Where the pieces are not independent: grains that clump.',
      example: {
        given: '8 of 10, 95 %',
        gives: '49.0 % to 94.3 %.',
        figures: ['49.0', '94.3'],
      },
    },
    {
      name: 'poisson',
      label: 'Count with an interval',
      says: 'How much a count would vary if it were taken again.',
      formula: '½·χ²(α/2; 2c) to ½·χ²(1 − α/2; 2c + 2)',
      source: 'Garwood 1936, Biometrika 28',
      misleads: 'When what is counted comes in bunches.',
      example: { given: 'a count of 5, 95 %', gives: '1.62 to 11.67.', figures: ['1.62', '11.67'] },
    },
    {
      name: 'uniformity',
      label: 'Evenness of a grid',
      says: 'How evenly something falls on rows and columns of places.',
      formula: 'Christiansen: 100·(1 − Σ|x − x̄|/(n·x̄)); low quarter: 100·mean of the lowest quarter/x̄',
      source: 'Christiansen 1942; Merriam and Keller 1978',
      misleads:
        'When one dry corner is what matters: Christiansen’s figure hardly sees it, the low quarter does.',
      example: {
        given: 'cups of 8, 10, 12 and 10',
        gives: 'Christiansen 90 %, low quarter 80 %.',
        figures: ['90', '80'],
      },
    },
    {
      name: 'corrections',
      label: 'Corrections',
      says: 'Readings set right by a calibration, a tare, or a common ambient. What was read is kept; what a correction leaves open is in the uncertainty, and in a difference as far as the two items do not share it.',
      formula:
        'by two points (i₁, t₁), (i₂, t₂): t₁ + (t₂ − t₁)/(i₂ − i₁)·(x − i₁); ambient: x − b·(ambient − reference); an estimate of ± a has u = a/√3',
      source: 'GUM, JCGM 100:2008, 4.3.7, 5.2',
      misleads:
        'Where the ambient acts otherwise than in proportion: what starts hot and cools keeps a share, not a distance.',
      example: {
        given: 'a thermometer that reads 0.3 in ice and 99.6 in boiling water, reading 49.95',
        gives: '50.00.',
        figures: ['50.00'],
      },
    },
    {
      name: 'elsewhere',
      label: 'Figures from elsewhere',
      says: 'Where an item was not read here, a mean with its SD and count, or a range such as “more than 8”, stands in for it. A mean is compared with the others by Welch’s t; a range by its ends against the interval of the other, so that it is ahead only where all of it is.',
      formula:
        'd ± t·√(s²_here/n_here + s²_there/n_there); a range: [low − x̄_high, high − x̄_low]. The pairs that were read here and those with a figure share the level by their number',
      source: 'Welch 1947; Šidák 1967; Bonferroni 1936 between the two kinds of pairs',
      misleads:
        'Always a little: what differed between there and here – the air, the instrument, the hands – is in the difference, and nothing in the figures says how much.',
      example: {
        given: '4, 5 and 6 here; from elsewhere a mean of 9 with an SD of 1 of 3 readings',
        gives: 'They differ by 4.000, from 1.733 to 6.267.',
        figures: ['4.000', '1.733', '6.267'],
      },
    },
    {
      name: 'precision',
      label: 'Who and what read it',
      says: 'Splits the spread of single readings between repeats, sessions, operators and instruments. The repeatability limit is what two repeats differ by less than in 95 of 100 cases; the reproducibility limit the same for readings by anybody on any day.',
      formula: 'variance components by restricted maximum likelihood; limits 2.8·s_r and 2.8·s_R',
      source: 'ISO 5725-2; ISO 5725-6; Patterson and Thompson 1971',
      misleads: 'With two or three sessions or operators: how much others would differ is then hardly known.',
      example: {
        given:
          'six batches of five, mean squares 11271.5 between and 2451.25 within (Davies and Goldsmith 1972)',
        gives: 'Between batches (11271.5 − 2451.25)/5 = 1764.05, between repeats 2451.25.',
        figures: ['1764.05', '2451.25'],
      },
    },
  ],
};
