import type { Analysis } from '../core/analysis/analyse.ts';
import { figuresOf } from '../core/report/figures.ts';
import { answer } from '../core/report/answer.ts';
import { placeRange } from '../core/rank/place.ts';
import { errorOf, factorTerms, fromBaseline } from './asked.ts';
import type { CommandOptions } from './options.ts';
import type { noticed } from './noticed.ts';
import type { FileReadings } from './readings.ts';

/** An item as --json prints it. */
function itemFields(
  found: Analysis['items'][number],
  read: FileReadings,
  { analysis: { rule, alpha }, reference }: CommandOptions,
) {
  const { item, n, leftOut, summary } = found;
  return {
    item,
    n,
    missing: read.missing,
    kept: n - leftOut.length,
    leftOut: leftOut
      .map(({ index, statistic, limit }) => ({
        line: read.lines[index],
        value: read.values[index],
        rule: rule.name,
        statistic,
        limit,
      }))
      .sort((a, b) => (a.line ?? 0) - (b.line ?? 0)),
    mean: summary.mean,
    sd: summary.sd,
    se: summary.se,
    ci95: summary.interval,
    median: summary.median,
    mad: summary.mad,
    min: summary.min,
    max: summary.max,
    q1: summary.q1,
    q3: summary.q3,
    cv: summary.cv,
    ...(reference === undefined ? {} : { error: errorOf(read, found, alpha) }),
  };
}

/** What each item differs by from the baseline, as --json prints it. */
const baselineFields = ({ item: baseline, differences }: NonNullable<ReturnType<typeof fromBaseline>>) => ({
  item: baseline,
  differences: differences.map(({ item, found }) => ({
    item,
    difference: found.difference,
    ciLow: found.interval?.[0] ?? null,
    ciHigh: found.interval?.[1] ?? null,
    percent: found.percent,
    percentLow: found.percentInterval?.[0] ?? null,
    percentHigh: found.percentInterval?.[1] ?? null,
  })),
});

/** The document that --json prints; numbers unrounded. */
export function jsonDocument(
  readings: readonly FileReadings[],
  options: CommandOptions,
  analysis: Analysis,
  seen: ReturnType<typeof noticed>,
) {
  const factors = factorTerms(readings, analysis, options);
  const baseline = fromBaseline(analysis, options);
  return {
    items: analysis.items.map((item, i) => itemFields(item, readings[i] as FileReadings, options)),
    tests: { ...analysis.tests, ...(factors ? { factors: factors.terms } : {}) },
    method: analysis.method,
    pairs: analysis.pairs.map((pair) => ({
      a: analysis.items[pair.a]?.item,
      b: analysis.items[pair.b]?.item,
      difference: pair.difference,
      se: pair.se,
      df: pair.df,
      p: pair.p,
      ciLow: pair.low,
      ciHigh: pair.high,
      verdict: pair.verdict,
      matters: pair.matters,
    })),
    ...(baseline ? { baseline: baselineFields(baseline) } : {}),
    ranking: analysis.ranking.map(({ index, place, placeLow, placeHigh, chanceFirst }) => ({
      item: analysis.items[index]?.item,
      place,
      placeLow,
      placeHigh,
      chanceFirst,
    })),
    findings: [
      ...analysis.findings.map(({ kind, item, message }) => ({ kind, ...(item ? { item } : {}), message })),
      ...seen.findings.map(({ kind, message }) => ({ kind, message })),
    ],
    notes: notesOf(analysis, factors, seen),
  };
}

/** What is to be known besides, of the analysis and of what was not done. */
const notesOf = (
  { remarks }: Analysis,
  factors: ReturnType<typeof factorTerms>,
  seen: ReturnType<typeof noticed>,
): string[] => [
  ...remarks.map(({ text }) => text),
  ...(factors?.note ? [factors.note] : []),
  ...(seen.note === undefined ? [] : [seen.note]),
];

const columns = (rows: readonly (readonly string[])[]): string => {
  const widths = (rows[0] ?? []).map((_, column) =>
    Math.max(...rows.map((row) => [...(row[column] ?? '')].length)),
  );
  return rows
    .map((row) =>
      row
        .map((cell, column) =>
          column === 0
            ? cell + ' '.repeat((widths[column] as number) - [...cell].length)
            : ' '.repeat((widths[column] as number) - [...cell].length) + cell,
        )
        .join('  ')
        .trimEnd(),
    )
    .join('\n');
};

const pOf = (p: number | null): string => (p === null ? '–' : p < 0.0001 ? '< 0.0001' : p.toFixed(4));

/** Tables for what was asked for besides: differences from the baseline, errors, factors. */
function askedFor(
  readings: readonly FileReadings[],
  options: CommandOptions,
  analysis: Analysis,
  factors: ReturnType<typeof factorTerms>,
): string[] {
  const { result } = figuresOf(analysis);
  const baseline = fromBaseline(analysis, options);
  const range = (interval: readonly [number, number] | null, figure: (value: number) => string) =>
    interval ? `${figure(interval[0])} to ${figure(interval[1])}` : '–';
  const percent = (value: number | null) => (value === null ? '–' : value.toFixed(1));
  const errors = readings.map((ofItem, i) => errorOf(ofItem, analysis.items[i], options.analysis.alpha));
  const errorKeys = Object.keys(errors.find((found) => found !== null) ?? {});
  return [
    ...(baseline
      ? [
          columns([
            [`from ${baseline.item}`, 'difference', 'interval', '%', 'interval, %'],
            ...baseline.differences.map(({ item, found }) => [
              item,
              result(found.difference),
              range(found.interval, result),
              percent(found.percent),
              range(found.percentInterval, percent),
            ]),
          ]),
        ]
      : []),
    ...(options.reference !== undefined && errorKeys.length > 0
      ? [
          columns([
            ['error', ...errorKeys],
            ...readings.map(({ item }, i) => [
              item,
              ...errorKeys.map((key) =>
                errorText((errors[i] as Record<string, unknown> | null)?.[key], result),
              ),
            ]),
          ]),
        ]
      : []),
    ...(factors && factors.terms.length > 0
      ? [
          columns([
            ['term', 'df', 'sum of squares', 'F', 'p'],
            ...factors.terms.map(({ term, df, ss, f, p }) => [
              term,
              String(df),
              String(Number(ss.toPrecision(6))),
              f === null ? '–' : f.toFixed(3),
              pOf(p),
            ]),
          ]),
        ]
      : []),
  ];
}

function errorText(value: unknown, result: (value: number) => string): string {
  if (Array.isArray(value)) return value.map((end) => result(end as number)).join(' to ');
  if (typeof value !== 'number') return '–';
  return Number.isInteger(value) ? String(value) : String(Number(value.toPrecision(4)));
}

/** The table for people. */
export function table(
  readings: readonly FileReadings[],
  options: CommandOptions,
  analysis: Analysis,
  seen: ReturnType<typeof noticed>,
): string {
  const { items, pairs, ranking } = analysis;
  const names = items.map(({ item }) => item);
  const { sentence, notes } = answer(names, analysis, '');
  const { result, spread } = figuresOf(analysis);
  const placed = new Map(ranking.map((entry) => [entry.index, entry]));
  const order = [...ranking.map(({ index }) => index), ...items.keys()].filter(
    (index, place, all) => all.indexOf(index) === place,
  );
  const rows = order.map((index) => {
    const { item, n, leftOut, summary } = items[index] as Analysis['items'][number];
    const { mean, sd, interval } = summary;
    const place = placed.get(index);
    const range = place === undefined ? '–' : placeRange(place);
    return [
      item,
      String(n),
      String((readings[index] as FileReadings).missing),
      String(leftOut.length),
      result(mean),
      spread(sd),
      interval ? `${result(interval[0])} to ${result(interval[1])}` : '–',
      range,
    ];
  });
  const parts = [
    sentence,
    columns([['item', 'n', 'missing', 'left out', 'mean', 'SD', '95 % interval', 'place'], ...rows]),
  ];
  if (pairs.length > 0 && pairs.length <= 200) {
    parts.push(
      columns([
        ['pair', 'difference', 'p', 'verdict', 'matters'],
        ...pairs.map((pair) => [
          `${names[pair.a] ?? ''} / ${names[pair.b] ?? ''}`,
          result(pair.difference),
          pOf(pair.p),
          pair.verdict,
          pair.matters,
        ]),
      ]),
    );
  }
  const factors = factorTerms(readings, analysis, options);
  parts.push(...askedFor(readings, options, analysis, factors));
  const remarks = [
    ...notes.map(({ title, text }) => `${title}. ${text}`),
    ...[...analysis.findings, ...seen.findings].map(({ message, todo }) => `${message} ${todo}`),
    ...notesOf(analysis, factors, seen),
  ];
  if (remarks.length > 0) parts.push(remarks.join('\n'));
  return parts.join('\n\n');
}
