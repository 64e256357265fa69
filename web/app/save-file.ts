import { toast } from '../ui/toast.tsx';
import { underWay } from '../ui/under-way.tsx';
import { failureText, fileFrom } from './api/client.ts';
import { watched } from './api/watched.ts';
import { download } from './pieces.ts';

/** Has the server make a file and saves it; it can be stopped meanwhile. */
export async function saveFile(path: string): Promise<void> {
  try {
    const made = await underWay('Making the file', ({ signal, say }) =>
      watched(say, (name) => fileFrom(`${path}${path.includes('?') ? '&' : '?'}${name}`, signal)),
    );
    if (made) download(made.file, made.name);
  } catch (error) {
    toast({ text: failureText(error), tone: 'attention' });
  }
}
