import type { Condition, Corrections, Measurand, Session } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { convert } from '../quantity/units.ts';
import { conditionValue } from '../bench/session.ts';
import type { Observation, SharedDoubt } from './observation.ts';

type Calibration = Corrections['calibrations'][number];

/** Whether any correction is in force. */
export const hasCorrections = ({ corrections }: Pick<Measurand, 'corrections'>): boolean =>
  [corrections.unit, ...corrections.calibrations, corrections.tare, corrections.ambient].some(
    (correction) => correction?.on,
  );

/** What a rectangle of this half-width is as a standard uncertainty (GUM, JCGM 100:2008, 4.3.7). */
const standard = (mayBeOff: number): number => mayBeOff / Math.sqrt(3);

/** A value as the line through what is indicated where something else is true has it; one point shifts it. */
export function calibrated(value: number, points: Calibration['points']): number {
  const [first, second] = points;
  if (!first) return value;
  if (!second) return value + (first.is - first.indicated);
  const slope = (second.is - first.is) / (second.indicated - first.indicated);
  return first.is + slope * (value - first.indicated);
}

/** The calibration that holds in a session: the one of its instrument, else the one of all. */
function calibrationIn({ calibrations }: Corrections, instrument: string): Calibration | undefined {
  const named = instrument.trim();
  return (
    (named === ''
      ? undefined
      : calibrations.find((calibration) => calibration.on && calibration.instrument.trim() === named)) ??
    calibrations.find((calibration) => calibration.on && calibration.instrument.trim() === '')
  );
}

/** What a condition was in a session: as noted, else as the tester estimates it; undefined where nobody says. */
export function ambientIn(
  document: StudyDocument,
  { conditionId, estimates }: NonNullable<Corrections['ambient']>,
  sessionId: string | null,
): { value: number; mayBeOff: number | undefined } | undefined {
  const noted = conditionValue(document, sessionId, conditionId);
  if (noted !== undefined) return { value: noted, mayBeOff: undefined };
  return estimates.find((estimate) => estimate.sessionId === sessionId);
}

/** What is done to the values of one session; a problem where that cannot be known. */
interface SessionCorrection {
  change: (value: number) => number;
  doubts: readonly SharedDoubt[];
  estimated: boolean;
  problem: string | undefined;
}

function correctionIn(
  document: StudyDocument,
  { corrections, unit }: Measurand,
  sessionId: string | null,
  { session, condition }: { session: Session | undefined; condition: Condition | undefined },
): SessionCorrection {
  const instrument = session?.instrument ?? '';
  const calibration = calibrationIn(corrections, instrument);
  const ambient = corrections.ambient?.on ? corrections.ambient : null;
  const known = ambient && ambientIn(document, ambient, sessionId);
  const from = corrections.unit?.on ? corrections.unit.from : undefined;
  const tare = corrections.tare?.on ? corrections.tare.value : 0;
  const shift = ambient && known ? ambient.perUnit * (known.value - ambient.reference) : 0;
  const doubts: SharedDoubt[] = [];
  if (calibration?.mayBeOff) {
    doubts.push({ source: `calibration/${calibration.instrument}`, u: standard(calibration.mayBeOff) });
  }
  if (ambient && known?.mayBeOff) {
    const u = standard(known.mayBeOff) * Math.abs(ambient.perUnit);
    doubts.push({ source: `ambient/${sessionId ?? ''}`, u });
  }
  return {
    change: (read) => {
      const turned = from === undefined ? read : (convert(read, from, unit) ?? read);
      return calibrated(turned, calibration?.points ?? []) - tare - shift;
    },
    doubts,
    estimated: known?.mayBeOff !== undefined,
    problem:
      ambient && !known
        ? `${condition?.quantity ?? 'the condition'} was not noted in its session, and nobody has estimated it`
        : undefined,
  };
}

/** What is done to the values of each session of a measurand; undefined where nothing is in force. */
function correctionsBySession(
  document: StudyDocument,
  measurand: Measurand,
): ((sessionId: string | null) => SessionCorrection) | undefined {
  if (!hasCorrections(measurand)) return undefined;
  const sessions = new Map(document.sessions.map((session) => [session.id, session]));
  const condition = document.conditions.find(({ id }) => id === measurand.corrections.ambient?.conditionId);
  const made = new Map<string | null, SessionCorrection>();
  return (sessionId) => {
    let correction = made.get(sessionId);
    if (!correction) {
      const session = sessionId === null ? undefined : sessions.get(sessionId);
      correction = correctionIn(document, measurand, sessionId, { session, condition });
      made.set(sessionId, correction);
    }
    return correction;
  };
}

/** What a value that was read in a session is when it is set right; as it was read where that cannot be done. */
export function correctorOf(
  document: StudyDocument,
  measurand: Measurand,
): (read: number, sessionId: string | null) => number {
  const correctionOf = correctionsBySession(document, measurand);
  if (!correctionOf) return (read) => read;
  return (read, sessionId) => {
    const { change, problem } = correctionOf(sessionId);
    return problem === undefined ? change(read) : read;
  };
}

/** The observations of a measurand as they were set right last, and from what. */
interface CorrectedLast extends Pick<StudyDocument, 'sessions' | 'conditions'> {
  read: readonly Observation[];
  corrected: readonly Observation[];
}
const correctedLast = new WeakMap<Measurand, CorrectedLast>();

function corrected(
  observation: Observation,
  { change, doubts, estimated, problem }: SessionCorrection,
): Observation {
  const { value: read, step, use } = observation;
  if (read === null) return observation;
  if (problem !== undefined) {
    return use.is === 'left out'
      ? observation
      : { ...observation, use: { is: 'left out', by: 'correction', reason: problem } };
  }
  const value = change(read);
  return {
    ...observation,
    value,
    read,
    step: Math.abs(change(read + step) - value),
    ...(doubts.length > 0 ? { doubts } : {}),
    ...(estimated ? { estimated } : {}),
  };
}

/**
 * Observations with their values set right: read in another unit, by the calibration of their instrument, less the
 * tare, and referred to a common ambient, in this order. What was read stays beside it. An observation whose ambient
 * nobody knows is left out.
 */
export function correctObservations(
  document: StudyDocument,
  measurand: Measurand,
  observations: Observation[],
): Observation[] {
  const correctionOf = correctionsBySession(document, measurand);
  if (!correctionOf) return observations;
  const { sessions, conditions } = document;
  const before = correctedLast.get(measurand);
  const known = before?.sessions === sessions && before.conditions === conditions ? before : undefined;
  const made = observations.map((observation, i): Observation =>
    known?.read[i] === observation
      ? (known.corrected[i] as Observation)
      : corrected(observation, correctionOf(observation.sessionId)),
  );
  correctedLast.set(measurand, { sessions, conditions, read: observations, corrected: made });
  return made;
}

/** Sessions in which a measurand was read and a condition was not noted; null for readings outside sessions. */
export function sessionsWithout(
  document: StudyDocument,
  measurandId: string,
  conditionId: string,
): (string | null)[] {
  const read = new Set(
    document.readings.flatMap((reading) => (reading.measurandId === measurandId ? [reading.sessionId] : [])),
  );
  return [...read].filter((sessionId) => conditionValue(document, sessionId, conditionId) === undefined);
}

/** What a condition was in all sessions that noted it; none where nobody did. */
export const notedValues = (document: StudyDocument, conditionId: string): number[] =>
  document.sessions.flatMap(({ id }) => conditionValue(document, id, conditionId) ?? []);
