import { FilePlus } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import type { FilePart, Measurand } from '../../../../core/model/parts.ts';
import { measurandsRead } from '../../../../core/plan/grid.ts';
import { counted } from '../../../../core/quantity/format.ts';
import { problemText } from '../../../app/api/client.ts';
import { useStudy } from '../../../app/study-frame.tsx';
import { Button } from '../../../ui/button.tsx';
import { Choice } from '../../../ui/choice.tsx';
import { FileButton } from '../../../ui/file-button.tsx';
import { EmptyState, PageHead, Row, Sheet } from '../../../ui/page.tsx';
import { Problem } from '../../../ui/problem.tsx';

/** What a page of files says. */
export interface FilesWords {
  /** “file”, “recording”. */
  noun: string;
  /** Label of the margin. */
  notes: string;
  /** Under the title. */
  about: string;
  /** While there is no file. */
  empty: string;
  /** Where nothing in the plan is read so. */
  unread: { title: string; todo: string };
}

/** Files are added one after the other; what is wrong with one is said of it. */
function useAdding(keep: (file: File) => Promise<FilePart>) {
  const [busy, setBusy] = useState<string>();
  const [problem, setProblem] = useState<string>();
  const add = async (file: File) => {
    setBusy(`Reading ${file.name}…`);
    setProblem(undefined);
    try {
      await keep(file);
    } catch (error) {
      setProblem(`${file.name}: ${problemText(error)}`);
    }
    setBusy(undefined);
  };
  return { busy, problem, add };
}

/** Adds a file, or leads back to the bench. */
function Adding({
  accept,
  words,
  busy,
  isFirst,
  onFile,
}: {
  accept: readonly string[];
  words: FilesWords;
  /** What is being done; undefined where nothing is. */
  busy: string | undefined;
  isFirst: boolean;
  onFile: (file: File) => void;
}) {
  const navigate = useNavigate();
  return (
    <Row>
      <FileButton
        accept={accept}
        tone={isFirst ? 'go' : 'plain'}
        isDisabled={busy !== undefined}
        onFile={onFile}
      >
        <FilePlus size={19} aria-hidden /> Add a {words.noun}
      </FileButton>
      <Button tone="quiet" onPress={() => void navigate('../bench')}>
        Back to the bench
      </Button>
      {busy !== undefined && <span role="status">{busy}</span>}
    </Row>
  );
}

/** That nothing in the plan is read so. */
function Unread({ words: { notes, unread } }: { words: FilesWords }) {
  const navigate = useNavigate();
  return (
    <Sheet notes={null} notesLabel={notes}>
      <EmptyState
        title={unread.title}
        action={
          <Button tone="go" onPress={() => void navigate('../plan')}>
            To the plan
          </Button>
        }
      >
        {unread.todo}
      </EmptyState>
    </Sheet>
  );
}

/** That there is no file yet, and what adds one. */
const NoFiles = ({ words: { notes, noun, empty }, children }: { words: FilesWords; children: ReactNode }) => (
  <Sheet notes={null} notesLabel={notes}>
    <EmptyState title={`No ${noun} yet.`} action={children}>
      {empty}
    </EmptyState>
  </Sheet>
);

/** Which measurand is worked out, where there are several. */
function MeasurandChoice({
  measurands,
  measurand,
  onChoose,
}: {
  measurands: readonly Measurand[];
  measurand: Measurand;
  onChoose: (id: string) => void;
}) {
  if (measurands.length < 2) return null;
  return (
    <Choice
      label="Measurand"
      labelHidden
      options={measurands.map(({ id, name }) => ({ value: id, label: name }))}
      value={measurand.id}
      onChange={onChoose}
    />
  );
}

/** A page on which readings of one form are worked out from files: which measurand, its files, and how to add one. */
export function FilesPage({
  form,
  files,
  accept,
  words,
  keep,
  arriving,
  children,
}: {
  /** Name of the reading form. */
  form: string;
  files: readonly FilePart[];
  accept: readonly string[];
  words: FilesWords;
  keep: (file: File) => Promise<FilePart>;
  /** What is seen of a file while it is being kept. */
  arriving?: ReactNode;
  /** The work on the files of a measurand, under what it is given. */
  children: (measurand: Measurand, head: ReactNode) => ReactNode;
}) {
  const document = useStudy();
  const measurands = measurandsRead(document).filter((measurand) => measurand.form === form);
  const [wantedId, setWantedId] = useState<string>();
  const measurand = measurands.find(({ id }) => id === wantedId) ?? measurands[0];
  const { busy, problem, add } = useAdding(keep);
  const adding = (
    <Adding {...{ accept, words, busy }} isFirst={files.length === 0} onFile={(file) => void add(file)} />
  );
  if (!measurand) return <Unread words={words} />;
  if (files.length === 0) {
    return (
      <NoFiles words={words}>
        {adding}
        {arriving}
        <Problem>{problem}</Problem>
      </NoFiles>
    );
  }
  return children(
    measurand,
    <>
      <PageHead title={`${measurand.name}, from ${counted(files.length, words.noun)}.`}>
        {words.about}
      </PageHead>
      <Row>
        <MeasurandChoice {...{ measurands, measurand }} onChoose={setWantedId} />
        {adding}
      </Row>
      {arriving}
      <Problem>{problem}</Problem>
    </>,
  );
}
