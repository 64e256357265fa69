/**
 * The stretch in which something turns, halved until its ends are as near as asked or no number lies between them.
 * @param before where it has not turned yet; on either side of `after`
 * @param isBefore whether it has not turned yet at a place between
 * @param near how far the ends may lie apart
 * @returns the last place before it turns, and the first after
 */
export function halved(
  before: number,
  after: number,
  isBefore: (place: number) => boolean,
  near = 0,
): [before: number, after: number] {
  const middle = (before + after) / 2;
  if (middle === before || middle === after || !(Math.abs(after - before) > near)) return [before, after];
  return isBefore(middle) ? halved(middle, after, isBefore, near) : halved(before, middle, isBefore, near);
}

/** The middle of the stretch in which something turns: see `halved`. */
export function turningPoint(...asked: Parameters<typeof halved>): number {
  const [before, after] = halved(...asked);
  return (before + after) / 2;
}
