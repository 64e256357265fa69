import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import flourSieves from '../demo/flour-sieves.json' with { type: 'json' };
import type { StudyDocument } from '../core/model/study-document.ts';
import { STUDY_FORMAT_VERSION } from '../core/model/study-format.ts';
import { recordOf } from '../core/record/record.ts';
import { sharedServer } from './testing.ts';

const server = await sharedServer();
const FOLDER = path.join(import.meta.dirname, '../core/formats/versions');
const files = readdirSync(FOLDER).sort();

/** What readings are worth, and how they stand. */
const told = (document: StudyDocument) =>
  recordOf(document).readings.map(({ item, measurand, value, standing }) => [
    ...[item.name, measurand.name, value, standing.is],
  ]);

describe('a study that a past version wrote', () => {
  it('is kept here for each version there was', () => {
    const versions = files.map((file) => Number.parseInt(file, 10));
    for (let version = 1; version < STUDY_FORMAT_VERSION; version += 1) expect(versions).toContain(version);
  });
  // The flour sieves as each version wrote them.
  it.each(files)('is read as the same study today: %s', async (file) => {
    const text = readFileSync(path.join(FOLDER, file), 'utf8');
    const { study, readings } = JSON.parse(text) as StudyDocument;
    const taken = await server.send('POST', '/studies/import?copy=yes', text);
    expect([taken.status, taken.body.errors]).toEqual([201, undefined]);
    const { id } = taken.body.study as unknown as { id: string };
    const document = (await server.send('GET', `/studies/${id}/document`)).body as unknown as StudyDocument;
    expect(document.formatVersion).toBe(STUDY_FORMAT_VERSION);
    expect([document.study.title, document.readings.length]).toEqual([study.title, readings.length]);
    // The order of its runs is what it was.
    expect(document.study.draws).toBe('by-stream');
    if (readings.length > 0) expect(told(document)).toEqual(told(flourSieves as unknown as StudyDocument));
  });
});
