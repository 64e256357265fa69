import type { MeasurandAnalysis, SettingAnalysis } from '../../core/analysis/analyse-study.ts';
import type { Reading } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import type { Observation } from '../../core/observations/observation.ts';

/** The observations of a setting as they go to the page, which holds the readings that they come from. */
export interface PackedReadings {
  /** Place of each one's reading in the study. */
  places: Uint32Array;
  values: Float64Array;
  /** The step of all that are as their readings say. */
  step: number;
  /** By their place: all others, whole. */
  others: Map<number, Observation>;
}

/** An analysis on its way from the worker to the page: a hundred thousand objects more would hold the page for seconds. */
export interface PackedAnalysis extends Omit<MeasurandAnalysis, 'settings'> {
  settings: (Omit<SettingAnalysis, 'readings'> & { readings: PackedReadings })[];
}

/** Whether an observation is nothing but its reading, and counts. */
const isPlain = (observation: Observation, key: string, step: number): boolean =>
  observation.value !== null &&
  observation.use.is === 'kept' &&
  observation.use.insisted === undefined &&
  observation.note === '' &&
  observation.sharesRound &&
  observation.sources.length === 0 &&
  observation.setting === key &&
  observation.step === step &&
  (['read', 'doubts', 'estimated', 'interval'] as const).every((name) => observation[name] === undefined);

function packedReadings(
  document: StudyDocument,
  { readings, setting: { key } }: SettingAnalysis,
): PackedReadings {
  const step = readings[0]?.step ?? 0;
  const others = new Map<number, Observation>();
  const values = new Float64Array(readings.length);
  const places = new Uint32Array(readings.length);
  // Both are in the order recorded.
  let next = 0;
  readings.forEach((observation, i) => {
    values[i] = observation.value ?? Number.NaN;
    if (isPlain(observation, key, step)) {
      while (next < document.readings.length && document.readings[next]?.id !== observation.id) next += 1;
      places[i] = next;
      if (next < document.readings.length) return;
    }
    others.set(i, observation);
  });
  return { places, values, step, others };
}

/** An analysis of a study without what the page knows. */
export const packed = (document: StudyDocument, analysis: MeasurandAnalysis): PackedAnalysis => ({
  ...analysis,
  settings: analysis.settings.map((setting) => ({ ...setting, readings: packedReadings(document, setting) })),
});

/** The observation of each reading as it was unpacked last, so that what has not changed stays the same object. */
const plain = new WeakMap<Reading, Observation>();

function plainObservation(reading: Reading, setting: string, value: number, step: number): Observation {
  const known = plain.get(reading);
  if (known?.setting === setting && known.value === value && known.step === step) return known;
  const { id, itemId, round, place, sessionId, takenAt, parts } = reading;
  const observation: Observation = {
    ...{ id, itemId, setting, round, sharesRound: true, place, sessionId, takenAt, note: '', parts },
    ...{ value, step, sources: [], use: { is: 'kept' } },
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

function observationsOf(
  { study, readings }: StudyDocument,
  measurandId: string,
  key: string,
  from: PackedReadings,
) {
  const name = `${study.id}/${measurandId}/${key}`;
  const before = unpackedLast.get(name);
  const { places, values, step, others } = from;
  const known = before?.from.step === step ? before : undefined;
  const observationAt = (i: number): Observation => {
    const other = others.size > 0 ? others.get(i) : undefined;
    if (other) return other;
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
    return plainObservation(reading, key, value, step);
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
    readings: observationsOf(document, analysis.measurand.id, setting.setting.key, setting.readings),
  })),
});
