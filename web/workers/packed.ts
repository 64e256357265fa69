import { replaceEqualDeep } from '@tanstack/react-query';
import type { MeasurandAnalysis, SettingAnalysis } from '../../core/analysis/analyse-study.ts';
import type { Reading } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import type { Observation } from '../../core/observations/observation.ts';

interface Common extends Pick<Observation, 'step' | 'sharesRound'> {
  /** Key of their setting. */
  setting: string;
}

/** The observations of a setting as they go to the page, which holds the readings that they come from. */
export interface PackedReadings {
  /** Place of each one's reading in the study. */
  places: Uint32Array;
  values: Float64Array;
  /** What those that are as their readings say have in common. */
  common: Common;
  /** By their place: all others, whole. */
  others: Map<number, Observation>;
}

/** An analysis on its way from the worker to the page: a hundred thousand objects more would hold the page for seconds. */
export interface PackedAnalysis extends Omit<MeasurandAnalysis, 'settings'> {
  settings: (Omit<SettingAnalysis, 'readings'> & { readings: PackedReadings })[];
}

const isAlike = (a: Common, b: Common): boolean =>
  a.setting === b.setting && a.step === b.step && a.sharesRound === b.sharesRound;

/** Whether an observation is nothing but its reading, and counts. */
const isPlain = (observation: Observation, common: Common): boolean =>
  observation.value !== null &&
  observation.use.is === 'kept' &&
  observation.use.insisted === undefined &&
  observation.note === '' &&
  observation.sources.length === 0 &&
  isAlike(observation, common) &&
  // Name by name, for this is asked of each of a hundred thousand.
  observation.read === undefined &&
  observation.doubts === undefined &&
  observation.estimated === undefined &&
  observation.interval === undefined;

function packedReadings(
  document: StudyDocument,
  { readings, setting: { key } }: SettingAnalysis,
): PackedReadings {
  const [{ step, sharesRound } = { step: 0, sharesRound: true }] = readings;
  const common = { setting: key, step, sharesRound };
  const others = new Map<number, Observation>();
  const values = new Float64Array(readings.length);
  const places = new Uint32Array(readings.length);
  // Both are in the order recorded.
  let next = 0;
  readings.forEach((observation, i) => {
    values[i] = observation.value ?? Number.NaN;
    if (isPlain(observation, common)) {
      while (next < document.readings.length && document.readings[next]?.id !== observation.id) next += 1;
      places[i] = next;
      if (next < document.readings.length) return;
    }
    others.set(i, observation);
  });
  return { places, values, common, others };
}

/** An analysis of a study without what the page knows. */
export const packed = (document: StudyDocument, analysis: MeasurandAnalysis): PackedAnalysis => ({
  ...analysis,
  settings: analysis.settings.map((setting) => ({ ...setting, readings: packedReadings(document, setting) })),
});

/** The observation of each reading as it was unpacked last, so that what has not changed stays the same object. */
const plain = new WeakMap<Reading, Observation>();

function plainObservation(reading: Reading, value: number, common: Common): Observation {
  const known = plain.get(reading);
  if (known?.value === value && isAlike(known, common)) return known;
  const { id, itemId, round, place, sessionId, takenAt, parts } = reading;
  const observation: Observation = {
    ...{ id, itemId, ...common, round, place, sessionId, takenAt, note: '', parts },
    ...{ value, sources: [], use: { is: 'kept' } },
  };
  plain.set(reading, observation);
  return observation;
}

/** What was unpacked last of a setting, in the order recorded, and of which readings. */
interface Unpacked {
  of: readonly Reading[];
  from: PackedReadings;
  observations: readonly Observation[];
}

/** By study, measurand and setting; to look for each reading by itself takes longer than to see that all are as they were. */
const unpackedLast = new Map<string, Unpacked>();
/** Of more settings than this the first ones are let go of. */
const MOST_SETTINGS = 40;

function observationsOf({ study, readings }: StudyDocument, measurandId: string, from: PackedReadings) {
  const { places, values, common, others } = from;
  const name = `${study.id}/${measurandId}/${common.setting}`;
  const before = unpackedLast.get(name);
  const known = before && isAlike(before.from.common, common) ? before : undefined;
  const observationAt = (i: number): Observation => {
    const other = others.size > 0 ? others.get(i) : undefined;
    if (other) return replaceEqualDeep<Observation>(before?.observations[i], other);
    const place = places[i] as number;
    const value = values[i] as number;
    const reading = readings[place];
    if (!reading) throw new Error('The analysis is of another state of the study.');
    if (
      known?.from.places[i] === place &&
      known.from.values[i] === value &&
      known.of[place] === reading &&
      !known.from.others.has(i)
    )
      return known.observations[i] as Observation;
    return plainObservation(reading, value, common);
  };
  // Going through a list of numbers one by one leaves an object behind for each, a hundred thousand in all.
  const observations: Observation[] = [];
  for (let i = 0; i < values.length; i += 1) observations.push(observationAt(i));
  unpackedLast.delete(name);
  unpackedLast.set(name, { of: readings, from, observations });
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
  settings: analysis.settings.map((setting) => ({
    ...setting,
    readings: observationsOf(document, analysis.measurand.id, setting.readings),
  })),
});
