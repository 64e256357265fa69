import { PAIR_METHODS } from '../core/compare/method-names.ts';
import { TRACE_QUANTITIES } from '../core/trace/quantities.ts';
import { RULES } from './options.ts';

/** An option as it is written, and what it is for. */
type Option = readonly [string, string];

const JSON_OUT: Option = ['--json', 'one JSON document, numbers unrounded'];

/** What the command reads, how it is called, and what can be said besides. */
const USES: readonly {
  call: string;
  prints: string;
  options: readonly Option[];
  /** What can be named in them. */
  names: readonly (readonly [string, readonly string[]])[];
}[] = [
  {
    call: 'analyse FILE.csv [options]',
    prints: 'What the readings of a table support.',
    options: [
      ['--item COL, --value COL', 'columns of the item and the reading (item, value)'],
      ['--round COL', 'column of the round (round, if there is one)'],
      ['--reference COL', 'column of the reference reading'],
      ['--factor COL', 'a factor; twice at most'],
      ['--baseline ITEM', 'the item that the others are compared with'],
      ['--better higher|lower|nearest=NUMBER', 'which direction is better (higher)'],
      ['--rule NAME[=PARAMETER]', 'how readings are screened (none)'],
      ['--alpha A', 'for rules, intervals and tests (0.05)'],
      ['--alpha-per study|sample', 'whether all samples share the level of a rule (study)'],
      ['--resolution R', 'the instrument’s step (the finest that is written)'],
      ['--decibel', 'readings are levels: averaged by energy'],
      ['--margin M or M%', 'the smallest difference that matters (0)'],
      ['--method NAME', 'how pairs are compared (as suits the readings)'],
      ['--resamples N, --seed S', 'for how often each item is first (10000, 1)'],
      ['--report FILE.html', 'writes the report as one page'],
      JSON_OUT,
    ],
    names: [
      ['Rules', RULES.map(({ name }) => name)],
      ['Methods', PAIR_METHODS],
    ],
  },
  {
    call: 'analyse --trace FILE.csv [options]',
    prints: 'The values of a window of each column of a trace.',
    options: [
      ['--from T, --to T', 'the window, as 0:30:00 or in seconds (the whole file)'],
      ['--column NAME', 'a column; may be repeated (all)'],
      ['--less NAME or NUMBER', 'a column or a value that is taken off the others'],
      ['--quantity NAME', 'what is worked out; may be repeated (all that can be)'],
      ['--threshold X', 'for the time to a value'],
      ['--band LOW:HIGH', 'for the time within a band, and until it stays there'],
      ['--after T', 'for the value at a time'],
      ['--time-unit s|min|h', 'of what is a time, or per time (s)'],
      ['--alpha A', 'of intervals (0.05)'],
      JSON_OUT,
    ],
    names: [['Quantities', TRACE_QUANTITIES]],
  },
  {
    call: 'analyse --recording FILE.wav [options]',
    prints: 'The levels of each channel of a recording.',
    options: [
      ['--weighting A|C|Z', 'of frequencies (A)'],
      ['--band HZ, --bands', 'one third of an octave; the level of each of them'],
      ['--from T, --to T', 'the window, as 0:00:30 or in seconds (the whole file)'],
      ['--tone FROM-TO, --tone-level DB', 'where a calibrator sounds, and its level (none, 94)'],
      ['--full-scale DB', 'what a sample of 1 is, in place of a tone'],
      JSON_OUT,
    ],
    names: [],
  },
];

const WIDTH = Math.max(...USES.flatMap(({ options }) => options.map(([option]) => option.length)));

/** How the command is called, a part for each kind of file. */
export const help = (): string =>
  USES.map(({ call, prints, options, names }) =>
    [
      call,
      `  ${prints}`,
      '',
      ...options.map(([option, what]) => `  ${option.padEnd(WIDTH)}  ${what}`),
      ...names.map(([what, list]) => `  ${what}: ${list.join(', ')}`),
    ].join('\n'),
  ).join('\n\n');
