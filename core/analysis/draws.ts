/** Draws for how often each item comes first. */
export const DRAWS = 10000;
