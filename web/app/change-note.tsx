import { changeWords, changesTitle } from '../../core/model/change-words.ts';
import type { Measurand } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { Note } from '../ui/note.tsx';

/** Says openly what was changed of a measurand's margin, rule or direction once there were readings. */
export function ChangeNote({ document, measurand }: { document: StudyDocument; measurand: Measurand }) {
  const changes = document.changes.filter(({ measurandId }) => measurandId === measurand.id);
  if (changes.length === 0) return null;
  return (
    <Note tone="attention" title={changesTitle(changes.length)}>
      <ul>
        {changes.map((change) => (
          <li key={change.id}>
            {changeWords(change, measurand)},{' '}
            {new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short' }).format(
              new Date(change.changedAt),
            )}
          </li>
        ))}
      </ul>
    </Note>
  );
}
