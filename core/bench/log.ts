import { byText, itemsInOrder } from '../model/in-order.ts';
import { sessionsWithdrawn, recordOf } from '../record/record.ts';
import type { RunRef, Session } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { counted, readingWords } from '../quantity/format.ts';
import { conditionWords } from '../conditions/index.ts';

/** One thing that was done at the bench, in words. */
export interface LogLine {
  id: string;
  /** ISO 8601 instant. */
  moment: string;
  text: string;
  /** Taken back since. */
  undone: boolean;
}

/** What a log calls things by. */
interface Called {
  document: StudyDocument;
  runWords: (run: Omit<RunRef, 'levelIds'>) => string;
  /** Sessions that are imports. */
  imports: ReadonlySet<string>;
}

function calledIn(document: StudyDocument): Called {
  const items = new Map(itemsInOrder(document).map(({ id, name }) => [id, name]));
  const measurands = new Map(document.measurands.map(({ id, name }) => [id, name]));
  const several = document.measurands.length > 1;
  return {
    document,
    runWords: ({ itemId, measurandId, round }) =>
      `${items.get(itemId) ?? 'an item'}${several ? `, ${measurands.get(measurandId) ?? ''}` : ''}, round ${String(round)}`,
    imports: new Set(document.sessions.filter(({ kind }) => kind === 'import').map(({ id }) => id)),
  };
}

/** What was read: each reading as it is called, a line for each that was taken here, and how many came with each import. */
function readingLines({ document, runWords, imports }: Called) {
  const lines: LogLine[] = [];
  const texts = new Map<string, string>();
  const inImport = new Map<string, number>();
  for (const { reading, value, measurand, standing } of recordOf(document).readings) {
    const shown = readingWords({ value, parts: reading.parts }, measurand.unit);
    const text = `${runWords(reading)}: ${shown}`;
    texts.set(reading.id, text);
    if (reading.sessionId !== null && imports.has(reading.sessionId)) {
      inImport.set(reading.sessionId, (inImport.get(reading.sessionId) ?? 0) + 1);
      continue;
    }
    lines.push({ id: reading.id, moment: reading.takenAt, text, undone: standing.is === 'withdrawn' });
  }
  return { lines, texts, inImport };
}

/** What was decided. */
function decisionLines(
  { document, runWords, imports }: Called,
  texts: ReadonlyMap<string, string>,
): LogLine[] {
  return document.decisions.map(({ id, action, readingId, sessionId, run, reason, decidedAt }) => {
    const about = run ? runWords(run) : (texts.get(readingId ?? '') ?? 'a reading');
    const because = reason === '' ? '' : ` (${reason})`;
    const withdrawn =
      sessionId !== null && imports.has(sessionId) ? 'Took an import back' : 'Undone: the start of a session';
    const text = {
      misfire: `Misfire of ${about}${because}`,
      'take-again': `Taken again: ${about}`,
      'leave-out': `Left out ${about}${because}`,
      'take-back': `Took back ${about}`,
      keep: `Kept ${about}${because}`,
      withdraw: sessionId === null ? `Undone: ${about}` : withdrawn,
      'amend-session': `Undone: ${reason}`,
      restore: `Restored ${about}`,
      skip: `Skipped ${about}`,
      unskip: `Back in the queue: ${about}`,
      'add-run': `Added a run: ${about}`,
      'remove-run': `Removed the added run: ${about}`,
      look: `Looked at the ranking${because}`,
    }[action];
    return { id, moment: decidedAt, text, undone: false };
  });
}

/** The conditions that were read in the middle of a session. */
function conditionLines(document: StudyDocument, session: Session, undone: boolean): LogLine[] {
  const conditionsById = new Map(document.conditions.map((condition) => [condition.id, condition]));
  // What a session took over from the one before it was said there.
  const during = session.conditions.filter(
    ({ at, takenAt }) => at === 'during' && takenAt >= session.startedAt,
  );
  return [...new Set(during.map(({ takenAt }) => takenAt))].map((takenAt) => {
    const read = during
      .filter((condition) => condition.takenAt === takenAt)
      .map((condition) => {
        const planned = conditionsById.get(condition.conditionId);
        return planned ? conditionWords(planned, condition) : `a condition: ${condition.text}`;
      });
    return {
      id: `${session.id}/${takenAt}`,
      moment: takenAt,
      text: `Conditions: ${read.join(', ')}`,
      undone,
    };
  });
}

/** A session from its start to its end, or an import. */
function sessionLines(
  document: StudyDocument,
  session: Session,
  { undone, imported }: { undone: boolean; imported: number },
): LogLine[] {
  const { id, kind, startedAt, endedAt, operator, continuesId, note, pauses } = session;
  const line = (place: string, moment: string, text: string): LogLine => ({
    id: `${id}${place}`,
    moment,
    text,
    undone,
  });
  if (kind === 'import') {
    return [
      line('', startedAt, `Imported ${counted(imported, 'reading')}${note === '' ? '' : ` from ${note}`}`),
    ];
  }
  const by = operator === '' ? '' : ` by ${operator}`;
  return [
    line(
      '',
      startedAt,
      continuesId === null ? `Session started${by}` : `Session went on${by}, ${session.instrument}`,
    ),
    ...pauses.flatMap(({ from, to }, i) => [
      line(`/pause-${String(i)}`, from, 'Paused'),
      ...(to === null || to === endedAt ? [] : [line(`/on-${String(i)}`, to, 'Went on')]),
    ]),
    ...conditionLines(document, session, undone),
    ...(endedAt === null ? [] : [line('/end', endedAt, 'Session ended')]),
  ];
}

/** What was noted. */
const noteLines = ({ notes }: StudyDocument): LogLine[] =>
  notes.map(({ id, text, photo, removed, notedAt }) => {
    const what = photo === null ? 'Note' : 'Photo';
    return { id, moment: notedAt, text: text === '' ? what : `${what}: ${text}`, undone: removed };
  });

/** What was done at the bench, the latest first, told from the record. */
export function benchLog(document: StudyDocument): LogLine[] {
  const called = calledIn(document);
  const { lines, texts, inImport } = readingLines(called);
  const withdrawn = sessionsWithdrawn(document.decisions);
  return [
    ...lines,
    ...decisionLines(called, texts),
    ...document.sessions.flatMap((session) =>
      sessionLines(document, session, {
        undone: withdrawn.has(session.id),
        imported: inImport.get(session.id) ?? 0,
      }),
    ),
    ...noteLines(document),
  ].sort((a, b) => byText(b.moment, a.moment) || byText(b.id, a.id));
}
