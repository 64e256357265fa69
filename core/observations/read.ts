import { runKey, runOfReading } from '../bench/run-records.ts';
import { readingForm } from '../forms/index.ts';
import { intervalOfReading } from '../forms/interval.ts';
import { ALPHA } from '../model/alpha.ts';
import type { Measurand, ReadingPart } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { settingKey } from '../plan/grid.ts';
import { type StandingReading, readingNotes, recordOf } from '../record/record.ts';
import { finestStep } from '../summary/step.ts';
import { stepTyped } from '../summary/step-typed.ts';
import type { Observation, Use } from './observation.ts';

/** Of more readings than this nobody looks at the interval of one. */
const MOST_INTERVALS = 5000;

/** Readings of a measurand that say how finely it was typed; more say no more. */
const ASKED = 2000;

/** The finest step of some parts as typed, in their unit; 0 where none is known. Texts are taken apart once. */
const stepsTyped = new WeakMap<readonly ReadingPart[], number>();

const finerOf = (finest: number, step: number): number =>
  step > 0 && (finest === 0 || step < finest) ? step : finest;

function stepOfParts(parts: readonly ReadingPart[]): number {
  let finest = stepsTyped.get(parts);
  if (finest === undefined) {
    const steps = parts.flatMap(({ text, number }) => {
      if (number === null) return [];
      const typed = stepTyped(text);
      // What was typed in another unit has its step in that one; its number says how finely.
      return typed === undefined ||
        Math.abs(Number(text.replace(',', '.')) - number) > 1e-12 * Math.abs(number)
        ? [finestStep([[number]])]
        : [typed];
    });
    finest = steps.reduce(finerOf, 0);
    stepsTyped.set(parts, finest);
  }
  return finest;
}

/** The step of what is read: the instrument's, else the finest one as typed, in the unit of the parts. */
export function stepRead(measurand: Measurand, entries: readonly StandingReading[]): number {
  if (measurand.instrument.resolution !== null) return measurand.instrument.resolution;
  return entries
    .slice(0, ASKED)
    .reduce((finest, { reading }) => finerOf(finest, stepOfParts(reading.parts)), 0);
}

/**
 * The step of a value that was worked out, from those of what it depends on: rectangles combined by the law of
 * propagation.
 * @param work the value when one input is moved up by its step; undefined where that cannot be worked out
 * @source GUM, JCGM 100:2008, 5.1.2
 */
export function stepWorked(
  value: number,
  inputs: number,
  work: (moved: number) => number | undefined,
): number {
  let squares = 0;
  for (let input = 0; input < inputs; input += 1) {
    const moved = work(input);
    if (moved !== undefined && Number.isFinite(moved)) squares += (moved - value) ** 2;
  }
  return Math.sqrt(squares);
}

/** Step of one reading's value, from that of its parts. */
function stepOfValue(
  parts: readonly ReadingPart[],
  value: number | null,
  measurand: Measurand,
  step: number,
): number {
  const form = readingForm(measurand.form);
  if (value === null || step === 0 || !form) return step;
  if (parts.length === 1 && parts[0]?.number === value) return step;
  return stepWorked(value, parts.length, (moved) => {
    const changed = parts.map((part, i) =>
      i === moved && part.number !== null ? { ...part, number: part.number + step } : part,
    );
    return form.value(changed, measurand) ?? undefined;
  });
}

/** What an observation is made of besides the entry of the record. */
interface Circumstances {
  measurand: Measurand;
  /** Step of the parts. */
  step: number;
  note: string;
  sharesRound: boolean;
  withInterval: boolean;
}

/** The observations of a measurand as they were made last, and the entries of the record that they are of. */
interface MadeLast extends Pick<Circumstances, 'step' | 'withInterval'> {
  entries: readonly StandingReading[];
  observations: readonly Observation[];
}
const madeLast = new WeakMap<Measurand, MadeLast>();

function observationOf(
  { reading, value, standing }: StandingReading,
  { measurand, step, note, sharesRound, withInterval }: Circumstances,
): Observation {
  const interval = withInterval ? intervalOfReading(reading.parts, measurand, ALPHA) : undefined;
  const use: Use =
    standing.is === 'left out'
      ? { is: 'left out', by: standing.by, reason: standing.reason }
      : standing.is === 'kept'
        ? standing
        : { is: 'kept' };
  return {
    id: reading.id,
    itemId: reading.itemId,
    setting: settingKey(runOfReading(reading).levelIds),
    round: reading.round,
    sharesRound,
    place: reading.place,
    sessionId: reading.sessionId,
    takenAt: reading.takenAt,
    note,
    parts: reading.parts,
    value,
    step: stepOfValue(reading.parts, value, measurand, step),
    sources: [],
    ...(interval ? { interval } : {}),
    use,
  };
}

/** The observations of a measurand that is read, in the order recorded; what was withdrawn is not in them. */
export function readObservations(document: StudyDocument, measurand: Measurand): Observation[] {
  const entries = recordOf(document)
    .ofMeasurand(measurand.id)
    .filter(({ standing }) => standing.is !== 'withdrawn');
  const notes = readingNotes(document);
  const shuffled = document.study.runOrder === 'full-shuffle';
  const added = new Set(
    document.decisions.flatMap(({ action, run }) => (action === 'add-run' && run ? [runKey(run)] : [])),
  );
  const step = stepRead(measurand, entries);
  const withInterval = entries.length <= MOST_INTERVALS;
  const before = madeLast.get(measurand);
  const known = before?.step === step && before.withInterval === withInterval ? before : undefined;
  const observations = entries.map((entry, i): Observation => {
    const { reading } = entry;
    const note = notes.size === 0 ? '' : (notes.get(reading.id) ?? '');
    const sharesRound = !shuffled && !(added.size > 0 && added.has(runKey(runOfReading(reading))));
    if (known?.entries[i] === entry) {
      // Of what has not changed it is the same object.
      const observation = known.observations[i] as Observation;
      if (observation.note === note && observation.sharesRound === sharesRound) return observation;
    }
    return observationOf(entry, { measurand, step, note, sharesRound, withInterval });
  });
  madeLast.set(measurand, { step, withInterval, entries, observations });
  return observations;
}
