import { seededRandom, shuffled } from '../random/seeded.ts';
import type { ORDER_KINDS } from '../model/words.ts';
import { williamsSquare } from './williams.ts';

export type OrderKind = (typeof ORDER_KINDS)[number];

/** What is taken at one place of the run order. */
export interface OrderedRun {
  itemId: string;
  /** Round from 1; under a full shuffle, how often the item has come so far. */
  round: number;
}

export interface OrderInput {
  kind: OrderKind;
  /** UUIDs version 7 of the items that take part, in the order of the plan. */
  itemIds: readonly string[];
  rounds: number;
  seed: number;
}

/** Separates the draws that relabel a square from those that shuffle a round. */
const SQUARE_STREAM = 1_000_000;

/** One round of a balanced square: the items relabelled and the rows shuffled, afresh for each square. */
function squareRound(ids: readonly string[], seed: number, round: number): string[] {
  const square = williamsSquare(ids.length);
  const which = Math.floor((round - 1) / square.length);
  const random = seededRandom(seed, SQUARE_STREAM + which);
  const labels = shuffled(ids, random);
  const rows = shuffled(square, random);
  return (rows[(round - 1) % square.length] as number[]).map((item) => labels[item] as string);
}

/**
 * The order of all runs, made again from the seed. But for a fixed order, items are taken in the order in which they
 * were created (their ids sort so), so that moving them about in the plan changes no order.
 * @source randomized complete blocks: Fisher (1935), The Design of Experiments; balanced squares: Williams (1949)
 */
export function runOrder({ kind, itemIds, rounds, seed }: OrderInput): OrderedRun[] {
  const created = [...itemIds].sort();
  if (kind === 'full-shuffle') {
    const all = Array.from({ length: rounds }, () => created).flat();
    const taken = new Map<string, number>();
    return shuffled(all, seededRandom(seed)).map((itemId) => {
      const round = (taken.get(itemId) ?? 0) + 1;
      taken.set(itemId, round);
      return { itemId, round };
    });
  }
  return Array.from({ length: rounds }, (_, i) => i + 1).flatMap((round) => {
    const ids =
      kind === 'fixed'
        ? itemIds
        : kind === 'balanced-square'
          ? squareRound(created, seed, round)
          : shuffled(created, seededRandom(seed, round));
    return ids.map((itemId) => ({ itemId, round }));
  });
}

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
  const places = new Map<string, number[]>();
  order.forEach(({ itemId }, place) => {
    const own = places.get(itemId) ?? [];
    own.push((place + 0.5) / order.length);
    places.set(itemId, own);
  });
  return [...places].map(([itemId, own]) => ({
    itemId,
    meanPlace: own.reduce((sum, place) => sum + place, 0) / own.length,
  }));
}
