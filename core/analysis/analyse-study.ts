import { atSetting } from './at-setting.ts';
import { type Better, betterOf } from '../compare/better.ts';
import { levelOfEach } from '../distributions/several.ts';
import type { PairMethodName } from '../compare/method-names.ts';
import { readingForm, referenceOf } from '../forms/index.ts';
import { itemsInOrder } from '../model/in-order.ts';
import type { Figure, Item, Measurand, RuleInForce, Spec } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { isMeasuredOn } from '../plan/grid.ts';
import { listed } from '../quantity/format.ts';
import { isTemperature } from '../quantity/units.ts';
import type { Observation } from '../observations/observation.ts';
import { SCREENING_RULES, screeningRule } from '../screening/index.ts';
import type { RuleName } from '../screening/rule.ts';
import { type WithinSpec, withinSpec } from '../summary/spec.ts';
import { type Summary, summarise } from '../summary/summary.ts';
import { statedAccuracy } from '../summary/instrument-uncertainty.ts';
import { ALPHA } from '../model/alpha.ts';
import type { Analysis, CompareOptions, ScreenedReadings } from './compare-screened.ts';
import { comparedOnce } from './compared-once.ts';
import { doubtsOf } from './doubt.ts';
import { DRAWS } from './draws.ts';
import { type LeftOut, leftOutOf } from './left-out.ts';
import { type Cell, type Screened, screenedOf } from './observed.ts';
import { type PriceDesign, priceDesign } from './school-price.ts';
import { type StudySetting, settingsRead } from './settings.ts';
import { typedAt, typedOf } from './typed-figures.ts';

/** One class of items, compared among themselves. */
export interface ClassAnalysis {
  name: string;
  items: Item[];
  /** Indices in it are of `items`. */
  analysis: Analysis;
  /** Of errors that are ranked by their size: the signed ones of each item, whose mean is the bias. */
  signed?: Summary[];
  /** Where the plan has a spec: how many readings of each item keep to it. */
  within?: WithinSpec[];
}

/** A measurand at one setting. */
export interface SettingAnalysis {
  setting: StudySetting;
  measurand: Measurand;
  /** Every observation but the withdrawn ones, in the order recorded. */
  readings: Observation[];
  /** Those of them that do not count. */
  leftOut: LeftOut;
  /** Ranked items by class. */
  classes: ClassAnalysis[];
  /** Control items: measured and summarized, never ranked. */
  controls: ClassAnalysis | undefined;
  /** Errors against a reference are ranked by their size: means are of it, whatever their sign. */
  bySize: boolean;
  /** Whether half as much means something: values with a true zero. */
  trueZero: boolean;
  /** “energy”: the values are levels in decibels. */
  average: 'energy' | undefined;
  /** Whether a rule judges the values: none judges marks in an order, nor exact figures. */
  ruled: boolean;
}

/** A measurand at all its settings. */
export interface MeasurandAnalysis {
  measurand: Measurand;
  settings: SettingAnalysis[];
}

export interface StudyAnalysisOptions {
  /** Another rule than the one in force, to see what it would do. */
  rule?: RuleInForce;
  method?: PairMethodName | undefined;
  resamples?: number;
  /** Level that the pairs' intervals of all settings share, where a planned look has its own. */
  pairAlpha?: number | undefined;
}

/** Of an item that was not read. */
export const NO_CELL: Cell = {
  itemId: '',
  setting: '',
  observations: [],
  values: new Float64Array(),
  rounds: undefined,
  screening: { leftOut: [], judged: 'reading' },
};

/**
 * Screening, summary, comparison and ranking of one measurand of a study at all its settings.
 * @throws RangeError when the study has no such measurand
 */
export function analyseStudy(
  document: StudyDocument,
  measurandId: string,
  options: StudyAnalysisOptions = {},
): MeasurandAnalysis {
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  if (!measurand) throw new RangeError('The study has no such measurand.');
  const screened = screenedOf(document, measurand, options.rule);
  const settings = settingsRead(document);
  // Whoever is called ahead at any setting is named by the study: its settings share the level, as its samples share the rule's.
  const pairAlpha = levelOfEach(options.pairAlpha ?? ALPHA, screened.exact ? 1 : settings.length);
  return {
    measurand,
    settings: settings.map((setting) =>
      analyseSetting(document, screened, setting, { ...options, pairAlpha }),
    ),
  };
}

/** What is analysed at one setting. */
interface SettingWork {
  document: StudyDocument;
  screened: Screened;
  setting: StudySetting;
  options: StudyAnalysisOptions;
  /** The cell of an item; an empty one where it was not read. */
  cellOf: (itemId: string) => Cell;
  /** What is known of items from elsewhere. */
  typed: ReturnType<typeof typedAt>;
}

/** The readings of an item that count, with their sign where they are ranked by their size. */
const signedOf = ({ screened, cellOf }: SettingWork, itemId: string): Summary =>
  summarise(
    countingIn(cellOf(itemId)).map(({ value }) => value as number),
    ALPHA,
    { step: screened.step },
  );

const withinOf = ({ screened: { measurand }, cellOf }: SettingWork, spec: Spec, itemId: string): WithinSpec =>
  withinSpec(
    countingIn(cellOf(itemId)).map(({ value, parts }) => ({
      value: value as number,
      reference: referenceOf(measurand, parts),
    })),
    spec,
    measurand.direction,
    ALPHA,
  );

/** How the items of a setting are compared; controls are not ranked. */
function comparedAs({ document, screened, options }: SettingWork, ranked: boolean): CompareOptions {
  const { measurand, average, ranksOnly, exact, step } = screened;
  const better: Better = isRankedBySize(measurand) ? { kind: 'lower' } : betterOf(measurand.direction);
  return {
    ...{ alpha: ALPHA, pairAlpha: options.pairAlpha, margin: measurand.margin, method: options.method },
    better: ranked ? better : { kind: 'unranked' },
    rule: screeningRule(ranksOnly || exact ? 'none' : screened.rule.name),
    ...{ average, ranksOnly, exact, step },
    resamples: options.resamples ?? DRAWS,
    seed: document.study.seed,
    unit: measurand.unit,
    accuracy: (reading) => statedAccuracy(measurand.instrument, reading),
    instrument: measurand.instrument,
  };
}

function analyseItems(work: SettingWork, name: string, items: Item[], ranked: boolean): ClassAnalysis {
  const { screened, setting, cellOf, typed } = work;
  const { measurand } = screened;
  const { spec } = measurand;
  const bySize = isRankedBySize(measurand);
  const target = bySize ? measurand.direction.target : null;
  return {
    name,
    items,
    ...(bySize ? { signed: items.map(({ id }) => signedOf(work, id)) } : {}),
    ...(spec ? { within: items.map(({ id }) => withinOf(work, spec, id)) } : {}),
    analysis: comparedOnce(
      measurand,
      `${setting.key}/${name}/${ranked ? 'ranked' : 'controls'}`,
      items.map((item) => readingsOf(item, cellOf(item.id), target, typed.get(item.id))),
      comparedAs(work, ranked),
    ),
  };
}

/** Says of which means a correction rests on what the tester thinks. */
function withEstimates({ cellOf }: SettingWork, group: ClassAnalysis): ClassAnalysis {
  const guessed = group.items.filter(({ id }) => countingIn(cellOf(id)).some(({ estimated }) => estimated));
  if (guessed.length === 0) return group;
  const remark = {
    about: 'means',
    text: `The ambient was estimated, not noted, for some readings of ${listed(guessed.map(({ name }) => name))}; what that leaves open is in the uncertainties.`,
  } as const;
  return { ...group, analysis: { ...group.analysis, remarks: [...group.analysis.remarks, remark] } };
}

function analyseSetting(
  document: StudyDocument,
  screened: Screened,
  setting: StudySetting,
  options: StudyAnalysisOptions,
): SettingAnalysis {
  const { measurand } = screened;
  const isHere = (cell: { setting: string }) => cell.setting === setting.key || screened.exact;
  const cells = new Map(screened.cells.filter(isHere).map((cell) => [cell.itemId, cell]));
  const work: SettingWork = {
    ...{ document, screened, setting, options },
    cellOf: (itemId) => cells.get(itemId) ?? NO_CELL,
    typed: typedAt(document, measurand.id, setting.key),
  };
  const items = itemsInOrder(document);
  const ranked = items.filter(({ role }) => role !== 'control');
  const controls = items.filter(({ role }) => role === 'control');
  const readings = screened.observations.filter(isHere);
  const classOf = (name: string) =>
    analyseItems(
      work,
      name,
      ranked.filter((item) => item.class === name),
      true,
    );
  return {
    setting,
    measurand,
    readings,
    leftOut: leftOutOf(readings, screened.average),
    classes: classesOf(document, screened, ranked).map((name) => withEstimates(work, classOf(name))),
    controls: controls.length > 0 ? analyseItems(work, '', controls, false) : undefined,
    bySize: isRankedBySize(measurand),
    trueZero: hasTrueZero(measurand, screened),
    average: screened.average,
    ruled: !screened.ranksOnly && !screened.exact,
  };
}

/** The classes with an item that a measurand is asked of, or has something of; all of them where there is none. */
function classesOf(
  { figures }: StudyDocument,
  { measurand, cells }: Screened,
  ranked: readonly Item[],
): string[] {
  const names = [...new Set(ranked.map((item) => item.class))];
  // What is worked out has no items of its own.
  if (measurand.expression !== null) return names;
  const known = new Set([
    ...cells.flatMap(({ itemId, observations }) => (observations.length > 0 ? [itemId] : [])),
    ...figures.flatMap(({ itemId, measurandId }) => (measurandId === measurand.id ? [itemId] : [])),
  ]);
  const asked = new Set(
    ranked.flatMap((item) => (isMeasuredOn(measurand, item) || known.has(item.id) ? [item.class] : [])),
  );
  return asked.size > 0 ? names.filter((name) => asked.has(name)) : names;
}

/** Errors that are ranked at all are ranked by their size: signed ones would cancel. */
export const isRankedBySize = ({ form, direction, expression }: Measurand): boolean =>
  expression === null && (readingForm(form)?.rankedBySize ?? false) && direction.kind !== 'unranked';

/** Levels in decibels, marks and temperatures have no true zero; the size of an error has one. */
export const hasTrueZero = (
  measurand: Measurand,
  { average, ranksOnly }: Pick<Screened, 'average' | 'ranksOnly'>,
): boolean =>
  average !== 'energy' && !ranksOnly && (isRankedBySize(measurand) || !isTemperature(measurand.unit));

/** The observations of a cell that count. */
function countingIn({ observations, screening: { leftOut } }: Cell): readonly Observation[] {
  if (leftOut.length === 0) return observations;
  const out = new Set(leftOut.map(({ index }) => index));
  return observations.filter((_, i) => !out.has(i));
}

/**
 * What is compared of one item at one setting.
 * @param target of errors that are ranked by their size: how far each is from it counts
 * @param figure what is known of it from elsewhere, used where nothing read counts
 */
export function readingsOf(
  item: Item,
  cell: Cell,
  target: number | null | undefined,
  figure?: Figure,
): ScreenedReadings {
  const { values, rounds, screening } = cell;
  return {
    item: item.name,
    values:
      target === null || target === undefined ? values : values.map((value) => Math.abs(value - target)),
    rounds,
    screening,
    doubts: doubtsOf(countingIn(cell)),
    typed: figure && typedOf(figure),
  };
}

/** What all schools would do, and the design by which their price is simulated. */
export interface Schools {
  schools: SchoolOutcome[];
  design: PriceDesign;
}

/** What one school of screening would do to a class of items. */
export interface SchoolOutcome {
  rule: RuleInForce;
  /** What it leaves out, in the order recorded. */
  leftOut: { itemId: string; round: number; value: number }[];
  means: (number | null)[];
  /** Indices of the items that may be first, the best mean first. */
  contenders: number[];
  /** Why it judged nothing, where it judged no item. */
  notApplied: string | undefined;
}

/** A rule as it would be if it were put in force: the study's own way of judging stays. */
export const asInForce = (inForce: RuleInForce, name: RuleName): RuleInForce =>
  inForce.name === name ? inForce : { ...inForce, name, parameter: null };

function schoolOutcome(
  document: StudyDocument,
  measurand: Measurand,
  rule: RuleInForce,
  className: string,
  settingKey: string | undefined,
): SchoolOutcome {
  const { classes, readings } = atSetting(
    analyseStudy(document, measurand.id, { rule, resamples: 0 }),
    settingKey,
  );
  const group = classes.find(({ name }) => name === className);
  const items = group?.analysis.items ?? [];
  const ids = new Set(group?.items.map(({ id }) => id));
  const reasons = items.map(({ notScreened }) => notScreened);
  return {
    rule,
    leftOut: readings.flatMap(({ itemId, round, value, use }) =>
      use.is === 'left out' && use.by === 'rule' && value !== null && ids.has(itemId)
        ? [{ itemId, round, value }]
        : [],
    ),
    means: items.map(({ summary }) => summary.mean),
    contenders: (group?.analysis.ranking ?? [])
      .filter(({ placeLow }) => placeLow === 1)
      .map(({ index }) => index),
    notApplied: reasons.every((reason) => reason !== undefined) ? reasons[0] : undefined,
  };
}

/**
 * Every school of screening side by side on one class, at one setting; each takes as long as an analysis, so that whoever
 * works it out may do something else after each.
 */
export function* compareSchools(
  document: StudyDocument,
  measurandId: string,
  className: string,
  settingKey?: string,
): Generator<void, Schools> {
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  if (!measurand) throw new RangeError('The study has no such measurand.');
  const schools: SchoolOutcome[] = [];
  for (const { name } of SCREENING_RULES) {
    schools.push(schoolOutcome(document, measurand, asInForce(measurand.rule, name), className, settingKey));
    yield;
  }
  return { schools, design: priceDesign(document, measurand, className, settingKey ?? '') };
}
