import { Copy, Download, FileText, Printer } from 'lucide-react';
import { Fragment, type RefObject, useMemo, useRef, useState } from 'react';
import styled, { createGlobalStyle } from 'styled-components';
import type { ComposedReport, ReportPart } from '../../../core/report/report.ts';
import { reportNumbers } from '../../../core/report/report.ts';
import type { Study } from '../../../core/model/study.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { STUDY_FILES } from '../../../core/formats/study-files.ts';
import { blindStudy } from '../../../core/plan/blind.ts';
import { useReport } from '../../app/api/analysis.ts';
import { useOccasions } from '../../app/api/earlier.ts';
import { NoReadings } from '../../app/no-readings.tsx';
import { download, fileName } from '../../app/pieces.ts';
import { patchStudy } from '../../app/api/studies.ts';
import { useStudy } from '../../app/study-frame.tsx';
import { tell } from '../../app/tell.ts';
import { Button } from '../../ui/button.tsx';
import { CheckBox } from '../../ui/check-box.tsx';
import { FileLink } from '../../app/file-link.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside, PageHead, Sheet } from '../../ui/page.tsx';
import { toast } from '../../ui/toast.tsx';
import { PRINT } from '../../ui/tokens.ts';
import { longDay } from '../../ui/when.ts';
import { Block } from './blocks.tsx';
import { OwnWords } from './own-words.tsx';
import { PlainTable } from './plain-table.tsx';
import { PartTools, show } from './part-tools.tsx';
import { savedReport } from './save-report.ts';

const Article = styled.article`
  max-width: 900px;
  > header h1 {
    overflow-wrap: anywhere;
  }
  > header p {
    margin-top: 6px;
    color: var(--quiet);
    max-width: 72ch;
  }
  h2 {
    display: flex;
    align-items: center;
    min-height: 40px;
    font-size: var(--size-19);
    break-after: avoid;
  }
  ${PRINT} {
    max-width: none;
    caption,
    h2 {
      break-after: avoid;
    }
    /* Room for two lines belongs to a heading, so that it never stands alone at the foot of a page. */
    h2 {
      display: block;
      min-height: 0;
      break-inside: avoid;
      &::after {
        content: '';
        display: block;
        height: 72px;
        margin-bottom: -72px;
      }
    }
    tr,
    li {
      break-inside: avoid;
    }
    thead {
      display: table-header-group;
    }
  }
`;

const Part = styled.section`
  margin-top: 26px;
  padding-top: 14px;
  border-top: 1px solid var(--rule);
  > h2 {
    margin-bottom: 8px;
  }
  [data-picture] + * {
    margin-top: 24px;
  }
`;

const Pairs = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(400px, 100%), 1fr));
  gap: 24px 36px;
  align-items: start;
  > div {
    min-width: 0;
    break-inside: avoid;
  }
  ${PRINT} {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
`;

const NOTES = 'The report and its files';

/** Page numbers and the study's name at the foot of each printed page, and nothing of the margin. */
const Pages = createGlobalStyle<{ $title: string }>`
  ${PRINT} {
    [aria-label='${NOTES}'] {
      display: none;
    }
  }
  @page {
    margin: 15mm 14mm 18mm;
    @bottom-left { content: "${({ $title }) => cssText($title)}"; font: 9pt 'Atkinson Hyperlegible Next Variable', sans-serif; color: #56605a; }
    @bottom-right { content: counter(page) " / " counter(pages); font: 9pt 'Atkinson Hyperlegible Next Variable', sans-serif; color: #56605a; }
  }
`;

/** A text as it may stand in quotes in a style sheet. */
const cssText = (text: string): string => text.replace(/[^\p{Letter}\p{Number} .,:;()–-]/gu, ' ');

const Files = styled.div`
  display: grid;
  gap: 10px;
  justify-items: stretch;
  p {
    color: var(--quiet);
    font-size: var(--size-13);
  }
`;

/** The words of a part and its pictures, two and two where each belongs to the words before it. */
function PartBlocks({
  part,
  document,
  pairAlpha,
}: {
  part: ReportPart;
  document: StudyDocument;
  pairAlpha: number;
}) {
  const blocks = part.blocks.map((block, i) => (
    // Blocks are made again as a whole.
    <Block key={`${block.kind}/${String(i)}`} block={block} document={document} pairAlpha={pairAlpha} />
  ));
  if (part.name !== 'others') return blocks;
  const groups: (typeof blocks)[] = [];
  part.blocks.forEach(({ kind }, i) => {
    if (kind === 'text') groups.push([]);
    groups.at(-1)?.push(blocks[i] as (typeof blocks)[number]);
  });
  return (
    <Pairs className="pairs">
      {groups.map((group, i) => (
        <div key={String(i)}>{group}</div>
      ))}
    </Pairs>
  );
}

/** When the last reading was taken. */
const lastReading = ({ readings }: StudyDocument): string =>
  readings.reduce((latest, { takenAt }) => (takenAt > latest ? takenAt : latest), '');

/** The page that could be published. */
function ReportArticle({
  document,
  report,
  editing,
}: {
  document: StudyDocument;
  report: ComposedReport;
  editing: boolean;
}) {
  const { study } = document;
  const numbers = useMemo(() => reportNumbers(report), [report]);
  const parts = report.parts.filter(({ name }) => !study.report.hidden.includes(name));
  const shown = parts.map(({ name }) => name);
  const last = lastReading(document);
  return (
    <>
      <header>
        <h1>
          <bdi>{report.title}</bdi>
        </h1>
        <p>
          <bdi>{report.question}</bdi>
        </p>
        {last && <p>Last reading {longDay(last)}.</p>}
      </header>
      {parts.map((part) => (
        <Part key={part.name} aria-labelledby={`part-${part.name}`}>
          <h2 id={`part-${part.name}`}>
            {part.heading}
            {editing && <PartTools study={study} name={part.name} heading={part.heading} shown={shown} />}
          </h2>
          <PartBlocks part={part} document={document} pairAlpha={report.pairAlpha} />
          <OwnWords
            study={study}
            under={part.name}
            heading={part.heading}
            numbers={numbers}
            editing={editing}
          />
        </Part>
      ))}
    </>
  );
}

/** Photos that were taken, each to be shown in the report or not. */
function PhotoChoice({ document: { study, notes } }: { document: StudyDocument }) {
  const taken = notes.filter(({ photo, removed }) => photo !== null && !removed);
  if (taken.length === 0) return null;
  return (
    <Aside>
      <h3>Photos in the report</h3>
      {taken.map(({ id, text }, i) => (
        <CheckBox
          key={id}
          isSelected={study.report.photos.includes(id)}
          onChange={(chosen) => {
            const others = study.report.photos.filter((noteId) => noteId !== id);
            tell(
              patchStudy(study, {
                report: { ...study.report, photos: chosen ? [...others, id] : others },
              }),
            );
          }}
        >
          <bdi>{text || `Photo ${String(i + 1)}`}</bdi>
        </CheckBox>
      ))}
    </Aside>
  );
}

/** The answer as text, for a letter or a post. */
async function copyAnswer({ title, question, parts }: ComposedReport): Promise<void> {
  const leads = parts.flatMap(({ name, blocks }) =>
    name === 'answer' ? blocks.flatMap((block) => (block.kind === 'lead' ? [block.text] : [])) : [],
  );
  await navigator.clipboard.writeText([title, question, ...leads].filter(Boolean).join('\n'));
  toast({ text: 'The answer is copied.' });
}

/** What is done with the report: printed, handed on, copied, arranged. */
function ReportActions({
  document,
  report,
  article,
  editing,
  onEditing,
}: {
  document: StudyDocument;
  report: ComposedReport | undefined;
  article: RefObject<HTMLElement | null>;
  editing: boolean;
  onEditing: (editing: boolean) => void;
}) {
  const { title } = document.study;
  return (
    <Files>
      <Button
        tone="go"
        onPress={() => {
          globalThis.print();
        }}
      >
        <Printer size={18} aria-hidden /> Print, or save as PDF
      </Button>
      <Button
        isDisabled={!report}
        onPress={() => {
          if (!article.current || !report) return;
          const last = longDay(lastReading(document));
          tell(
            savedReport(report, article.current, document, last).then((file) => {
              download(file, `${fileName(title)}.html`);
            }),
          );
        }}
      >
        <FileText size={18} aria-hidden /> One file to hand on
      </Button>
      <p>A page that opens anywhere, with the study inside it; it can be imported again.</p>
      <Button
        isDisabled={!report}
        onPress={() => {
          if (report) tell(copyAnswer(report));
        }}
      >
        <Copy size={18} aria-hidden /> Copy the answer
      </Button>
      <Button
        tone={editing ? 'go' : 'plain'}
        onPress={() => {
          onEditing(!editing);
        }}
      >
        {editing ? 'Done' : 'Arrange and write'}
      </Button>
      <p>Move or hide parts, and write your own words under them.</p>
    </Files>
  );
}

/** The parts that are hidden, to be shown again. */
function HiddenParts({ study, report }: { study: Study; report: ComposedReport }) {
  const hidden = report.parts.filter(({ name }) => study.report.hidden.includes(name));
  if (hidden.length === 0) return null;
  return (
    <Aside>
      <h3>Hidden</h3>
      {hidden.map(({ name, heading }) => (
        <Button
          key={name}
          size="small"
          tone="quiet"
          onPress={() => {
            show(study, name, heading);
          }}
        >
          Show “{heading}”
        </Button>
      ))}
    </Aside>
  );
}

/** The study as files. */
function StudyFiles({ document, whole }: Record<'document' | 'whole', StudyDocument>) {
  return (
    <Aside>
      <h3>The files</h3>
      <Files>
        <PlainTable document={whole} />
        <p>Items as columns or one reading a row, and nothing else in it.</p>
        {STUDY_FILES.map(({ ending, label, holds }) => (
          <Fragment key={ending}>
            <FileLink path={`/studies/${whole.study.id}/export.${ending}`}>
              <Download size={18} aria-hidden /> {label}
            </FileLink>
            <p>{holds(document)}</p>
          </Fragment>
        ))}
      </Files>
    </Aside>
  );
}

/** What can be taken away: the answer in a page fit to publish, and the files. */
export function Report() {
  const whole = useStudy();
  const document = useMemo(() => blindStudy(whole), [whole]);
  const { study, readings } = document;
  const article = useRef<HTMLElement>(null);
  const [editing, setEditing] = useState(false);
  const tests = useOccasions(study.earlier.map(({ studyId }) => studyId));
  const { data: report, error } = useReport(tests.settled ? document : undefined, {
    earlier: tests.occasions,
    program: PROGRAM_VERSION,
  });
  if (readings.length === 0) {
    return (
      <NoReadings title="Nothing to report yet.">
        Once there are readings, take them away from here: as a report, as a table, or as the whole study.
      </NoReadings>
    );
  }
  return (
    <Sheet
      notesLabel={NOTES}
      notes={
        <>
          <ReportActions {...{ document, report, article, editing }} onEditing={setEditing} />
          {report && <HiddenParts study={study} report={report} />}
          <PhotoChoice document={document} />
          {study.blind === 'blind' && (
            <Note title="Items are shown by their codes">
              The files name them. Open the codes in the plan once the readings are judged.
            </Note>
          )}
          <StudyFiles document={document} whole={whole} />
        </>
      }
    >
      {!report && (
        <PageHead title={error ? 'The report cannot be made.' : 'Composing…'}>{error?.message}</PageHead>
      )}
      <Pages $title={`${study.title}, ${longDay(lastReading(document))}`} />
      <Article ref={article}>
        {report && <ReportArticle document={document} report={report} editing={editing} />}
      </Article>
    </Sheet>
  );
}
