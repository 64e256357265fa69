import { itemsInOrder } from '../model/in-order.ts';
import { sessionsWithdrawn, recordOf } from '../record/record.ts';
import type { RunRef } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { counted, readingWords } from '../quantity/format.ts';
import { conditionWords } from '../conditions/index.ts';

/** One thing that was done at the bench, in words. */
export interface LogLine {
  id: string;
  /** ISO 8601 instant. */
  at: string;
  text: string;
  /** Taken back since. */
  undone: boolean;
}

/** What was done at the bench, the latest first, told from the record. */
export function benchLog(document: StudyDocument): LogLine[] {
  const items = new Map(itemsInOrder(document).map(({ id, name }) => [id, name]));
  const measurands = new Map(document.measurands.map(({ id, name }) => [id, name]));
  const conditionsById = new Map(document.conditions.map((condition) => [condition.id, condition]));
  const several = document.measurands.length > 1;
  const runWords = ({ itemId, measurandId, round }: Omit<RunRef, 'levelIds'>) =>
    `${items.get(itemId) ?? 'an item'}${several ? `, ${measurands.get(measurandId) ?? ''}` : ''}, round ${String(round)}`;
  const imports = new Map(
    document.sessions.filter(({ kind }) => kind === 'import').map((session) => [session.id, session]),
  );
  const inImport = new Map<string, number>();
  const lines: LogLine[] = [];
  const texts = new Map<string, string>();
  for (const { reading, value, measurand, standing } of recordOf(document).readings) {
    const shown = readingWords({ value, parts: reading.parts }, measurand.unit);
    const text = `${runWords(reading)}: ${shown}`;
    texts.set(reading.id, text);
    if (reading.sessionId !== null && imports.has(reading.sessionId)) {
      inImport.set(reading.sessionId, (inImport.get(reading.sessionId) ?? 0) + 1);
      continue;
    }
    lines.push({ id: reading.id, at: reading.takenAt, text, undone: standing.is === 'withdrawn' });
  }
  const withdrawn = sessionsWithdrawn(document.decisions);
  for (const { id, action, readingId, sessionId, run, reason, decidedAt } of document.decisions) {
    const about = run ? runWords(run) : (texts.get(readingId ?? '') ?? 'a reading');
    const because = reason === '' ? '' : ` (${reason})`;
    const words = {
      misfire: `Misfire of ${about}${because}`,
      'take-again': `Taken again: ${about}`,
      'leave-out': `Left out ${about}${because}`,
      'take-back': `Took back ${about}`,
      keep: `Kept ${about}${because}`,
      withdraw:
        sessionId === null
          ? `Undone: ${about}`
          : imports.has(sessionId)
            ? 'Took an import back'
            : 'Undone: the start of a session',
      'amend-session': `Undone: ${reason}`,
      restore: `Restored ${about}`,
      skip: `Skipped ${about}`,
      unskip: `Back in the queue: ${about}`,
      'add-run': `Added a run: ${about}`,
      'remove-run': `Removed the added run: ${about}`,
      look: `Looked at the ranking${because}`,
    }[action];
    lines.push({ id, at: decidedAt, text: words, undone: false });
  }
  for (const session of document.sessions) {
    const { id, kind, startedAt, endedAt, operator, continuesId, note, pauses, conditions } = session;
    const undone = withdrawn.has(id);
    if (kind === 'import') {
      const text = `Imported ${counted(inImport.get(id) ?? 0, 'reading')}${note === '' ? '' : ` from ${note}`}`;
      lines.push({ id, at: startedAt, text, undone });
      continue;
    }
    const by = operator === '' ? '' : ` by ${operator}`;
    lines.push({
      id,
      at: startedAt,
      text: continuesId === null ? `Session started${by}` : `Session went on${by}, ${session.instrument}`,
      undone,
    });
    for (const [i, { from, to }] of pauses.entries()) {
      lines.push({ id: `${id}/pause-${String(i)}`, at: from, text: 'Paused', undone });
      if (to !== null && to !== endedAt)
        lines.push({ id: `${id}/on-${String(i)}`, at: to, text: 'Went on', undone });
    }
    // What a session took over from the one before it was said there.
    const during = conditions.filter(
      (condition) => condition.at === 'during' && condition.takenAt >= startedAt,
    );
    for (const takenAt of new Set(during.map((condition) => condition.takenAt))) {
      const read = during
        .filter((condition) => condition.takenAt === takenAt)
        .map((condition) => {
          const planned = conditionsById.get(condition.conditionId);
          return planned ? conditionWords(planned, condition) : `a condition: ${condition.text}`;
        });
      lines.push({ id: `${id}/${takenAt}`, at: takenAt, text: `Conditions: ${read.join(', ')}`, undone });
    }
    if (endedAt !== null) lines.push({ id: `${id}/end`, at: endedAt, text: 'Session ended', undone });
  }
  for (const { id, text, photo, removed, notedAt } of document.notes) {
    const what = photo === null ? 'Note' : 'Photo';
    lines.push({ id, at: notedAt, text: text === '' ? what : `${what}: ${text}`, undone: removed });
  }
  return lines.sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : a.id < b.id ? 1 : -1));
}
