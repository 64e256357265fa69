/** What a finding looks at: the readings of each item in run order, before and after screening. */
export interface Inspected {
  items: readonly { item: string; values: ArrayLike<number>; kept: number }[];
  unit: string;
}

/** Something that the program noticed and the tester should look at. */
export interface Finding {
  kind: string;
  item?: string;
  /** What was seen, in numbers. */
  message: string;
  /** Why it matters. */
  why: string;
  /** What could be done. */
  todo: string;
}

/** One kind of finding. One file each; the folder's index lists them once. */
export type Inspect = (inspected: Inspected) => Finding[];
