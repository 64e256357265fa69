import { expect } from 'vitest';

/** Expects agreement to a relative tolerance; the published values are given to about twelve figures. */
export function expectRelative(actual: number | null | undefined, expected: number, relative: number): void {
  expect(actual).toBeTypeOf('number');
  const error = Math.abs((actual as number) - expected);
  expect(error, `${String(actual)} against ${String(expected)}`).toBeLessThanOrEqual(
    relative * Math.max(Math.abs(expected), Number.MIN_VALUE),
  );
}

/** Tolerance for sums, means, SDs and sums of squares. */
export const EXACT = 1e-9;
/** Tolerance for statistics, intervals and p-values above 1e-6. */
export const CLOSE = 1e-6;
