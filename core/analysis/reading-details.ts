import { remarksOn } from '../bench/remarks.ts';
import { runKey, runOfReading } from '../bench/run-records.ts';
import { conditionsInOrder } from '../bench/session.ts';
import { conditionKind } from '../conditions/index.ts';
import { readingForm } from '../forms/index.ts';
import { FILE_PARTS } from '../forms/worked-out.ts';
import type { Measurand, NotePart, Reading, ReadingPart, Session } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { type Observation, isDerived } from '../observations/observation.ts';
import { readingWords, withUnit } from '../quantity/format.ts';
import { recordOf } from '../record/record.ts';

/** Something that is known, with what it is called. */
export interface NamedText {
  name: string;
  text: string;
}

/** What is known of a reading besides its value. */
export interface ReadingDetails {
  /** What was read, part by part as it was typed; none where it is the value as it stands, or the cells of a grid. */
  parts: NamedText[];
  /** The readings that it was worked out from. */
  from: NamedText[];
  /** How it came; undefined for what is worked out from others. */
  source: Reading['source'] | undefined;
  session: Session | undefined;
  /** What each condition was when it was taken, as far as it was noted. */
  conditions: NamedText[];
  /** Notes and photos to it, its run, its item and its session. */
  remarks: NotePart[];
}

/** More parts than this are one text. */
const MOST_PARTS = 10;

const isNumber = (text: string) => /^[-+−]?(?:\d+(?:[.,]\d*)?|[.,]\d+)$/.test(text.trim());

/** A part as it was typed; with its unit where the number stands alone. */
const typedText = ({ text, number }: ReadingPart, unit: string): string =>
  number !== null && isNumber(text) ? withUnit(text.trim(), unit) : text.trim();

function partsOf(measurand: Measurand, { parts, value }: Observation): NamedText[] {
  const form = readingForm(measurand.form);
  // Cells are seen where they lie.
  if (form?.cells) return [];
  const asked = form?.parts(measurand) ?? [];
  const read = parts.filter(({ text }) => text.trim() !== '');
  const [only] = read;
  if (read.length === 1 && only?.number === value && isNumber(only.text)) return [];
  const named = asked.flatMap(({ name, label, unit, words }) => {
    const part = words ? undefined : read.find((found) => found.name === name);
    // What came from a file as the value is said already.
    const isValue = read.length > 1 && name === FILE_PARTS.value && part?.number === value;
    return part && !isValue ? [{ name: label, text: typedText(part, unit) }] : [];
  });
  if (named.length <= MOST_PARTS) return named;
  return [{ name: `${String(named.length)} parts`, text: named.map(({ text }) => text).join('; ') }];
}

/** What each condition was at an instant of a session: what was read of it last, or first where nothing was before. */
function conditionsAt(document: StudyDocument, session: Session | undefined, instant: string): NamedText[] {
  if (!session) return [];
  return conditionsInOrder(document).flatMap((condition) => {
    const seen = session.conditions.filter(({ conditionId }) => conditionId === condition.id);
    const last = seen.findLast(({ takenAt }) => takenAt <= instant) ?? seen[0];
    return last ? [{ name: condition.quantity, text: conditionKind(condition).shown(last, condition) }] : [];
  });
}

/**
 * What is known of a reading besides its value and how it stands: what was typed, how it came, when and around what it
 * was taken, what was remarked.
 */
export function readingDetails(
  document: StudyDocument,
  measurand: Measurand,
  observation: Observation,
): ReadingDetails {
  const { id, itemId, sessionId, takenAt, sources } = observation;
  const session = document.sessions.find((known) => known.id === sessionId);
  const conditions = conditionsAt(document, session, takenAt);
  if (isDerived(observation)) {
    const wanted = new Set(sources);
    const from = recordOf(document).readings.flatMap(({ reading, value, measurand: source }) =>
      wanted.has(reading.id)
        ? [{ name: source.name, text: readingWords({ value, parts: reading.parts }, source.unit) }]
        : [],
    );
    const remarks = remarksOn(document, { itemId, sessionId });
    return { parts: [], from, source: undefined, session, conditions, remarks };
  }
  const reading = recordOf(document)
    .ofMeasurand(measurand.id)
    .find((entry) => entry.reading.id === id)?.reading;
  const run = reading && runKey(runOfReading(reading));
  return {
    parts: partsOf(measurand, observation),
    from: [],
    source: reading?.source,
    session,
    conditions,
    remarks: remarksOn(document, { readingId: id, run, itemId, sessionId }),
  };
}
