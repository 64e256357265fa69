/** A reference that was read at a moment. */
export interface ReferenceAt {
  /** Readings of the same stretch, within which a change is one. */
  stretch: string;
  /** ms. */
  time: number;
  reference: number;
}

/** Neighbours that lie further apart than this say nothing of a moment between them, ms. */
const FURTHEST = 30 * 60_000;

/**
 * How fast a reference changed while it was read, from its neighbours on both sides, or on the one that is there.
 * @returns in the reference's unit for each minute, with its sign; null where no neighbour is near
 */
export function referenceRates(read: readonly ReferenceAt[]): (number | null)[] {
  const rates = new Array<number | null>(read.length).fill(null);
  const order = read
    .map((_, i) => i)
    .sort((a, b) => (read[a] as ReferenceAt).time - (read[b] as ReferenceAt).time);
  const stretches = new Map<string, number[]>();
  for (const i of order) {
    const { stretch } = read[i] as ReferenceAt;
    const there = stretches.get(stretch);
    if (there) there.push(i);
    else stretches.set(stretch, [i]);
  }
  for (const places of stretches.values()) {
    const moments = places.map((i) => read[i] as ReferenceAt);
    const near = (k: number, step: 1 | -1): ReferenceAt | undefined => {
      const here = moments[k] as ReferenceAt;
      let other = k + step;
      // What was read at the same moment says nothing of a change.
      while (moments[other]?.time === here.time) other += step;
      const found = moments[other];
      return found && Math.abs(found.time - here.time) <= FURTHEST ? found : undefined;
    };
    places.forEach((i, k) => {
      const here = moments[k] as ReferenceAt;
      const [before, behind] = [near(k, -1) ?? here, near(k, 1) ?? here];
      if (before.time === behind.time) return;
      rates[i] = (60_000 * (behind.reference - before.reference)) / (behind.time - before.time);
    });
  }
  return rates;
}
