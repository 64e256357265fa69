const unlike = (list: readonly unknown[], other: readonly unknown[]): unknown[] => {
  const known = new Set(other.map((entry) => JSON.stringify(entry)));
  return list.filter((entry) => !known.has(JSON.stringify(entry)));
};

/**
 * Puts this page's change of a list on top of another page's: theirs, without what was taken out here, and with what
 * was added here behind it. Entries are told apart by what is in them.
 * @param before the list that this page has changed
 */
export function mergeLists(
  before: readonly unknown[],
  ours: readonly unknown[],
  theirs: readonly unknown[],
): unknown[] {
  const takenOut = unlike(before, ours);
  const added = unlike(unlike(ours, before), theirs);
  return [...unlike(theirs, takenOut), ...added];
}
