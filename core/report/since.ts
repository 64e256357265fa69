import { type Occasion, occasionOf } from '../analysis/occasion.ts';
import {
  type SinceEarlier,
  type TestChange,
  type TestHeld,
  type Trend,
  sinceEarlier,
} from '../analysis/since.ts';
import { measurandsInOrder } from '../model/in-order.ts';
import type { StudyDocument } from '../model/study-document.ts';
import {
  capital,
  counted,
  decimalsFor,
  formatNumber,
  listed,
  withUnit,
  wordFor,
} from '../quantity/format.ts';
import type { PlainNote } from '../model/plain-note.ts';
import type { ReportBlock, ReportCell, ReportTable } from './report.ts';
import { isRanked } from './reported.ts';

type Interval = readonly [number, number];

/** Decimals that suit tests held against one another: two figures of the narrowest interval of a mean or a change. */
export function sinceDecimals({ tests, changes }: SinceEarlier): number {
  const halves = [
    ...tests.flatMap(({ means }) => means.map((mean) => mean?.interval)),
    ...changes.flat().map((change) => change?.interval),
  ].flatMap((interval) => (interval && interval[1] > interval[0] ? [(interval[1] - interval[0]) / 2] : []));
  return halves.length > 0 ? decimalsFor(Math.min(...halves)) : 2;
}

/** How their figures are printed. */
const sinceFigures = (since: SinceEarlier): ((value: number) => string) => {
  const decimals = sinceDecimals(since);
  return (value) => formatNumber(value, decimals);
};

const signed = (text: string, value: number): string => (value > 0 ? `+${text}` : text);
const reach = ([low, high]: Interval, figure: (value: number) => string) =>
  `${figure(low)} to ${figure(high)}`;
const excludes0 = (interval: Interval | null): boolean =>
  interval !== null && (interval[0] > 0 || interval[1] < 0);

/** What a change is, in words. */
const changeVerdictWords = ({ verdict, withinAccuracy, beyond }: TestChange): string =>
  ({
    rises: 'higher than then',
    falls: 'lower than then',
    same: 'no appreciable difference',
    'not settled': 'not settled',
    'too few': withinAccuracy ? 'within the instrument’s accuracy' : 'too few readings',
  })[verdict] + (beyond?.standsOut ? '; stands out' : '');

/** Items that changed by more than all others did together. */
const otherwise = ({ changes, items }: SinceEarlier, test: number): string[] =>
  items.flatMap(({ name }, item) => {
    const beyond = changes[item]?.[test]?.beyond;
    return beyond?.standsOut ? [name] : [];
  });

/** Which way all items moved, three at least; undefined where they did not. */
function allAlike({ changes }: SinceEarlier, test: number): 'higher' | 'lower' | undefined {
  const verdicts = changes.flatMap((found) => found[test]?.verdict ?? []);
  if (verdicts.length < 3) return undefined;
  if (verdicts.every((verdict) => verdict === 'rises')) return 'higher';
  return verdicts.every((verdict) => verdict === 'falls') ? 'lower' : undefined;
}

/** What became of the items since an earlier test, in one or two sentences. */
export function sinceSentence(since: SinceEarlier, test: number): string {
  const { tests, changes, items } = since;
  const held = tests[test];
  if (!held) return '';
  if (held.problem !== undefined) return held.problem;
  const with_ = (verdicts: readonly TestChange['verdict'][]) =>
    items.flatMap(({ name }, item) => {
      const change = changes[item]?.[test];
      return change && verdicts.includes(change.verdict) ? [name] : [];
    });
  const [up, down, same, open] = [
    with_(['rises']),
    with_(['falls']),
    with_(['same']),
    with_(['not settled', 'too few']),
  ];
  const judged = up.length + down.length + same.length + open.length;
  // Three and more that went one way need not be named one by one.
  const who = (names: string[]) =>
    names.length === judged && judged > 2 ? `all ${String(judged)} items` : listed(names);
  const reads = (names: string[]) => wordFor(names.length, 'reads', 'read');
  const parts = [
    ...(up.length > 0 ? [`${who(up)} ${reads(up)} higher than then`] : []),
    ...(down.length > 0 ? [`${who(down)} ${reads(down)} lower than then`] : []),
    ...(same.length > 0
      ? [`${who(same)} ${wordFor(same.length, 'has', 'have')} not changed appreciably`]
      : []),
    ...(open.length > 0 ? [`what became of ${who(open)} is not settled`] : []),
  ];
  return parts.length === 0 ? '' : `${capital(parts.join('; '))}.`;
}

/** What to know about two tests beside the changes. */
export function sinceNotes(since: SinceEarlier, test: number): PlainNote[] {
  const { measurand, agreements, lessAmbient, tests } = since;
  const found = agreements[test];
  const held = tests[test];
  const now = tests.at(-1);
  if (!found || !held || !now || held.problem !== undefined) return [];
  const figure = sinceFigures(since);
  const shown = (value: number) => withUnit(figure(value), measurand.unit);
  const { agreement, ranks } = found;
  const notes: PlainNote[] = [];
  const others = otherwise(since, test);
  const way = allAlike(since, test);
  if (way !== undefined) {
    notes.push({
      tone: 'attention',
      title: `All items read ${way} than then`,
      text: `By ${shown(Math.abs(agreement.bias))} on average. What moves all of them may be the surroundings, the instrument or the hands rather than the items: look at what each changed by beyond the others.`,
    });
  }
  if (others.length > 0) {
    notes.push({
      tone: 'attention',
      title: `${listed(others)} ${wordFor(others.length, 'stands', 'stand')} out`,
      text: `${wordFor(others.length, 'It', 'They')} changed otherwise than most others, and what the two tests as a whole differ by does not explain that. Look for wear, a fault, or a sample that was mixed up.`,
    });
  }
  if (agreement.limits && agreement.n >= 3) {
    notes.push({
      tone: 'plain',
      title: 'How well the tests agree',
      text: `Of such items ${withUnit('95', '%')} would change by ${withUnit(reach(agreement.limits, figure), measurand.unit)} (limits of agreement, from ${counted(agreement.n, 'item')} only).${ranks === undefined ? '' : ` The order of the means agrees with a rank correlation of ${formatNumber(ranks, 2)}.`}`,
    });
  }
  if (held.corrections !== now.corrections) {
    notes.push({
      tone: 'attention',
      title: 'The tests were not set right alike',
      text: `Then: ${held.corrections}. Now: ${now.corrections}. What these differ by is in every change.`,
    });
  }
  if (held.ambient !== undefined || now.ambient !== undefined) {
    notes.push({
      tone: 'plain',
      title: lessAmbient ? 'The ambient is taken out' : 'The ambient is in it',
      text: lessAmbient
        ? `From each reading the ${(now.ambient ?? '').toLowerCase()} of its session was taken off, the mean of what was read at its start and end. Where something starts hot and cools, that is not enough: work out the share that it keeps, (after − ambient) / (start − ambient), as a measurand of its own.`
        : 'The temperature of the surroundings was not the same; compare the values less the ambient as well.',
    });
  }
  return notes;
}

export function trendWords(trend: Trend | null, figure: (value: number) => string): string {
  if (!trend) return '';
  const { slope, interval, tests } = trend;
  if (!interval || !excludes0(interval)) return `no trend settled over ${counted(tests, 'test')}`;
  return `${slope > 0 ? 'rises' : 'falls'} by ${figure(Math.abs(slope))} a year (${reach(interval, figure)})`;
}

/** A column of the table of changes: what it is called, whether it holds figures, and what it says of an item. */
interface Column {
  head: string;
  figure: boolean;
  cell: (index: number) => string;
}

const trendColumn = (trends: SinceEarlier['trends'], figure: (value: number) => string): Column => ({
  head: 'Trend',
  figure: false,
  cell: (index) => trendWords(trends[index] ?? null, figure) || '–',
});

const changeVerdict = (change: TestChange | null | undefined): string =>
  change ? changeVerdictWords(change) : 'not read at both';

/** What each item changed by since an earlier test, column by column. */
function sinceColumns(since: SinceEarlier, test: number, read: readonly number[]): Column[] {
  const { tests, changes, trends } = since;
  const figure = sinceFigures(since);
  const changeOf = (index: number) => changes[index]?.[test];
  /** A column, where any item has what it says. */
  const wherever = (has: (change: TestChange) => unknown, column: Column): Column[] =>
    read.some((index) => {
      const found = changeOf(index);
      return found && has(found) != null;
    })
      ? [column]
      : [];
  const mean = (held: TestHeld | undefined, index: number) => {
    const found = held?.means[index];
    return found ? figure(found.mean) : '–';
  };
  const change = (say: (change: TestChange) => string | undefined) => (index: number) => {
    const found = changeOf(index);
    return (found && say(found)) ?? '–';
  };
  return [
    { head: 'Then', figure: true, cell: (index) => mean(tests[test], index) },
    { head: 'Now', figure: true, cell: (index) => mean(tests.at(-1), index) },
    {
      head: 'Change',
      figure: true,
      cell: change(
        ({ difference, interval }) =>
          `${signed(figure(difference), difference)}${interval ? ` (${reach(interval, figure)})` : ''}`,
      ),
    },
    ...wherever(({ percent }) => percent, {
      head: '%',
      figure: true,
      cell: change(({ percent }) =>
        percent === null ? undefined : signed(formatNumber(percent, 1), percent),
      ),
    }),
    ...wherever(({ beyond }) => beyond, {
      head: 'Beyond the others',
      figure: true,
      cell: change(({ beyond }) =>
        beyond ? signed(figure(beyond.difference), beyond.difference) : undefined,
      ),
    }),
    {
      head: 'What it says',
      figure: false,
      cell: (index) => changeVerdict(changeOf(index)),
    },
    ...(trends.some(Boolean) ? [trendColumn(trends, figure)] : []),
  ];
}

/** The table of changes since one earlier test. */
export function sinceTable(since: SinceEarlier, test: number, caption: string): ReportTable {
  const { items, tests } = since;
  const read = items
    .map((item, index) => ({ item, index }))
    .filter(({ index }) => [tests.at(-1), tests[test]].some((held) => held?.means[index]));
  const columns = sinceColumns(
    since,
    test,
    read.map(({ index }) => index),
  );
  return {
    caption,
    figures: columns.flatMap((column, i) => (column.figure ? [i + 1] : [])),
    head: ['Item', ...columns.map(({ head }) => head)],
    rows: read.map(({ item, index }): ReportCell[] => [
      { text: item.name, mark: item.mark },
      ...columns.map(({ cell }) => ({ text: cell(index) })),
    ]),
  };
}

/** Longest list of measurands that is held against each earlier test in a report. */
const MOST_MEASURANDS = 4;

/** What became of the items since the tests that the study names, measurand by measurand. */
export function earlierTests(
  document: StudyDocument,
  occasions: readonly Occasion[],
  when: (instant: string) => string,
): ReportBlock[] {
  const { earlier, blind } = document.study;
  // Names of an earlier test would give the codes away.
  if (blind === 'blind' || earlier.length === 0 || document.readings.length === 0) return [];
  const there = earlier.flatMap(({ studyId, matches }) => {
    const occasion = occasions.find((found) => found.studyId === studyId);
    return occasion ? [{ occasion, matches }] : [];
  });
  const gone = earlier.filter(({ studyId }) => !occasions.some((found) => found.studyId === studyId));
  const now = occasionOf(document);
  const blocks = measurandsInOrder(document)
    .filter(isRanked)
    .slice(0, MOST_MEASURANDS)
    .flatMap(({ id, name, unit }): ReportBlock[] => {
      const settings = now.measurands.find((found) => found.id === id)?.settings ?? [];
      const since = sinceEarlier(document, id, now, there, {
        settingKey: settings[0]?.key ?? '',
        lessAmbient: false,
      });
      if (!since || there.length === 0) return [];
      const test = since.tests.length - 2;
      const held = since.tests[test];
      if (!held || held.problem !== undefined) return [];
      const setting = settings[0]?.words ?? '';
      return [
        {
          kind: 'text',
          text: `${name}${setting && ` at ${setting}`}: ${sinceSentence(since, test)}`,
        },
        {
          kind: 'table',
          table: sinceTable(
            since,
            test,
            `${name}${unit && `, ${unit}`}: then is ${held.title}, ${when(held.startedAt)}`,
          ),
        },
        ...sinceNotes(since, test).map(({ title, text }): ReportBlock => ({
          kind: 'text',
          text: `${title}. ${text}`,
        })),
      ];
    });
  return [
    ...blocks,
    ...(gone.length > 0
      ? [
          {
            kind: 'text' as const,
            text: `Not at hand, so not compared with: ${listed(gone.map(({ title }) => title))}.`,
          },
        ]
      : []),
  ];
}
