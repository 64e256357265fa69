import { describe, expect, it } from 'vitest';
import deskFans from '../../demo/desk-fans.json' with { type: 'json' };
import flourSieves from '../../demo/flour-sieves.json' with { type: 'json' };
import kitchenThermometers from '../../demo/kitchen-thermometers.json' with { type: 'json' };
import loggedFlasks from '../../demo/logged-flasks.json' with { type: 'json' };
import lawnSprinklers from '../../demo/lawn-sprinklers.json' with { type: 'json' };
import tapAerators from '../../demo/tap-aerators.json' with { type: 'json' };
import { analyseStudy } from '../analysis/analyse-study.ts';
import { inspectStudy } from '../analysis/inspect-study.ts';
import { atSetting } from '../analysis/at-setting.ts';
import { REPORT_PARTS } from '../model/words.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { newSession } from '../plan/new-parts.ts';
import { levelledStudy, testId, testStudy, withLevels } from '../testing-study.ts';
import { answer } from './answer.ts';
import { composeReport } from './compose.ts';
import { reportedOf } from './reported.ts';
import { meanWords } from './results.ts';
import { type ReportPart, numbersIn, outdatedNumbers, partsInOrder, reportNumbers } from './report.ts';

const DEMOS = { deskFans, flourSieves, kitchenThermometers, lawnSprinklers, loggedFlasks, tapAerators };
const demo = (name: keyof typeof DEMOS) => structuredClone(DEMOS[name]) as unknown as StudyDocument;
const OPTIONS = { when: (instant: string) => instant.slice(0, 10), program: '1.2.3' };
const compose = (document: StudyDocument) => composeReport(document, OPTIONS);

const texts = (part: ReportPart | undefined): string[] =>
  (part?.blocks ?? []).flatMap((block) => {
    if (block.kind === 'lead' || block.kind === 'text') return [block.text];
    if (block.kind === 'list') return block.items;
    if (block.kind === 'table') return block.table.rows.map((row) => row.map(({ text }) => text).join(' | '));
    return block.kind === 'picture' ? [block.caption] : [];
  });
const part = (document: StudyDocument, name: string) =>
  compose(document).parts.find((part) => part.name === name);

describe('the report of a study', () => {
  it.each(Object.keys(DEMOS) as (keyof typeof DEMOS)[])(
    'of %s has every part that has something to say, and no hole in a sentence',
    (name) => {
      const { parts } = compose(demo(name));
      expect(parts.map((part) => part.name)).toEqual(expect.arrayContaining(['answer', 'picture', 'method']));
      for (const text of parts.flatMap(texts)) {
        expect(text).not.toMatch(/undefined|NaN|null|Infinity|\w\s\s|\(\)|\.\./);
      }
      for (const { blocks } of parts) {
        for (const block of blocks) {
          if (block.kind !== 'table') continue;
          expect(block.table.rows.every((row) => row.length === block.table.head.length)).toBe(true);
        }
      }
    },
  );
  it('says of which class a picture is, where there are several', () => {
    const captions = (document: StudyDocument) =>
      (part(document, 'picture')?.blocks ?? []).flatMap((block) =>
        block.kind === 'picture'
          ? [block.caption.replace(/^((?:[^:]*: )?Air speed|(?:[^:]*: )?Flow).*$/su, '$1')]
          : [],
      );
    const [fans, aerators] = [demo('deskFans'), demo('tapAerators')];
    expect(captions(fans)).toEqual(['Air speed']);
    expect(new Set(captions(aerators))).toEqual(new Set(['Flow']));
    for (const { items } of [fans, aerators]) for (const item of items.slice(0, 2)) item.class = 'Small';
    expect(captions(fans)).toEqual(['Small: Air speed', 'Without a class: Air speed']);
    expect(new Set(captions(aerators))).toEqual(new Set(['Small: Flow', 'Without a class: Flow']));
  });
  it('says what the ranking says', () => {
    const document = demo('deskFans');
    const [speed] = document.measurands;
    const [group] = atSetting(analyseStudy(document, speed?.id as string)).classes;
    expect(texts(part(document, 'answer'))).toEqual([
      answer(group?.items.map(({ name }) => name) ?? [], group?.analysis as never, 'm/s').sentence,
    ]);
  });
  it('ranks by mean with its expanded uncertainty, and says how far each is from the best', () => {
    const rows = texts(part(demo('deskFans'), 'ranking'));
    expect(rows[0]).toBe('1 | Calvessa 2 | 3.44 ± 0.10 | 7 |  | ');
    expect(rows[5]).toBe('6 | Quillop S | 2.699 ± 0.084 | 8 | 0.743 | behind');
  });
  it('tells a study with levels as one story', () => {
    const report = compose(demo('tapAerators'));
    const pictures = report.parts.flatMap(({ blocks }) => blocks.filter(({ kind }) => kind === 'picture'));
    expect(pictures).toHaveLength(2);
    expect(texts(report.parts.find(({ name }) => name === 'ranking'))[0]).toBe(
      'Korre Eco | 4.13 (1) | 17.33 (1–5) | 4.50 (1)',
    );
  });
  it('prints a range that is known at a level as a range, and draws no line through it', () => {
    const { document, items, measurand, factor, levels } = levelledStudy(
      { items: 3, levels: 2, rounds: 4 },
      ({ item, level, round }) =>
        item === 2 && level === 1 ? undefined : 10 + item + 3 * level + (round % 2) / 10,
    );
    measurand.direction = { kind: 'higher', target: null };
    const { id: studyId, version, createdAt, updatedAt } = document.study;
    document.figures = [
      {
        ...{ id: testId(), studyId, version, createdAt, updatedAt, source: '', kind: 'range' },
        ...{ itemId: items[2]?.id ?? '', measurandId: measurand.id },
        levels: [{ factorId: factor.id, levelId: levels[1]?.id ?? '' }],
        ...{ n: null, mean: null, sd: null, low: 8, high: 11 },
      },
    ];
    const rows = texts(part(document, 'ranking'));
    expect(rows.find((row) => row.startsWith('Item 3'))).toMatch(
      /^Item 3 \| 12\.05\d* \(1\) \| 8 to 11 \(3\)$/u,
    );
    // It is ahead at the first level and behind at the second; where the lines cross, nobody knows.
    const [over] = reportedOf(document, { pairAlpha: 0.05 })[0]?.all ?? [];
    expect(over?.classes[0]?.turns.map(({ settled, at }) => [settled, at])).toEqual([
      [true, null],
      [true, null],
    ]);
  });
  it('speaks of every setting of a second factor, of all of them first', () => {
    const made = levelledStudy(
      { items: 2, levels: 2, rounds: 4 },
      ({ item, level, round }) => 10 * item + level + 0.01 * ((3 * item + 2 * level + round) % 4),
    );
    made.measurand.direction = { kind: 'higher', target: null };
    const other = withLevels(made.document, 2);
    Object.assign(other.factor, { name: 'Lid', position: 2 });
    other.levels.forEach((level, i) => (level.name = i === 0 ? 'open' : 'shut'));
    const [open, shut] = other.levels;
    const again = made.document.readings.map((reading) => ({
      ...reading,
      id: testId(),
      levels: [...reading.levels, { factorId: other.factor.id, levelId: shut?.id as string }],
    }));
    for (const reading of made.document.readings) {
      reading.levels = [...reading.levels, { factorId: other.factor.id, levelId: open?.id as string }];
    }
    made.document.readings.push(...again);
    expect(texts(part(made.document, 'answer'))).toEqual([
      'Item 2 is first at all 4 settings.',
      'open: Item 2 is first at both 1 bar and 2 bar.',
      'shut: Item 2 is first at both 1 bar and 2 bar.',
    ]);
    expect(part(made.document, 'picture')?.blocks).toHaveLength(2);
    expect(part(made.document, 'ranking')?.blocks).toHaveLength(2);
  });
  it('names the sources of what was used, and the confidence of a look', () => {
    const words = (document: StudyDocument) => texts(part(document, 'method')).join(' ');
    expect(words(demo('deskFans'))).toContain('Rosner 1983; Smyth 2004; Šidák 1967; Tamhane 1979');
    expect(words(demo('deskFans'))).toContain('with 95 % confidence');
    // Half of the rounds are in, of which a look at half of them makes use: see lookLevels.
    const half = demo('deskFans');
    half.study.looks = { after: [half.study.rounds / 2], spending: 'late' };
    half.readings = half.readings.filter(({ round }) => round <= half.study.rounds / 2);
    expect(words(half)).toContain('with 99.7 % confidence');
    expect(texts(part(half, 'answer'))[0]).toMatch(/^So far: /);
    const plain = demo('deskFans');
    for (const measurand of plain.measurands) measurand.rule = { ...measurand.rule, name: 'none' };
    expect(words(plain)).not.toContain('Rosner');
  });
  it('says what the conditions of a session were, in figures and in words', () => {
    const sprinklers = demo('lawnSprinklers');
    const [session] = sprinklers.sessions;
    expect(texts(part(sprinklers, 'sessions'))[0]?.replaceAll('\u202f', ' ')).toContain(
      '; Wind 1.8 to 4.6 m/s; Pressure at the tap 2 to 1.7 bar; Lawn: dry, then damp',
    );
    const lawn = sprinklers.conditions.find(({ quantity }) => quantity === 'Lawn');
    const noted = (...words: string[]) => {
      const conditions = words.map((text) => ({
        ...{ conditionId: lawn?.id ?? '', at: 'during' as const, takenAt: session?.startedAt ?? '' },
        ...{ text, number: null },
      }));
      const sessions = sprinklers.sessions.map((other) => ({ ...other, conditions }));
      return texts(part({ ...sprinklers, sessions }, 'sessions'))[0]
        ?.split('; ')
        .at(-1);
    };
    expect(noted('dry', 'Dry')).toBe('Lawn: dry');
    expect(noted('dry', 'wet', 'dry')).toBe('Lawn: dry, then wet, then dry');
  });
  it('says of each session who took what with which instrument, the earliest first', () => {
    const { document, read } = testStudy(['Ama', 'Bel']);
    const { id: studyId, version, createdAt, updatedAt } = document.study;
    const session = (id: string, day: number, about: object) => ({
      ...{ id, studyId, version, createdAt, updatedAt },
      ...newSession(`2026-05-0${String(day)}T10:00:00.000Z`),
      ...about,
    });
    document.sessions.push(
      session('later', 6, { operator: 'Ola', instrument: 'Meter', note: 'It rained.' }),
      session('table', 5, { kind: 'import' }),
    );
    read(0, 1, '3').sessionId = 'later';
    read(1, 1, '4').sessionId = 'later';
    read(1, 2, '4').sessionId = 'table';
    expect(texts(part(document, 'sessions')).slice(0, 2)).toEqual([
      '2026-05-05, read in from a table; 1 reading',
      '2026-05-06; by Ola; with Meter; 2 readings; It rained.',
    ]);
  });
  it('lists the first forty of the readings that do not count, and says so', () => {
    const leftOut = (count: number) => {
      const { document, read, decide } = testStudy(['Ama', 'Bel']);
      for (let i = 0; i < count; i += 1)
        decide('leave-out', { readingId: read(0, i + 1, '3').id, reason: 'x' });
      read(1, 1, '3');
      const found = part(document, 'left-out')?.blocks.find(({ kind }) => kind === 'table');
      const { table } = found as unknown as { table: { rows: unknown[]; caption?: string } };
      return [table.rows.length, table.caption];
    };
    expect(leftOut(40)).toEqual([40, expect.not.stringContaining('first')]);
    expect(leftOut(41)).toEqual([
      40,
      expect.stringContaining('The first 40 of 41 readings that do not count'),
    ]);
  });
  it('lists a reading without a value among what was left out', () => {
    const { document, read, decide } = testStudy(['Ama', 'Bel']);
    const misfired = read(0, 1, '');
    read(1, 1, '3');
    decide('misfire', { readingId: misfired.id, reason: 'it slipped', decidedAt: misfired.takenAt });
    const table = part(document, 'left-out')?.blocks.find(({ kind }) => kind === 'table');
    const cells = (table as { table: { rows: { text: string }[][] } } | undefined)?.table.rows[0];
    expect(cells?.map(({ text }) => text)).toEqual(['Ama', 'Pull', 'round 1', '–', 'misfire: it slipped']);
  });
  it('lists what was left out, by what and why', () => {
    expect(texts(part(demo('deskFans'), 'left-out'))).toContain(
      'Dappelin | Air speed at one metre | round 2 | 2.48\u202fm/s | misfire: Door opened during the reading',
    );
  });
  it('carries the tester’s answers to findings', () => {
    const document = demo('deskFans');
    const unanswered = texts(part(document, 'findings'));
    expect(unanswered[0]).toContain('Not answered.');
    document.study.answers = [
      {
        finding: inspectStudy(document)[0]?.id ?? '',
        text: 'It was read on a hot day',
        answeredAt: '2026-09-14T10:00:00Z',
      },
    ];
    expect(texts(part(document, 'findings'))[0]).toContain('The tester: It was read on a hot day');
  });
  it('says what was changed after the readings, with the reason', () => {
    const document = demo('deskFans');
    expect(texts(part(document, 'plan'))[0]).toContain('before the first reading');
    const { id: studyId, createdAt, updatedAt } = document.study;
    document.changes.push({
      ...{ id: document.readings[0]?.id as string, studyId, version: 1, createdAt, updatedAt },
      ...{ measurandId: document.measurands[0]?.id as string, itemId: null, field: 'margin' },
      before: JSON.stringify({ kind: 'absolute', value: 0.2 }),
      after: JSON.stringify({ kind: 'absolute', value: 0.1 }),
      ...{ readingsThen: 10, reason: 'typing error', changedAt: '2026-09-13T11:00:00Z' },
    });
    expect(texts(part(document, 'plan'))[1]).toMatch(
      /margin from 0\.2\sm\/s to 0\.1\sm\/s, 2026-09-13: typing error/,
    );
  });
  it('keeps the tester’s order, and knows parts that came later', () => {
    const document = demo('deskFans');
    document.study.report.order = ['method', 'answer'];
    const names = compose(document).parts.map(({ name }) => name);
    expect(names.slice(0, 3)).toEqual(['method', 'answer', 'picture']);
    expect([...partsInOrder(['limits'])].sort()).toEqual([...REPORT_PARTS].sort());
  });
  it('shows the photos that were chosen and are still there', () => {
    const document = demo('deskFans');
    const { id: studyId, createdAt, updatedAt } = document.study;
    const note = {
      ...{ id: document.items[0]?.id as string, studyId, version: 1, createdAt, updatedAt },
      ...{ readingId: null, itemId: null, sessionId: null, run: null, text: 'The bench' },
      ...{ photo: `${'a'.repeat(64)}.jpg`, removed: false, notedAt: createdAt },
    };
    document.notes.push(note);
    expect(part(document, 'photos')).toBeUndefined();
    document.study.report.photos = [note.id];
    expect(part(document, 'photos')?.blocks[0]).toMatchObject({ photos: [{ caption: 'The bench' }] });
    note.removed = true;
    expect(part(document, 'photos')).toBeUndefined();
  });
  it('of a study without a reading says so', () => {
    const { document } = testStudy(['Ama', 'Bel']);
    expect(texts(part(document, 'answer'))).toEqual(['Nothing was read yet.']);
    expect(part(document, 'ranking')).toBeUndefined();
  });
});

describe('a mean with its uncertainty', () => {
  it('is rounded by two figures of it', () => {
    const budget = { expanded: 0.0372 } as never;
    expect(meanWords(4.12345, budget, String)).toBe('4.123 ± 0.037');
    expect(meanWords(4.12345, { expanded: 12.6 }, String)).toBe('4 ± 13');
    expect(meanWords(4.5, undefined, (value) => value.toFixed(2))).toBe('4.50');
  });
});

describe('numbers in the tester’s words', () => {
  it('are read however they are written', () => {
    expect(numbersIn('Calvessa leads by 0,22 m/s; −3 dB, 1\u202f200 W and 95 %.')).toEqual([
      '0.22',
      '-3',
      '1200',
      '95',
    ]);
    expect(numbersIn('none')).toEqual([]);
  });
  it('are outdated when the report shows them no more, and only those that it showed', () => {
    const document = demo('deskFans');
    const shown = reportNumbers(compose(document));
    const figures = numbersIn('Quillop S is 0.743 behind, at 34 EUR.').filter((number) => shown.has(number));
    expect(figures).toEqual(['0.743']);
    expect(outdatedNumbers({ figures }, shown)).toEqual([]);
    const quillop = document.items.find(({ name }) => name === 'Quillop S')?.id;
    document.readings = document.readings.filter(({ itemId, round }) => itemId !== quillop || round < 4);
    expect(outdatedNumbers({ figures }, reportNumbers(compose(document)))).toEqual(['0.743']);
  });
});

describe('a report of readings from traces', () => {
  it('says from what and how they were worked out', () => {
    const { parts } = composeReport(loggedFlasks as unknown as StudyDocument, OPTIONS);
    const text = JSON.stringify(parts.find(({ name }) => name === 'method'));
    expect(text).toContain(
      '25 readings of Time constant were worked out from 5 logged files: time constant, with “Room (°C)” taken off, from 0:30:00 to 8:00:00 after the start.',
    );
    expect(JSON.stringify(parts)).toContain('Velt 1');
  });
});

describe('what is said of where readings came from', () => {
  it('names the run order, unless every reading came from a table', () => {
    const { document, read } = testStudy(['Ama', 'Bel']);
    const computed = () =>
      compose(document)
        .parts.flatMap((found) => texts(found))
        .find((text) => text.startsWith('Brackenridge 1.2.3')) ?? '';
    expect(computed()).toContain('Run order from seed');
    read(0, 1, '3').source = 'import';
    expect(computed()).not.toContain('Run order');
    read(1, 1, '4');
    expect(computed()).toContain('Run order from seed');
  });
});

describe('the table of a ranking', () => {
  const heads = (document: StudyDocument) =>
    compose(document).parts.flatMap(({ blocks }) =>
      blocks.flatMap((block) =>
        block.kind === 'table' && block.table.head[0] === 'Place'
          ? [[block.table.head[2], block.table.head[4]]]
          : [],
      ),
    );
  it('has means, and of marks their medians and mean ranks', () => {
    expect(heads(demo('deskFans'))[0]).toEqual(['Mean ± U', 'From the best']);
    const marks = testStudy(['Ama', 'Bel', 'Cor']);
    Object.assign(marks.measurand, { form: 'score', unit: '', settings: { marks: ['bad', 'fair', 'good'] } });
    for (const round of [1, 2, 3, 4])
      ['bad', 'fair', 'good'].forEach((text, item) => {
        marks.read(item, round, '').parts = [{ name: 'mark', text, number: item + 1 }];
      });
    expect(heads(marks.document)[0]).toEqual(['Median mark', 'Mean ranks from the best']);
  });
});
