import path from 'node:path';
import { saidBy } from '../problems.ts';
import { BackupProblem, backUp, restore } from './backup.ts';

const [what, file, data] = process.argv.slice(2);

try {
  if (file === undefined || data === undefined || (what !== 'backup' && what !== 'restore')) {
    throw new BackupProblem('Name the file: npm run backup -- FILE, or npm run restore -- FILE.');
  }
  const {
    studies,
    readings,
    photos,
    files = 0,
    missing,
  } = what === 'backup' ? await backUp(data, path.resolve(file)) : await restore(path.resolve(file), data);
  const words = `${String(studies)} studies, ${String(readings)} readings, ${String(photos)} photos, ${String(files)} files of traces`;
  console.log(
    what === 'backup'
      ? `${words} are in ${file}, read again and whole.${missing > 0 ? ` ${String(missing)} photos or files were missing in ${data} already.` : ''}`
      : `${words} are back in ${data}.`,
  );
} catch (error) {
  process.stderr.write(
    `${error instanceof BackupProblem ? error.message : `It failed: ${saidBy(error)}.`}\n`,
  );
  process.exit(1);
}
