/** Level of each of m tests when all must hold at once. Šidák (1967). */
export const levelOfEach = (alpha: number, m: number): number => -Math.expm1(Math.log1p(-alpha) / m);

/** p of one of m tests, corrected for their number. Šidák (1967). */
export const correctedP = (p: number, m: number): number => -Math.expm1(m * Math.log1p(-p));
