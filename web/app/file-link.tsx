import type { ReactNode } from 'react';
import { LinkButton } from '../ui/link-button.tsx';
import { API } from './api/client.ts';
import { saveFile } from './save-file.ts';

/** A link to a file that the server makes: it says how far it has come where that takes a while. */
export const FileLink = ({ path, children }: { path: string; children: ReactNode }) => (
  <LinkButton href={`${API}${path}`} download onFollow={() => void saveFile(path)}>
    {children}
  </LinkButton>
);
