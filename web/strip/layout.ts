/** One reading on the strip. */
export interface StripMark {
  id: string;
  value: number;
  /** Left out: drawn hollow. */
  out: boolean;
  /** What a reader hears and the hint says, without the value. */
  title: string;
}

/** One item's lane. */
export interface StripLane {
  id: string;
  name: string;
  code: string;
  mark: number;
  marks: readonly StripMark[];
  mean: number | null;
  interval: readonly [number, number] | null;
  /** A range that it is known by from elsewhere; null where an end is open. */
  reach?: readonly [number | null, number | null];
  /** What stands in the lane where no marks do. */
  words?: string;
  /** The mean as printed at the lane's end. */
  figure?: string;
  /** The place or place range as printed at the lane's end. */
  place?: string;
}

/** A stretch of the axis, such as the margin around the leader. */
export interface StripBand {
  from: number;
  to: number;
  label: string;
}

export interface Domain {
  min: number;
  max: number;
  /** Whether equal lengths are equal ratios; all that lies in it is then above 0. */
  ratios?: boolean;
}

/** −Infinity for what has none: it lies below any axis. */
const logarithm = (value: number): number => Math.log10(Math.max(0, value));

/** A value as an axis measures it out: its logarithm on an axis of equal ratios. */
export const measuredOut = ({ ratios }: Domain, value: number): number => (ratios ? logarithm(value) : value);

/** How far along an axis a value lies, 0 to 1 within it. */
export const shareAlong = (domain: Domain, value: number): number => {
  const [low, high] = [measuredOut(domain, domain.min), measuredOut(domain, domain.max)];
  return (measuredOut(domain, value) - low) / (high - low);
};

export interface PlacedMark {
  mark: StripMark;
  lane: number;
  /** Centre, in px of the canvas. */
  x: number;
  y: number;
  /** Lies beyond this edge of the axis and is shown there. */
  parked?: 'left' | 'right';
}

/** Height of a lane of the strip where nothing else is said, px. */
export const LANE_HEIGHT = 50;

/** Radius of a mark, in px. */
export const MARK_RADIUS = 5;
/** Foot of a lane, kept free for mean and interval, in px. */
export const FOOT = 13;
const HEAD = 4;
const STEP = 2 * MARK_RADIUS + 1;
/** More than this many levels of a stack are not told apart any more. */
const MOST_LEVELS = 30;

function range(values: Iterable<number>): Domain | undefined {
  let min = Number.POSITIVE_INFINITY;
  let max = Number.NEGATIVE_INFINITY;
  for (const value of values) {
    // What has no logarithm lies beyond any axis.
    if (value === Number.NEGATIVE_INFINITY) continue;
    if (value < min) min = value;
    if (value > max) max = value;
  }
  return min <= max ? { min, max } : undefined;
}

function padded({ min, max }: Domain): Domain {
  const pad = max > min ? 0.06 * (max - min) : Math.max(Math.abs(max) * 0.05, 0.5);
  return { min: min - pad, max: max + pad };
}

/** The same as logarithms, to be measured out evenly. */
const inLogarithms = (lanes: readonly StripLane[], band: StripBand | undefined) => {
  const ends = <T extends number | null>(pair: readonly [T, T]) =>
    pair.map((end) => (end === null ? null : logarithm(end))) as unknown as readonly [T, T];
  return {
    lanes: lanes.map((lane) => ({
      ...lane,
      marks: lane.marks.map((mark) => ({ ...mark, value: logarithm(mark.value) })),
      mean: lane.mean === null ? null : logarithm(lane.mean),
      interval: lane.interval && ends(lane.interval),
      ...(lane.reach ? { reach: ends(lane.reach) } : {}),
    })),
    band: band && { ...band, from: logarithm(band.from), to: logarithm(band.to) },
  };
};

const fromLogarithms = ({ min, max }: Domain): Domain => ({ min: 10 ** min, max: 10 ** max, ratios: true });

/** From this ratio of the largest to the smallest mean on, equal ratios show more than equal differences. */
const WIDE_RATIO = 3;
/** Whether equal ratios show more of some values than equal differences. */
export const suitsRatios = (values: readonly number[]): boolean => isWide(range(values));
const isWide = (values: Domain | undefined): boolean =>
  values !== undefined && values.min > 0 && values.max / values.min >= WIDE_RATIO;

/** From where to where the marks of a lane lie: those that count, and all of them. */
interface Ranges {
  kept: Domain | undefined;
  all: Domain | undefined;
}
const rangesOf = new WeakMap<readonly StripMark[], Ranges>();

/** Looked at once for a list of marks. */
function rangesOfMarks(marks: readonly StripMark[]): Ranges {
  let found = rangesOf.get(marks);
  if (!found) {
    found = {
      kept: range(marks.flatMap(({ value, out }) => (out ? [] : value))),
      all: range(marks.map(({ value }) => value)),
    };
    rangesOf.set(marks, found);
  }
  return found;
}

const joined = (ranges: readonly (Domain | undefined)[]): Domain | undefined =>
  range(ranges.flatMap((found) => (found ? [found.min, found.max] : [])));

/** Whether equal ratios show more of the marks that count than equal differences. */
export const marksSuitRatios = (lanes: readonly StripLane[]): boolean =>
  isWide(joined(lanes.map(({ marks }) => rangesOfMarks(marks).kept)));

/**
 * The stretch of the axis to show: that of the kept readings, so that one far reading does not squeeze the rest,
 * with intervals and band as far as they do not stretch it by more than a third to each side.
 */
export function keptDomain(lanes: readonly StripLane[], band?: StripBand, ratios = false): Domain {
  if (ratios) {
    const turned = inLogarithms(lanes, band);
    return fromLogarithms(keptDomain(turned.lanes, turned.band));
  }
  // What is known from elsewhere has no marks: its mean, or the ends of its range, stand for them.
  const stated = ({ mean, reach }: StripLane) => [mean, ...(reach ?? [])].filter((value) => value !== null);
  const kept = lanes.map((lane) =>
    lane.marks.length === 0 ? range(stated(lane)) : rangesOfMarks(lane.marks).kept,
  );
  const core = joined(kept) ?? rangeOfAll(lanes) ?? { min: 0, max: 1 };
  const reach = (core.max - core.min) / 3;
  const extras = [
    ...lanes.flatMap(({ interval }) => (interval ? [...interval] : [])),
    ...(band ? [band.from, band.to] : []),
  ].map((value) => Math.min(core.max + reach, Math.max(core.min - reach, value)));
  return padded(range([core.min, core.max, ...extras]) as Domain);
}

const rangeOfAll = (lanes: readonly StripLane[]): Domain | undefined =>
  joined(lanes.map(({ marks }) => rangesOfMarks(marks).all));

/** The stretch that holds every reading, left-out ones too. */
export function fullDomain(lanes: readonly StripLane[], band?: StripBand, ratios = false): Domain {
  if (ratios) {
    const turned = inLogarithms(lanes, band);
    return fromLogarithms(fullDomain(turned.lanes, turned.band));
  }
  const kept = keptDomain(lanes, band);
  const all = rangeOfAll(lanes);
  if (!all || (all.min >= kept.min && all.max <= kept.max)) return kept;
  return padded({ min: Math.min(all.min, kept.min), max: Math.max(all.max, kept.max) });
}

/**
 * Places the marks of one lane: side by side on the lane's foot, stacked where they would touch. A stack never
 * leaves its lane; a high one is pressed together instead.
 * @param toX px from value
 * @param lane index of the lane from the top
 * @param laneHeight px
 * @param width px of the axis; marks outside are parked at its edges
 */
export function placeMarks(
  marks: readonly StripMark[],
  toX: (value: number) => number,
  lane: number,
  laneHeight: number,
  width: number,
): PlacedMark[] {
  const edge = 3 * MARK_RADIUS;
  const placed = marks
    .map((mark): PlacedMark => {
      const x = toX(mark.value);
      if (x < 0) return { mark, lane, x: edge, y: 0, parked: 'left' };
      if (x > width) return { mark, lane, x: width - edge, y: 0, parked: 'right' };
      return { mark, lane, x, y: 0 };
    })
    .sort((a, b) => a.x - b.x);
  const lastX: number[] = [];
  const levels = placed.map(({ x }, i) => {
    let level = 0;
    while (level < lastX.length && x - (lastX[level] as number) < STEP) level += 1;
    if (level === MOST_LEVELS) level = i % MOST_LEVELS;
    lastX[level] = x;
    return level;
  });
  const floor = (lane + 1) * laneHeight - FOOT - MARK_RADIUS;
  const room = laneHeight - FOOT - HEAD - 2 * MARK_RADIUS;
  const step = lastX.length > 1 ? Math.min(STEP - 1, room / (lastX.length - 1)) : 0;
  placed.forEach((mark, i) => {
    mark.y = floor - (levels[i] as number) * step;
  });
  return placed;
}

/** Of more marks that changed than this all are placed again. */
const FEW = 20;

/**
 * The marks of a lane placed as those before, where only their looks changed and not their values: to leave one out of
 * thousands moves none of them.
 * @param before the marks that were placed, and where
 * @returns undefined where they are to be placed again
 */
export function placedAlike(
  marks: readonly StripMark[],
  before: { marks: readonly StripMark[]; placed: readonly PlacedMark[] },
): PlacedMark[] | undefined {
  if (marks.length !== before.marks.length) return undefined;
  const changed = new Map<StripMark, StripMark>();
  for (let i = 0; i < marks.length; i += 1) {
    const [old, mark] = [before.marks[i] as StripMark, marks[i] as StripMark];
    if (old === mark) continue;
    if (old.value !== mark.value || changed.size === FEW) return undefined;
    changed.set(old, mark);
  }
  return before.placed.map((place) => {
    const mark = changed.get(place.mark);
    return mark ? { ...place, mark } : place;
  });
}

/** From so many marks of a lane on, those that would lie within so many px of another are not drawn over it. */
const CROWDS = [
  { from: 2000, grain: 3 },
  { from: 250, grain: 2 },
] as const;

const drawnApart = new WeakMap<readonly PlacedMark[], readonly PlacedMark[]>();

/** The marks of a lane that are drawn: of many, one for each spot, which looks the same and takes a fraction of the time. */
export function apart(placed: readonly PlacedMark[]): readonly PlacedMark[] {
  const grain = CROWDS.find(({ from }) => placed.length >= from)?.grain;
  if (grain === undefined) return placed;
  const known = drawnApart.get(placed);
  if (known) return known;
  const spots = new Set<number>();
  const drawn = placed.filter(({ mark: { out }, x, y }) => {
    const spot = (Math.round(x / grain) * 4096 + Math.round(y / grain)) * 2 + Number(out);
    if (spots.has(spot)) return false;
    spots.add(spot);
    return true;
  });
  drawnApart.set(placed, drawn);
  return drawn;
}

/** The marks of a lane that lie beyond its axis, by the edge at which they are shown. */
export interface ParkedMarks {
  left: readonly PlacedMark[];
  right: readonly PlacedMark[];
}

const parkedOf = new WeakMap<readonly PlacedMark[], ParkedMarks>();

/** Looked for once in a list of marks. */
export function parkedMarks(placed: readonly PlacedMark[]): ParkedMarks {
  let found = parkedOf.get(placed);
  if (!found) {
    const atEdge = (edge: 'left' | 'right') => placed.filter(({ parked }) => parked === edge);
    found = { left: atEdge('left'), right: atEdge('right') };
    parkedOf.set(placed, found);
  }
  return found;
}

/** Half the height of words in a lane, in px. */
const HALF_WORDS = 7;

/**
 * Where in a lane words can stand without covering a mark.
 * @param across from where to where they reach, in px
 * @param wanted the height of their middle, if there is room
 * @returns the height that is nearest to the one wanted; undefined where marks leave no room
 */
export function clearHeight(
  placed: readonly PlacedMark[],
  across: { from: number; to: number },
  wanted: number,
  { lane, laneHeight }: { lane: number; laneHeight: number },
): number | undefined {
  const near = placed.filter(({ x }) => x > across.from - MARK_RADIUS - 1 && x < across.to + MARK_RADIUS + 1);
  const [highest, lowest] = [lane * laneHeight + HALF_WORDS + 1, (lane + 1) * laneHeight - FOOT - HALF_WORDS];
  const heights = Array.from({ length: Math.max(0, lowest - highest + 1) }, (_, i) => highest + i);
  return [wanted, ...heights.toSorted((a, b) => Math.abs(a - wanted) - Math.abs(b - wanted))].find((height) =>
    near.every(({ y }) => Math.abs(y - height) > MARK_RADIUS + HALF_WORDS - 1),
  );
}

/** The mark nearest to a point, within reach; undefined when none is. Marks must be sorted by x within lanes. */
export function nearestMark(
  placed: readonly (readonly PlacedMark[])[],
  x: number,
  y: number,
  laneHeight: number,
  reach = 16,
): PlacedMark | undefined {
  let best: PlacedMark | undefined;
  let bestDistance = reach * reach;
  const under = Math.floor(y / laneHeight);
  for (const lane of [under, under - 1, under + 1]) {
    const marks = placed[lane];
    if (!marks) continue;
    let low = 0;
    let high = marks.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((marks[middle] as PlacedMark).x < x - reach) low = middle + 1;
      else high = middle;
    }
    for (let i = low; i < marks.length && (marks[i] as PlacedMark).x <= x + reach; i += 1) {
      const mark = marks[i] as PlacedMark;
      const distance = (mark.x - x) ** 2 + (mark.y - y) ** 2;
      if (distance < bestDistance) {
        bestDistance = distance;
        best = mark;
      }
    }
  }
  return best;
}
