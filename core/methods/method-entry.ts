/** A method in plain words, as the page of the methods and docs/methods.md say it. */
export interface MethodEntry {
  /** What it is called in addresses: lower case, with hyphens. */
  name: string;
  label: string;
  /** What it does, and what for. */
  says: string;
  formula: string;
  source: string;
  /** When it misleads. */
  misleads: string;
  /** Worked by hand; a test holds what is computed against it. */
  example: {
    given: string;
    /** What comes out, with `figures` in it as they are printed. */
    gives: string;
    figures: readonly string[];
  };
}

export interface MethodGroup {
  title: string;
  about: string;
  entries: readonly MethodEntry[];
}
