/** A study's intervals and tests are at this level. */
export const ALPHA = 0.05;
