import type { Inspect } from './finding.ts';

export const oneReading: Inspect = ({ items }) =>
  items
    .filter(({ kept }) => kept.length === 1)
    .map(({ item }) => ({
      kind: 'one reading only',
      item,
      message: `${item} has one reading that counts.`,
      why: 'One reading shows no spread, so nothing can be said about how sure it is.',
      todo: 'Take at least two more.',
    }));
