import type { Analysis } from '../core/analysis/analyse.ts';
import { figuresOf } from '../core/report/figures.ts';
import { answer } from '../core/report/answer.ts';
import type { CommandOptions } from './options.ts';
import type { FileReadings } from './readings.ts';

/** The document that --json prints; numbers unrounded. */
export function jsonDocument(readings: readonly FileReadings[], options: CommandOptions, analysis: Analysis) {
  const rule = options.analysis.rule.name;
  return {
    items: analysis.items.map(({ item, n, leftOut, summary }, i) => {
      const own = readings[i] as FileReadings;
      return {
        item,
        n,
        missing: own.missing,
        kept: n - leftOut.length,
        leftOut: leftOut
          .map(({ index, statistic, limit }) => ({
            line: own.lines[index],
            value: own.values[index],
            rule,
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
      };
    }),
    tests: analysis.tests,
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
    ranking: analysis.ranking.map(({ index, place, placeLow, placeHigh, chanceFirst }) => ({
      item: analysis.items[index]?.item,
      place,
      placeLow,
      placeHigh,
      chanceFirst,
    })),
    findings: analysis.findings.map(({ kind, item, message }) => ({
      kind,
      ...(item ? { item } : {}),
      message,
    })),
    notes: analysis.remarks.map(({ text }) => text),
  };
}

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

/** The table for people. */
export function table(readings: readonly FileReadings[], analysis: Analysis): string {
  const { items, pairs, ranking } = analysis;
  const names = items.map(({ item }) => item);
  const { sentence, notes } = answer(names, analysis, '');
  const { result, spread } = figuresOf(analysis);
  const placed = new Map(ranking.map((entry) => [entry.index, entry]));
  const order = [...ranking.map(({ index }) => index), ...items.keys()].filter(
    (index, at, all) => all.indexOf(index) === at,
  );
  const rows = order.map((index) => {
    const { item, n, leftOut, summary } = items[index] as Analysis['items'][number];
    const { mean, sd, interval } = summary;
    const place = placed.get(index);
    const range =
      place === undefined
        ? '–'
        : place.placeLow === place.placeHigh
          ? String(place.placeLow)
          : `${String(place.placeLow)}–${String(place.placeHigh)}`;
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
          pair.p === null ? '–' : pair.p < 0.0001 ? '< 0.0001' : pair.p.toFixed(4),
          pair.verdict,
          pair.matters,
        ]),
      ]),
    );
  }
  const remarks = [
    ...notes.map(({ title, text }) => `${title}. ${text}`),
    ...analysis.findings.map(({ message, todo }) => `${message} ${todo}`),
    ...analysis.remarks.map(({ text }) => text),
  ];
  if (remarks.length > 0) parts.push(remarks.join('\n'));
  return parts.join('\n\n');
}
