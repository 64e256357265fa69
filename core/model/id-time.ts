/** When an id of UUID version 7 was made, ms. */
export const idTime = (id: string): number => Number.parseInt(id.slice(0, 8) + id.slice(9, 13), 16);

/** The first half of an id of UUID version 7 made at an instant: what an instant sorts by among ids. */
export function idAt(instant: string): string {
  const ms = Date.parse(instant).toString(16).padStart(12, '0');
  return `${ms.slice(0, 8)}-${ms.slice(8)}`;
}
