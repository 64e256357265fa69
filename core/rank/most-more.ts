/** More readings of each item than this are more than is worth taking. */
export const MOST_MORE = 50;
