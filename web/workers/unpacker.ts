import { replaceEqualDeep } from '@tanstack/react-query';
import type { MeasurandAnalysis } from '../../core/analysis/analyse-study.ts';
import type { Measurand, Reading } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { type Observation, derivedId } from '../../core/observations/observation.ts';
import {
  Editions,
  type FIGURES,
  type Kind,
  NEW,
  type PackedAnalysis,
  type PackedReadings,
  changedFrom,
} from './packed.ts';

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

/** The observations that were packed, in their order. */
function observationsPacked(
  { readings }: StudyDocument,
  { id: measurandId, expression }: Pick<Measurand, 'id' | 'expression'>,
  sent: PackedReadings,
): Observation[] {
  const { places, kindOf, kinds, others } = sent;
  const observationAt = (i: number): Observation => {
    const other = others.size > 0 ? others.get(i) : undefined;
    if (other) return other;
    const sources = places.flatMap((list) => readings[list[i] as number] ?? []);
    if (sources.length < places.length) throw new Error('The analysis is of another state of the study.');
    return observationMade(sent, i, {
      kind: kinds[kindOf[i] as number] as Kind,
      derived: expression === null ? undefined : measurandId,
      readings: sources,
    });
  };
  // Going through a list of numbers one by one leaves an object behind for each, a hundred thousand in all.
  const observations: Observation[] = [];
  for (let i = 0; i < kindOf.length; i += 1) observations.push(observationAt(i));
  return observations;
}

/** The observations of a setting: those that were packed among those that were there before. */
function observationsOf(
  packed: Observation[],
  { count, before }: Pick<PackedReadings, 'count' | 'before'>,
  had: readonly Observation[] | undefined,
): Observation[] {
  if (!before) return packed;
  if (!had) throw new Error('The edition before is not held.');
  const observations: Observation[] = [];
  let next = 0;
  for (let i = 0; i < count; i += 1) {
    const place = before[i] as number;
    if (place >= 0) {
      observations.push(had[place] as Observation);
      continue;
    }
    const fresh = packed[next] as Observation;
    next += 1;
    // What was made again may be as it was.
    observations.push(place === NEW ? fresh : replaceEqualDeep(had[changedFrom(place)], fresh));
  }
  return observations;
}

/** Takes analyses in that a worker sends: what has not changed stays the same object. */
export class Unpacker {
  private readonly came = new Editions();

  /** The edition of a measurand that came last, to be named in the next question. */
  known(studyId: string, measurandId: string): number | undefined {
    return this.came.get(studyId, measurandId)?.number;
  }

  /**
   * The analysis as it was.
   * @param document the state of the study that it is of
   * @throws where it leaves out what came before and is not here any more
   */
  unpack(
    document: StudyDocument,
    { edition: number, settings: sent, ...rest }: PackedAnalysis,
  ): MeasurandAnalysis {
    const had = this.came.get(document.study.id, rest.measurand.id)?.readings;
    const settings = sent.map(({ readings, ...setting }) => ({
      ...setting,
      readings: observationsOf(
        observationsPacked(document, rest.measurand, readings),
        readings,
        had?.get(setting.setting.key),
      ),
    }));
    this.came.set(document.study.id, rest.measurand.id, {
      number,
      readings: new Map(settings.map(({ setting, readings }) => [setting.key, readings])),
    });
    return { ...rest, settings };
  }
}
