/** The door to the normal distribution alone, for what a page works out itself: the rest of the library is large. */
import { pnorm, qnorm } from 'lib-r-math.js';

/** Upper tail of the standard normal. */
export const normalUpper = (z: number): number => pnorm(z, 0, 1, false);

/** The z that is exceeded with the given probability, 0 < upper < 1. */
export const normalQuantileUpper = (upper: number): number => qnorm(upper, 0, 1, false);
