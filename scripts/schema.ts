/** Writes what docs are made of: the schema of a study document, and the methods in words. */
import { writeFileSync } from 'node:fs';
import { methodsPage } from '../core/methods/page.ts';
import { StudyDocument } from '../core/model/study-document.ts';

writeFileSync(
  new URL('../docs/study.schema.json', import.meta.url),
  `${JSON.stringify(StudyDocument, null, 2)}\n`,
);

writeFileSync(new URL('../docs/methods.md', import.meta.url), methodsPage());
