import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Sequelize } from 'sequelize';
import sqlite3 from 'sqlite3';
import { afterAll, describe, expect, it } from 'vitest';
import { documentProblems } from '../../core/formats/study-json.ts';
import { StudyDocument } from '../../core/model/study-document.ts';
import { changeWords } from '../../core/record/change-words.ts';
import { readDocument } from '../store/whole-study.ts';
import { schemaProblems } from '../validate.ts';
import * as studyParts from './migrations/0001-study-parts.ts';
import * as planOfAStudy from './migrations/0002-plan-of-a-study.ts';
import * as changes from './migrations/0003-changes.ts';
import { openDatabase } from './open.ts';
import { allRows, connect, disconnect } from './statements.ts';

const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-old-'));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

const id = (n: number) => `01900000-0000-7000-8000-${String(n).padStart(12, '0')}`;
const NOW = '2026-05-04T10:00:00.000Z';
const LATER = '2026-05-04T12:00:00.000Z';

/** A database as an earlier version left it: one item, one measurand, a reading, a skip and a late change. */
async function oldDatabase(file: string): Promise<void> {
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    dialectModule: sqlite3,
    storage: file,
    logging: false,
  });
  const run = (sql: string) => sequelize.query(sql);
  for (const { up } of [studyParts, planOfAStudy, changes]) for (const statement of up) await run(statement);
  await run('CREATE TABLE migrations (name VARCHAR(255) PRIMARY KEY)');
  for (const { name } of [studyParts, planOfAStudy, changes])
    await run(`INSERT INTO migrations VALUES ('${name}')`);
  const stamp = `'${id(1)}', 1, '${NOW}', '${NOW}'`;
  await run(
    `INSERT INTO studies (id, version, createdAt, updatedAt, title, question, status, rounds, seed, timing, procedure)
     VALUES ('${id(1)}', 1, '${NOW}', '${NOW}', 'Old', '', 'open', 2, 5,
       '{"readingS":35,"setupS":10,"roundWaitS":0,"sessionS":7200,"sessionsPerDay":1}',
       '{"beforeSession":[],"beforeReading":["look"],"waits":[{"what":"settle","durationS":9}]}')`,
  );
  await run(
    `INSERT INTO items (id, studyId, version, createdAt, updatedAt, name, code, mark, role, class, attributes, position)
     VALUES ('${id(2)}', ${stamp}, 'Ama', 'A', 0, 'candidate', '', '[]', 1)`,
  );
  await run(
    `INSERT INTO measurands (id, studyId, version, createdAt, updatedAt, name, unit, form, direction, margin, limits,
       instrument, rule, position)
     VALUES ('${id(3)}', ${stamp}, 'Pull', 'g', 'value', '{"kind":"higher","target":null}',
       '{"kind":"absolute","value":1}', '{"low":null,"high":null}',
       '{"name":"","resolution":null,"accuracyPercent":null,"accuracyConstant":null,"calibratedOn":null}',
       '{"name":"none","parameter":null}', 1)`,
  );
  await run(
    `INSERT INTO readings (id, studyId, version, createdAt, updatedAt, itemId, measurandId, sessionId, round, place,
       levels, parts, source, takenAt, note, photo)
     VALUES ('${id(4)}', ${stamp}, '${id(2)}', '${id(3)}', NULL, 1, 0, '[]',
       '[{"name":"value","text":"3,5","number":3.5}]', 'typed', '${NOW}', 'hand shook', NULL)`,
  );
  const condition = (when: string, text: string) =>
    `{"conditionId":"${id(9)}","at":"${when}","text":"${text}","number":${text}}`;
  await run(
    `INSERT INTO conditions (id, studyId, version, createdAt, updatedAt, quantity, unit, required, limits, position)
     VALUES ('${id(9)}', ${stamp}, 'Air', '°C', 1, '{"low":null,"high":null}', 1),
       ('${id(10)}', ${stamp}, 'Wind', 'm/s', 0, '{"low":4,"high":1.5}', 2),
       ('${id(11)}', ${stamp}, 'Damp', '%', 0, '{"low":4,"high":4}', 3),
       ('${id(12)}', ${stamp}, 'Mains', 'V', 0, '{"low":207,"high":253}', 4)`,
  );
  await run(
    `INSERT INTO sessions (id, studyId, version, createdAt, updatedAt, startedAt, endedAt, operator, instrument,
       conditions, note)
     VALUES ('${id(8)}', ${stamp}, '${NOW}', '${LATER}', '', '',
       '[${condition('start', '21')},${condition('end', '22')}]', '')`,
  );
  await run(
    `INSERT INTO rounds (id, studyId, version, createdAt, updatedAt, number, sessionId, note)
     VALUES ('${id(20)}', ${stamp}, 1, '${id(8)}', 'a door was open'), ('${id(21)}', ${stamp}, 2, NULL, '')`,
  );
  await run(
    `INSERT INTO decisions (id, studyId, version, createdAt, updatedAt, action, readingId, run, reason, decidedAt)
     VALUES ('${id(5)}', ${stamp}, 'skip', NULL,
       '{"round":2,"itemId":"${id(2)}","measurandId":"${id(3)}"}', '', '${NOW}'),
       ('${id(6)}', ${stamp}, 'keep', '${id(4)}', NULL, 'it is right', '${NOW}')`,
  );
  await run(
    `INSERT INTO changes (id, studyId, version, createdAt, updatedAt, measurandId, field, before, after, changedAt)
     VALUES ('${id(7)}', ${stamp}, '${id(3)}', 'margin', '{"kind":"absolute","value":2}',
       '{"kind":"absolute","value":1}', '${NOW}'),
       ('${id(17)}', ${stamp}, '${id(3)}', 'rule', '{"name":"grubbs","parameter":null}',
       '{"name":"none","parameter":null}', '${NOW}')`,
  );
  await sequelize.close();
}

describe('a database of an earlier version', () => {
  it('is brought up to date with everything in it', async () => {
    const file = path.join(folder, 'old.sqlite');
    await oldDatabase(file);
    const database = await openDatabase(file);
    const document = await readDocument(database, id(1));
    expect(schemaProblems(StudyDocument, document)).toEqual([]);
    expect(documentProblems(document)).toEqual([]);
    expect(document.study).toMatchObject({
      blind: 'no',
      timing: { setupS: 10, levelS: 0, roundWaitS: 0, sessionS: 7200, sessionsPerDay: 1 },
      procedure: { waits: [{ what: 'settle', durationS: 9, when: 'reading' }] },
    });
    expect(document.measurands).toMatchObject([
      {
        readingS: 35,
        settings: {},
        expression: null,
        onItems: null,
        // A study that exists keeps the rule that it had.
        rule: { name: 'none', parameter: null, level: 'sample', judges: 'reading' },
      },
    ]);
    expect(document.study.looks).toEqual({ after: [], spending: 'late' });
    expect(document.readings).toMatchObject([{ parts: [{ text: '3,5', number: 3.5 }] }]);
    expect(document.notes).toMatchObject([
      { readingId: id(4), text: 'hand shook', photo: null, removed: false },
      { readingId: null, sessionId: id(8), text: 'Round 1: a door was open', notedAt: NOW },
    ]);
    expect(document.sessions).toMatchObject([
      {
        kind: 'bench',
        pauses: [],
        checked: [],
        conditions: [
          { at: 'start', takenAt: NOW },
          { at: 'end', takenAt: LATER },
        ],
      },
    ]);
    expect(document.conditions).toMatchObject([
      { kind: 'number', words: [], unit: '°C', limits: { low: null, high: null } },
      { kind: 'number', limits: { low: 1.5, high: 4 } },
      { kind: 'number', limits: { low: null, high: 4 } },
      { kind: 'number', limits: { low: 207, high: 253 } },
    ]);
    expect(document.study.misfireReasons).toHaveLength(4);
    expect(document.decisions).toMatchObject([
      { run: { levelIds: [] }, sessionId: null },
      { run: null, sessionId: null },
    ]);
    expect(document.changes).toMatchObject([
      { field: 'margin', readingsThen: 1, reason: '' },
      { field: 'rule' },
    ]);
    expect(document.changes.map((change) => changeWords(change, document))[1]).toBe(
      'rule from Grubbs, per sample, readings by themselves to None',
    );
    await database.close();
    const connection = await connect(file);
    expect(await allRows(connection, 'PRAGMA foreign_key_check')).toEqual([]);
    await disconnect(connection);
  });
});
