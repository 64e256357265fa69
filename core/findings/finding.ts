/** What a finding looks at: the readings of each item in run order, before and after screening. */
export interface Inspected {
  items: readonly {
    item: string;
    values: ArrayLike<number>;
    kept: Float64Array;
    /** Whether a rule was applied to it. */
    screened: boolean;
  }[];
  unit: string;
  /** Step of the readings; 0 where none is known. */
  step: number;
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
