interface AnyPart {
  id: string;
}

/** Where each part of a list stands, by its id. A study may have a hundred thousand readings, and gets one more. */
const places = new WeakMap<readonly AnyPart[], Map<string, number>>();

/** The place of a part in a list, −1 where it is not in it. A list must not change once it was asked about. */
export function placeOf(parts: readonly AnyPart[], id: string): number {
  let known = places.get(parts);
  if (!known) {
    known = new Map(parts.map((part, place) => [part.id, place]));
    places.set(parts, known);
  }
  return known.get(id) ?? -1;
}

/**
 * A list with a part in the place of the one of its id, or behind all others. It takes over what is known of the places
 * in the list that it was made from.
 */
export function withPart<T extends AnyPart>(parts: readonly T[], part: T): T[] {
  const found = placeOf(parts, part.id);
  const place = found === -1 ? parts.length : found;
  const list = [...parts];
  list[place] = part;
  const known = places.get(parts);
  if (known) {
    places.delete(parts);
    places.set(list, known.set(part.id, place));
  }
  return list;
}
