import type { MethodGroup } from './method-entry.ts';

export const traceMethods: MethodGroup = {
  title: 'Values from traces',
  about: 'A window of what a logger wrote becomes one reading. Between its rows a trace runs straight.',
  entries: [
    {
      name: 'trace-window',
      label: 'Peak, mean, area, times',
      says: 'The highest and lowest row; the area under the straight lines between rows, and the mean over the window from it; when a threshold is met first; how long the trace lies within a band; when it comes back into the band and stays there to the end of the window.',
      formula: 'area = Σ (t_{i+1} − t_i)·(y_i + y_{i+1})/2; mean = area/length; crossings by straight lines',
      source: 'trapezoid rule and linear interpolation, textbook',
      misleads:
        'Where rows are far apart for what happens between them, and in gaps, where a straight line stands in: gaps are said.',
      example: {
        given: '10 at 0 s, 20 at 10 s and 20 at 20 s',
        gives: 'Area 350, mean 17.5; 16 is met after 6 s.',
        figures: ['350', '17.5', '6'],
      },
    },
    {
      name: 'trace-slope',
      label: 'Slope of a trace',
      says: 'The straight line through the rows of a window, and the steepest one through any five rows in a row.',
      formula:
        'least squares; interval b ± t·SE·√((1 + r)/(1 − r)), r the correlation of each residual with the next, t with n·(1 − r)/(1 + r) − 2 degrees of freedom',
      source: 'textbook least squares; first-order autoregression of the residuals',
      misleads: 'Where the trace is bent: the residuals then hang together, and no interval is given.',
      example: { given: '1, 3, 5 and 7 at 0, 1, 2 and 3 s', gives: 'A slope of 2 a second.', figures: ['2'] },
    },
    {
      name: 'trace-decay',
      label: 'Time constant and half-life',
      says: 'How slowly something settles: the time in which its distance from rest falls to 37 %, or to half. Where it rests is fitted along, unless it was logged or is known and taken off.',
      formula:
        'y = c + a·exp(−t/τ) by nonlinear least squares on ln τ, c = 0 where the rest was taken off; half-life τ·ln 2; interval as for the slope',
      source: 'Marquardt 1963; checked with NIST StRD Misra1a, Chwirut2 and DanWood (from memory)',
      misleads:
        'Where the surroundings change in the window, or a lid opens: the curve is then no single decay, and the page says by how much it is off.',
      example: {
        given: '80, 40, 20, 10, 5 and 2.5 above the room, an hour apart',
        gives: 'Half-life 1.000 h, time constant 1.443 h.',
        figures: ['1.000', '1.443'],
      },
    },
  ],
};
