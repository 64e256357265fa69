import isEqual from 'lodash/isEqual.js';
import type { MeasurandAnalysis, SettingAnalysis } from '../../core/analysis/analyse-study.ts';
import type { Reading } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import type { Observation } from '../../core/observations/observation.ts';
import {
  Editions,
  type FIGURES,
  type Figures,
  type Kind,
  type PackedAnalysis,
  NEW,
  type PackedReadings,
  changedFrom,
} from './packed.ts';

/** Observations of more kinds than this go whole. */
const MOST_KINDS = 200;

const isOfKind = (observation: Observation, kind: Kind): boolean =>
  // Name by name, for this is asked of each of a hundred thousand.
  observation.setting === kind.setting &&
  observation.sharesRound === kind.sharesRound &&
  observation.estimated === kind.estimated &&
  observation.interval?.method === kind.intervalMethod &&
  (observation.doubts === kind.doubts || isEqual(observation.doubts, kind.doubts));

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

/** Where each of some observations stood before, as `PackedReadings` has it. */
function placesBefore(readings: readonly Observation[], before: readonly Observation[]): Int32Array {
  const places = new Int32Array(readings.length);
  let byId: Map<string, number> | undefined;
  let next = 0;
  for (let i = 0; i < readings.length; i += 1) {
    const observation = readings[i] as Observation;
    let known: Observation | undefined = before[next];
    if (known !== observation && known?.id !== observation.id) {
      // Some went or came, and the rest has moved.
      byId ??= new Map(before.map(({ id }, place) => [id, place]));
      const moved = byId.get(observation.id);
      if (moved === undefined) {
        places[i] = NEW;
        continue;
      }
      next = moved;
      known = before[next];
    }
    places[i] = known === observation ? next : changedFrom(next);
    next += 1;
  }
  return places;
}

/** Sends analyses to one page: of what it has been sent, only where that stands now. */
export class Packer {
  private readonly sent = new Editions();
  private count = 0;

  /** @param known the edition that the page has; what is the same object as in it is not packed again */
  pack(document: StudyDocument, analysis: MeasurandAnalysis, known?: number): PackedAnalysis {
    const { measurand, settings } = analysis;
    const last = this.sent.get(document.study.id, measurand.id);
    this.count += 1;
    this.sent.set(document.study.id, measurand.id, {
      number: this.count,
      readings: new Map(settings.map(({ setting, readings }) => [setting.key, readings])),
    });
    const packSetting = ({ readings, ...rest }: SettingAnalysis) => {
      const had = last?.number === known ? last?.readings.get(rest.setting.key) : undefined;
      if (!had) return { ...rest, readings: packedReadings(document, readings) };
      const before = placesBefore(readings, had);
      const fresh = readings.filter((_, i) => (before[i] as number) < 0);
      return {
        ...rest,
        readings: { ...packedReadings(document, fresh), count: readings.length, before },
      };
    };
    return { ...analysis, edition: this.count, settings: settings.map(packSetting) };
  }
}
