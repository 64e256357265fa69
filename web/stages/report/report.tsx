import { Download } from 'lucide-react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { measurandsInOrder } from '../../../core/model/record.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { counted } from '../../../core/quantity/format.ts';
import { answer } from '../../../core/rank/answer.ts';
import { API } from '../../app/api/client.ts';
import { useAnalysis } from '../../app/api/analysis.ts';
import { useStudy } from '../../app/study-frame.tsx';
import { Button } from '../../ui/button.tsx';
import { LinkButton } from '../../ui/link-button.tsx';
import { EmptyState, PageHead, Section, Sheet } from '../../ui/page.tsx';
import { Note } from '../../ui/note.tsx';

const Files = styled.ul`
  display: grid;
  gap: 20px;
  max-width: 640px;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 16px;
    align-items: center;
  }
  p {
    color: var(--quiet);
    font-size: var(--size-15);
  }
`;

function Finding({ document, measurand }: { document: StudyDocument; measurand: Measurand }) {
  const { data: analysis } = useAnalysis(document, measurand.id, { resamples: 0 });
  if (!analysis) return null;
  return (
    <>
      {analysis.classes.map((group) => (
        <Note key={group.name} tone="good" title={[measurand.name, group.name].filter(Boolean).join(', ')}>
          {measurand.direction.kind === 'unranked'
            ? 'Measured and not ranked.'
            : answer(
                group.items.map(({ name }) => name),
                group.analysis,
                measurand.unit,
                measurand.instrument.resolution,
              ).sentence}
        </Note>
      ))}
    </>
  );
}

/** What can be taken away: the answer, and the files. */
export function Report() {
  const document = useStudy();
  const navigate = useNavigate();
  const { study, readings } = document;
  if (readings.length === 0) {
    return (
      <Sheet notes={null} notesLabel="Notes">
        <EmptyState
          title="Nothing to report yet."
          action={
            <Button tone="go" onPress={() => void navigate('../bench')}>
              To the bench
            </Button>
          }
        >
          Once there are readings, take them away from here: as a table, or as the whole study.
        </EmptyState>
      </Sheet>
    );
  }
  return (
    <Sheet
      notesLabel="What was found"
      notes={measurandsInOrder(document).map((measurand) => (
        <Finding key={measurand.id} document={document} measurand={measurand} />
      ))}
    >
      <PageHead title="Take it away">
        Both files hold everything and can be imported again as the same study, here or elsewhere.
      </PageHead>
      <Section aria-labelledby="files">
        <h2 id="files">Files</h2>
        <Files>
          <li>
            <div>
              <h3>Readings as CSV</h3>
              <p>
                {counted(readings.length, 'reading')}, one a row, with round, order, whether it counts and why
                not. For spreadsheets and scripts.
              </p>
            </div>
            <LinkButton href={`${API}/studies/${study.id}/export.csv`} download>
              <Download size={18} aria-hidden /> CSV
            </LinkButton>
          </li>
          <li>
            <div>
              <h3>Study as JSON</h3>
              <p>Plan, readings and every decision, in one document with a published schema.</p>
            </div>
            <LinkButton href={`${API}/studies/${study.id}/export.json`} download>
              <Download size={18} aria-hidden /> JSON
            </LinkButton>
          </li>
        </Files>
      </Section>
    </Sheet>
  );
}
