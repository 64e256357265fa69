import { replaceEqualDeep } from '@tanstack/react-query';
import type { MeasurandAnalysis, SettingAnalysis } from '../../core/analysis/analyse-study.ts';
import type { Measurand, Reading } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { type Observation, derivedId } from '../../core/observations/observation.ts';

/** What many observations have in common, and their readings do not say. */
interface Kind extends Pick<Observation, 'setting' | 'sharesRound'> {
  estimated: boolean | undefined;
  doubts: Observation['doubts'] | undefined;
  /** What their intervals are called; undefined where they have none. */
  intervalMethod: string | undefined;
}

/** Numbers of observations. */
const FIGURES = ['value', 'step', 'read', 'low', 'high'] as const;
/** One for each observation, NaN where it has none; no list where none has any. */
type Figures = Partial<Record<(typeof FIGURES)[number], Float64Array>>;

/** The observations of a setting as they go to the page, which holds the readings that they come from. */
export interface PackedReadings {
  count: number;
  /** Where the sources of each stand in the study, a list for the first ones and so on; of what is read, where it stands. */
  places: Uint32Array[];
  figures: Figures;
  kinds: Kind[];
  /** Which of the kinds each is of. */
  kindOf: Uint8Array;
  /** By their place: those that do not count, or of which more is to be said, whole. */
  others: Map<number, Observation>;
}

/** An analysis on its way from the worker to the page: a hundred thousand objects more would hold the page for seconds. */
export interface PackedAnalysis extends Omit<MeasurandAnalysis, 'settings'> {
  settings: (Omit<SettingAnalysis, 'readings'> & { readings: PackedReadings })[];
}

/** Observations of more kinds than this go whole. */
const MOST_KINDS = 200;

const isAlike = <Thing>(a: Thing, b: Thing): boolean => replaceEqualDeep(a, b) === a;

const isOfKind = (observation: Observation, kind: Kind): boolean =>
  // Name by name, for this is asked of each of a hundred thousand.
  observation.setting === kind.setting &&
  observation.sharesRound === kind.sharesRound &&
  observation.estimated === kind.estimated &&
  observation.interval?.method === kind.intervalMethod &&
  (observation.doubts === kind.doubts || isAlike(observation.doubts, kind.doubts));

const kindFor = ({ setting, sharesRound, estimated, doubts, interval }: Observation): Kind => ({
  ...{ setting, sharesRound, estimated, doubts, intervalMethod: interval?.method },
});

/** Says of which of some kinds an observation is, and takes in a kind that is new; undefined once they are too many. */
function kindsTaken(kinds: Kind[]): (observation: Observation) => number | undefined {
  let last = 0;
  return (observation) => {
    const kind = kinds[last];
    if (kind && isOfKind(observation, kind)) return last;
    const known = kinds.findIndex((other) => isOfKind(observation, other));
    if (known === -1 && kinds.length >= MOST_KINDS) return undefined;
    last = known === -1 ? kinds.push(kindFor(observation)) - 1 : known;
    return last;
  };
}

const placesById = new WeakMap<readonly Reading[], ReadonlyMap<string, number>>();

function placeOf(readings: readonly Reading[], readingId: string): number | undefined {
  let places = placesById.get(readings);
  if (!places) {
    places = new Map(readings.map(({ id }, place) => [id, place]));
    placesById.set(readings, places);
  }
  return places.get(readingId);
}

/** Says where the readings stand that observations come from, which are asked about in the order recorded. */
function placesOfSources(readings: readonly Reading[]): (observation: Observation) => (number | undefined)[] {
  let next = 0;
  return ({ id, sources }) => {
    if (sources.length > 0) return sources.map((source) => placeOf(readings, source));
    while (next < readings.length && readings[next]?.id !== id) next += 1;
    return [next < readings.length ? next : undefined];
  };
}

/** Whether an observation counts, and nothing is said of it alone. */
const isPlain = ({ value, use, note }: Observation): boolean =>
  value !== null && use.is === 'kept' && use.insisted === undefined && note === '';

function packedReadings(document: StudyDocument, readings: readonly Observation[]): PackedReadings {
  const count = readings.length;
  const [figures, kinds, kindOf]: [Figures, Kind[], Uint8Array] = [{}, [], new Uint8Array(count)];
  const places: Uint32Array[] = [];
  const others = new Map<number, Observation>();
  const placesIn = placesOfSources(document.readings);
  const kindIn = kindsTaken(kinds);
  const setFigure = (name: (typeof FIGURES)[number], i: number, figure: number | null | undefined) => {
    if (figure === undefined || figure === null) return;
    (figures[name] ??= new Float64Array(count).fill(Number.NaN))[i] = figure;
  };
  readings.forEach((observation, i) => {
    const found = isPlain(observation) ? placesIn(observation) : [undefined];
    const kind = found.includes(undefined) ? undefined : kindIn(observation);
    if (kind === undefined) {
      others.set(i, observation);
      return;
    }
    kindOf[i] = kind;
    for (const [source, place] of found.entries())
      (places[source] ??= new Uint32Array(count))[i] = place as number;
    const { value, step, read, interval } = observation;
    setFigure('value', i, value);
    setFigure('step', i, step);
    setFigure('read', i, read);
    setFigure('low', i, interval?.low);
    setFigure('high', i, interval?.high);
  });
  return { count, places, figures, kinds, kindOf, others };
}

/** An analysis of a study without what the page knows. */
export const packed = (document: StudyDocument, analysis: MeasurandAnalysis): PackedAnalysis => ({
  ...analysis,
  settings: analysis.settings.map((setting) => ({
    ...setting,
    readings: packedReadings(document, setting.readings),
  })),
});

/** Kinds that came in; of alike ones it is always the same object. */
let kindsKnown: readonly Kind[] = [];
const MOST_KNOWN = 2000;

function knownKind(kind: Kind): Kind {
  const known = kindsKnown.find((other) => isAlike(other, kind));
  if (!known) kindsKnown = [...kindsKnown, kind].slice(-MOST_KNOWN);
  return known ?? kind;
}

const figureAt = ({ figures }: PackedReadings, name: (typeof FIGURES)[number], i: number): number =>
  figures[name]?.[i] ?? Number.NaN;

/** The observation at a place, made of the readings that it comes from. */
function observationMade(
  from: PackedReadings,
  i: number,
  {
    kind: { setting, sharesRound, estimated, doubts, intervalMethod: method },
    derived,
    readings,
  }: {
    kind: Kind;
    /** The measurand, where it is worked out from others. */
    derived: string | undefined;
    readings: readonly Reading[];
  },
): Observation {
  const [{ id, itemId, round, place, sessionId, takenAt, parts }] = readings as [Reading, ...Reading[]];
  const sources = derived === undefined ? [] : readings.map((source) => source.id);
  const [read, low, high] = [figureAt(from, 'read', i), figureAt(from, 'low', i), figureAt(from, 'high', i)];
  return {
    id: derived === undefined ? id : derivedId(derived, sources),
    ...{ itemId, setting, round, sharesRound, place, sessionId, takenAt, note: '' },
    parts: derived === undefined ? parts : [],
    value: figureAt(from, 'value', i),
    step: figureAt(from, 'step', i),
    ...(Number.isNaN(read) ? {} : { read }),
    ...(method === undefined ? {} : { interval: { low, high, method } }),
    ...(doubts ? { doubts } : {}),
    ...(estimated === undefined ? {} : { estimated }),
    sources,
    use: { is: 'kept' },
  };
}

/** What was unpacked last of a setting, in the order recorded, and of which readings. */
interface Unpacked {
  of: readonly Reading[];
  from: PackedReadings;
  /** As the page knows them. */
  kinds: readonly Kind[];
  observations: readonly Observation[];
}

/** By study, measurand and setting; to look for each reading by itself takes longer than to see that all are as they were. */
const unpackedLast = new Map<string, Unpacked>();
/** Of more settings than this the first ones are let go of. */
const MOST_SETTINGS = 40;

/** The lists of two packs that are to hold the same for an observation to be the same. */
function listsOfBoth(
  a: PackedReadings,
  b: PackedReadings,
): (readonly [Float64Array, Float64Array])[] | undefined {
  const named = FIGURES.filter((name) => a.figures[name] ?? b.figures[name]);
  const lists = named.flatMap((name) => {
    const [ofA, ofB] = [a.figures[name], b.figures[name]];
    return ofA && ofB ? [[ofA, ofB] as const] : [];
  });
  return lists.length < named.length ? undefined : lists;
}

/** Finds what was made of the same readings and figures before, so that what has not changed stays the same object. */
function unchangedIn(
  before: Unpacked | undefined,
  now: Omit<Unpacked, 'observations'>,
): (i: number) => Observation | undefined {
  const lists = before && listsOfBoth(before.from, now.from);
  if (!lists || before.from.places.length !== now.from.places.length) return () => undefined;
  const { count, others, places: placesBefore, kindOf: kindsBefore } = before.from;
  const { places, kindOf } = now.from;
  // Plain loops, for this is asked of each of a hundred thousand after every decision.
  const isSame = (was: number, i: number): boolean => {
    if (before.kinds[kindsBefore[was] as number] !== now.kinds[kindOf[i] as number]) return false;
    for (let source = 0; source < places.length; source += 1) {
      const placeBefore = placesBefore[source]?.[was] as number;
      const place = places[source]?.[i] as number;
      if (before.of[placeBefore] !== now.of[place]) return false;
    }
    for (let list = 0; list < lists.length; list += 1) {
      const figureBefore = lists[list]?.[0][was];
      const figure = lists[list]?.[1][i];
      if (figureBefore !== figure && !Object.is(figureBefore, figure)) return false;
    }
    return !others.has(was);
  };
  /** The id of the first reading that one comes from. */
  const firstBefore = (was: number): string | undefined => {
    const other = others.get(was);
    return other ? (other.sources[0] ?? other.id) : before.of[placesBefore[0]?.[was] as number]?.id;
  };
  let byFirst: Map<string | undefined, number> | undefined;
  let ahead = 0;
  return (i) => {
    const was = i + ahead;
    if (was >= count) return undefined;
    if (isSame(was, i)) return before.observations[was];
    const first = now.of[places[0]?.[i] as number]?.id;
    if (firstBefore(was) === first) return undefined;
    // Some went or came, and the rest has moved.
    byFirst ??= new Map(before.observations.map((_, place) => [firstBefore(place), place]));
    const moved = byFirst.get(first);
    if (moved === undefined) return undefined;
    ahead = moved - i;
    return isSame(moved, i) ? before.observations[moved] : undefined;
  };
}

/** The observations that came whole; of those that are as they were it is the same object. */
function steadyOthers(
  others: PackedReadings['others'],
  before: PackedReadings['others'] = new Map<number, Observation>(),
): PackedReadings['others'] {
  const known = new Map([...before.values()].map((other) => [other.id, other]));
  return new Map([...others].map(([place, other]) => [place, replaceEqualDeep(known.get(other.id), other)]));
}

function observationsOf(
  { study, readings }: StudyDocument,
  { id: measurandId, expression }: Pick<Measurand, 'id' | 'expression'>,
  settingKey: string,
  sent: PackedReadings,
) {
  const name = [study.id, measurandId, settingKey].join('/');
  const before = unpackedLast.get(name);
  const from = { ...sent, others: steadyOthers(sent.others, before?.from.others) };
  const { count, places, kindOf, others } = from;
  const kinds = from.kinds.map(knownKind);
  const unchanged = unchangedIn(before, { of: readings, from, kinds });
  const observationAt = (i: number): Observation => {
    const known = (others.size > 0 ? others.get(i) : undefined) ?? unchanged(i);
    if (known) return known;
    const sources = places.flatMap((list) => readings[list[i] as number] ?? []);
    if (sources.length < places.length) throw new Error('The analysis is of another state of the study.');
    return observationMade(from, i, {
      kind: kinds[kindOf[i] as number] as Kind,
      derived: expression === null ? undefined : measurandId,
      readings: sources,
    });
  };
  // Going through a list of numbers one by one leaves an object behind for each, a hundred thousand in all.
  const observations: Observation[] = [];
  for (let i = 0; i < count; i += 1) observations.push(observationAt(i));
  unpackedLast.delete(name);
  unpackedLast.set(name, { of: readings, from, kinds, observations });
  const [first] = unpackedLast.keys();
  if (unpackedLast.size > MOST_SETTINGS && first !== undefined) unpackedLast.delete(first);
  return observations;
}

/**
 * The analysis as it was.
 * @param document the state of the study that it is of
 */
export const unpacked = (document: StudyDocument, analysis: PackedAnalysis): MeasurandAnalysis => ({
  ...analysis,
  settings: analysis.settings.map(({ readings, ...setting }) => ({
    ...setting,
    readings: observationsOf(document, analysis.measurand, setting.setting.key, readings),
  })),
});
