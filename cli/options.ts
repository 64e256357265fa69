import type { AnalysisOptions } from '../core/analysis/analyse.ts';
import type { Better } from '../core/compare/better.ts';
import { PAIR_METHODS, type PairMethodName } from '../core/compare/method-names.ts';
import type { Margin } from '../core/model/parts.ts';
import { SCREENING_RULES } from '../core/screening/index.ts';
import { FileProblem } from '../core/formats/file-problem.ts';
import { TEXT, understood } from './arguments.ts';

export interface CommandOptions {
  file: string;
  json: boolean;
  item: string;
  value: string;
  /** undefined: a column called “round”, if there is one. */
  round: string | undefined;
  /** Column of the reference reading; undefined: none. */
  reference: string | undefined;
  /** Columns of the factors, two at most. */
  factors: readonly string[];
  /** Item that the others are compared with; undefined: none. */
  baseline: string | undefined;
  /** File that the report is written to; undefined: none is. */
  report: string | undefined;
  analysis: AnalysisOptions;
}

/** An analysis of variance takes two factors at most. */
const MOST_FACTORS = 2;

/** A file states no plausible limits. */
export const RULES = SCREENING_RULES.filter(({ byItself }) => !byItself);

function numberOf(option: string, text: string, allowed: (x: number) => boolean, range: string): number {
  const number = text.trim() === '' ? Number.NaN : Number(text);
  if (!Number.isFinite(number) || !allowed(number)) {
    throw new FileProblem(`The option --${option} takes ${range}, not “${text}”.`);
  }
  return number;
}

function ruleOf(text: string): AnalysisOptions['rule'] {
  const [name, parameter] = text.split(/=(.*)/s) as [string, string | undefined];
  const rule = RULES.find((candidate) => candidate.name === name);
  if (!rule) {
    throw new FileProblem(
      `There is no rule “${name}”; the rules are ${RULES.map((known) => known.name).join(', ')}.`,
    );
  }
  if (parameter === undefined) return { name: rule.name };
  const limits = rule.parameter;
  if (!limits) throw new FileProblem(`The rule “${name}” takes no parameter.`);
  return {
    name: rule.name,
    parameter: numberOf(
      'rule',
      parameter,
      (x) => x >= limits.minimum && x <= limits.maximum && (!limits.whole || Number.isInteger(x)),
      `${name}=${limits.whole ? 'a whole number' : 'a number'} from ${String(limits.minimum)}`,
    ),
  };
}

function levelOf(text: string): 'study' | 'sample' {
  if (text === 'study' || text === 'sample') return text;
  throw new FileProblem(`The option --alpha-per takes study or sample, not “${text}”.`);
}

function betterOf(text: string): Better {
  if (text === 'higher' || text === 'lower') return { kind: text };
  const target = /^nearest=(.+)$/.exec(text)?.[1];
  if (target === undefined) {
    throw new FileProblem(`The option --better takes higher, lower or nearest=NUMBER, not “${text}”.`);
  }
  return {
    kind: 'nearest',
    target: numberOf('better', target, () => true, 'nearest=NUMBER'),
  };
}

function marginOf(text: string): Margin {
  const percent = text.endsWith('%');
  const value = numberOf(
    'margin',
    percent ? text.slice(0, -1) : text,
    (x) => x >= 0,
    'a number from 0 on, or per cent as in 5%',
  );
  return { kind: percent ? 'percent' : 'absolute', value };
}

function methodOf(text: string | undefined): PairMethodName | undefined {
  if (text === undefined) return undefined;
  const method = PAIR_METHODS.find((name) => name === text);
  if (!method) {
    throw new FileProblem(`There is no method “${text}”; the methods are ${PAIR_METHODS.join(', ')}.`);
  }
  return method;
}

function reportOf(file: string | undefined): string | undefined {
  if (file?.trim() === '')
    throw new FileProblem('The option --report takes the file to write, as in --report fans.html.');
  return file;
}

/** What the command line may have. */
const OPTIONS = {
  json: { type: 'boolean' },
  item: TEXT,
  value: TEXT,
  round: TEXT,
  better: TEXT,
  rule: TEXT,
  alpha: TEXT,
  'alpha-per': TEXT,
  resolution: TEXT,
  margin: TEXT,
  method: TEXT,
  resamples: TEXT,
  seed: TEXT,
  reference: TEXT,
  factor: { type: 'string', multiple: true },
  baseline: TEXT,
  report: TEXT,
  decibel: { type: 'boolean' },
} as const;

const isWholeUpTo =
  (most: number) =>
  (x: number): boolean =>
    Number.isInteger(x) && x >= 0 && x <= most;

/** The factors that are named. @throws FileProblem where they are too many, or one twice */
function factorsOf(factors: readonly string[]): string[] {
  if (factors.length > MOST_FACTORS) {
    throw new FileProblem(
      `The option --factor can be given twice at most, not ${String(factors.length)} times.`,
    );
  }
  if (new Set(factors).size < factors.length) {
    throw new FileProblem(`The factor “${factors[0] ?? ''}” is given twice.`);
  }
  return [...factors];
}

/**
 * Understands the command line.
 * @throws FileProblem with one sentence for whatever is not understood
 */
export function commandOptions(args: readonly string[]): CommandOptions {
  const { values, positionals } = understood(args, {
    allowPositionals: true,
    options: OPTIONS,
  });
  const [file, ...rest] = positionals;
  if (file === undefined)
    throw new FileProblem('Give the CSV file to read: analyse FILE.csv [options]; --help says which.');
  if (rest.length > 0) throw new FileProblem(`One file at a time: “${rest[0] ?? ''}” is one too many.`);
  return {
    file,
    json: values.json ?? false,
    item: values.item ?? 'item',
    value: values.value ?? 'value',
    round: values.round,
    reference: values.reference,
    factors: factorsOf(values.factor ?? []),
    baseline: values.baseline,
    report: reportOf(values.report),
    analysis: {
      better: betterOf(values.better ?? 'higher'),
      rule: { ...ruleOf(values.rule ?? 'none'), level: levelOf(values['alpha-per'] ?? 'study') },
      average: values.decibel ? 'energy' : undefined,
      resolution:
        values.resolution === undefined
          ? undefined
          : numberOf('resolution', values.resolution, (x) => x > 0, 'a number above 0'),
      alpha: numberOf('alpha', values.alpha ?? '0.05', (x) => x > 0 && x < 1, 'a number between 0 and 1'),
      margin: marginOf(values.margin ?? '0'),
      method: methodOf(values.method),
      resamples: numberOf(
        'resamples',
        values.resamples ?? '10000',
        isWholeUpTo(1000000),
        'a whole number from 0 to 1000000',
      ),
      seed: numberOf(
        'seed',
        values.seed ?? '1',
        isWholeUpTo(4294967295),
        'a whole number from 0 to 4294967295',
      ),
    },
  };
}
