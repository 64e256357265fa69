import type { StudyDocument } from '../../../core/model/study-document.ts';
import { patchStudy } from '../../app/api/studies.ts';
import { AddLine } from '../../ui/add-line.tsx';
import { tell } from '../../app/tell.ts';
import { dayAndTime } from '../../ui/when.ts';

/** Where the work left the plan: noted when it happens, told in the report. */
export function Deviations({ document: { study } }: { document: StudyDocument }) {
  return (
    <>
      <ul style={{ maxWidth: '72ch', marginBottom: 10 }}>
        {study.deviations.map(({ text, notedAt }) => (
          <li key={notedAt + text}>
            <bdi>{text}</bdi> ({dayAndTime(notedAt)})
          </li>
        ))}
      </ul>
      <AddLine
        label="Note a deviation"
        placeholder="What was done otherwise than planned"
        empty="Say what was done otherwise."
        onAdd={(text) => {
          tell(
            patchStudy(study, {
              deviations: [...study.deviations, { text, notedAt: new Date().toISOString() }],
            }),
          );
          return undefined;
        }}
      />
    </>
  );
}
