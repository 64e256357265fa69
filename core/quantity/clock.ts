/**
 * A duration as a stopwatch shows it: s.ss below a minute, m:ss.s from there on.
 * @param seconds negative ones count as 0
 * @example clockText(258.63) // '4:18.6'
 */
export function clockText(seconds: number): string {
  const size = Math.max(0, seconds);
  // 59.996 s would print as 60.00.
  if (size < 59.995) return size.toFixed(2);
  const tenths = Math.round(size * 10);
  const rest = tenths % 600;
  return `${String((tenths - rest) / 600)}:${(rest / 10).toFixed(1).padStart(4, '0')}`;
}
