import type { UnitTable } from './unit-library.ts';
import table from './unit-table.json' with { type: 'json' };

/** What one word of a unit is worth: “km”, “psi”, “degF”. */
export interface UnitWord {
  /** Units of the SI in one of it. */
  factor: number;
  /** What is added to a number before it is multiplied; 0 but for scales of temperature. */
  zero: number;
  /** Power of each base quantity. */
  dimension: readonly number[];
}

const { prefixes, units } = table as unknown as UnitTable;
const byWord = new Map(units.map((unit) => [unit[0], unit]));

/** A word of a unit, with its prefix; undefined for one that is none. What stands there by itself is no prefix and a unit. */
export function unitWord(word: string): UnitWord | undefined {
  const whole = byWord.get(word);
  if (whole) return { factor: whole[1], zero: whole[2], dimension: whole[3] };
  for (const [name, factor, zero, dimension, set] of units) {
    if (!word.endsWith(name)) continue;
    const [allowed, prefix] = [prefixes[set] ?? {}, word.slice(0, -name.length)];
    const times = Object.hasOwn(allowed, prefix) ? allowed[prefix] : undefined;
    if (times !== undefined) return { factor: factor * times, zero, dimension };
  }
  return undefined;
}
