import type { Looks, Study } from '../model/study.ts';
import { listed, wordFor } from '../quantity/format.ts';

/** Planned looks in words: “after rounds 4 and 6, strict early”. */
export const looksWords = ({ after, spending }: Looks): string =>
  after.length === 0
    ? 'none'
    : `after ${wordFor(after.length, 'round', 'rounds')} ${listed(after.map(String))}, ${spending === 'late' ? 'strict early' : 'alike at each look'}`;

/** The rounds after which the plan looks at the ranking, the last one of the plan included, each once, in order. */
export const plannedLooks = ({ looks, rounds }: Pick<Study, 'looks' | 'rounds'>): number[] =>
  [...new Set([...looks.after.filter((round) => round < rounds), rounds])].sort((a, b) => a - b);
