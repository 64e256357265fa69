import type { Item } from '../model/parts.ts';

/** Every attribute that some item has, in the order in which they turned up. */
export function attributeColumns(items: readonly Item[]): { name: string; unit: string }[] {
  const columns = new Map<string, { name: string; unit: string }>();
  for (const { attributes } of items) {
    for (const { name, unit } of attributes) if (!columns.has(name)) columns.set(name, { name, unit });
  }
  return [...columns.values()];
}
