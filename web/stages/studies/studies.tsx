import { Download, Plus, Table2, Upload } from 'lucide-react';
import { lazy, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import styled from 'styled-components';
import { STUDY_FILES } from '../../../core/formats/study-files.ts';
import { counted, formatNumber } from '../../../core/quantity/format.ts';
import { Refusal, failureText, problemText } from '../../app/api/client.ts';
import {
  type ListedStudy,
  duplicateStudy,
  importStudy,
  patchStudy,
  useStudies,
} from '../../app/api/studies.ts';
import { tellDone, tellFailure } from '../../app/tell.ts';
import { MiniStrip } from '../../strip/mini-strip.tsx';
import { Button } from '../../ui/button.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { FileButton } from '../../ui/file-button.tsx';
import { LinkButton } from '../../ui/link-button.tsx';
import { Menu } from '../../ui/menu.tsx';
import { Note } from '../../ui/note.tsx';
import { EmptyState, PageHead, Row } from '../../ui/page.tsx';
import { TextField } from '../../ui/text-field.tsx';
import { toast } from '../../ui/toast.tsx';
import { underWay } from '../../ui/under-way.tsx';
import { saveFile } from '../../app/save-file.ts';
import { NARROW } from '../../ui/tokens.ts';
import { longDay } from '../../ui/when.ts';
import { Later } from '../../ui/later.tsx';

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

const Entry = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px 200px 44px;
  gap: 8px 36px;
  align-items: center;
  padding: 18px 0;
  border-top: 1px solid var(--rule);
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr) 200px 44px;
    gap: 8px 20px;
  }
`;

const Name = styled.div`
  min-width: 0;
  a {
    font-size: var(--size-19);
    font-weight: 680;
    color: var(--ink);
    text-decoration-color: var(--rule-strong);
    overflow-wrap: anywhere;
  }
  p {
    color: var(--quiet);
    overflow-wrap: anywhere;
  }
`;

const State = styled.div`
  font-size: var(--size-15);
  b {
    display: block;
    font-weight: 640;
  }
  span {
    color: var(--quiet);
  }
  ${NARROW} {
    grid-column: 1 / 3;
    grid-row: 2;
    b {
      display: inline;
    }
  }
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

/** How far a study is, in words, and the stage where it goes on. */
function standing({ preview, renewing }: ListedStudy): { words: string; stage: string } {
  if (!preview) return { words: renewing ? 'Being summed up…' : 'It cannot be shown here', stage: 'plan' };
  const { runs, items } = preview;
  if (items.length === 0) return { words: 'No items yet', stage: 'plan' };
  if (runs.done === 0) return { words: `${counted(items.length, 'item')}, no reading yet`, stage: 'plan' };
  const words = `${formatNumber(runs.done, 0)} of ${counted(runs.of, 'reading')}`;
  return { words, stage: runs.done < runs.of ? 'bench' : 'rank' };
}

function StudyEntry(listed: ListedStudy) {
  const { study, preview } = listed;
  const { words, stage } = standing(listed);
  const setStatus = async (status: 'open' | 'archived' | 'deleted', said: string) => {
    try {
      const now = await patchStudy(study, { status });
      tellDone(said, () => patchStudy(now, { status: study.status }));
    } catch (error) {
      tellFailure(error);
    }
  };
  const duplicate = async (extent: 'plan' | 'everything') => {
    try {
      const copy = await duplicateStudy(study, extent);
      toast({ text: `“${copy.title}” was made.` });
    } catch (error) {
      tellFailure(error);
    }
  };
  const [title, setTitle] = useState<string>();
  const [problem, setProblem] = useState<string>();
  const rename = async () => {
    const next = (title ?? '').trim();
    if (next === '') {
      setProblem('A study needs a name.');
      return;
    }
    try {
      await patchStudy(study, { title: next });
      setTitle(undefined);
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  return (
    <Entry>
      <Name>
        <Link to={`/study/${study.id}/${stage}`}>
          <bdi>{study.title}</bdi>
        </Link>
        {study.question && (
          <p>
            <bdi>{study.question}</bdi>
          </p>
        )}
      </Name>
      {preview ? <MiniStrip preview={preview} /> : <span />}
      <State>
        <b>{words}</b>{' '}
        <span>
          {preview?.lastReadingAt
            ? `last one ${longDay(preview.lastReadingAt)}`
            : `made ${longDay(study.createdAt)}`}
        </span>
      </State>
      <Menu
        label={`More for ${study.title}`}
        actions={[
          {
            id: 'rename',
            label: 'Rename',
            onAction: () => {
              setProblem(undefined);
              setTitle(study.title);
            },
          },
          { id: 'plan', label: 'Copy the plan', onAction: () => void duplicate('plan') },
          { id: 'all', label: 'Duplicate with readings', onAction: () => void duplicate('everything') },
          ...STUDY_FILES.map(({ ending, inMenu }) => ({
            id: ending,
            label: inMenu,
            onAction: () => void saveFile(`/studies/${study.id}/export.${ending}`),
          })),
          study.status === 'archived'
            ? {
                id: 'open',
                label: 'Take out of the archive',
                onAction: () => void setStatus('open', 'Taken out of the archive.'),
              }
            : {
                id: 'archive',
                label: 'Archive',
                onAction: () => void setStatus('archived', `“${study.title}” is archived.`),
              },
          {
            id: 'delete',
            label: 'Delete',
            onAction: () => void setStatus('deleted', `“${study.title}” is deleted.`),
          },
        ]}
      />
      <Dialog
        title="Rename the study"
        isOpen={title !== undefined}
        onClose={() => {
          setTitle(undefined);
        }}
      >
        <TextField
          label="Name"
          value={title ?? ''}
          onChange={(text) => {
            setTitle(text);
            setProblem(undefined);
          }}
          problem={problem}
          autoFocus
          onEnter={() => void rename()}
        />
        <DialogActions>
          <Button
            tone="quiet"
            onPress={() => {
              setTitle(undefined);
            }}
          >
            Not now
          </Button>
          <Button tone="go" onPress={() => void rename()}>
            Rename
          </Button>
        </DialogActions>
      </Dialog>
    </Entry>
  );
}

/** All studies, each with a small strip; where one begins, imports, archives. */
export function Studies() {
  const { data, error, isPending } = useStudies();
  const navigate = useNavigate();
  const [creating, setCreating] = useState(false);
  const [fromTable, setFromTable] = useState<File | 'a table'>();
  const [file, setFile] = useState<{ file: File; problem: string; copyable: boolean }>();

  const take = async (chosen: File, asCopy = false) => {
    try {
      const imported = await underWay(`Importing ${chosen.name}`, (way) => importStudy(chosen, asCopy, way));
      setFile(undefined);
      if (!imported) {
        toast({ text: 'Stopped. Nothing was imported.' });
        return;
      }
      toast({
        text: imported.already
          ? 'This very study is here already; nothing was changed.'
          : `${counted(imported.readings, 'reading')} imported${
              imported.missing > 0 ? `, ${counted(imported.missing, 'empty value')} skipped` : ''
            }.`,
      });
      await navigate(`/study/${imported.study.id}/${imported.readings > 0 ? 'screen' : 'plan'}`);
    } catch (failure) {
      setFile({
        file: chosen,
        problem: failureText(failure),
        copyable: failure instanceof Refusal && failure.status === 409,
      });
    }
  };

  const open = data?.filter(({ study }) => study.status === 'open') ?? [];
  const archived = data?.filter(({ study }) => study.status === 'archived') ?? [];
  const actions = (
    <Row>
      <FileButton
        accept={[
          '.json',
          '.zip',
          '.csv',
          '.tsv',
          '.txt',
          '.html',
          'application/json',
          'text/csv',
          'text/html',
        ]}
        onFile={(chosen) => void take(chosen)}
      >
        <Upload size={18} aria-hidden /> Import
      </FileButton>
      <Button
        onPress={() => {
          setFromTable('a table');
        }}
      >
        <Table2 size={18} aria-hidden /> From a table
      </Button>
      <Button
        tone="go"
        onPress={() => {
          setCreating(true);
        }}
      >
        <Plus size={18} aria-hidden /> New study
      </Button>
    </Row>
  );

  return (
    <Sheet id="content" tabIndex={-1}>
      {error && (
        <Note tone="attention" title="The studies cannot be shown">
          {problemText(error)}
        </Note>
      )}
      {isPending && <p>Opening…</p>}
      {data && open.length + archived.length === 0 && (
        <EmptyState level={2} title="What do you want to compare?" action={actions}>
          A study is one comparison: a question, the items, their readings, and what the readings support.
          Begin one, or import readings that you have already.
        </EmptyState>
      )}
      {open.length + archived.length > 0 && (
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
        </>
      )}
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

      {open.length + archived.length > 0 && (
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
      )}

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
            studies={open}
            isOpen
            onClose={() => {
              setCreating(false);
            }}
          />
        </Later>
      )}

      <Dialog
        title="The file was not imported"
        isOpen={file !== undefined}
        onClose={() => {
          setFile(undefined);
        }}
      >
        <p>
          <bdi>{file?.file.name}</bdi>
        </p>
        <Note tone="attention" title={file?.problem ?? ''}>
          Nothing was changed.
        </Note>
        <DialogActions>
          <Button
            tone={file?.copyable ? 'quiet' : 'go'}
            onPress={() => {
              setFile(undefined);
            }}
          >
            Close
          </Button>
          {file && /\.(?:csv|tsv|txt)$/i.test(file.file.name) && (
            <Button
              tone="go"
              onPress={() => {
                setFromTable(file.file);
                setFile(undefined);
              }}
            >
              Look at it as a table
            </Button>
          )}
          {file?.copyable && (
            <Button tone="go" onPress={() => void take(file.file, true)}>
              Import as a copy
            </Button>
          )}
        </DialogActions>
      </Dialog>
    </Sheet>
  );
}
