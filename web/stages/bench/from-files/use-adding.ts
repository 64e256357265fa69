import { useState } from 'react';
import type { FilePart } from '../../../../core/model/parts.ts';
import { problemText } from '../../../app/api/client.ts';

/** Files are added one after the other; what is wrong with one is said of it. */
export function useAdding(keep: (file: File) => Promise<FilePart>) {
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
