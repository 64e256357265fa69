/** A column that may be what others are referred to: the room, a bath. */
const REFERENCE = /\b(?:room|ambient|air|bath|outside|reference|ref)\b/i;

/** The column that is likely to be taken off the others; the last one where none is called so. */
export const likelyReference = ({ columns }: { columns: readonly { head: string }[] }): string | undefined =>
  (columns.find(({ head }) => REFERENCE.test(head)) ?? (columns.length > 1 ? columns.at(-1) : undefined))
    ?.head;
