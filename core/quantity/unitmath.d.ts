/** What is used of the library of units; it brings no types that fit. */
declare module 'unitmath/dist/UnitMath.min.js' {
  interface Piece {
    prefix: string;
    power: number;
    unit: { value: number; offset: number; prefixes: Record<string, number> };
  }
  interface Definitions {
    units: Record<string, string | { value: string; prefixes?: string; aliases?: string[] }>;
    prefixes: Record<string, Record<string, number>>;
  }
  interface Library {
    (value: number, word: string): { dimension: number[]; units: Piece[] };
    config: (options: { definitions: Pick<Definitions, 'units'> }) => Library;
    definitions: () => Definitions;
  }
  const library: Library;
  export default library;
}
