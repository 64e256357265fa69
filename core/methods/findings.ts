import type { MethodGroup } from './method-entry.ts';

export const findingMethods: MethodGroup = {
  title: 'What is noticed',
  about:
    'The program looks for what goes wrong at a bench: a drift, an instrument that is stuck, a point that was moved. What follows from a test shows only where it stands out among all tests of the study, so that a study in which nothing is wrong stays quiet in nineteen cases of twenty. That was simulated, for seven sizes of studies.',
  entries: [
    {
      name: 'findings',
      label: 'One level for all findings',
      says: 'A study is looked through for many things at once, of each measurand. Each test by itself would raise a false alarm in one case of twenty; together they share that case.',
      formula:
        'the smallest p of m is multiplied by m, the next by m − 1, and so on, never less than the one before; shown below 0.04',
      source: 'Holm 1979, Scandinavian Journal of Statistics 6',
      misleads:
        'In a study of many measurands: what is only slightly wrong with one of them is lost among the tests of the others.',
      example: {
        given: 'three tests with p of 0.009, 0.030 and 0.200',
        gives: 'They become 0.027, 0.060 and 0.200: the first is shown.',
        figures: ['0.027', '0.060', '0.200'],
      },
    },
    {
      name: 'drift',
      label: 'Drift',
      says: 'Whether readings rise or fall along the run order. Each reading, and its place, is taken as its distance from the mean of its item, so that items that differ look like no drift. From 12 readings on.',
      formula:
        'slope b = Σxy/Σx² within items; t = b/√((Σy² − b·Σxy)/(n − k − 1)/Σx²), with n − k − 1 degrees of freedom for n readings of k items',
      source: 'Analysis of covariance: Fisher 1932',
      misleads:
        'Where something rises and falls again within the session: that has no slope. And a fixed order, in which the last item is always the latest, hides a drift in the items themselves.',
      example: {
        given:
          '10, 11, 11 and 12 at the places 0, 2, 4 and 6, and 20, 20, 22 and 22 of another item in between',
        gives: 'b = 14/40 = 0.350 for each place, t = 4.72, p = 0.0052.',
        figures: ['0.350', '0.0052'],
      },
    },
    {
      name: 'first-of-round',
      label: 'First of a round or session',
      says: 'Whether what is read first differs from what follows: a cold instrument, a hand that is not warmed up. Readings are taken as their distances from the mean of their item.',
      formula: 'Welch’s t of the first readings against all later ones, from 5 of each on',
      source: 'Welch 1947, Biometrika 34',
      misleads:
        'Under a fixed order, where the first of each round is always the same item: its distances from its own mean say nothing.',
      example: {
        given: 'first 1, 2, 0, 2 and 1 above their items, later 0, 0, 1, −1 and 0',
        gives: 'They differ by 1.20, p = 0.041.',
        figures: ['1.20', '0.041'],
      },
    },
    {
      name: 'stuck',
      label: 'The same value again and again',
      says: 'Whether a value repeats itself more often in a row than the step of the readings explains. The spread is the median of all items’, since that of an item that is stuck is small.',
      formula:
        'two readings are equal with a chance of 2·Φ(a/2s) − 1 at most, step a and spread s; a run of r in n readings: (n − r + 1)·(2·Φ(a/2s) − 1)^(r − 1)',
      source: 'chance of equal readings, by its definition',
      misleads: 'Where one item truly spreads less than the others, as a reference piece may.',
      example: {
        given: 'four equal readings in a row among ten, spread 1.0, step 0.5',
        gives: 'At most 7 · 0.1974³ = 0.0539: nothing to see.',
        figures: ['0.1974', '0.0539'],
      },
    },
    {
      name: 'capped',
      label: 'Readings at the end of a range',
      says: 'Whether many readings lie at one value with none beyond it, as an instrument at the end of its range shows them. Both ends are looked at.',
      formula:
        'the k-th distance from the end is exponential with the mean s/(k·z), z the normal quantile of 1/(n + 1); m equal readings: Π(1 − e^(−k·z·a/s)) for k from 1 to m − 1, over all items that reach the end, doubled',
      source: 'Rényi 1953, Acta Mathematica Hungarica 4',
      misleads:
        'Where values have an end by nature, as shares and counts have at nothing; and where an item lies at the end altogether, which shows as a value that repeats itself.',
      example: {
        given: '20 readings with a spread of 1.0 in steps of 0.1, the four largest equal',
        gives: 'z = 1.668; 0.0172 for this end, 0.0343 for both.',
        figures: ['0.0172', '0.0343'],
      },
    },
    {
      name: 'unequal-spread',
      label: 'An item that spreads unlike the others',
      says: 'Looked for in two ways: whether the distances from each item’s median differ, whatever their shape, and whether the largest variance is too large beside the others. The more telling of the two counts, at twice its p.',
      formula:
        'analysis of variance of |x − median|; C = s²_max/Σs², with k·P(F > s²_max/(mean of the other variances)) for k items',
      source: 'Brown and Forsythe 1974, JASA 69; Cochran 1941, Annals of Eugenics 11; ISO 5725-2',
      misleads: 'With four or five readings of each, when one bad reading makes a whole item look wide.',
      example: {
        given: 'three items of five readings each with variances of 1, 1 and 4',
        gives: 'F = 4.0 with 4 and 8 degrees of freedom, p = 0.136 by Cochran’s test: nothing to see.',
        figures: ['0.136'],
      },
    },
    {
      name: 'digit-slip',
      label: 'Slips of digits',
      says: 'A reading that lies far from the others of its item, and would lie well among them with its decimal point moved or two neighbouring digits swapped.',
      formula:
        'farther than 8 times 1.4826·MAD from the median of the others; what would fit lies within 4 times that',
      source: 'common practice, no source',
      misleads:
        'It is a guess: that another figure would fit does not make it the one that was read. Look it up before you believe it.',
      example: {
        given: '10.1, 10.2, 10.4 and 10.3, then 102',
        gives: '102 may have its decimal point moved; 10.2 would fit.',
        figures: ['10.2'],
      },
    },
    {
      name: 'reference-rate',
      label: 'Pairs taken while the reference moved',
      says: 'An instrument follows its reference with a delay. How fast the reference moved at a reading comes from the readings before and after it, of the same session and setting and no more than half an hour away; pairs that moved faster than a limit can be left out.',
      formula: '(r₊ − r₋)/(t₊ − t₋)',
      source: 'common practice, no source',
      misleads:
        'Where the reference swings between two readings: what comes back looks as if it had stood still.',
      example: {
        given: 'a reference of 40, 50 and 52 at 0, 2 and 4 minutes',
        gives: 'At the second it moved by 3.0 in a minute.',
        figures: ['3.0'],
      },
    },
  ],
};
