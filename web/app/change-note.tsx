import { changeWords, changesTitle, isLate } from '../../core/record/change-words.ts';
import type { Change } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { Note } from '../ui/note.tsx';
import { patchPart } from './api/studies.ts';
import { SavedText } from './draft-field.tsx';
import { shortDay } from '../ui/when.ts';

/** One change with its reason, which is asked for where it may be written. */
function ChangeLine({
  document,
  change,
  asking,
}: {
  document: StudyDocument;
  change: Change;
  asking: boolean;
}) {
  return (
    <li>
      <bdi>{changeWords(change, document)}</bdi>, {shortDay(change.changedAt)}
      {asking ? (
        <SavedText
          label={`Why: ${changeWords(change, document)}`}
          labelHidden
          saved={change.reason}
          placeholder="Why was it changed?"
          save={(reason) => patchPart('changes', change, { reason: reason.trim() })}
        />
      ) : (
        `: ${change.reason || 'no reason was given'}`
      )}
    </li>
  );
}

/** Says openly what was changed of the plan once there were readings, and why. */
export function ChangeNote({ document, asking = false }: { document: StudyDocument; asking?: boolean }) {
  const changes = document.changes.filter(isLate);
  if (changes.length === 0) return null;
  return (
    <Note tone="attention" title={changesTitle(changes.length)}>
      <ul>
        {changes.map((change) => (
          <ChangeLine key={change.id} document={document} change={change} asking={asking} />
        ))}
      </ul>
    </Note>
  );
}
