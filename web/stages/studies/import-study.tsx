import { useState } from 'react';
import { useNavigate } from 'react-router';
import { counted } from '../../../core/quantity/format.ts';
import { Refusal, failureText } from '../../app/api/client.ts';
import { importStudy } from '../../app/api/studies.ts';
import { Button } from '../../ui/button.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { Note } from '../../ui/note.tsx';
import { toast } from '../../ui/toast.tsx';
import { underWay } from '../../ui/under-way.tsx';

/** A file that was refused. */
interface RefusedFile {
  file: File;
  problem: string;
  /** Whether it can be imported as a copy. */
  copyable: boolean;
}

/** What became of an import, in words. */
function importedWords({
  already,
  readings,
  missing,
}: Record<'readings' | 'missing', number> & { already: boolean }) {
  if (already) return 'This very study is here already; nothing was changed.';
  const skipped = missing > 0 ? `, ${counted(missing, 'empty value')} skipped` : '';
  return `${counted(readings, 'reading')} imported${skipped}.`;
}

/** Imports studies, goes to what was imported, and holds the file that was refused. */
export function useImport() {
  const navigate = useNavigate();
  const [refused, setRefused] = useState<RefusedFile>();
  const take = async (file: File, asCopy = false) => {
    try {
      const imported = await underWay(`Importing ${file.name}`, (way) => importStudy(file, asCopy, way));
      setRefused(undefined);
      if (!imported) {
        toast({ text: 'Stopped. Nothing was imported.' });
        return;
      }
      toast({ text: importedWords(imported) });
      await navigate(`/study/${imported.study.id}/${imported.readings > 0 ? 'screen' : 'plan'}`);
    } catch (failure) {
      setRefused({
        file,
        problem: failureText(failure),
        copyable: failure instanceof Refusal && failure.status === 409,
      });
    }
  };
  const forget = () => {
    setRefused(undefined);
  };
  return { take, refused, forget };
}

/** Says why a file was not imported, and what could be done with it. */
export function NotImported({
  refused: { file, problem, copyable },
  onClose,
  onTable,
  onCopy,
}: {
  refused: RefusedFile;
  onClose: () => void;
  onTable: () => void;
  onCopy: () => void;
}) {
  return (
    <Dialog title="The file was not imported" isOpen onClose={onClose}>
      <p>
        <bdi>{file.name}</bdi>
      </p>
      <Note tone="attention" title={problem}>
        Nothing was changed.
      </Note>
      <DialogActions>
        <Button tone={copyable ? 'quiet' : 'go'} onPress={onClose}>
          Close
        </Button>
        {/\.(?:csv|tsv|txt)$/i.test(file.name) && (
          <Button tone="go" onPress={onTable}>
            Look at it as a table
          </Button>
        )}
        {copyable && (
          <Button tone="go" onPress={onCopy}>
            Import as a copy
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
