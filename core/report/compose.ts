import { type ClassAnalysis, type SettingAnalysis, analyseStudy } from '../analysis/analyse-study.ts';
import { atSetting } from '../analysis/at-setting.ts';
import { inspectStudy } from '../analysis/inspect-study.ts';
import { type OverLevels, overLevels } from '../analysis/over-levels.ts';
import { factorsRead } from '../analysis/series.ts';
import { checkClaims } from '../claims/check.ts';
import { pairMethod } from '../compare/methods.ts';
import { measurandsInOrder } from '../model/in-order.ts';
import { conditionsInOrder } from '../bench/session.ts';
import type { Measurand, Session } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { STUDY_FORMAT_VERSION } from '../model/study-format.ts';
import { CAUTIONS } from '../plan/cautions.ts';
import { claimWords } from '../plan/claim-words.ts';
import {
  capital,
  counted,
  decimalsFor,
  formatNumber,
  formatPlain,
  listed,
  withUnit,
} from '../quantity/format.ts';
import { changeWords, isLate } from '../record/change-words.ts';
import { screeningRule } from '../screening/index.ts';
import { ruleWords } from '../screening/words.ts';
import { ALPHA } from '../model/alpha.ts';
import { type Budget, uncertaintyBudget } from '../summary/budget.ts';
import { answer } from './answer.ts';
import {
  type ComposedReport,
  type ReportBlock,
  type ReportCell,
  type ReportPartName,
  type ReportTable,
  partsInOrder,
} from './report.ts';
import { figuresOf } from './figures.ts';
import { leftOutWords } from './left-out-words.ts';
import { answerOverLevels, levelFigures } from './over-levels.ts';

export interface ComposeOptions {
  /** Whether the plan is not complete yet, so that the answer may still change. */
  soFar: boolean;
  /** Level of the pairs, where a planned look has its own. */
  pairAlpha?: number | undefined;
  /** How a day and time are told. */
  when: (instant: string) => string;
  /** Version of the program. */
  program: string;
}

/** One measurand as a report tells it: over the levels of a factor where there is one, else at its only setting. */
interface Told {
  measurand: Measurand;
  setting: SettingAnalysis;
  over: OverLevels | null;
  seriesKey: string;
}

const isRanked = ({ direction }: Measurand): boolean => direction.kind !== 'unranked';

function toldOf(document: StudyDocument, { pairAlpha }: ComposeOptions): Told[] {
  const [along] = factorsRead(document);
  return measurandsInOrder(document).flatMap((measurand): Told[] => {
    const analysis = analyseStudy(document, measurand.id, { pairAlpha, resamples: 0 });
    if (analysis.settings.every(({ readings }) => readings.length === 0)) return [];
    const setting = atSetting(analysis);
    const exact = setting.classes.every((group) => group.analysis.exact);
    const over =
      along && !exact
        ? overLevels(document, measurand.id, along.over.factor.id, undefined, { pairAlpha })
        : null;
    return [{ measurand, setting, over, seriesKey: along?.series[0]?.key ?? '' }];
  });
}

/** The answer of a measurand, class by class: the same sentences as the ranking has. */
function sentences({ measurand, setting, over }: Told, soFar: boolean): string[] {
  if (!isRanked(measurand)) return [`${measurand.name} is not ranked.`];
  const named = (name: string, sentence: string) => (name === '' ? sentence : `${name}: ${sentence}`);
  return over
    ? over.classes.map((group) => named(group.name, answerOverLevels(over, group, soFar).sentence))
    : setting.classes.map((group) =>
        named(
          group.name,
          answer(
            group.items.map(({ name }) => name),
            group.analysis,
            measurand.unit,
            soFar,
          ).sentence,
        ),
      );
}

function pictures({ measurand, setting, over, seriesKey }: Told): ReportBlock[] {
  const { name, unit } = measurand;
  const of = `${name}${unit && ` in ${unit}`}`;
  if (over && !over.ranksOnly) {
    return over.classes.map(({ name: className }) => ({
      kind: 'picture',
      picture: { of: 'levels', measurandId: measurand.id, factorId: over.factor.id, seriesKey, className },
      caption: `${capital(of)} over ${over.factor.name}${over.held && `, at ${over.held}`}: means joined from level to level; bars are their 95 % intervals.`,
    }));
  }
  return setting.classes.map(({ name: className, analysis }) => ({
    kind: 'picture',
    picture: { of: 'strip', measurandId: measurand.id, settingKey: setting.setting.key, className },
    caption: `${capital(of)}${setting.setting.words && ` at ${setting.setting.words}`}: every reading, ${leftOutWords(setting.readings, measurand.rule.name)}. ${
      analysis.ranksOnly
        ? 'Marks in an order; the last column is the place.'
        : 'Bars are 95 % intervals of the means; what was left out is hollow.'
    }`,
  }));
}

const placeOf = ({ placeLow, placeHigh }: { placeLow: number; placeHigh: number }): string =>
  placeLow === placeHigh ? String(placeLow) : `${String(placeLow)}–${String(placeHigh)}`;

/** A mean with its expanded uncertainty, rounded by it: “4.13 ± 0.24”. */
export function meanWords(
  mean: number,
  budget: Budget | undefined,
  fallback: (value: number) => string,
): string {
  if (!budget || budget.expanded === 0) return fallback(mean);
  const decimals = decimalsFor(budget.expanded);
  return `${formatNumber(mean, decimals)} ± ${formatNumber(budget.expanded, decimals)}`;
}

/** The verdict of an item against the leader, in a word or two. */
function againstLeader(group: ClassAnalysis, leader: number, index: number): { by: string; verdict: string } {
  const { analysis } = group;
  const pair = analysis.pairs.find(
    ({ a, b }) => (a === leader && b === index) || (a === index && b === leader),
  );
  if (!pair || index === leader) return { by: '', verdict: '' };
  const by = analysis.ranksOnly
    ? formatNumber(Math.abs(pair.lead), 1)
    : figuresOf(analysis).result(Math.abs(pair.lead));
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
  return { by, verdict };
}

function rankingTable(told: Told, group: ClassAnalysis): ReportTable {
  const { measurand } = told;
  const { analysis, items } = group;
  const leader = analysis.ranking[0]?.index ?? 0;
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
      const { summary, placedBy } = analysis.items[entry.index] as (typeof analysis.items)[number];
      const budget = analysis.exact
        ? undefined
        : uncertaintyBudget(summary, measurand.instrument, analysis.step, ALPHA);
      const { by, verdict } = againstLeader(group, leader, entry.index);
      return [
        { text: placeOf(entry) },
        { text: item?.name ?? '', ...(item ? { mark: item.mark } : {}) },
        {
          text: analysis.ranksOnly
            ? result(summary.median)
            : meanWords((placedBy ?? summary.mean) as number, budget, result),
        },
        { text: analysis.exact ? '–' : String(summary.n) },
        { text: by },
        { text: verdict },
      ];
    }),
  };
}

function levelTable(over: OverLevels): ReportTable[] {
  return over.classes.map((group): ReportTable => {
    const { result } = levelFigures(group);
    const unit = over.measurand.unit && `, ${over.measurand.unit}`;
    const last = group.levels.findLast(Boolean);
    const place = (index: number) => last?.analysis.ranking.findIndex((entry) => entry.index === index) ?? -1;
    const order = group.items
      .map((_, index) => index)
      .sort((a, b) => (place(a) === -1 ? 1 : place(b) === -1 ? -1 : place(a) - place(b)));
    return {
      caption: `${group.name && `${group.name}: `}${over.measurand.name}${unit} at each level${over.held && `, at ${over.held}`}; in brackets the place`,
      figures: over.levels.map((_, level) => level + 1),
      head: ['Item', ...over.levels.map(({ name }) => name)],
      rows: order.map((index) => [
        { text: group.items[index]?.name ?? '', mark: group.items[index]?.mark ?? 0 },
        ...group.levels.map((level): ReportCell => {
          const mean = level?.analysis.items[index]?.placedBy;
          const entry = level?.analysis.ranking.find((ranked) => ranked.index === index);
          if (mean == null && !entry) return { text: '–' };
          const where = entry ? `(${placeOf(entry)})` : '';
          return { text: over.ranksOnly ? where : `${result(mean)} ${where}`.trim() };
        }),
      ]),
    };
  });
}

const tables = (told: Told): ReportBlock[] =>
  (told.over ? levelTable(told.over) : told.setting.classes.map((group) => rankingTable(told, group)))
    .filter(({ rows }) => rows.length > 0)
    .map((table) => ({ kind: 'table', table }));

function others(told: readonly Told[], soFar: boolean): ReportBlock[] {
  return told.flatMap((one): ReportBlock[] => [
    { kind: 'text', text: `${one.measurand.name}. ${sentences(one, soFar).join(' ')}` },
    ...pictures(one),
  ]);
}

function claims(document: StudyDocument): ReportBlock[] {
  const outcomes: Record<string, string> = {
    holds: 'Holds',
    contradicted: 'Contradicted',
    'not contradicted': 'Not contradicted',
    'depends on the level': 'Depends on the level',
    'no readings': 'Not checked',
  };
  const items = measurandsInOrder(document).flatMap(({ id }) =>
    checkClaims(document, id).map(({ claimId, outcome, sentence }) => {
      const claim = document.claims.find(({ id }) => id === claimId);
      const source = claim?.source ? ` (${claim.source})` : '';
      return `${claim ? claimWords(claim, document) : ''}${source}. ${outcomes[outcome] ?? ''}. ${sentence}`;
    }),
  );
  return items.length === 0 ? [] : [{ kind: 'list', items }];
}

/** More readings than this are counted and not listed. */
const MOST_LISTED = 40;

const BY: Record<string, string> = {
  hand: 'by hand',
  misfire: 'misfire',
  again: 'taken again',
  source: 'with what it comes from',
};

function leftOut(document: StudyDocument): ReportBlock[] {
  const names = new Map(document.items.map(({ id, name, mark }) => [id, { name, mark }]));
  const rows = measurandsInOrder(document)
    .filter(({ expression }) => expression === null)
    .flatMap((measurand) =>
      analyseStudy(document, measurand.id, { resamples: 0 }).settings.flatMap(({ setting, readings }) =>
        readings.flatMap(({ itemId, round, value, use }): ReportCell[][] => {
          if (use.is !== 'left out') return [];
          const item = names.get(itemId);
          return [
            [
              { text: item?.name ?? '', mark: item?.mark ?? 0 },
              { text: measurand.name },
              { text: [setting.words, `round ${String(round)}`].filter(Boolean).join(', ') },
              {
                text:
                  value === null ? '–' : withUnit(formatPlain(Number(value.toPrecision(6))), measurand.unit),
              },
              {
                text:
                  use.by === 'rule'
                    ? screeningRule(measurand.rule.name).label
                    : [BY[use.by] ?? use.by, use.reason].filter(Boolean).join(': '),
              },
            ],
          ];
        }),
      ),
    );
  if (rows.length === 0) return [{ kind: 'text', text: 'No reading was left out.' }];
  return [
    {
      kind: 'table',
      table: {
        caption:
          rows.length > MOST_LISTED
            ? `The first ${String(MOST_LISTED)} of ${counted(rows.length, 'reading')} that do not count`
            : `${capital(counted(rows.length, 'reading'))} that ${rows.length === 1 ? 'does' : 'do'} not count`,
        figures: [3],
        head: ['Item', 'Measurand', 'Where', 'Reading', 'By what, and why'],
        rows: rows.slice(0, MOST_LISTED),
      },
    },
  ];
}

function findings(document: StudyDocument): ReportBlock[] {
  const items = inspectStudy(document).map(({ id, message, why }) => {
    const given = document.study.answers.find(({ finding }) => finding === id);
    return `${message} ${given ? `The tester: ${given.text}` : `${why} Not answered.`}`;
  });
  return items.length === 0 ? [] : [{ kind: 'list', items }];
}

function sessionWords(document: StudyDocument, session: Session, when: ComposeOptions['when']): string {
  const taken = document.readings.filter(({ sessionId }) => sessionId === session.id).length;
  const conditions = conditionsInOrder(document).flatMap(({ id, quantity, unit }) => {
    const read = session.conditions.filter(({ conditionId }) => conditionId === id);
    const [first, last] = [read[0], read.at(-1)];
    const figure = (value: number | null) => formatPlain(value ?? 0);
    if (first?.number == null || last?.number == null) return [];
    return [
      `${quantity} ${read.length > 1 ? `${figure(first.number)} to ` : ''}${withUnit(figure(last.number), unit)}`,
    ];
  });
  return [
    `${when(session.startedAt)}${session.kind === 'import' ? ', read in from a table' : ''}`,
    ...(session.operator ? [`by ${session.operator}`] : []),
    ...(session.instrument ? [`with ${session.instrument}`] : []),
    counted(taken, 'reading'),
    ...conditions,
    ...(session.note ? [session.note] : []),
  ].join('; ');
}

const sessions = (document: StudyDocument, { when }: ComposeOptions): ReportBlock[] =>
  document.sessions.length === 0
    ? []
    : [
        {
          kind: 'list',
          items: [...document.sessions]
            .sort((a, b) => (a.startedAt < b.startedAt ? -1 : 1))
            .map((session) => sessionWords(document, session, when)),
        },
      ];

/** What was settled before the first reading and what after, and where the work left the plan. */
function plan(document: StudyDocument, { when }: ComposeOptions): ReportBlock[] {
  const late = document.changes.filter(isLate);
  const { deviations } = document.study;
  return [
    {
      kind: 'text',
      text:
        late.length === 0
          ? 'Margins, rules, directions and claims stood as they are before the first reading.'
          : 'Changed after there were readings:',
    },
    ...(late.length === 0
      ? []
      : [
          {
            kind: 'list' as const,
            items: late.map(
              (change) =>
                `${changeWords(change, document)}, ${when(change.changedAt)}: ${change.reason || 'no reason was given'}`,
            ),
          },
        ]),
    ...(deviations.length === 0
      ? []
      : [
          { kind: 'text' as const, text: 'Where the work left the plan:' },
          {
            kind: 'list' as const,
            items: deviations.map(({ text, notedAt }) => `${text} (${when(notedAt)})`),
          },
        ]),
  ];
}

const ORDERS: Record<StudyDocument['study']['runOrder'], string> = {
  'shuffled-rounds': 'in rounds, each in a freshly shuffled order',
  'full-shuffle': 'in one shuffled order',
  fixed: 'in rounds, always in the same order',
  'balanced-square': 'in rounds in which each item follows each other equally often',
};

/** The method in plain words, from what was really used. */
function method(document: StudyDocument, told: readonly Told[]): ReportBlock[] {
  const { study, readings } = document;
  const rules = [
    ...new Set(told.filter(({ setting }) => setting.ruled).map(({ measurand }) => ruleWords(measurand.rule))),
  ];
  const comparedBy = new Map<string, string[]>();
  for (const { measurand, setting, over } of told) {
    const groups = over
      ? over.classes.flatMap(({ levels }) => levels.filter((level) => level !== undefined))
      : setting.classes;
    for (const { analysis } of groups) {
      if (analysis.pairs.length === 0 || analysis.exact || !isRanked(measurand)) continue;
      const { label, because } = pairMethod(analysis.method);
      const words = `were compared by “${label}”: ${because}`;
      comparedBy.set(words, [...new Set([...(comparedBy.get(words) ?? []), measurand.name])]);
    }
  }
  return [
    {
      kind: 'text',
      text: [
        `${capital(counted(readings.length, 'reading'))} were taken ${ORDERS[study.runOrder]} (seed ${String(study.seed)}).`,
        ...(rules.length > 0
          ? [`Readings were judged by ${listed(rules)}; what was left out is kept in the record.`]
          : []),
        ...[...comparedBy].map(([words, names]) =>
          comparedBy.size === 1 ? `Pairs ${words}` : `Pairs of ${listed(names)} ${words}`,
        ),
        'All intervals of differences of a measurand hold at once with 95 % confidence. U is the expanded uncertainty of a mean at 95 %: its spread, the step of the readings and the stated accuracy of the instrument together.',
        ...(told.some(({ over }) => over)
          ? [
              'The levels of a factor share the chance of an error, so what is said of all of them holds at once.',
            ]
          : []),
      ].join(' '),
    },
    {
      kind: 'text',
      text: 'Sources: generalized ESD, Rosner 1983; pairs by Šidák 1967 on Welch 1947 or within rounds on Smyth 2004; intervals for sameness, Schuirmann 1987; uncertainty, GUM (JCGM 100:2008).',
    },
  ];
}

const HANDLED: Record<string, string> = {
  held: 'held the same',
  recorded: 'recorded',
  accepted: 'accepted',
};

function limits(document: StudyDocument): ReportBlock[] {
  const { confounds } = document.study;
  return [
    ...(confounds.length === 0
      ? []
      : [
          { kind: 'text' as const, text: 'What else changes when the item changes:' },
          {
            kind: 'list' as const,
            items: confounds.map(
              ({ what, handling, note }) => `${what}: ${HANDLED[handling] ?? handling}${note && `, ${note}`}`,
            ),
          },
        ]),
    {
      kind: 'text',
      text: 'These are the items as they were on the bench: one of each says how that one did, not how all others of its kind do. What was not measured is not compared.',
    },
  ];
}

const cautions = ({ study }: StudyDocument): ReportBlock[] =>
  study.hazards.length === 0
    ? []
    : [
        {
          kind: 'list',
          items: CAUTIONS.filter(({ hazard }) => study.hazards.includes(hazard)).map(
            ({ label, caution }) => `${label}. ${caution}`,
          ),
        },
        { kind: 'text', text: 'The maker’s instructions and local codes come first.' },
      ];

function photos(document: StudyDocument): ReportBlock[] {
  const chosen = document.study.report.photos.flatMap((noteId) => {
    const note = document.notes.find(({ id, removed }) => id === noteId && !removed);
    return note?.photo ? [{ noteId, file: note.photo, caption: note.text }] : [];
  });
  return chosen.length === 0 ? [] : [{ kind: 'photos', photos: chosen }];
}

const HEADINGS: Record<ReportPartName, string> = {
  answer: 'The answer',
  picture: 'The readings that carry it',
  ranking: 'The ranking',
  others: 'What else was measured',
  claims: 'What was claimed',
  'left-out': 'What was left out',
  findings: 'What was noticed',
  sessions: 'Sessions and conditions',
  plan: 'Plan and what became of it',
  method: 'Method',
  limits: 'What this does not show',
  cautions: 'Cautions',
  photos: 'Photos',
  provenance: 'Where this comes from',
};

/** The report of a study, from what is in it: every sentence is one that the readings support. */
export function composeReport(document: StudyDocument, options: ComposeOptions): ComposedReport {
  const { study } = document;
  const told = toldOf(document, options);
  const deciding = told.find(({ measurand }) => isRanked(measurand)) ?? told[0];
  const rest = told.filter((entry) => entry !== deciding);
  const blocks: Record<ReportPartName, ReportBlock[]> = {
    answer: deciding
      ? sentences(deciding, options.soFar).map((text) => ({ kind: 'lead', text }))
      : [{ kind: 'lead', text: 'Nothing was read yet.' }],
    picture: deciding ? pictures(deciding) : [],
    ranking: deciding ? tables(deciding) : [],
    others: others(rest, options.soFar),
    claims: claims(document),
    'left-out': document.readings.length > 0 ? leftOut(document) : [],
    findings: findings(document),
    sessions: sessions(document, options),
    plan: plan(document, options),
    method: method(document, told),
    limits: limits(document),
    cautions: cautions(document),
    photos: photos(document),
    provenance: [
      {
        kind: 'text',
        text: `Brackenridge ${options.program}, study format ${String(STUDY_FORMAT_VERSION)}. Run order from seed ${String(study.seed)}; every draw comes from it, so that the same study gives the same figures.`,
      },
    ],
  };
  return {
    title: study.title,
    question: study.question,
    parts: partsInOrder(study.report.order).flatMap((name) =>
      blocks[name].length === 0 ? [] : [{ name, heading: HEADINGS[name], blocks: blocks[name] }],
    ),
  };
}
