import { byText } from '../model/in-order.ts';
import { type SeededRandom, mixedRandom, seededRandom, shuffled } from '../random/seeded.ts';
import type { Cell, Reorder } from '../model/study.ts';
import type { DRAWS, ORDER_KINDS } from '../model/words.ts';
import { type PlanOfRuns, cellKey, gridCells, irreversibleFactor, planSize, settingKey } from './grid.ts';
import { williamsRow, williamsRows } from './williams.ts';

export type OrderKind = (typeof ORDER_KINDS)[number];
type Draws = (typeof DRAWS)[number];

/** What is taken at one place of the run order. */
export interface OrderedRun extends Cell {
  /** Round from 1; under a full shuffle, how often the cell has come so far. */
  round: number;
}

export interface OrderInput {
  kind: OrderKind;
  /** Cells that are measured, in the order of the plan. */
  cells: readonly Cell[];
  rounds: number;
  seed: number;
  draws: Draws;
  /** Levels of an irreversible factor, in order: all runs of an earlier one come before those of a later one. */
  phases?: readonly string[];
  /** The runs to come, put in order again. */
  reorders?: readonly Pick<Reorder, 'place' | 'kind' | 'seed'>[];
}

/** Separates the draws that relabel a square from those that shuffle a round. */
const SQUARE_STREAM = 1_000_000;
/** Separates the draws of one phase from those of the next. */
const PHASE_STREAM = 10_000;

/** A source of draws for each stream, a round's number say. */
type Streams = (stream: number) => SeededRandom;

const STREAMS: Record<Draws, (seed: number) => Streams> = {
  'by-stream': (seed) => (stream) => seededRandom(seed, stream),
  mixed: (seed) => (stream) => mixedRandom(seed, stream),
};

/** One row of a balanced square: the items relabelled and the rows shuffled, afresh for each square. */
function squareRow(ids: readonly string[], streams: Streams, number: number): string[] {
  const rows = williamsRows(ids.length);
  const which = Math.floor((number - 1) / rows);
  const random = streams(SQUARE_STREAM + which);
  const labels = shuffled(ids, random);
  const order = shuffled(
    Array.from({ length: rows }, (_, row) => row),
    random,
  );
  return williamsRow(ids.length, order[(number - 1) % rows] as number).map((item) => labels[item] as string);
}

/** Parts by a number that each has, the smallest number first. */
function grouped<T>(parts: readonly T[], numberOf: (part: T) => number): [number, T[]][] {
  const groups = new Map<number, T[]>();
  for (const part of parts) {
    const group = groups.get(numberOf(part));
    if (group) group.push(part);
    else groups.set(numberOf(part), [part]);
  }
  return [...groups].sort(([a], [b]) => a - b);
}

/** A cell by its place in the plan, and by its place in the order in which the cells' ids were made. */
interface KnownCell {
  cell: Cell;
  planned: number;
  created: number;
  phase: number;
}

interface PlannedRun {
  known: KnownCell;
  round: number;
}

interface Group {
  cells: readonly KnownCell[];
  round: number;
  streams: Streams;
  stream: number;
}

const byCreation = (cells: readonly KnownCell[]) => [...cells].sort((a, b) => a.created - b.created);

/** One round of a balanced square; with levels, each setting takes a row of its own, in shuffled order. */
function squareRound({ cells, round, streams, stream }: Group): KnownCell[] {
  const settings = new Map<string, KnownCell[]>();
  for (const known of byCreation(cells)) {
    const key = settingKey(known.cell.levelIds);
    const ofSetting = settings.get(key);
    if (ofSetting) ofSetting.push(known);
    else settings.set(key, [known]);
  }
  const order = shuffled([...settings.values()], streams(stream));
  return order.flatMap((ofSetting, i) => {
    const byItem = new Map(ofSetting.map((known) => [known.cell.itemId, known]));
    const row = squareRow([...byItem.keys()], streams, (round - 1) * order.length + i + 1);
    return row.map((id) => byItem.get(id) as KnownCell);
  });
}

const ROUND_ORDERS: Record<Exclude<OrderKind, 'full-shuffle'>, (group: Group) => readonly KnownCell[]> = {
  fixed: ({ cells }) => [...cells].sort((a, b) => a.planned - b.planned),
  'shuffled-rounds': ({ cells, streams, stream }) => shuffled(byCreation(cells), streams(stream)),
  'balanced-square': squareRound,
};

/** Shuffles runs and counts each cell's rounds again, so that its first run is its earliest. */
function shuffleRuns(runs: readonly PlannedRun[], random: SeededRandom): PlannedRun[] {
  const rounds = new Map<KnownCell, number[]>();
  for (const { known, round } of runs) {
    const ofCell = rounds.get(known);
    if (ofCell) ofCell.push(round);
    else rounds.set(known, [round]);
  }
  for (const ofCell of rounds.values()) ofCell.sort((a, b) => b - a);
  return shuffled(runs, random).map(({ known }) => ({ known, round: rounds.get(known)?.pop() as number }));
}

/** Runs that are to come, in another order: phase by phase, round by round. */
const remade = (runs: readonly PlannedRun[], kind: OrderKind, streams: Streams): PlannedRun[] =>
  grouped(runs, ({ known }) => known.phase).flatMap(([phase, ofPhase]) => {
    if (kind === 'full-shuffle') return shuffleRuns(ofPhase, streams(phase * PHASE_STREAM));
    return grouped(ofPhase, ({ round }) => round).flatMap(([round, members]) => {
      const cells = members.map(({ known }) => known);
      const group = { cells, round, streams, stream: round + phase * PHASE_STREAM };
      return ROUND_ORDERS[kind](group).map((known) => ({ known, round }));
    });
  });

/**
 * The order of all runs, made again from the seed. But for a fixed order, items are taken in the order in which they
 * were created (their ids sort so), so that moving them about in the plan changes no order.
 * @source randomized complete blocks: Fisher (1935), The Design of Experiments; balanced squares: Williams (1949)
 */
export function runOrder({
  kind,
  cells,
  rounds,
  seed,
  draws,
  phases = [],
  reorders = [],
}: OrderInput): OrderedRun[] {
  const phase = new Map(phases.map((id, i) => [id, i]));
  const known = cells
    .map((cell, planned) => ({
      cell,
      planned,
      key: cellKey(cell),
      phase: cell.levelIds.map((id) => phase.get(id)).find((place) => place !== undefined) ?? 0,
    }))
    // Each key is made once: a plan may have thousands of cells.
    .sort((a, b) => byText(a.key, b.key))
    .map(({ key: _key, ...rest }, created): KnownCell => ({ ...rest, created }));
  const plain = Array.from({ length: rounds }, (_, i) =>
    known.map((cell) => ({ known: cell, round: i + 1 })),
  ).flat();
  let order = remade(plain, kind, STREAMS[draws](seed));
  for (const again of reorders) {
    const { place } = again;
    order = [...order.slice(0, place), ...remade(order.slice(place), again.kind, STREAMS[draws](again.seed))];
  }
  return order.map(({ known: { cell }, round }) => ({ ...cell, round }));
}

/** The run order of a study. Ask planSize first whether it is not too long. */
export function studyOrder(document: PlanOfRuns): OrderedRun[] {
  const { study } = document;
  const irreversible = irreversibleFactor(document);
  return runOrder({
    kind: study.runOrder,
    cells: gridCells(document),
    rounds: study.rounds,
    seed: study.seed,
    draws: study.draws,
    phases: irreversible?.levels.map(({ id }) => id) ?? [],
    reorders: study.reorders,
  });
}

/** The run order of a study; none where its plan is refused for its size. */
export const plannedOrder = (document: PlanOfRuns): OrderedRun[] =>
  planSize(document).refused === undefined ? studyOrder(document) : [];

/** Where an item stands in the run order. */
export interface Balance {
  itemId: string;
  /** Mean of its places, as a share of the way: 0.5 is the middle. */
  meanPlace: number;
}

/**
 * How far a steady drift would favour an item: the mean of its places along the run order. Equal means let a steady
 * drift fall on all items alike.
 */
export function balanceOf(order: readonly OrderedRun[]): Balance[] {
  const places = new Map<string, { sum: number; count: number }>();
  order.forEach(({ itemId }, place) => {
    const placed = places.get(itemId) ?? { sum: 0, count: 0 };
    placed.sum += (place + 0.5) / order.length;
    placed.count += 1;
    places.set(itemId, placed);
  });
  return [...places].map(([itemId, { sum, count }]) => ({ itemId, meanPlace: sum / count }));
}
