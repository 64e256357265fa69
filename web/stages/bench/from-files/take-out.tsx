import { X } from 'lucide-react';
import type { FilePart } from '../../../../core/model/parts.ts';
import { deletePart } from '../../../app/api/studies.ts';
import { tell } from '../../../app/tell.ts';
import { IconButton } from '../../../ui/icon-button.tsx';

/** Takes a file out of a study that nothing was worked out from. */
export function TakeOut({ file }: { file: FilePart }) {
  return (
    <IconButton
      label={`Take ${file.name} out`}
      onPress={() => {
        tell(deletePart('files', file));
      }}
    >
      <X size={17} aria-hidden />
    </IconButton>
  );
}
