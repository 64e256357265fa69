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

/**
 * A length of time as h:mm:ss, with decimals where it has any: what a window's end is typed as, too.
 * @param seconds to the thousandth
 * @example spanText(8040) // '2:14:00'
 */
export function spanText(seconds: number): string {
  const thousandths = Math.round(Math.abs(seconds) * 1000);
  const rest = thousandths % 60000;
  const minutes = (thousandths - rest) / 60000;
  const [whole = '0', decimals] = String(rest / 1000).split('.');
  const last = `${whole.padStart(2, '0')}${decimals === undefined ? '' : `.${decimals}`}`;
  const sign = seconds < 0 && thousandths > 0 ? '-' : '';
  return `${sign}${String(Math.floor(minutes / 60))}:${String(minutes % 60).padStart(2, '0')}:${last}`;
}
