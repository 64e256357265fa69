import { seededRandom, shuffled } from '../random/seeded.ts';

/**
 * The order of the items in one round: a fresh shuffle per round, made again from the seed. Items are taken in the
 * order in which they were created (their ids sort so), so that moving them about in the plan changes no order.
 * @param itemIds UUIDs version 7 of the items that take part
 * @param round from 1
 * @source randomized complete blocks, Fisher (1935), The Design of Experiments
 */
export function roundOrder(itemIds: readonly string[], seed: number, round: number): string[] {
  return shuffled([...itemIds].sort(), seededRandom(seed, round));
}
