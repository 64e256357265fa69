import { derivedExpression } from '../expression/derived.ts';
import { readingForm } from '../forms/index.ts';
import { itemsInOrder } from '../model/in-order.ts';
import type { Measurand, RuleInForce } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import type { Expression } from '../expression/expression.ts';
import { correctObservations } from '../observations/correct.ts';
import { type Source, deriveObservations } from '../observations/derive.ts';
import type { Observation, Use } from '../observations/observation.ts';
import { readObservations } from '../observations/read.ts';
import { screeningRule } from '../screening/index.ts';
import { type SampleToScreen, type ScreenedSample, screenSamples } from '../screening/screen.ts';
import { median, sorted } from '../summary/quantile.ts';
import { ALPHA } from '../model/alpha.ts';

/** The observations of one item at one setting that were not left out by hand, in the order recorded. */
export interface Cell {
  itemId: string;
  setting: string;
  observations: readonly Observation[];
  /** Round of each, NaN for one that belongs to none; undefined where rounds share nothing. */
  rounds: Float64Array | undefined;
  screening: ScreenedSample;
}

/** A measurand after screening. */
export interface Screened {
  measurand: Measurand;
  rule: RuleInForce;
  /** Every observation with how it stands. */
  observations: readonly Observation[];
  cells: readonly Cell[];
  /** Step of the values, in the measurand's unit; 0 where none is known. */
  step: number;
  average: 'energy' | undefined;
  ranksOnly: boolean;
  /** Values come from attributes alone: exact figures, and no readings. */
  exact: boolean;
}

interface Observed {
  counts: string;
  raw: Map<string, Observation[]>;
  screened: Map<string, Screened>;
  expressions: Map<string, Expression | { problem: string }>;
}

const observed = new WeakMap<StudyDocument, Observed>();

/** What was made of a document so far; a document that is being built grows in place, and then it is made again. */
function of(document: StudyDocument): Observed {
  const counts = [document.readings.length, document.decisions.length, document.notes.length].join('/');
  let found = observed.get(document);
  if (found?.counts !== counts) {
    found = { counts, raw: new Map(), screened: new Map(), expressions: new Map() };
    observed.set(document, found);
  }
  return found;
}

function expressionOf(document: StudyDocument, measurand: Measurand): Expression | undefined {
  const { expressions } = of(document);
  let expression = expressions.get(measurand.id);
  if (!expression) {
    expression = derivedExpression(document, measurand);
    expressions.set(measurand.id, expression);
  }
  return 'problem' in expression ? undefined : expression;
}

/** The measurands that a derived one comes from, each as its own rule left it. */
function sourcesOf(document: StudyDocument, expression: Expression): Source[] {
  return expression.uses.flatMap(({ kind, id }) => {
    const measurand = kind === 'measurand' ? document.measurands.find((one) => one.id === id) : undefined;
    if (!measurand) return [];
    const { observations, exact } = screenedOf(document, measurand);
    // What a rule cuts from every sample it cuts from the values worked out, in its turn.
    return [
      {
        measurand,
        observations: screeningRule(measurand.rule.name).alwaysCuts
          ? unscreened(document, measurand)
          : observations,
        exact,
      },
    ];
  });
}

/** The observations of a measurand before any rule: read, or worked out from others. */
function unscreened(document: StudyDocument, measurand: Measurand): Observation[] {
  const { raw } = of(document);
  let observations = raw.get(measurand.id);
  if (!observations) {
    if (measurand.expression === null)
      observations = correctObservations(document, measurand, readObservations(document, measurand));
    else {
      const expression = expressionOf(document, measurand);
      observations = expression
        ? deriveObservations(document, measurand, expression, sourcesOf(document, expression))
        : [];
    }
    raw.set(measurand.id, observations);
  }
  return observations;
}

/** Traits of the values that follow from how they are read, or from what they are worked out from. */
function traitsOf(
  document: StudyDocument,
  measurand: Measurand,
): Pick<Screened, 'average' | 'ranksOnly' | 'exact'> {
  const form = readingForm(measurand.form);
  if (measurand.expression === null) {
    return { average: form?.average, ranksOnly: form?.ranksOnly ?? false, exact: false };
  }
  const expression = expressionOf(document, measurand);
  const sources = expression ? sourcesOf(document, expression) : [];
  // A level less or plus something is a level still: it has the unit of the level that it comes from.
  const levels = sources.some(
    (source) =>
      source.measurand.unit === measurand.unit && traitsOf(document, source.measurand).average === 'energy',
  );
  return {
    average: levels ? 'energy' : undefined,
    ranksOnly: false,
    exact:
      expression !== undefined &&
      expression.uses.every(({ kind }) => kind !== 'condition') &&
      sources.every(({ exact }) => exact),
  };
}

/** The rule that a measurand is screened by: of a derived one, whatever cuts from all samples of its sources. */
function ruleFor(document: StudyDocument, measurand: Measurand): RuleInForce {
  const expression = measurand.expression === null ? undefined : expressionOf(document, measurand);
  const cutting = expression
    ? sourcesOf(document, expression).find((source) => screeningRule(source.measurand.rule.name).alwaysCuts)
    : undefined;
  return cutting ? cutting.measurand.rule : measurand.rule;
}

const unavailable: ScreenedSample = { leftOut: [], judged: 'reading' };

function cellsOf(observations: readonly Observation[]): Omit<Cell, 'screening'>[] {
  const cells = new Map<string, Observation[]>();
  for (const observation of observations) {
    if (observation.use.is === 'left out' || observation.value === null) continue;
    const key = `${observation.setting}/${observation.itemId}`;
    const cell = cells.get(key);
    if (cell) cell.push(observation);
    else cells.set(key, [observation]);
  }
  const shared = observations.some(({ sharesRound }) => sharesRound);
  return [...cells.values()].map((own) => ({
    itemId: (own[0] as Observation).itemId,
    setting: (own[0] as Observation).setting,
    observations: own,
    rounds: shared
      ? Float64Array.from(own, ({ round, sharesRound }) => (sharesRound ? round : Number.NaN))
      : undefined,
  }));
}

/** The observation as a rule left it. */
function ruledOut(
  observation: Observation,
  { leftOut, judged }: ScreenedSample,
  index: number,
  label: string,
): Observation {
  const out = leftOut.find((entry) => entry.index === index);
  if (!out) return observation;
  const use: Use = {
    is: 'left out',
    by: 'rule',
    reason: label,
    judged,
    ...(out.statistic === null ? {} : { statistic: out.statistic }),
    ...(out.limit === null ? {} : { limit: out.limit }),
  };
  return { ...observation, use };
}

/**
 * A measurand's observations after screening, over all its settings at once. Made once for a document and a rule.
 * @param rule another one than that in force, to see what it would do
 */
export function screenedOf(document: StudyDocument, measurand: Measurand, rule?: RuleInForce): Screened {
  const { screened } = of(document);
  const inForce = rule ?? ruleFor(document, measurand);
  const key = `${measurand.id}/${JSON.stringify(inForce)}`;
  let found = screened.get(key);
  if (!found) {
    found = screen(document, measurand, inForce);
    screened.set(key, found);
  }
  return found;
}

function screen(document: StudyDocument, measurand: Measurand, rule: RuleInForce): Screened {
  const observations = unscreened(document, measurand);
  const traits = traitsOf(document, measurand);
  const school = screeningRule(traits.ranksOnly || traits.exact ? 'none' : rule.name);
  const cells = cellsOf(observations);
  const controls = new Set(
    itemsInOrder(document).flatMap(({ id, role }) => (role === 'control' ? [id] : [])),
  );
  const steps = observations.flatMap(({ step, value }) => (value === null ? [] : [step]));
  const step = steps.length === 0 ? 0 : median(sorted(steps));
  const samples = cells.map(({ itemId, setting, observations: own, rounds }): SampleToScreen => ({
    values: own.map(({ value }) => value as number),
    rounds,
    setting,
    insisted: new Set(
      own.flatMap(({ use }, i) => (use.is === 'kept' && use.insisted !== undefined ? [i] : [])),
    ),
    compared: !controls.has(itemId),
  }));
  const screenings = screenSamples(samples, {
    rule: school,
    parameter: rule.parameter,
    alpha: ALPHA,
    level: rule.level,
    judges: rule.judges,
    limits: measurand.limits,
    strict: document.study.looks.after.length > 0,
    step,
  });
  const standing = new Map<string, Observation>();
  cells.forEach(({ observations: own }, cell) =>
    own.forEach((observation, i) => {
      const judged = ruledOut(observation, screenings[cell] ?? unavailable, i, school.label);
      if (judged !== observation) standing.set(observation.id, judged);
    }),
  );
  return {
    measurand,
    rule,
    observations: standing.size === 0 ? observations : observations.map((one) => standing.get(one.id) ?? one),
    cells: cells.map((cell, i) => ({ ...cell, screening: screenings[i] ?? unavailable })),
    step: traits.exact ? 0 : step,
    ...traits,
  };
}
