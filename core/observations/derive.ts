import type { Expression } from '../expression/expression.ts';
import type { Measurand } from '../model/parts.ts';
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
      cell.map((own) => own[i] as Observation),
    ),
  );
}

/** The interval of a counted source, carried through what is worked out of it; none where two sources have one. */
function carried(
  own: readonly Observation[],
  work: (source: number, value: number) => number | undefined,
): Observation['interval'] {
  const counted = own.flatMap(({ interval }, i) => (interval ? [{ i, interval }] : []));
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
  own: readonly Observation[],
  moved: (source: number, by: number) => number,
): SharedDoubt[] {
  const sums = new Map<string, number>();
  own.forEach(({ doubts = [] }, i) => {
    for (const { source, u } of doubts) sums.set(source, (sums.get(source) ?? 0) + moved(i, u));
  });
  return [...sums].map(([source, u]) => ({ source, u }));
}

/** How an observation stands that was worked out from others. */
function standing(own: readonly Observation[], sources: readonly Source[], problem: string | undefined): Use {
  if (problem !== undefined) return { is: 'left out', by: 'source', reason: problem };
  for (const [i, { use }] of own.entries()) {
    if (use.is !== 'left out') continue;
    return {
      is: 'left out',
      by: 'source',
      reason: `with its source: ${sources[i]?.measurand.name ?? ''}, ${use.reason}`,
    };
  }
  return { is: 'kept' };
}

/**
 * Works a derived measurand out, run by run.
 * @param unordered the measurands in its expression, screened; none where it comes from attributes alone, and then every
 *   item has one value
 */
export function deriveObservations(
  document: StudyDocument,
  measurand: Measurand,
  { uses, work }: Expression,
  unordered: readonly Source[],
): Observation[] {
  // Round, setting and session are those of what was read.
  const sources = [...unordered].sort((a, b) => Number(a.exact) - Number(b.exact));
  const items = new Map(document.items.map((item) => [item.id, item]));
  const order = new Map(sources.map(({ measurand: { id } }, i) => [id, i]));
  const valuesFor = (itemId: string, own: readonly Observation[]): Map<string, number> | undefined => {
    const values = new Map<string, number>();
    for (const { identifier, kind, id } of uses) {
      const found =
        kind === 'measurand'
          ? own[order.get(id) ?? -1]?.value
          : kind === 'attribute'
            ? items.get(itemId)?.attributes.find(({ name }) => name === id)?.value
            : conditionValue(document, own[0]?.sessionId ?? null, id);
      if (found === undefined || found === null) return undefined;
      values.set(identifier, found);
    }
    return values;
  };
  const observe = (id: string, itemId: string, own: readonly Observation[]): Observation[] => {
    const values = valuesFor(itemId, own);
    if (!values) return [];
    const worked = work(values);
    const value = 'number' in worked ? worked.number : null;
    const read = uses.filter(({ kind }) => kind === 'measurand');
    const step =
      value === null
        ? 0
        : stepWorked(value, read.length, (input) => {
            const { identifier, id: sourceId } = read[input] as (typeof read)[number];
            const by = own[order.get(sourceId) ?? -1]?.step ?? 0;
            const moved = work(new Map(values).set(identifier, (values.get(identifier) as number) + by));
            return 'number' in moved ? moved.number : undefined;
          });
    const [first] = own;
    const doubts =
      value === null
        ? []
        : carriedDoubts(own, (i, by) => {
            const identifier = read.find(({ id: sourceId }) => order.get(sourceId) === i)?.identifier;
            const moved =
              identifier === undefined
                ? undefined
                : work(new Map(values).set(identifier, (values.get(identifier) as number) + by));
            return moved && 'number' in moved ? moved.number - value : 0;
          });
    const interval = carried(own, (i, at) => {
      const identifier = read.find(({ id: sourceId }) => order.get(sourceId) === i)?.identifier;
      const bound = identifier === undefined ? undefined : work(new Map(values).set(identifier, at));
      return bound && 'number' in bound ? bound.number : undefined;
    });
    return [
      {
        id,
        itemId,
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
        ...(own.some(({ estimated }) => estimated) ? { estimated: true } : {}),
        sources: own.length > 0 ? own.map((source) => source.id) : [itemId],
        use: standing(own, sources, 'problem' in worked ? worked.problem : undefined),
      },
    ];
  };
  if (sources.length === 0) {
    return document.items.flatMap(({ id }) => observe(derivedId(measurand.id, [id]), id, []));
  }
  return paired(sources).flatMap((own) =>
    observe(
      derivedId(
        measurand.id,
        own.map(({ id }) => id),
      ),
      (own[0] as Observation).itemId,
      own,
    ),
  );
}
