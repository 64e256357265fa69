import pick from 'lodash/pick.js';
import type { Expression } from '../expression/expression.ts';
import type { Item, Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { conditionValue } from '../bench/session.ts';
import { stepWorked } from './read.ts';
import { gaveWay } from '../record/record.ts';
import { type Observation, type SharedDoubt, type Use, derivedId } from './observation.ts';

/** A measurand that another one is worked out from, with its observations as its own rule left them. */
export interface Source {
  measurand: Measurand;
  observations: readonly Observation[];
  /** From attributes alone: one value of an item, which goes with each of its runs. */
  exact: boolean;
}

/**
 * Observations that were taken for one run, source by source; several of one source are paired in their order.
 * @param sources those that were read first, then the exact ones
 */
function paired(sources: readonly Source[]): Observation[][] {
  const read = sources.filter(({ exact }) => !exact);
  if (read.length > 0 && read.length < sources.length) {
    const exact = sources
      .slice(read.length)
      .map(
        ({ observations }) => new Map(observations.map((observation) => [observation.itemId, observation])),
      );
    return paired(read).flatMap((run) => {
      const values = exact.flatMap((byItem) => byItem.get((run[0] as Observation).itemId) ?? []);
      return values.length < exact.length ? [] : [[...run, ...values]];
    });
  }
  const cells = new Map<string, Observation[][]>();
  sources.forEach(({ observations }, source) => {
    for (const observation of observations) {
      const { round, itemId, setting, use } = observation;
      if (gaveWay(use)) continue;
      const key = `${String(round)}/${itemId}/${setting}`;
      let cell = cells.get(key);
      if (!cell) {
        cell = sources.map(() => []);
        cells.set(key, cell);
      }
      (cell[source] as Observation[]).push(observation);
    }
  });
  return [...cells.values()].flatMap((cell) =>
    Array.from({ length: Math.min(...cell.map(({ length }) => length)) }, (_, i) =>
      cell.map((ofSource) => ofSource[i] as Observation),
    ),
  );
}

/** The interval of a counted source, carried through what is worked out of it; none where two sources have one. */
function carried(
  run: readonly Observation[],
  work: (source: number, value: number) => number | undefined,
): Observation['interval'] {
  const counted = run.flatMap(({ interval }, i) => (interval ? [{ i, interval }] : []));
  const [only] = counted;
  if (!only || counted.length > 1) return undefined;
  const [a, b] = [work(only.i, only.interval.low), work(only.i, only.interval.high)];
  return a === undefined || b === undefined
    ? undefined
    : { low: Math.min(a, b), high: Math.max(a, b), method: only.interval.method };
}

/**
 * What corrections of the sources leave open, carried through what is worked out of them; what two of them share adds up
 * with its sign.
 * @param moved by how much the value moves when the source moves by so much
 * @source GUM, JCGM 100:2008, 5.1.2 and 5.2.2
 */
function carriedDoubts(
  run: readonly Observation[],
  moved: (source: number, by: number) => number,
): SharedDoubt[] {
  const sums = new Map<string, number>();
  run.forEach(({ doubts = [] }, i) => {
    for (const { source, u } of doubts) sums.set(source, (sums.get(source) ?? 0) + moved(i, u));
  });
  return [...sums].map(([source, u]) => ({ source, u }));
}

/** How an observation stands that was worked out from others. */
function standing(run: readonly Observation[], sources: readonly Source[], problem: string | undefined): Use {
  if (problem !== undefined) return { is: 'left out', by: 'source', reason: problem };
  for (const [i, { use }] of run.entries()) {
    if (use.is !== 'left out') continue;
    return {
      is: 'left out',
      by: 'source',
      reason: `with its source: ${sources[i]?.measurand.name ?? ''}, ${use.reason}`,
    };
  }
  return { is: 'kept' };
}

/** What a derived measurand is worked out with. */
interface Working extends Expression {
  document: StudyDocument;
  measurandId: string;
  sources: readonly Source[];
}

/** What goes into the expression for one run of an item, by identifier; undefined where something is missing. */
function valuesFor(
  { document, uses, sources }: Working,
  item: Item,
  run: readonly Observation[],
): Map<string, number> | undefined {
  const values = new Map<string, number>();
  for (const { identifier, kind, id } of uses) {
    const found =
      kind === 'measurand'
        ? run[sources.findIndex(({ measurand }) => measurand.id === id)]?.value
        : kind === 'attribute'
          ? item.attributes.find(({ name }) => name === id)?.value
          : conditionValue(document, run[0]?.sessionId ?? null, id);
    if (found === undefined || found === null) return undefined;
    values.set(identifier, found);
  }
  return values;
}

/** The observation of one run of an item; undefined where something that it comes from is missing. */
function derived(working: Working, item: Item, run: readonly Observation[]): Observation | undefined {
  const { document, measurandId, uses, work, sources } = working;
  const values = valuesFor(working, item, run);
  if (!values) return undefined;
  const worked = work(values);
  const value = 'number' in worked ? worked.number : null;
  const workedWith = (source: number, number: number): number | undefined => {
    const sourceId = sources[source]?.measurand.id;
    const { identifier = '' } = uses.find(({ kind, id }) => kind === 'measurand' && id === sourceId) ?? {};
    const other = work(new Map(values).set(identifier, number));
    return 'number' in other ? other.number : undefined;
  };
  const moved = (source: number, by: number) => workedWith(source, (run[source]?.value ?? Number.NaN) + by);
  const step =
    value === null
      ? 0
      : stepWorked(value, run.length, (source) => moved(source, run[source]?.step as number));
  const doubts =
    value === null ? [] : carriedDoubts(run, (source, by) => (moved(source, by) ?? value) - value);
  const interval = carried(run, workedWith);
  // Round, setting and session are those of what was read.
  const [first] = run;
  const from = run.length > 0 ? run.map(({ id }) => id) : [item.id];
  return {
    id: derivedId(measurandId, from),
    itemId: item.id,
    setting: first?.setting ?? '',
    round: first?.round ?? 1,
    sharesRound: first?.sharesRound ?? false,
    place: first?.place ?? 0,
    sessionId: first?.sessionId ?? null,
    takenAt: first?.takenAt ?? document.study.createdAt,
    note: '',
    parts: [],
    value,
    step,
    ...(interval ? { interval } : {}),
    ...(doubts.length > 0 ? { doubts } : {}),
    ...(run.some(({ estimated }) => estimated) ? { estimated: true } : {}),
    sources: from,
    use: standing(run, sources, 'problem' in worked ? worked.problem : undefined),
  };
}

/** The parts of a study that a derived measurand is worked out with, besides what was read. */
const WORKED_WITH = ['items', 'measurands', 'conditions', 'sessions'] as const;

/** The observations of a derived measurand as they were worked out last. */
interface DerivedLast {
  with: Pick<StudyDocument, (typeof WORKED_WITH)[number]>;
  /** By the first of each run. */
  made: ReadonlyMap<Observation | undefined, { run: readonly Observation[]; found: Observation | undefined }>;
}
const derivedLast = new WeakMap<Measurand, DerivedLast>();

/**
 * Works a derived measurand out, run by run; of runs that are as they were it is the same objects.
 * @param unordered the measurands in its expression, screened; none where it comes from attributes alone, and then every
 *   item has one value
 */
export function deriveObservations(
  document: StudyDocument,
  measurand: Measurand,
  expression: Expression,
  unordered: readonly Source[],
): Observation[] {
  // What was read comes first, for round, setting and session are taken from it.
  const sources = [...unordered].sort((a, b) => Number(a.exact) - Number(b.exact));
  const working: Working = { ...expression, document, measurandId: measurand.id, sources };
  if (sources.length === 0) return document.items.flatMap((item) => derived(working, item, []) ?? []);
  const before = derivedLast.get(measurand);
  const known = before && WORKED_WITH.every((part) => before.with[part] === document[part]);
  const items = new Map(document.items.map((item) => [item.id, item]));
  const made = new Map(
    paired(sources).map((run) => {
      const [first] = run;
      const last = known ? before.made.get(first) : undefined;
      if (last?.run.every((observation, i) => observation === run[i])) return [first, last] as const;
      const item = items.get(first?.itemId ?? '');
      return [first, { run, found: item && derived(working, item, run) }] as const;
    }),
  );
  derivedLast.set(measurand, { with: pick(document, WORKED_WITH), made });
  return [...made.values()].flatMap(({ found }) => found ?? []);
}
