import { readingForm } from '../forms/index.ts';
import { betterOf } from '../compare/better.ts';
import type { PairMethodName } from '../compare/pairs.ts';
import { type StandingReading, itemsInOrder, readingNotes, standingReadings } from '../model/record.ts';
import type { Item, Measurand, RuleInForce } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { SCREENING_RULES } from '../screening/index.ts';
import type { RuleName } from '../screening/rule.ts';
import { instrumentUncertainty } from '../summary/instrument-uncertainty.ts';
import { ALPHA } from './alpha.ts';
import { type Analysis, analyse } from './analyse.ts';

/** How a reading that counts or not came to do so. */
export type Use =
  | { is: 'kept'; insisted?: string }
  | { is: 'left out'; by: 'rule' | 'hand' | 'misfire'; reason: string; statistic?: number; limit?: number };

export interface JudgedReading {
  id: string;
  itemId: string;
  round: number;
  place: number;
  takenAt: string;
  note: string;
  value: number | null;
  use: Use;
}

/** One class of items, compared among themselves. */
export interface ClassAnalysis {
  name: string;
  items: Item[];
  /** Indices in it are of `items`. */
  analysis: Analysis;
}

export interface MeasurandAnalysis {
  measurand: Measurand;
  /** Every reading but the withdrawn ones, in the order recorded. */
  readings: JudgedReading[];
  /** Ranked items by class. */
  classes: ClassAnalysis[];
  /** Control items: measured and summarized, never ranked. */
  controls: ClassAnalysis | undefined;
}

export interface StudyAnalysisOptions {
  /** Another rule than the one in force, to see what it would do. */
  rule?: RuleInForce;
  method?: PairMethodName | undefined;
  resamples?: number;
}

const isUsable = ({ standing, value }: StandingReading): boolean => standing.is === 'kept' && value !== null;

/**
 * Screening, summary, comparison and ranking of one measurand of a study. Give a view of the study (studyView) where
 * there are factors or derived measurands.
 * @throws RangeError when the study has no such measurand
 */
export function analyseStudy(
  document: StudyDocument,
  measurandId: string,
  options: StudyAnalysisOptions = {},
): MeasurandAnalysis {
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  if (!measurand) throw new RangeError('The study has no such measurand.');
  const rule = options.rule ?? measurand.rule;
  const form = readingForm(measurand.form);
  const standing = standingReadings(document).filter(
    (entry) => entry.measurand.id === measurandId && entry.standing.is !== 'withdrawn',
  );
  const judged = new Map<string, Use>();
  for (const { reading, standing: at } of standing) {
    if (at.is === 'withdrawn') continue;
    judged.set(reading.id, at.is === 'left out' ? { is: 'left out', by: at.by, reason: at.reason } : at);
  }

  const analyseItems = (name: string, items: Item[], ranked: boolean): ClassAnalysis => {
    const entries = items.map((item) =>
      standing.filter((entry) => entry.item.id === item.id && isUsable(entry)),
    );
    const analysis = analyse(
      items.map((item, i) => ({
        item: item.name,
        values: (entries[i] as StandingReading[]).map(({ value }) => value as number),
        // Under a full shuffle a round is a count and nothing that its readings share.
        ...(document.study.runOrder === 'full-shuffle'
          ? {}
          : { rounds: (entries[i] as StandingReading[]).map(({ reading }) => reading.round) }),
        insisted: new Set(
          (entries[i] as StandingReading[]).flatMap(({ standing: at }, index) =>
            at.is === 'kept' && at.insisted !== undefined ? [index] : [],
          ),
        ),
      })),
      {
        better: ranked ? betterOf(measurand.direction) : { kind: 'unranked' },
        rule,
        alpha: ALPHA,
        margin: measurand.margin,
        method: options.method ?? (form?.ranksOnly ? 'dunn' : undefined),
        average: form?.average,
        resamples: options.resamples ?? 10000,
        seed: document.study.seed,
        unit: measurand.unit,
        instrumentUncertainty: (reading) => instrumentUncertainty(measurand.instrument, reading),
      },
    );
    const label = SCREENING_RULES.find((candidate) => candidate.name === rule.name);
    analysis.items.forEach(({ leftOut }, i) => {
      for (const { index, statistic, limit } of leftOut) {
        const { reading } = (entries[i] as StandingReading[])[index] as StandingReading;
        judged.set(reading.id, {
          is: 'left out',
          by: 'rule',
          reason: label?.label ?? rule.name,
          ...(statistic === null ? {} : { statistic }),
          ...(limit === null ? {} : { limit }),
        });
      }
    });
    return { name, items, analysis };
  };

  const items = itemsInOrder(document);
  const ranked = items.filter(({ role }) => role !== 'control');
  const names = [...new Set(ranked.map((item) => item.class))];
  const classes = names.map((name) =>
    analyseItems(
      name,
      ranked.filter((item) => item.class === name),
      true,
    ),
  );
  const controls = items.filter(({ role }) => role === 'control');
  const notes = readingNotes(document);
  return {
    measurand,
    classes,
    controls: controls.length > 0 ? analyseItems('', controls, false) : undefined,
    readings: standing.map(({ reading, value }) => ({
      id: reading.id,
      itemId: reading.itemId,
      round: reading.round,
      place: reading.place,
      takenAt: reading.takenAt,
      note: notes.get(reading.id) ?? '',
      value,
      use: judged.get(reading.id) as Use,
    })),
  };
}

/** What one school of screening would do to a class of items. */
export interface SchoolOutcome {
  rule: RuleName;
  leftOut: number;
  means: (number | null)[];
  /** Index of the first item by mean, −1 without one. */
  first: number;
  notApplied: number;
}

/** Every school of screening side by side on one class. */
export function compareSchools(
  document: StudyDocument,
  measurandId: string,
  className: string,
): SchoolOutcome[] {
  return SCREENING_RULES.map(({ name }) => {
    const outcome = analyseStudy(document, measurandId, { rule: { name, parameter: null }, resamples: 0 });
    const own = outcome.classes.find((candidate) => candidate.name === className);
    const items = own?.analysis.items ?? [];
    return {
      rule: name,
      leftOut: items.reduce((sum, { leftOut }) => sum + leftOut.length, 0),
      means: items.map(({ summary }) => summary.mean),
      first: own?.analysis.ranking[0]?.index ?? -1,
      notApplied: items.filter(({ notScreened }) => notScreened !== undefined).length,
    };
  });
}
