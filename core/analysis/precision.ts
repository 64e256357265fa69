import type { StudyDocument } from '../model/study-document.ts';
import type { Observation } from '../observations/observation.ts';
import { type Grouping, varianceComponents } from '../precision/variance-components.ts';
import { moments } from '../summary/moments.ts';
import { screenedOf } from './observed.ts';

/** What readings can differ by besides their item and setting. */
export type PrecisionSource = 'operator' | 'instrument' | 'session' | 'item and operator';

/** How much of the spread comes from one source. */
export interface PrecisionPart {
  /** Several where the readings do not tell them apart: each operator had one session. */
  sources: PrecisionSource[];
  /** Operators, instruments, sessions that were there. */
  groups: number;
  /** In the measurand's unit. */
  sd: number;
  /** Share of the variance of single readings, 0 to 1. */
  share: number;
}

/** Who and what read a measurand, and what of the spread comes from them. */
export interface StudyPrecision {
  /** Readings that count. */
  n: number;
  parts: PrecisionPart[];
  /** SD of repeats, and its share. */
  repeat: { sd: number; share: number };
  /** SD of readings by anybody, with anything, on any day: all parts together. */
  reproduced: number;
  /** What two readings differ by less than with 95 %: repeated, and reproduced. */
  limits: { repeatability: number; reproducibility: number };
  /** SD of the items' means, over settings together; null where no setting has two items. */
  items: number | null;
  /** Whether every item was read by, with and in everything, so that it cancels between items. */
  shared: boolean;
}

/** Two readings of one normal quantity differ by more than this many SDs in one case of twenty. */
const LIMIT = 2.8;
/** More groups than this take seconds to tell apart, and nobody reads with so many. */
const MOST_GROUPS = 100;

/** Groups of readings by a key, numbered in the order in which they come. */
function groupsBy(keys: readonly string[]): Grouping {
  const numbers = new Map<string, number>();
  const groups = keys.map((key) => {
    const known = numbers.get(key) ?? numbers.size;
    numbers.set(key, known);
    return known;
  });
  return { groups, count: numbers.size };
}

/** Whether some cell was read in two groups: else what groups differ by looks like what cells differ by. */
function variesWithin(cells: readonly number[], keys: readonly string[]): boolean {
  const first = new Map<number, string>();
  return cells.some((cell, i) => {
    const key = keys[i] as string;
    const known = first.get(cell) ?? key;
    first.set(cell, known);
    return known !== key;
  });
}

/** The groupings that the readings show, those that fall together as one. */
function groupings(
  observations: readonly Observation[],
  { sessions }: StudyDocument,
): { sources: PrecisionSource[]; grouping: Grouping }[] {
  const byId = new Map(sessions.map((session) => [session.id, session]));
  const sessionOf = ({ sessionId }: Observation) => byId.get(sessionId ?? '');
  const operators = observations.map((observation) => sessionOf(observation)?.operator.trim() ?? '');
  const candidates: [PrecisionSource, string[]][] = [
    ['operator', operators],
    ['instrument', observations.map((observation) => sessionOf(observation)?.instrument.trim() ?? '')],
    ['session', observations.map(({ sessionId }) => sessionId ?? '')],
  ];
  // Whoever is not named may be any of the others.
  const cells = groupsBy(observations.map(({ setting, itemId }) => `${setting}/${itemId}`)).groups;
  const named = candidates.filter(([, keys]) => keys.every((key) => key !== '') && variesWithin(cells, keys));
  const found: { sources: PrecisionSource[]; grouping: Grouping }[] = [];
  for (const [source, keys] of named) {
    const grouping = groupsBy(keys);
    const same = found.find(({ grouping: other }) =>
      other.groups.every((group, i) => group === grouping.groups[i]),
    );
    if (same) same.sources.push(source);
    else found.push({ sources: [source], grouping });
  }
  if (named.some(([source]) => source === 'operator')) {
    const both = groupsBy(observations.map(({ itemId }, i) => `${operators[i] ?? ''}/${itemId}`));
    const items = new Set(observations.map(({ itemId }) => itemId)).size;
    // An interaction shows where somebody read more than one item, and an item was read by more than one.
    const taken = Math.max(items, new Set(operators).size);
    if (items > 1 && both.count > taken && both.count < observations.length) {
      found.push({ sources: ['item and operator'], grouping: both });
    }
  }
  return found;
}

/** SD of the items' means at one setting, pooled over the settings. */
function spreadOfItems(observations: readonly Observation[]): number | null {
  let [squares, df] = [0, 0];
  for (const setting of new Set(observations.map((observation) => observation.setting))) {
    const there = observations.filter((observation) => observation.setting === setting);
    const means = [...new Set(there.map(({ itemId }) => itemId))].map(
      (id) => moments(there.flatMap(({ itemId, value }) => (itemId === id ? [value as number] : []))).mean,
    );
    squares += moments(means).sumOfSquares;
    df += means.length - 1;
  }
  return df > 0 ? Math.sqrt(squares / df) : null;
}

/** Whether each round lies in one group, and items are compared within rounds; or each item has readings in the same proportions of all. */
function isShared(
  observations: readonly Observation[],
  { groups, count }: Grouping,
  withinRounds: boolean,
): boolean {
  const ofRound = new Map<string, number | undefined>();
  const whole = observations.every(({ setting, round, sharesRound }, i) => {
    const key = `${setting}/${String(round)}`;
    const known = ofRound.get(key) ?? groups[i];
    ofRound.set(key, known);
    return sharesRound && known === groups[i];
  });
  if (whole && withinRounds) return true;
  const cells = new Map<string, number[]>();
  observations.forEach(({ itemId, setting }, i) => {
    const key = `${setting}/${itemId}`;
    const shares = cells.get(key) ?? Array<number>(count).fill(0);
    const group = groups[i] as number;
    shares[group] = (shares[group] as number) + 1;
    cells.set(key, shares);
  });
  const [first, ...rest] = [...cells.values()].map((shares) => {
    const n = shares.reduce((sum, share) => sum + share, 0);
    return shares.map((share) => share / n);
  });
  return rest.every((shares) => shares.every((share, i) => Math.abs(share - (first?.[i] as number)) < 0.25));
}

/**
 * What of a measurand's spread comes from operators, instruments, sessions and repeats, over all items and settings; and
 * what two readings may differ by.
 * @returns undefined where everything was read by one hand in one session, where nothing repeats, and of marks and exact
 *   figures
 * @source ISO 5725-2:2019 (repeatability and reproducibility); ISO 5725-6:1994, 4.1.4 (limits of 2.8 standard deviations)
 */
export function precisionOf(document: StudyDocument, measurandId: string): StudyPrecision | undefined {
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  if (!measurand) return undefined;
  const screened = screenedOf(document, measurand);
  if (screened.exact || screened.ranksOnly) return undefined;
  const observations = screened.observations.filter(({ use, value }) => use.is === 'kept' && value !== null);
  const found = groupings(observations, document);
  const size = found.reduce((sum, { grouping }) => sum + grouping.count, 0);
  if (found.length === 0 || size > MOST_GROUPS) return undefined;
  const values = observations.map(({ value }) => value as number);
  const cells = groupsBy(observations.map(({ setting, itemId }) => `${setting}/${itemId}`));
  const components = varianceComponents(
    values,
    cells.groups,
    found.map(({ grouping }) => grouping),
  );
  if (!components) return undefined;
  const { between, residual } = components;
  const total = between.reduce((sum, variance) => sum + variance, residual);
  return {
    n: values.length,
    parts: found.map(({ sources, grouping }, i) => ({
      ...{ sources, groups: grouping.count },
      ...{ sd: Math.sqrt(between[i] as number), share: (between[i] as number) / total },
    })),
    repeat: { sd: Math.sqrt(residual), share: residual / total },
    reproduced: Math.sqrt(total),
    limits: { repeatability: LIMIT * Math.sqrt(residual), reproducibility: LIMIT * Math.sqrt(total) },
    items: spreadOfItems(observations),
    shared: found.every(
      ({ sources, grouping }) =>
        sources.includes('item and operator') ||
        isShared(observations, grouping, screened.average !== 'energy'),
    ),
  };
}
