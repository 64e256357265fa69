import type { Direction } from '../model/parts.ts';

/** Which direction is better, with the target where one is set. */
export type Better = { kind: 'higher' | 'lower' | 'unranked' } | { kind: 'nearest'; target: number };

export function betterOf(direction: Direction): Better {
  if (direction.kind !== 'nearest') return { kind: direction.kind };
  return direction.target === null ? { kind: 'unranked' } : { kind: 'nearest', target: direction.target };
}

/** Turns a mean so that more is better: itself, its negative, or its negative distance from the target. */
export function merit(mean: number, better: Better): number {
  if (better.kind === 'lower') return -mean;
  if (better.kind === 'nearest') return -Math.abs(mean - better.target);
  return mean;
}

/** Which direction is better of what items are placed by: errors go by their size, marks by mean ranks, which have no target. */
export function betterPlaced(
  direction: Direction,
  { bySize, ranksOnly }: { bySize: boolean; ranksOnly: boolean },
): Better {
  if (bySize) return { kind: 'lower' };
  return ranksOnly && direction.kind === 'nearest' ? { kind: 'higher' } : betterOf(direction);
}
