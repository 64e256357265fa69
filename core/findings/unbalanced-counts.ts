import type { Inspect } from './finding.ts';

export const unbalancedCounts: Inspect = ({ items }) => {
  const counts = items.map(({ kept }) => kept.length);
  const most = Math.max(...counts);
  const fewest = Math.min(...counts);
  if (items.length < 2 || most - fewest < Math.max(2, 0.25 * most)) return [];
  const short = items.filter(({ kept }) => kept.length === fewest).map(({ item }) => item);
  return [
    {
      kind: 'unbalanced counts',
      message: `${short.join(', ')}: ${fewest === 1 ? '1 reading that counts' : `${String(fewest)} readings that count`}, where others have ${String(most)}.`,
      why: 'The item with few readings has the widest interval and decides how much can be told apart.',
      todo: 'Take the missing readings, in a round with the others.',
    },
  ];
};
