import { STUDY_FORMAT_VERSION } from '../model/study-format.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import deskFans from '../../demo/desk-fans.json' with { type: 'json' };
import { MOST_ITEMS, MOST_MEASURANDS } from '../model/limits.ts';
import { NO_CORRECTIONS } from '../model/new-study.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { analyseStudy } from '../analysis/analyse-study.ts';
import { atSetting } from '../analysis/at-setting.ts';
import { testId, testStudy } from '../testing-study.ts';
import { csvNumber, decodeText, readCsv } from './csv-read.ts';
import { FileProblem } from './file-problem.ts';
import { cellText, harmlessCell, readInstant, readRound } from './cells.ts';
import { studyFromCsv, studyToCsv } from './study-csv.ts';
import { copyStudy, documentProblems } from './study-json.ts';
import { upToDate } from '../record/upgrade.ts';

const fans = deskFans as unknown as StudyDocument;
const foreign = { title: 'From a table', newId: testId, now: '2026-05-04T10:00:00.000Z' };

const rowsOf = (text: string) => {
  const rows: [string[], number][] = [];
  let columns: string[] = [];
  readCsv(
    text,
    (header) => {
      columns = header.columns;
    },
    (fields, line) => rows.push([fields, line]),
  );
  return { columns, rows };
};
const problemOf = (work: () => unknown): FileProblem => {
  try {
    work();
  } catch (error) {
    if (error instanceof FileProblem) return error;
    throw error;
  }
  throw new Error('nothing was wrong');
};

describe('CSV', () => {
  it.each([',', ';', '\t'])('is read with “%s”, BOM, comments and blank lines', (sign) => {
    const { columns, rows } = rowsOf(
      `\ufeff# made by hand\r\nitem${sign}value\r\n\r\nA${sign}1\r\n# later\r\nB${sign}2\r\n`,
    );
    expect(columns).toEqual(['item', 'value']);
    expect(rows).toEqual([
      [['A', '1'], 4],
      [['B', '2'], 6],
    ]);
  });
  it('counts lines through quoted line ends', () => {
    const { rows } = rowsOf('item,note,value\nA,"two\nlines",1\n# c\n"B ""x""",plain,2\n');
    expect(rows).toEqual([
      [['A', 'two\nlines', '1'], 2],
      [['B "x"', 'plain', '2'], 5],
    ]);
  });
  it('names the line of a ragged row, plain or quoted', () => {
    expect(problemOf(() => rowsOf('item,value\nA,1\nB,2,3\n')).message).toBe(
      'Line 3: 3 fields, where the header has 2.',
    );
    expect(problemOf(() => rowsOf('item,value\n"A",1\nB\n')).message).toBe(
      'Line 3: 1 field, where the header has 2.',
    );
  });
  it('refuses an empty file, a doubled column and an open quote', () => {
    expect(problemOf(() => rowsOf('')).message).toBe('The file is empty.');
    expect(problemOf(() => rowsOf('\n# only\n')).message).toBe('The file is empty.');
    expect(problemOf(() => rowsOf('a,a\n1,2\n')).message).toContain('twice');
    expect(problemOf(() => rowsOf('item,value\n"A,1\n')).message).toContain('quote');
  });
  it('refuses what is not text', () => {
    expect(() => decodeText(Uint8Array.of(1, 0, 2))).toThrow('not text');
    expect(() => decodeText(Uint8Array.of(0xff, 0xfe, 0x41))).toThrow('UTF-8');
    expect(() => decodeText(Uint8Array.of(0xfe, 0xff, 0x41))).toThrow('UTF-16');
    // One of the two bytes is no mark yet.
    for (const bytes of [
      [0xff, 0x41],
      [0xfe, 0x41],
      [0x41, 0xfe],
      [0x41, 0xff],
    ])
      expect(() => decodeText(Uint8Array.from(bytes))).toThrow('The file is not text in UTF-8.');
    expect(decodeText(new TextEncoder().encode('größe'))).toBe('größe');
    expect(decodeText(Uint8Array.of(0x61, 0, 0x62).subarray(0, 1))).toBe('a');
    expect(() => decodeText(Uint8Array.of(0x61, 0, 0x62))).toThrow('The file is not text.');
    // The mark at the beginning of a file is none of its letters.
    expect(decodeText(Uint8Array.of(0xef, 0xbb, 0xbf, 0x61))).toBe('a');
  });
  it('takes a decimal comma only where it separates nothing', () => {
    expect(csvNumber('12,5', ';')).toBe(12.5);
    expect(csvNumber('12,5', ',')).toBeUndefined();
    expect(csvNumber(' \u22123 ', ',')).toBe(-3);
    for (const cell of ['NaN', '1e999', '0x1', 'Infinity', '1 2', ''])
      expect(csvNumber(cell, ',')).toBeUndefined();
  });
});

describe('a cell', () => {
  it.each(['=1+1', '+4', '-x', '@a', '\tx', "'", "'=x", 'plain', '', "it's"])(
    '%j comes back as it was',
    (text) => {
      const cell = harmlessCell(text);
      expect(cell).not.toMatch(/^[=+\-@\t]/);
      expect(cellText(cell)).toBe(text);
    },
  );
  it.each([
    ['2026-07-04', '2026-07-04T00:00:00.000Z'],
    ['2026-07-04T10:30:00Z', '2026-07-04T10:30:00.000Z'],
    ['2026-07-04 10:30:00.5+02:00', '2026-07-04T08:30:00.500Z'],
    ['Run 7', undefined],
    ['04.07.2026', undefined],
    ['2026-13-04', undefined],
    ['2026-07-04T10:30:60Z', undefined],
  ])('“%s” is the instant %s', (text, instant) => {
    expect(readInstant(text)).toBe(instant);
  });
  it.each([
    ['3', 3],
    [' 10000 ', 10000],
    ['0x10', undefined],
    ['1e2', undefined],
    ['0', undefined],
    ['10001', undefined],
  ])('“%s” is the round %s', (text, round) => {
    expect(readRound(text)).toBe(round);
  });
  it('is a number or not at once, however long it is', () => {
    expect(csvNumber(`${'9'.repeat(30000)}x`, ',')).toBeUndefined();
  });
});

describe('a study as CSV', () => {
  it('keeps names that a spreadsheet would run, and rows that begin with #', () => {
    const { document, items, measurand, read } = testStudy(['Ama', 'Bel']);
    Object.assign(items[0] as object, { name: '=HYPERLINK("x")', code: '@1' });
    measurand.name = '-pull';
    read(0, 1, '3');
    const csv = studyToCsv(document);
    expect(csv).toContain(`'@1,'-pull,3`);
    expect(studyFromCsv(csv, foreign).document).toEqual(document);
    const { document: plain } = studyFromCsv('item,value\nAma,1\n#2,3\n', foreign);
    expect([plain.readings.length, plain.items[1]?.name]).toEqual([2, '#2']);
  });
  it('is the same study when it is read again', () => {
    expect(studyFromCsv(studyToCsv(fans), foreign).document).toEqual(fans);
  });
  it('stays the same with any names, notes and texts', () => {
    const word = fc
      .string({ minLength: 1, maxLength: 20, unit: 'grapheme' })
      .filter((text) => text.trim() === text && text !== '');
    fc.assert(
      fc.property(
        word,
        fc.string({ maxLength: 60, unit: 'binary' }),
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        (name, note, number) => {
          const { document, items, read } = testStudy(['Ama', 'Bel']);
          (items[0] as (typeof items)[0]).name = name;
          const reading = read(0, 1, String(number === 0 ? 0 : number));
          // A lone carriage return inside quotes is kept by the format; a BOM in front of the file is not ours.
          const { studyId, version, createdAt, updatedAt } = reading;
          document.notes = [
            {
              ...{ id: testId(), studyId, version, createdAt, updatedAt, readingId: reading.id },
              ...{ itemId: null, sessionId: null, run: null, text: note, photo: null },
              ...{ removed: false, notedAt: createdAt },
            },
          ];
          expect(studyFromCsv(studyToCsv(document), foreign).document).toEqual(document);
        },
      ),
      { numRuns: 150 },
    );
  });
  it('says what is left out, by what and why', () => {
    const { document, measurand, read, decide } = testStudy(['Ama']);
    decide('leave-out', { readingId: read(0, 1, '9').id, reason: 'draught, at the door' });
    read(0, 2, '3');
    measurand.rule = { ...measurand.rule, name: 'none' };
    const lines = studyToCsv(document).split('\n');
    expect(lines[3]).toContain(',9,g,yes,hand,"draught, at the door",');
    expect(lines[4]).toContain(',3,g,no,,,');
    const undone = read(0, 3, '4');
    decide('withdraw', { readingId: undone.id, reason: 'typed twice' });
    expect(studyToCsv(document).split('\n')[5]).toContain(',4,g,yes,undone,typed twice,');
  });
  it('refuses a reading of what the plan does not have, or whose parts are none', () => {
    const { document, read } = testStudy(['Ama']);
    read(0, 1, '9');
    const csv = studyToCsv(document);
    const said = (from: string | RegExp, to: string) =>
      problemOf(() => studyFromCsv(csv.replace(from, to), foreign)).message;
    expect(said(',Ama,I1,', ',Ama,I9,')).toBe('Line 4: column “code”: there is no item with the code “I9”.');
    expect(said(',I1,Pull,', ',I1,Push,')).toBe('Line 4: column “measurand”: there is no measurand “Push”.');
    expect(said(/"\[\{""name.*\}\]"/, '[half')).toBe('Line 4: column “parts” is not JSON.');
  });
  it('refuses a reading that was changed in a spreadsheet, with its line', () => {
    const changed = studyToCsv(fans).replace(/,2\.71,m\/s/, ',2.72,m/s');
    const problem = problemOf(() => studyFromCsv(changed, foreign));
    expect(problem.line).toBe(4);
    expect(problem.message).toContain('column “value” says 2.72');
  });
});

describe('a plain table', () => {
  it('becomes a new study with rounds counted per item', () => {
    const { document, missing } = studyFromCsv('item;value\nAma;3,5\nBel;4\nAma;3,7\nBel;\n', foreign);
    expect(missing).toBe(1);
    expect(document.items.map(({ name, code }) => [name, code])).toEqual([
      ['Ama', 'A'],
      ['Bel', 'B'],
    ]);
    expect(document.readings.map(({ round, parts }) => [round, parts[0]?.number])).toEqual([
      [1, 3.5],
      [1, 4],
      [2, 3.7],
    ]);
    expect(documentProblems(document)).toEqual([]);
  });
  it('plans no more runs than a study may have', () => {
    // Ten items with five measurands each make 50 runs a round, and at most 20,000 can be planned.
    const rows = [...'VWXYZ'].flatMap((name) =>
      Array.from({ length: 10 }, (_, i) => `Item ${String(i)},${name},450,1`),
    );
    const csv = ['item,measurand,round,value', ...rows].join('\n');
    expect(studyFromCsv(csv, foreign).document.study.rounds).toBe(400);
  });
  it('carries over what was left out', () => {
    const { document } = studyFromCsv('item,value,left_out,reason\nAma,3,no,\nAma,9,yes,slipped\n', foreign);
    const analysis = atSetting(analyseStudy(document, document.measurands[0]?.id as string));
    expect(analysis.readings[1]?.use).toMatchObject({ is: 'left out', by: 'hand', reason: 'slipped' });
  });
  it('takes notes, units and times over, and texts as they were where they read as the number', () => {
    const { document } = studyFromCsv(
      'item;value;unit;note;taken_at;left_out\nAma;1,50;g;a dog;2026-05-04T10:00:00Z;\nAma;9;g; ;;x\n',
      foreign,
    );
    expect(document.measurands.map(({ name, unit }) => [name, unit])).toEqual([['value', 'g']]);
    expect(document.readings.map(({ parts, takenAt }) => [parts[0]?.text, takenAt])).toEqual([
      ['1,50', '2026-05-04T10:00:00.000Z'],
      ['9', foreign.now],
    ]);
    expect(document.notes.every(({ removed, photo }) => !removed && photo === null)).toBe(true);
    expect(document.notes.map(({ readingId, text }) => [readingId, text])).toEqual([
      [document.readings[0]?.id, 'a dog'],
    ]);
    expect(document.decisions.map(({ readingId, reason }) => [readingId, reason])).toEqual([
      [document.readings[1]?.id, 'left out in the imported table'],
    ]);
  });
  it('has no more items and measurands than a study may have, and a name in each row', () => {
    const rows = (count: number, row: (i: number) => string) =>
      ['item,measurand,value', ...Array.from({ length: count }, (_, i) => row(i))].join('\n');
    const most = (text: string) => problemOf(() => studyFromCsv(text, foreign)).message;
    expect(most(rows(MOST_ITEMS + 1, (i) => `Item ${String(i)},Speed,1`))).toBe(
      `Line ${String(MOST_ITEMS + 2)}: there are more than ${String(MOST_ITEMS)} items, and a study has no more.`,
    );
    expect(most(rows(MOST_MEASURANDS + 1, (i) => `Ama,Speed ${String(i)},1`))).toBe(
      `Line ${String(MOST_MEASURANDS + 2)}: there are more than ${String(MOST_MEASURANDS)} measurands, and a study has no more.`,
    );
    expect(most('item,value\nAma,1\n ,2\n')).toBe('Line 3: column “item” is empty.');
  });
  it('must have its columns and numbers', () => {
    expect(problemOf(() => studyFromCsv('name,value\nA,1\n', foreign)).message).toContain('no column “item”');
    expect(problemOf(() => studyFromCsv('item,value\nA,1\nB,x1\n', foreign)).message).toBe(
      'Line 3: column “value” is not a number: “x1”.',
    );
    expect(problemOf(() => studyFromCsv('item,value,round\nA,1,0\n', foreign)).message).toContain(
      'column “round”',
    );
    expect(problemOf(() => studyFromCsv('item,value,taken_at\nA,1,soon\n', foreign)).message).toContain(
      'taken_at',
    );
    expect(problemOf(() => studyFromCsv('item,value\n', foreign)).message).toContain('no readings');
    expect(problemOf(() => studyFromCsv(`item,value\nA,1\n${'x'.repeat(300)},2\n`, foreign)).message).toBe(
      'Line 3: column “item” has 300 characters, at most 120 fit.',
    );
  });
});

describe('a copied study', () => {
  it('has no id of the old one, and nothing wrong inside', () => {
    const copy = copyStudy(fans, 'everything', testId(), testId, 'Desk fans, again', foreign.now);
    const text = JSON.stringify(copy);
    for (const { id } of [...fans.items, ...fans.readings, ...fans.decisions]) expect(text).not.toContain(id);
    expect(documentProblems(copy)).toEqual([]);
    expect(copy.readings).toHaveLength(fans.readings.length);
    const before = atSetting(analyseStudy(fans, fans.measurands[0]?.id as string, { resamples: 0 }));
    const after = atSetting(analyseStudy(copy, copy.measurands[0]?.id as string, { resamples: 0 }));
    expect(after.classes[0]?.analysis).toEqual(before.classes[0]?.analysis);
  });
  it('of the plan alone has no readings and no decisions', () => {
    const copy = copyStudy(fans, 'plan', testId(), testId, 'Plan', foreign.now);
    expect(copy.items).toHaveLength(6);
    expect(copy.readings).toEqual([]);
    expect(copy.decisions).toEqual([]);
  });
});

describe('a copied plan with claims, struck cells and a log', () => {
  const full = () => {
    const { document, items, measurand } = testStudy(['Ama', 'Bel']);
    const stamp = { studyId: document.study.id, version: 1, createdAt: foreign.now, updatedAt: foreign.now };
    const factor = { id: testId(), ...stamp, name: 'Side', kind: 'position' as const };
    document.factors.push({ ...factor, unit: '', irreversible: false, position: 1 });
    // The ids of levels and items are made in another order than that of the list.
    const levelIds = [testId(), testId()].reverse();
    for (const [i, id] of levelIds.entries()) {
      const level = { id, ...stamp, factorId: factor.id, name: `L${String(i)}`, value: null };
      document.levels.push({ ...level, baseline: i === 0, position: i + 1 });
    }
    const [ama, bel] = items as [(typeof items)[0], (typeof items)[0]];
    document.study.struck = [{ itemId: bel.id, levelIds: [levelIds[0] as string] }];
    measurand.onItems = [ama.id];
    const claim = {
      ...{ id: testId(), ...stamp, kind: 'order' as const, measurandId: measurand.id },
      order: [bel.id, ama.id],
      ...{ itemId: null, value: null, unit: '', factorId: null, attribute: '', stepSize: null, source: '' },
    };
    document.claims.push(claim);
    document.changes.push({
      ...{ id: testId(), ...stamp, measurandId: measurand.id, itemId: null, field: 'claim', before: 'null' },
      ...{ after: JSON.stringify(claim), readingsThen: 0, reason: '', changedAt: foreign.now },
    });
    return document;
  };
  it('names its own parts everywhere, within the log too', () => {
    const document = full();
    const copy = copyStudy(document, 'everything', testId(), testId, 'Again', foreign.now);
    const old = [...document.items, ...document.levels, ...document.claims, ...document.measurands];
    for (const { id } of old) expect(JSON.stringify(copy)).not.toContain(id);
    expect(documentProblems(copy)).toEqual([]);
    const named = (ids: readonly string[]) =>
      ids.map((id) => copy.items.find((item) => item.id === id)?.name);
    expect(named(copy.claims[0]?.order ?? [])).toEqual(['Bel', 'Ama']);
    expect(named([copy.study.struck[0]?.itemId ?? ''])).toEqual(['Bel']);
    expect(named(copy.measurands[0]?.onItems ?? [])).toEqual(['Ama']);
    expect(copy.study.struck[0]?.levelIds).toEqual([copy.levels[0]?.id]);
  });
  it('takes the plan without what was done under it', () => {
    const document = full();
    document.study.deviations = [{ text: 'The door was open', notedAt: foreign.now }];
    document.study.blind = 'opened';
    const copy = copyStudy(document, 'plan', testId(), testId, 'Again', foreign.now);
    expect(copy.claims).toHaveLength(1);
    expect(copy.study.struck).toHaveLength(1);
    expect(copy.changes).toEqual([]);
    expect(copy.study.deviations).toEqual([]);
    expect(copy.study.blind).toBe('blind');
  });
});

describe('a document that an earlier version wrote', () => {
  /** Takes away what could not be said yet. */
  const earlier = (): Record<string, unknown> => {
    const { claims: _claims, ...document } = structuredClone(
      testStudy(['Ama', 'Bel'], { blind: 'no' }).document,
    ) as unknown as Record<string, unknown> & { study: Record<string, unknown> };
    const {
      blind: _blind,
      struck: _struck,
      reorders: _reorders,
      deviations: _dev,
      ...study
    } = document.study;
    study.timing = { readingS: 35, setupS: 10, roundWaitS: 0, sessionS: 7200, sessionsPerDay: 1 };
    study.procedure = { beforeSession: [], beforeReading: [], waits: [{ what: 'settle', durationS: 5 }] };
    const measurands = (document.measurands as Record<string, unknown>[]).map((measurand) => {
      const { settings: _settings, expression: _expression, onItems: _on, readingS: _s, ...rest } = measurand;
      return { ...rest, rule: { name: 'grubbs', parameter: null } };
    });
    return { ...document, formatVersion: 1, study, measurands };
  };
  it('is brought up to date as it stood then', () => {
    const now = upToDate(earlier()) as StudyDocument;
    expect(now.claims).toEqual([]);
    expect(now.study).toMatchObject({ blind: 'no', struck: [], reorders: [], deviations: [] });
    expect(now.study.timing).toEqual({
      levelS: 0,
      setupS: 10,
      roundWaitS: 0,
      sessionS: 7200,
      sessionsPerDay: 1,
    });
    expect(now.study.procedure.waits).toEqual([{ when: 'reading', what: 'settle', durationS: 5 }]);
    expect(now.measurands[0]).toMatchObject({ settings: {}, expression: null, onItems: null, readingS: 35 });
    expect(now.measurands[0]?.corrections).toEqual(NO_CORRECTIONS);
    // Studies that exist keep the rule that they had.
    expect(now.measurands[0]?.rule).toEqual({
      name: 'grubbs',
      parameter: null,
      level: 'sample',
      judges: 'reading',
    });
    expect(now.study.looks).toEqual({ after: [], spending: 'late' });
    expect(now.study.report).toEqual({ order: [], hidden: [], words: [], photos: [] });
    expect(now.study.scoring).toEqual({ school: 'span', missing: 'score-the-rest', weights: [] });
    expect(now.formatVersion).toBe(STUDY_FORMAT_VERSION);
  });
  it('stays as it is once it is up to date, and garbage stays garbage', () => {
    const once = upToDate(earlier());
    expect(upToDate(structuredClone(once))).toEqual(once);
    expect(upToDate(structuredClone(fans))).toEqual(fans);
    for (const garbage of [
      null,
      7,
      'x',
      [],
      {},
      { format: 'brackenridge-study', formatVersion: STUDY_FORMAT_VERSION },
    ]) {
      expect(upToDate(garbage)).toEqual(garbage);
    }
    for (const damage of [{ study: 3 }, { measurands: 'x' }, { decisions: [null] }, { study: null }]) {
      expect(() => upToDate({ ...earlier(), ...damage })).not.toThrow();
    }
  });
});

describe('a CSV file of a study whose line about the study is damaged', () => {
  const csv = studyToCsv(fans);
  const line = csv.split('\n').find((text) => text.startsWith('# study-without-readings ')) ?? '';
  const about = JSON.parse(line.slice('# study-without-readings '.length)) as Record<string, unknown>;
  const withAbout = (text: string) => csv.replace(line, () => `# study-without-readings ${text}`);
  const DAMAGED = 'The comment line that holds the study is damaged.';
  it.each([
    ['half of it', JSON.stringify(about).slice(0, 500)],
    ['null', 'null'],
    ['a number', '7'],
    ['no measurands', JSON.stringify({ ...about, measurands: undefined })],
    ['measurands that are none', JSON.stringify({ ...about, measurands: [null] })],
    ['no items', JSON.stringify({ ...about, items: 'many' })],
    ['items that are none', JSON.stringify({ ...about, items: [3] })],
    ['no study', JSON.stringify({ ...about, study: 'this one' })],
  ])('is refused where it holds %s', (_what, text) => {
    expect(() => studyFromCsv(withAbout(text), foreign)).toThrow(DAMAGED);
  });
  it('is refused where a column of the export is missing, with which', () => {
    const lost = csv.replace(',session_id,', ',session,');
    expect(lost).not.toBe(csv);
    expect(() => studyFromCsv(lost, foreign)).toThrow('the column “session_id” of the export is missing.');
  });
});

describe('a damaged document', () => {
  it.each([
    [
      'a reading of no item',
      (d: StudyDocument) => ((d.readings[3] as { itemId: string }).itemId = testId()),
      '/readings/3/itemId',
    ],
    [
      'an id twice',
      (d: StudyDocument) => ((d.readings[4] as { id: string }).id = d.readings[3]?.id as string),
      '/readings/4/id',
    ],
    [
      'a part of another study',
      (d: StudyDocument) => ((d.items[1] as { studyId: string }).studyId = testId()),
      '/items/1/studyId',
    ],
    ['a code twice', (d: StudyDocument) => ((d.items[1] as { code: string }).code = 'br'), '/items/0/code'],
    [
      'limits the wrong way round',
      (d: StudyDocument) => ((d.measurands[0] as { limits: object }).limits = { low: 9, high: 1 }),
      '/measurands/0/limits/low',
    ],
    [
      'a number that is not its text',
      (d: StudyDocument) => ((d.readings[0]?.parts[0] as { number: number }).number = 99),
      '/readings/0/parts/0/number',
    ],
    [
      'a target that is missing',
      (d: StudyDocument) =>
        ((d.measurands[0] as { direction: object }).direction = { kind: 'nearest', target: null }),
      '/measurands/0/direction/target',
    ],
  ])('with %s is told where', (_what, damage, path) => {
    const document = structuredClone(fans);
    damage(document);
    expect(documentProblems(document).map((problem) => problem.path)).toContain(path);
  });
  it('is not found in the demo', () => {
    expect(documentProblems(fans)).toEqual([]);
  });
});
