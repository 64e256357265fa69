/** The level of a mean square, relative to a sample of 1; −Infinity for silence. */
export const decibels = (meanSquare: number): number => 10 * Math.log10(meanSquare);
