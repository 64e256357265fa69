/** Decimals as typed, and the denominator of a fraction: “3.90” has a step of 0.01, “2 5/8” one of 1/8. */
const TYPED = /^[+-]?\s*\d*(?:[.,](\d+))?$/;
const CLOCK = /:\d{1,2}(?:[.,](\d+))?$/;
const FRACTION = /\/(\d{1,4})$/;

/**
 * The step in which a number was typed, in the unit that it was typed in.
 * @param text as typed, without a unit
 * @returns undefined where that is not known
 * @example stepTyped('3.90') // 0.01
 */
export function stepTyped(text: string): number | undefined {
  const bare = text.trim();
  const decimals = TYPED.exec(bare) ?? CLOCK.exec(bare);
  if (decimals) return 10 ** -(decimals[1]?.length ?? 0);
  const below = Number(FRACTION.exec(bare)?.[1] ?? 0);
  return below > 0 ? 1 / below : undefined;
}
