/** Writes docs/study.schema.json, the published form of a study document: npm run schema */
import { writeFileSync } from 'node:fs';
import { StudyDocument } from '../core/model/study-document.ts';

writeFileSync(
  new URL('../docs/study.schema.json', import.meta.url),
  `${JSON.stringify(StudyDocument, null, 2)}\n`,
);
