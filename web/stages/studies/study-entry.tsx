import { useState } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import { STUDY_FILES } from '../../../core/formats/study-files.ts';
import type { Study } from '../../../core/model/study.ts';
import { counted, formatNumber } from '../../../core/quantity/format.ts';
import { problemText } from '../../app/api/client.ts';
import { type ListedStudy, duplicateStudy, patchStudy } from '../../app/api/studies.ts';
import { saveFile } from '../../app/save-file.ts';
import { tellDone, tellFailure } from '../../app/tell.ts';
import { MiniStrip } from '../../strip/mini-strip.tsx';
import { Dialog, DialogAnswers } from '../../ui/dialog.tsx';
import { Menu } from '../../ui/menu.tsx';
import { TextField } from '../../ui/text-field.tsx';
import { toast } from '../../ui/toast.tsx';
import { NARROW } from '../../ui/tokens.ts';
import { longDay } from '../../ui/when.ts';

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

/** How far a study is, in words, and the stage where it goes on. */
function standing({ preview, renewing }: ListedStudy): { words: string; stage: string } {
  if (!preview) return { words: renewing ? 'Being summed up…' : 'It cannot be shown here', stage: 'plan' };
  const { runs, items } = preview;
  if (items.length === 0) return { words: 'No items yet', stage: 'plan' };
  if (runs.done === 0) return { words: `${counted(items.length, 'item')}, no reading yet`, stage: 'plan' };
  const words = `${formatNumber(runs.done, 0)} of ${counted(runs.of, 'reading')}`;
  return { words, stage: runs.done < runs.of ? 'bench' : 'rank' };
}

async function setStatus(study: Study, status: Study['status'], said: string): Promise<void> {
  try {
    const now = await patchStudy(study, { status });
    tellDone(said, () => patchStudy(now, { status: study.status }));
  } catch (error) {
    tellFailure(error);
  }
}

async function duplicate(study: Study, extent: 'plan' | 'everything'): Promise<void> {
  try {
    const copy = await duplicateStudy(study, extent);
    toast({ text: `“${copy.title}” was made.` });
  } catch (error) {
    tellFailure(error);
  }
}

/** What can be done with a study as a whole. */
const studyActions = (study: Study, onRename: () => void) => [
  { id: 'rename', label: 'Rename', onAction: onRename },
  { id: 'plan', label: 'Copy the plan', onAction: () => void duplicate(study, 'plan') },
  { id: 'all', label: 'Duplicate with readings', onAction: () => void duplicate(study, 'everything') },
  ...STUDY_FILES.map(({ ending, inMenu }) => ({
    id: ending,
    label: inMenu,
    onAction: () => void saveFile(`/studies/${study.id}/export.${ending}`),
  })),
  study.status === 'archived'
    ? {
        id: 'open',
        label: 'Take out of the archive',
        onAction: () => void setStatus(study, 'open', 'Taken out of the archive.'),
      }
    : {
        id: 'archive',
        label: 'Archive',
        onAction: () => void setStatus(study, 'archived', `“${study.title}” is archived.`),
      },
  {
    id: 'delete',
    label: 'Delete',
    onAction: () => void setStatus(study, 'deleted', `“${study.title}” is deleted.`),
  },
];

function RenameDialog({ study, onClose }: { study: Study; onClose: () => void }) {
  const [title, setTitle] = useState(study.title);
  const [problem, setProblem] = useState<string>();
  const rename = async () => {
    const wanted = title.trim();
    if (wanted === '') {
      setProblem('A study needs a name.');
      return;
    }
    try {
      await patchStudy(study, { title: wanted });
      onClose();
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  return (
    <Dialog title="Rename the study" isOpen onClose={onClose}>
      <TextField
        label="Name"
        value={title}
        onChange={(text) => {
          setTitle(text);
          setProblem(undefined);
        }}
        problem={problem}
        autoFocus
        onEnter={() => void rename()}
      />
      <DialogAnswers onNo={onClose} go="Rename" onGo={() => void rename()} />
    </Dialog>
  );
}

/** A study in the list: its question, a small strip, how far it is, and what can be done with it. */
export function StudyEntry(listed: ListedStudy) {
  const { study, preview } = listed;
  const { words, stage } = standing(listed);
  const [renaming, setRenaming] = useState(false);
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
        actions={studyActions(study, () => {
          setRenaming(true);
        })}
      />
      {renaming && (
        <RenameDialog
          study={study}
          onClose={() => {
            setRenaming(false);
          }}
        />
      )}
    </Entry>
  );
}
