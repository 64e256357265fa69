import type { ClassAnalysis } from '../analysis/analyse-study.ts';
import type { OverLevels } from '../analysis/over-levels.ts';
import { typedAt } from '../analysis/typed-figures.ts';
import { describedMethod } from '../compare/described.ts';
import type { Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { capital, counted, decimalsFor, formatNumber, formatPlain, listed } from '../quantity/format.ts';
import { pairBetween, placeRange } from '../rank/place.ts';
import { describedRule } from '../screening/described.ts';
import { ruleWords } from '../screening/words.ts';
import { hasCorrections } from '../observations/correct.ts';
import { correctionsInForce } from '../record/correction-words.ts';
import type { Budget } from '../summary/budget.ts';
import type { Summary } from '../summary/summary.ts';
import { type Typed, rangeWords } from '../summary/typed.ts';
import { cellBlocks } from './cells.ts';
import { figuresOf, placedWords } from './figures.ts';
import { stripCaption } from './left-out-words.ts';
import { levelCaption, levelFigures, orderOver, placeAt } from './over-levels.ts';
import type { ReportBlock, ReportCell, ReportTable } from './report.ts';
import { type Reported, classesOf, details, isRanked, sentences } from './reported.ts';
import { fileWords } from './from-files.ts';

/** A caption with the class that the picture is of, where there are several. */
const captionOf = (classes: readonly unknown[], name: string, caption: string): string =>
  `${classes.length > 1 ? `${name || 'Without a class'}: ` : ''}${caption}`;

/** The pictures of a measurand: over the levels of a factor, else the strip of every class. */
export function pictures({ measurand, setting, series, more }: Reported): ReportBlock[] {
  if (series.some(({ over }) => !over.ranksOnly)) {
    const shown = series.flatMap(({ over, key }) =>
      over.classes.map(({ name: className }): ReportBlock => ({
        kind: 'picture',
        picture: {
          ...{ of: 'levels', measurandId: measurand.id, factorId: over.factor.id },
          ...{ seriesKey: key, className },
        },
        caption: captionOf(over.classes, className, levelCaption(over)),
      })),
    );
    if (more === 0) return shown;
    return [
      ...shown,
      {
        kind: 'text',
        text: `${counted(more, 'more setting')} of the other factors: see the ranking.`,
      },
    ];
  }
  return setting.classes.map(({ name: className, analysis }) => ({
    kind: 'picture',
    picture: { of: 'strip', measurandId: measurand.id, settingKey: setting.setting.key, className },
    caption: captionOf(setting.classes, className, stripCaption(setting, analysis)),
  }));
}

/** A mean with its expanded uncertainty, rounded by it: “4.13 ± 0.24”. */
export function meanWords(
  mean: number,
  budget: Pick<Budget, 'expanded'> | undefined,
  fallback: (value: number) => string,
): string {
  if (!budget || budget.expanded === 0) return fallback(mean);
  const decimals = decimalsFor(budget.expanded);
  return `${formatNumber(mean, decimals)} ± ${formatNumber(budget.expanded, decimals)}`;
}

/** The verdict of an item against the leader, in a word or two. */
function againstLeader(group: ClassAnalysis, leader: number, index: number): { by: string; verdict: string } {
  const { analysis } = group;
  const pair = pairBetween(analysis.pairs, leader, index);
  if (!pair || index === leader) return { by: '', verdict: '' };
  const by = analysis.ranksOnly
    ? formatNumber(Math.abs(pair.lead), 1)
    : figuresOf(analysis).result(Math.abs(pair.lead));
  const ranged = [leader, index].some((item) => analysis.items[item]?.typed?.kind === 'range');
  const verdict =
    pair.verdict === 'same'
      ? 'practically the same'
      : pair.verdict === 'not settled'
        ? 'not settled'
        : pair.verdict === 'too few'
          ? pair.withinAccuracy
            ? 'within the meter’s accuracy'
            : 'too few readings'
          : pair.matters === 'yes'
            ? 'behind'
            : 'behind, perhaps by less than the margin';
  return { by: ranged ? '' : by, verdict };
}

/** How many readings stand behind what is known from elsewhere. */
const typedCount = (typed: Typed): string =>
  typed.kind === 'range' ? 'typed in' : `${String(typed.n)}, typed in`;

/** What a mean from elsewhere is uncertain by: its spread alone, since nobody knows here what else there was. */
const typedSpread = ({ interval }: Summary): Pick<Budget, 'expanded'> | undefined =>
  interval ? { expanded: (interval[1] - interval[0]) / 2 } : undefined;

function rankingTable(measurand: Measurand, group: ClassAnalysis): ReportTable {
  const { analysis, items } = group;
  const leader = analysis.ranking[0]?.index as number;
  const { result } = figuresOf(analysis);
  const unit = measurand.unit && `, ${measurand.unit}`;
  return {
    caption: `${group.name && `${group.name}: `}${measurand.name}${unit}`,
    figures: [2, 3, 4],
    head: [
      'Place',
      'Item',
      analysis.ranksOnly ? 'Median mark' : analysis.exact ? 'Figure' : 'Mean ± U',
      'Readings',
      analysis.ranksOnly ? 'Mean ranks from the best' : 'From the best',
      'Against the best',
    ],
    rows: analysis.ranking.map((entry) => {
      const item = items[entry.index];
      const { summary, placedBy, budget, typed } = analysis.items[
        entry.index
      ] as (typeof analysis.items)[number];
      const { by, verdict } = againstLeader(group, leader, entry.index);
      return [
        { text: placeRange(entry) },
        { text: item?.name ?? '', ...(item ? { mark: item.mark } : {}) },
        {
          text: analysis.ranksOnly
            ? result(summary.median)
            : typed?.kind === 'range'
              ? rangeWords(typed)
              : meanWords(
                  (placedBy ?? summary.mean) as number,
                  typed ? typedSpread(summary) : budget,
                  result,
                ),
        },
        { text: analysis.exact ? '–' : typed ? typedCount(typed) : String(summary.n) },
        { text: by },
        { text: verdict },
      ];
    }),
  };
}

function levelTables(over: OverLevels): ReportTable[] {
  return over.classes.map((group): ReportTable => {
    const { result } = levelFigures(group);
    const unit = over.measurand.unit && `, ${over.measurand.unit}`;
    return {
      caption: `${group.name && `${group.name}: `}${over.measurand.name}${unit} at each level${over.held && `, at ${over.held}`}; in brackets the place`,
      figures: over.levels.map((_, level) => level + 1),
      head: ['Item', ...over.levels.map(({ name }) => name)],
      rows: orderOver(group).map((index) => [
        { text: group.items[index]?.name ?? '', mark: group.items[index]?.mark as number },
        ...group.levels.map((level, i): ReportCell => {
          const item = level?.analysis.items[index];
          const place = placeAt(group, i, index);
          if (item?.placedBy == null && place === '–') return { text: '–' };
          const where = place === '–' ? '' : `(${place})`;
          return { text: over.ranksOnly ? where : `${placedWords(item, result)} ${where}`.trim() };
        }),
      ]),
    };
  });
}

export const tables = ({ measurand, setting, all }: Reported): ReportBlock[] =>
  (all.length > 0 ? all.flatMap(levelTables) : setting.classes.map((group) => rankingTable(measurand, group)))
    .filter(({ rows }) => rows.length > 0)
    .map((table) => ({ kind: 'table', table }));

/** What else was measured: a sentence and a picture each. */
export function others(
  document: StudyDocument,
  reported: readonly Reported[],
  soFar: boolean,
): ReportBlock[] {
  return reported.flatMap((measured): ReportBlock[] => [
    {
      kind: 'text',
      text: `${measured.measurand.name}. ${[...sentences(measured, soFar), ...details(measured, soFar)].join(' ')}`,
    },
    ...pictures(measured),
    ...cellBlocks(document, measured),
  ]);
}

const ORDERS: Record<StudyDocument['study']['runOrder'], string> = {
  'shuffled-rounds': 'in rounds, each in a freshly shuffled order',
  'full-shuffle': 'in one shuffled order',
  fixed: 'in rounds, always in the same order',
  'balanced-square': 'in rounds in which each item follows each other equally often',
};

/** What was set right in the readings of each measurand. */
const correctedWords = (reported: readonly Reported[], document: StudyDocument): string[] =>
  reported.flatMap(({ measurand }) =>
    hasCorrections(measurand)
      ? [`Readings of ${measurand.name} were set right: ${correctionsInForce(measurand, document)}.`]
      : [],
  );

/** What was not read here, and where it comes from. */
function elsewhereWords(reported: readonly Reported[], document: StudyDocument): string[] {
  const from = reported.flatMap((measured) => {
    const known = typedAt(document, measured.measurand.id, measured.setting.setting.key);
    return classesOf(measured).flatMap(({ items, analysis }) =>
      items.flatMap(({ id, name }, i) => {
        if (!analysis.items[i]?.typed) return [];
        const source = known.get(id)?.source ?? '';
        return [`${name} (${measured.measurand.name}${source && `: ${source}`})`];
      }),
    );
  });
  return from.length === 0
    ? []
    : [
        `Not read here but typed in from elsewhere: ${listed([...new Set(from)])}. What differed between there and here is in the differences.`,
      ];
}

const someDoubt = (reported: readonly Reported[]): boolean =>
  reported.some((measured) =>
    classesOf(measured).some(({ analysis }) => analysis.items.some(({ doubt }) => doubt.ofMean > 0)),
  );

/** Whether every reading came from a table. */
export const readIn = ({ readings }: Pick<StudyDocument, 'readings'>): boolean =>
  readings.length > 0 && readings.every(({ source }) => source === 'import');

/** The method in plain words with its sources, from what was really used. */
export function method(
  document: StudyDocument,
  reported: readonly Reported[],
  pairAlpha: number,
): ReportBlock[] {
  const { study, readings } = document;
  const inForce = reported.filter(({ setting }) => setting.ruled).map(({ measurand }) => measurand.rule);
  const judging = inForce.filter(({ name }) => !describedRule(name).keepsAll);
  const rules = [...new Set(judging.map(ruleWords))];
  const sources = new Set(inForce.flatMap(({ name }) => describedRule(name).source ?? []));
  const comparedBy = new Map<string, Set<string>>();
  for (const measured of reported.filter(({ measurand }) => isRanked(measurand))) {
    for (const { analysis } of classesOf(measured)) {
      if (analysis.pairs.length === 0 || analysis.exact) continue;
      const { label, because, source } = describedMethod(analysis.method);
      const words = `were compared by “${label}”: ${because}`;
      comparedBy.set(words, (comparedBy.get(words) ?? new Set()).add(measured.measurand.name));
      sources.add(source);
    }
  }
  sources.add('uncertainty by the GUM, JCGM 100:2008');
  const confidence = formatPlain(Number((100 * (1 - pairAlpha)).toFixed(1)));
  return [
    {
      kind: 'text',
      text: [
        // In which order the readings of a table were taken, nobody knows.
        readIn(document)
          ? `${capital(counted(readings.length, 'reading'))} were read in from a table.`
          : `${capital(counted(readings.length, 'reading'))} were taken ${ORDERS[study.runOrder]} (seed ${String(study.seed)}).`,
        ...(rules.length > 0
          ? [`Readings were judged by ${listed(rules)}; what was left out is kept in the record.`]
          : inForce.length > 0
            ? ['No rule judged the readings.']
            : []),
        ...[...comparedBy].map(([words, names]) =>
          comparedBy.size === 1 ? `Pairs ${words}` : `Pairs of ${listed([...names])} ${words}`,
        ),
        ...(comparedBy.size > 0
          ? [`All that is said of pairs of a measurand holds at once, with ${confidence} % confidence.`]
          : []),
        ...fileWords(document),
        ...correctedWords(reported, document),
        ...elsewhereWords(reported, document),
        `U is the expanded uncertainty of a mean at 95 %: its spread, the step of the readings${someDoubt(reported) ? ', what corrections leave open' : ''} and the stated accuracy of the instrument together.`,
        ...(reported.some(({ all }) => all.length > 0)
          ? [
              'The levels of a factor share the chance of an error, so what is said of all of them holds at once.',
            ]
          : []),
      ].join(' '),
    },
    {
      kind: 'text',
      text: `Sources: ${[...sources].join('; ')}.`,
    },
  ];
}
