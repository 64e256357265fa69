import path from 'node:path';
import { counted, wordFor } from '../../core/quantity/format.ts';
import { saidBy } from '../problems.ts';
import { BackupProblem, backUp, inWords, restore } from './backup.ts';

const [what, file, data] = process.argv.slice(2);

try {
  if (file === undefined || data === undefined || (what !== 'backup' && what !== 'restore')) {
    throw new BackupProblem('Name the file: npm run backup -- FILE, or npm run restore -- FILE.');
  }
  const about =
    what === 'backup' ? await backUp(data, path.resolve(file)) : await restore(path.resolve(file), data);
  const gone =
    about.missing > 0
      ? ` ${counted(about.missing, 'photo or file', 'photos or files')} ${wordFor(about.missing, 'was', 'were')} missing in ${data} already.`
      : '';
  console.log(
    what === 'backup'
      ? `${inWords(about)} are in ${file}, read again and whole.${gone}`
      : `${inWords(about)} are back in ${data}.`,
  );
} catch (error) {
  process.stderr.write(
    `${error instanceof BackupProblem ? error.message : `It failed: ${saidBy(error)}.`}\n`,
  );
  process.exit(1);
}
