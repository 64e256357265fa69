import isEqual from 'lodash/isEqual.js';
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
import type { LeftOut } from '../screening/rule.ts';
import {
  type SampleToScreen,
  type ScreenMemory,
  type ScreenedSample,
  screenSamples,
} from '../screening/screen.ts';
import { median, sorted } from '../summary/quantile.ts';
import { ALPHA } from '../model/alpha.ts';

/** The observations of one item at one setting that were not left out by hand, in the order recorded. */
export interface Cell {
  itemId: string;
  setting: string;
  observations: readonly Observation[];
  values: Float64Array;
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
    const measurand =
      kind === 'measurand' ? document.measurands.find((source) => source.id === id) : undefined;
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

/** What rules made of cells. */
const screenedLast: ScreenMemory = new WeakMap();

const unavailable: ScreenedSample = { leftOut: [], judged: 'reading' };

/** A cell before any rule. */
interface UnscreenedCell extends Omit<Cell, 'screening'> {
  /** Place of each of its observations among all. */
  places: readonly number[];
  /** Indices of those that count whatever a rule says. */
  insisted: ReadonlySet<number>;
}

/** The cells of a measurand as they were made last, and of which observations. */
interface CellsLast {
  observations: readonly Observation[];
  cells: readonly UnscreenedCell[];
  /** Whether rounds share anything. */
  isShared: boolean;
}
const cellsLast = new WeakMap<Measurand, CellsLast>();

/** The items of which an observation changed or came; undefined where some went, so that the places moved. */
function itemsChanged(
  before: readonly Observation[],
  observations: readonly Observation[],
): Set<string> | undefined {
  if (observations.length < before.length) return undefined;
  const items = new Set<string>();
  for (let i = 0; i < observations.length; i += 1) {
    const [old, observation] = [before[i], observations[i] as Observation];
    if (old === observation) continue;
    items.add(observation.itemId);
    if (old) items.add(old.itemId);
  }
  return items;
}

/** A cell with the lists of the one before where they hold the same: what was worked out of them holds. */
function steadyCell(cell: UnscreenedCell, before: UnscreenedCell | undefined): UnscreenedCell {
  const listsOf = ({ values, rounds, insisted }: UnscreenedCell) => ({ values, rounds, insisted });
  return before && isEqual(listsOf(cell), listsOf(before)) ? { ...cell, ...listsOf(before) } : cell;
}

/** Makes the cells of some items, or of all. */
function cellsMade(
  observations: readonly Observation[],
  isShared: boolean,
  items: ReadonlySet<string> | undefined,
): UnscreenedCell[] {
  const bySetting = new Map<string, Map<string, number[]>>();
  observations.forEach(({ use, value, setting, itemId }, place) => {
    if (use.is === 'left out' || value === null || items?.has(itemId) === false) return;
    const byItem = bySetting.get(setting) ?? new Map<string, number[]>();
    if (byItem.size === 0) bySetting.set(setting, byItem);
    const places = byItem.get(itemId);
    if (places) places.push(place);
    else byItem.set(itemId, [place]);
  });
  return [...bySetting].flatMap(([setting, byItem]) =>
    [...byItem].map(([itemId, places]) => ({
      ...{ itemId, setting, places },
      ...cellAt(observations, places, isShared),
    })),
  );
}

/** Setting by setting, as something was first read at each, and in each item by item in the same way. */
function inOrderRead(cells: readonly UnscreenedCell[]): UnscreenedCell[] {
  const firstOf = ({ places }: UnscreenedCell) => places[0] as number;
  const first = new Map<string, number>();
  for (const cell of cells)
    first.set(cell.setting, Math.min(first.get(cell.setting) ?? Infinity, firstOf(cell)));
  return [...cells].sort(
    (a, b) => (first.get(a.setting) as number) - (first.get(b.setting) as number) || firstOf(a) - firstOf(b),
  );
}

/** What counts before any rule, by item and setting; of items with nothing new it is the same cells as last time. */
function cellsOf(measurand: Measurand, observations: readonly Observation[]): readonly UnscreenedCell[] {
  const isShared = observations.some(({ sharesRound }) => sharesRound);
  const before = cellsLast.get(measurand);
  const changed = before?.isShared === isShared ? itemsChanged(before.observations, observations) : undefined;
  const same = changed ? (before?.cells.filter(({ itemId }) => !changed.has(itemId)) ?? []) : [];
  const nameOf = ({ itemId, setting }: UnscreenedCell) => `${itemId}/${setting}`;
  const known = new Map(before?.cells.map((cell) => [nameOf(cell), cell]));
  const made = cellsMade(observations, isShared, changed).map((cell) =>
    steadyCell(cell, known.get(nameOf(cell))),
  );
  const cells = inOrderRead([...same, ...made]);
  cellsLast.set(measurand, { observations, cells, isShared });
  return cells;
}

/** The observations at some places, which have a value each. */
function cellAt(
  all: readonly Observation[],
  places: readonly number[],
  isShared: boolean,
): Pick<UnscreenedCell, 'observations' | 'values' | 'rounds' | 'insisted'> {
  const insisted = new Set<number>();
  const values = new Float64Array(places.length);
  const rounds = isShared ? new Float64Array(places.length) : undefined;
  const observations = places.map((place, i) => {
    const observation = all[place] as Observation;
    const { use, value, sharesRound, round } = observation;
    values[i] = value as number;
    if (rounds) rounds[i] = sharesRound ? round : Number.NaN;
    if (use.is === 'kept' && use.insisted !== undefined) insisted.add(i);
    return observation;
  });
  return { observations, values, rounds, insisted };
}

/** How a rule leaves an observation out. */
const ruledOut = (
  { statistic, limit }: LeftOut,
  { judged }: Pick<ScreenedSample, 'judged'>,
  label: string,
): Use => ({
  is: 'left out',
  by: 'rule',
  reason: label,
  judged,
  ...(statistic === null ? {} : { statistic }),
  ...(limit === null ? {} : { limit }),
});

/** The observations as a rule left them: of what it does not touch they are the same objects. */
function screenedObservations(
  observations: readonly Observation[],
  cells: readonly UnscreenedCell[],
  screenings: readonly ScreenedSample[],
  label: string,
): readonly Observation[] {
  if (screenings.every(({ leftOut }) => leftOut.length === 0)) return observations;
  const screened = [...observations];
  cells.forEach(({ places }, cell) => {
    const screening = screenings[cell] ?? unavailable;
    for (const out of screening.leftOut) {
      const place = places[out.index] as number;
      screened[place] = { ...(screened[place] as Observation), use: ruledOut(out, screening, label) };
    }
  });
  return screened;
}

/** Step of the values: that in the middle, where they are not alike. */
function stepOf(observations: readonly Observation[]): number {
  const first = observations.find(({ value }) => value !== null)?.step ?? 0;
  if (observations.every(({ step, value }) => step === first || value === null)) return first;
  return median(sorted(observations.flatMap(({ step, value }) => (value === null ? [] : step))));
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
  const cells = cellsOf(measurand, observations);
  const controls = new Set(
    itemsInOrder(document).flatMap(({ id, role }) => (role === 'control' ? [id] : [])),
  );
  const step = stepOf(observations);
  const samples = cells.map(({ itemId, setting, values, rounds, insisted }): SampleToScreen => ({
    ...{ values, rounds, setting, insisted },
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
    memory: screenedLast,
  });
  return {
    measurand,
    rule,
    observations: screenedObservations(observations, cells, screenings, school.label),
    cells: cells.map(({ places: _places, insisted: _insisted, ...cell }, i) => ({
      ...cell,
      screening: screenings[i] ?? unavailable,
    })),
    step: traits.exact ? 0 : step,
    ...traits,
  };
}
