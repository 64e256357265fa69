import { Download, Plus, Table2, Upload } from 'lucide-react';
import { type ReactNode, lazy, useState } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import { formatNumber } from '../../../core/quantity/format.ts';
import { problemText } from '../../app/api/client.ts';
import { type ListedStudy, useStudies } from '../../app/api/studies.ts';
import { Button } from '../../ui/button.tsx';
import { FileButton } from '../../ui/file-button.tsx';
import { Later } from '../../ui/later.tsx';
import { LinkButton } from '../../ui/link-button.tsx';
import { Note } from '../../ui/note.tsx';
import { EmptyState, PageHead, Row } from '../../ui/page.tsx';
import { NARROW } from '../../ui/tokens.ts';
import { NotImported, useImport } from './import-study.tsx';
import { StudyEntry } from './study-entry.tsx';

/** Brings the reading forms and patterns along, which the list itself does without. */
const NewStudy = lazy(async () => ({ default: (await import('./new-study.tsx')).NewStudy }));

const TableStudy = lazy(async () => ({ default: (await import('./table-study.tsx')).TableStudy }));

const Sheet = styled.main`
  flex: 1;
  padding: 24px 28px 60px;
  background: var(--sheet);
  ${NARROW} {
    padding: 20px 20px 60px;
  }
`;

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  justify-content: space-between;
  gap: 12px;
`;

const Archive = styled.details`
  margin-top: 28px;
  border-top: 1px solid var(--rule);
  summary {
    padding: 16px 0;
    cursor: pointer;
    color: var(--quiet);
    font-weight: 640;
  }
`;

/** What is about all studies at once, under them. */
const Whole = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px 20px;
  margin-top: 28px;
  padding-top: 20px;
  border-top: 1px solid var(--rule);
  p {
    flex: 1 1 320px;
    max-width: 72ch;
    color: var(--quiet);
    font-size: var(--size-15);
  }
`;

const IMPORTED: readonly string[] = [
  '.json',
  '.zip',
  '.csv',
  '.tsv',
  '.txt',
  '.html',
  'application/json',
  'text/csv',
  'text/html',
];

/** The ways in which a study begins. */
function Beginnings({
  onFile,
  onTable,
  onNew,
}: {
  onFile: (file: File) => void;
  onTable: () => void;
  onNew: () => void;
}) {
  return (
    <Row>
      <FileButton accept={IMPORTED} onFile={onFile}>
        <Upload size={18} aria-hidden /> Import
      </FileButton>
      <Button onPress={onTable}>
        <Table2 size={18} aria-hidden /> From a table
      </Button>
      <Button tone="go" onPress={onNew}>
        <Plus size={18} aria-hidden /> New study
      </Button>
    </Row>
  );
}

/** The studies, those in the archive folded away, and what is about all of them. */
function StudyList({ studies, actions }: { studies: readonly ListedStudy[]; actions: ReactNode }) {
  const open = studies.filter(({ study }) => study.status === 'open');
  const archived = studies.filter(({ study }) => study.status === 'archived');
  return (
    <>
      <Head>
        <PageHead title="Studies">One comparison each, the latest first.</PageHead>
        {actions}
      </Head>
      <ul>
        {open.map((entry) => (
          <StudyEntry key={entry.study.id} {...entry} />
        ))}
      </ul>
      {archived.length > 0 && (
        <Archive>
          <summary>Archive ({formatNumber(archived.length, 0)})</summary>
          <ul>
            {archived.map((entry) => (
              <StudyEntry key={entry.study.id} {...entry} />
            ))}
          </ul>
        </Archive>
      )}
      <Whole>
        <LinkButton href="/api/v1/backup" download>
          <Download size={18} aria-hidden /> Back up everything
        </LinkButton>
        <p>
          All studies, photos and loggers’ files in one file, as they are at this moment; you may go on
          meanwhile. It is brought back into an empty folder by <code>npm run restore</code>. Programs find
          everything at <Link to="/interface">their interface</Link>. How readings are judged stands under{' '}
          <Link to="/methods">the methods</Link>.
        </p>
      </Whole>
    </>
  );
}

const NotShown = ({ error }: { error: Error }) => (
  <Note tone="attention" title="The studies cannot be shown">
    {problemText(error)}
  </Note>
);

const NoStudies = ({ actions }: { actions: ReactNode }) => (
  <EmptyState level={2} title="What do you want to compare?" action={actions}>
    A study is one comparison: a question, the items, their readings, and what the readings support. Begin
    one, or import readings that you have already.
  </EmptyState>
);

/** All studies, each with a small strip; where one begins, imports, archives. */
export function Studies() {
  const { data, error, isPending } = useStudies();
  const studies = data?.filter(({ study }) => study.status !== 'deleted');
  const [creating, setCreating] = useState(false);
  const [fromTable, setFromTable] = useState<File | 'a table'>();
  const { take, refused, forget } = useImport();
  const actions = (
    <Beginnings
      onFile={(file) => void take(file)}
      onTable={() => {
        setFromTable('a table');
      }}
      onNew={() => {
        setCreating(true);
      }}
    />
  );
  return (
    <Sheet id="content" tabIndex={-1}>
      {error && <NotShown error={error} />}
      {isPending && <p>Opening…</p>}
      {studies?.length === 0 && <NoStudies actions={actions} />}
      {studies && studies.length > 0 && <StudyList studies={studies} actions={actions} />}
      {fromTable && (
        <Later>
          <TableStudy
            file={fromTable instanceof File ? fromTable : undefined}
            onClose={() => {
              setFromTable(undefined);
            }}
          />
        </Later>
      )}
      {creating && (
        <Later>
          <NewStudy
            studies={studies?.filter(({ study }) => study.status === 'open') ?? []}
            isOpen
            onClose={() => {
              setCreating(false);
            }}
          />
        </Later>
      )}
      {refused && (
        <NotImported
          refused={refused}
          onClose={forget}
          onTable={() => {
            setFromTable(refused.file);
            forget();
          }}
          onCopy={() => void take(refused.file, true)}
        />
      )}
    </Sheet>
  );
}
