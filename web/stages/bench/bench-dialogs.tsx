import { lazy } from 'react';
import { blindStudy } from '../../../core/plan/blind.ts';
import type { Run } from '../../../core/bench/queue.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { counted } from '../../../core/quantity/format.ts';
import { patchStudy, recordParts } from '../../app/api/studies.ts';
import { tell } from '../../app/tell.ts';
import { Later } from '../../ui/later.tsx';
import { toast } from '../../ui/toast.tsx';
import { KeySheet } from './key-sheet.tsx';
import { MisfireDialog } from './misfire-dialog.tsx';
import { NoteDialog } from './note-dialog.tsx';
import { noteSubjects } from './note-subjects.ts';
import type { Bench } from './use-bench.ts';

// Seldom wanted, and nobody types into them at once: they come when they are asked for.
const ImportDialog = lazy(async () => ({ default: (await import('./import-dialog.tsx')).ImportDialog }));
const LogDialog = lazy(async () => ({ default: (await import('./log-dialog.tsx')).LogDialog }));

/** What is open over the bench; a misfire is of what is being read, or of a run that is done. */
export type OpenDialog =
  'keys' | 'log' | 'note' | 'import' | 'connect' | { misfire: 'now' | Run } | undefined;

interface BenchDialogsProps {
  document: StudyDocument;
  bench: Bench;
  open: OpenDialog;
  onClose: () => void;
}

function Misfire({ document, bench, open, onClose }: BenchDialogsProps) {
  const misfire = typeof open === 'object' ? open.misfire : undefined;
  return (
    <MisfireDialog
      isOpen={misfire !== undefined}
      itemName={(misfire === 'now' ? bench.run : misfire)?.item.name ?? ''}
      reasons={document.study.misfireReasons}
      onReasons={(misfireReasons) => {
        tell(patchStudy(document.study, { misfireReasons }));
      }}
      onClose={onClose}
      onReason={(reason) => {
        if (misfire === 'now') bench.misfire(reason);
        else if (misfire) bench.misfireReading(misfire, reason);
        onClose();
      }}
    />
  );
}

/** Whatever can be opened over the bench. */
export function BenchDialogs(props: BenchDialogsProps) {
  const { document, bench, open, onClose } = props;
  return (
    <>
      <Misfire {...props} />
      <Later>
        {open === 'log' && (
          <LogDialog
            document={blindStudy(document)}
            isOpen
            canUndo={bench.canUndo}
            onUndo={bench.undo}
            onClose={onClose}
          />
        )}
        {open === 'import' && (
          <ImportDialog
            document={blindStudy(document)}
            onClose={onClose}
            onDone={(count) => {
              onClose();
              toast({ text: `${counted(count, 'reading')} taken from the table. Undo takes them all back.` });
            }}
          />
        )}
      </Later>
      {open === 'note' && (
        <NoteDialog
          studyId={document.study.id}
          subjects={noteSubjects(bench.run, bench.lastId, bench.session.session?.id)}
          onClose={onClose}
          onNote={(text, about, photo) => {
            onClose();
            const fields = { ...about, text, photo: null, removed: false, notedAt: new Date().toISOString() };
            void recordParts(document.study.id, [{ kind: 'notes', fields, ...(photo ? { photo } : {}) }]);
          }}
        />
      )}
      <KeySheet isOpen={open === 'keys'} onClose={onClose} />
    </>
  );
}
