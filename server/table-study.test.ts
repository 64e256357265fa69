import fc from 'fast-check';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { parseReadingsTable } from '../core/formats/readings-table.ts';
import { guessStudyMatching } from '../core/formats/study-columns.ts';
import { studyFromTable } from '../core/formats/study-table.ts';
import { StudyDocument } from '../core/model/study-document.ts';
import { sharedServer } from './testing.ts';
import { schemaProblems } from './validate.ts';

const server = await sharedServer();

/** The study that a table becomes as it is guessed; undefined where it says why there is none. */
function studyOf(text: string): StudyDocument | undefined {
  const table = parseReadingsTable(text);
  if ('problem' in table) return undefined;
  const context = { title: 'A table', seed: 1, newId: () => v7(), now: new Date().toISOString() };
  return studyFromTable(table, guessStudyMatching(table), context).document;
}

describe('a study of a table', () => {
  it('is one that the server takes, whatever its heads and cells are', async () => {
    const anything = fc.oneof(
      fc.string({ maxLength: 140, unit: 'grapheme' }).map((text) => text.replace(/[",\n\r#]/g, '')),
      fc.constantFrom('Ama', 'Bel', '1', '2.5', '1e400', '4:18', '2026-05-04', '∞', ' '),
      fc.double().map(String),
    );
    let made = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(anything, { minLength: 2, maxLength: 5 }),
        fc.array(fc.array(anything, { minLength: 5, maxLength: 5 }), { minLength: 1, maxLength: 8 }),
        async (columns, rows) => {
          const lines = rows.map((row) => row.slice(0, columns.length).join(','));
          const document = studyOf([columns.join(','), ...lines].join('\n'));
          if (!document) return;
          made += 1;
          expect(schemaProblems(StudyDocument, document)).toEqual([]);
          if (made % 20 !== 0) return;
          expect((await server.send('POST', '/studies/import', document)).status).toBe(201);
        },
      ),
      { numRuns: 400, seed: 26 },
    );
    // Most tables of that kind become one, or the test would say little.
    expect(made).toBeGreaterThan(40);
  });
});
