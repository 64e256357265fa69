/**
 * Writes what is made of the core: the schema of a study document and the methods in words for docs; and what pages need
 * without the rest: the rules and ways of comparing in words alone, and the units of the library as a table.
 */
import { writeFileSync } from 'node:fs';
import { METHODS } from '../core/compare/methods.ts';
import { methodsPage } from '../core/methods/page.ts';
import { StudyDocument } from '../core/model/study-document.ts';
import { unitTable } from '../core/quantity/unit-library.ts';
import { SCREENING_RULES } from '../core/screening/index.ts';

const write = (file: string, text: string) => {
  writeFileSync(new URL(`../${file}`, import.meta.url), text);
};
const json = (described: unknown) => `${JSON.stringify(described, null, 2)}\n`;

write('docs/study.schema.json', json(StudyDocument));
write('docs/methods.md', methodsPage());
// Functions are no part of JSON.
write('core/screening/described.json', json(SCREENING_RULES));
write('core/compare/described.json', json(METHODS));
// A row a unit.
const { prefixes, units } = unitTable();
write(
  'core/quantity/unit-table.json',
  `{\n"prefixes": ${JSON.stringify(prefixes)},\n"units": [\n${units.map((unit) => JSON.stringify(unit)).join(',\n')}\n]\n}\n`,
);
