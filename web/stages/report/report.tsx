import { Download } from 'lucide-react';
import { useMemo } from 'react';
import styled from 'styled-components';
import { measurandsInOrder } from '../../../core/model/in-order.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { counted } from '../../../core/quantity/format.ts';
import { leftOutWords } from '../../../core/report/left-out-words.ts';
import { blindStudy } from '../../../core/plan/blind.ts';
import { type StudySetting, settingsRead } from '../../../core/analysis/settings.ts';
import { answer } from '../../../core/report/answer.ts';
import { API } from '../../app/api/client.ts';
import { useAnalysis, useFindings } from '../../app/api/analysis.ts';
import { ChangeNote } from '../../app/change-note.tsx';
import { NoReadings } from '../../app/no-readings.tsx';
import { useStudy } from '../../app/study-frame.tsx';
import { useLook } from '../../app/use-look.ts';
import { stripLanes } from '../../strip/lanes.ts';
import { Strip } from '../../strip/strip.tsx';
import { LinkButton } from '../../ui/link-button.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside, PageHead, Section, Sheet } from '../../ui/page.tsx';
import { dayAndTime } from '../../ui/when.ts';

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

/** One measurand: its answer, largest, and the strip that shows it. */
function Result({
  document,
  measurand,
  setting: { key, words: setting },
}: {
  document: StudyDocument;
  measurand: Measurand;
  setting: StudySetting;
}) {
  const look = useLook(document);
  // The same question as the ranking asks, so that both say the same.
  const { data: analysis } = useAnalysis(document, measurand.id, key, {
    method: undefined,
    pairAlpha: look.level,
  });
  const group = analysis?.classes[0];
  const sentence = analysis?.classes
    .map(({ name, items, analysis: ranked }) => {
      const said = answer(
        items.map((item) => item.name),
        ranked,
        measurand.unit,
        !look.final,
      ).sentence;
      return name === '' ? said : `${name}: ${said}`;
    })
    .join(' ');
  const lanes = useMemo(() => {
    const order = group?.analysis.ranking.flatMap(({ index }) => group.items[index] ?? []);
    return stripLanes(document, measurand, key, analysis, {
      places: true,
      sizes: true,
      ...(order && analysis?.classes.length === 1 ? { order } : {}),
    });
  }, [document, measurand, key, analysis, group]);
  if (analysis?.readings.length === 0) return null;
  return (
    <>
      <PageHead
        level={2}
        title={
          measurand.direction.kind === 'unranked'
            ? `${measurand.name} is not ranked.`
            : (sentence ?? 'Comparing…')
        }
      >
        {measurand.name}
        {measurand.unit && `, ${measurand.unit}`}
        {setting && `, at ${setting}`}
        {analysis && `; ${leftOutWords(analysis.readings, measurand.rule.name)}`}. Bars are 95 % intervals of
        the means; the last column is the place.
      </PageHead>
      <Strip label={`${measurand.name}: the result`} unit={measurand.unit} lanes={lanes} laneHeight={44} />
    </>
  );
}

/** What can be taken away: the answer, and the files. */
export function Report() {
  const whole = useStudy();
  const document = useMemo(() => blindStudy(whole), [whole]);
  const { study, readings } = document;
  const settings = useMemo(() => settingsRead(document), [document]);
  const { data: findings = [] } = useFindings(document);
  if (readings.length === 0) {
    return (
      <NoReadings title="Nothing to report yet.">
        Once there are readings, take them away from here: as a table, or as the whole study.
      </NoReadings>
    );
  }
  return (
    <Sheet
      notesLabel="The study"
      notes={
        <>
          {study.question && (
            <Aside>
              <h3>The question</h3>
              <p>
                <bdi>{study.question}</bdi>
              </p>
            </Aside>
          )}
          {study.blind === 'blind' && (
            <Note title="Items are shown by their codes">
              The files name them. Open the codes in the plan once the readings are judged.
            </Note>
          )}
          <ChangeNote document={document} />
          <Aside>
            <h3>The files</h3>
            <p>
              Both hold plan, readings and decisions, and can be imported again as the same study, here or
              elsewhere. Photos are named in them and stay here.
            </p>
          </Aside>
        </>
      }
    >
      <h1 style={{ marginBottom: 20 }}>
        <bdi>{study.title}</bdi>
      </h1>
      {measurandsInOrder(document).flatMap((measurand) =>
        settings.map((setting) => (
          <Result
            key={`${measurand.id}/${setting.key}`}
            document={document}
            measurand={measurand}
            setting={setting}
          />
        )),
      )}
      {findings.length > 0 && (
        <Section aria-labelledby="findings">
          <h2 id="findings">What was noticed, and what the tester says to it</h2>
          <ul>
            {findings.map(({ id, message, why }) => {
              const given = study.answers.find(({ finding }) => finding === id);
              return (
                <li key={id} style={{ marginBottom: 8 }}>
                  <b>{message}</b> {given ? <bdi>{given.text}</bdi> : <>{why} Not answered.</>}
                </li>
              );
            })}
          </ul>
        </Section>
      )}
      {study.deviations.length > 0 && (
        <Section aria-labelledby="deviations">
          <h2 id="deviations">Where the work left the plan</h2>
          <ul>
            {study.deviations.map(({ text, notedAt }) => (
              <li key={notedAt + text}>
                <bdi>{text}</bdi> ({dayAndTime(notedAt)})
              </li>
            ))}
          </ul>
        </Section>
      )}
      <Section aria-labelledby="files">
        <h2 id="files">Take it away</h2>
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
