import type { PrecisionPart, PrecisionSource, StudyPrecision } from '../analysis/precision.ts';
import { capital, counted, decimalsFor, formatNumber, listed, withUnit } from '../quantity/format.ts';
import type { ReportCell, ReportTable } from './report.ts';

const PLURALS: Record<PrecisionSource, string> = {
  operator: 'operators',
  instrument: 'instruments',
  session: 'sessions',
  'item and operator': 'operators from item to item',
};

/** Of whom a part is: “operators”, “operators or sessions” where the readings do not tell them apart. */
const partWords = ({ sources }: Pick<PrecisionPart, 'sources'>): string =>
  sources.map((source) => PLURALS[source]).join(' or ');

const ADVICE: Record<PrecisionSource, string> = {
  operator: 'let one read everything, or let each read every item',
  instrument: 'read everything with one of them, or put a correction on the others',
  session: 'read every item in each session, so that it cancels',
  'item and operator':
    'agree on how each item is handled and read, since hands that suit one item do not suit another',
};

/** Fewer groups than this say little of how much others would differ. */
const FEW_GROUPS = 5;
/** A smaller share of the variance is not worth a word. */
const SMALL = 0.1;

const share = (part: number): string => `${formatNumber(100 * part, 0)}\u202f%`;

/** What of the spread comes from whom and what. */
export function precisionTable(precision: StudyPrecision, unit: string): ReportTable {
  const { parts, repeat, reproduced, limits, n } = precision;
  const decimals = decimalsFor(repeat.sd) + 1;
  const limit = (value: number) => withUnit(formatNumber(value, decimals), unit);
  const row = (name: string, groups: string, sd: number, part: number): ReportCell[] => [
    { text: capital(name) },
    { text: groups },
    { text: sd === 0 ? 'none seen' : formatNumber(sd, decimals) },
    { text: share(part) },
  ];
  return {
    caption: `Single readings of one item${unit && `, ${unit}`}: repeatability limit ${limit(limits.repeatability)}, reproducibility limit ${limit(limits.reproducibility)}`,
    figures: [1, 2, 3],
    head: ['Spread', 'how many', 'SD', 'of the variance'],
    rows: [
      ...parts.map((part) => row(`between ${partWords(part)}`, String(part.groups), part.sd, part.share)),
      row('between repeats', String(n), repeat.sd, repeat.share),
      row('all together', '', reproduced, 1),
    ],
  };
}

/** What the spread comes from, what follows, and what to improve, in plain sentences. */
export function precisionSentences(precision: StudyPrecision, unit: string): string[] {
  const { parts, repeat, limits, items, shared } = precision;
  const decimals = decimalsFor(repeat.sd);
  const figure = (value: number) => withUnit(formatNumber(value, decimals), unit);
  const seen = parts.filter((part) => part.share >= SMALL).sort((a, b) => b.share - a.share);
  const [largest] = seen;
  const beyondItems = parts.filter(
    ({ sources, sd }) => items !== null && sd > items && !sources.includes('item and operator'),
  );
  const different = listed(
    parts.flatMap((part) => (part.sources.includes('item and operator') ? [] : [partWords(part)])),
  );
  const few = seen.filter(
    ({ groups, sources }) => groups < FEW_GROUPS && !sources.includes('item and operator'),
  );
  return [
    `Two repeats lie within ${figure(limits.repeatability)} of each other in 95 of 100 cases, and two readings of different ${different} within ${figure(limits.reproducibility)}.`,
    largest
      ? `Of the variance ${listed(seen.map((part) => `${share(part.share)} lies between ${partWords(part)}`))}, the rest between repeats.`
      : `Nearly all of it lies between repeats (${share(repeat.share)}), so that more readings narrow the means.`,
    ...beyondItems.map(
      (part) =>
        `${capital(partWords(part))} differ by more than the items do (SD ${figure(part.sd)} against ${figure(items as number)}).`,
    ),
    ...(largest && !(shared && largest.sources[0] === 'session')
      ? [`To improve it, ${ADVICE[largest.sources[0] as PrecisionSource]}.`]
      : []),
    ...(largest && parts.length > 0
      ? [
          shared
            ? 'Every item was read alike in all of them, so that most of it cancels between items.'
            : 'Items were not read alike in all of them, so that what these differ by falls on the items.',
        ]
      : []),
    ...(few.length > 0
      ? [
          `${listed(few.map((part) => counted(part.groups, part.sources.join(' or '), partWords(part))))} are few: how much others would differ is known roughly.`,
        ]
      : []),
  ];
}
