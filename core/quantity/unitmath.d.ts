/** What is used of the library of units; it brings no types that fit. */
declare module 'unitmath/dist/UnitMath.min.js' {
  interface Piece {
    prefix: string;
    power: number;
    unit: { value: number; offset: number; prefixes: Record<string, number> };
  }
  interface Library {
    (value: number, word: string): { dimension: number[]; units: Piece[] };
    config: (options: {
      definitions: { units: Record<string, string | { value: string; prefixes?: string }> };
    }) => Library;
  }
  const library: Library;
  export default library;
}
