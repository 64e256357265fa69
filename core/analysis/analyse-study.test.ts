import { describe, expect, it } from 'vitest';
import deskFans from '../../demo/desk-fans.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { answer } from '../report/answer.ts';
import { finished, testId, testStudy } from '../testing-study.ts';
import { type StudyAnalysisOptions, analyseStudy, compareSchools } from './analyse-study.ts';
import { atSetting } from './at-setting.ts';
import { leftOutWords } from '../report/left-out-words.ts';
import { studyPreview } from './preview.ts';

const fans = deskFans as unknown as StudyDocument;
const analysed = (document: StudyDocument, id: string, options?: StudyAnalysisOptions) =>
  atSetting(analyseStudy(document, id, options));
const airSpeed = fans.measurands[0]?.id as string;

describe('the desk fans of the demo', () => {
  const analysis = analysed(fans, airSpeed);
  const [group] = analysis.classes;
  const out = analysis.readings.filter(({ use }) => use.is === 'left out');

  it('hold 48 readings that count or not, and one misfire', () => {
    expect(analysis.readings).toHaveLength(49);
    expect(out.filter(({ use }) => use.is === 'left out' && use.by === 'misfire')).toHaveLength(1);
  });
  it('hide two misreads that the rule finds', () => {
    const values = out
      .filter(({ use }) => use.is === 'left out' && use.by === 'rule')
      .map(({ value }) => value);
    expect(new Set(values)).toEqual(new Set([2.31, 3.9]));
    expect(leftOutWords(analysis.leftOut, 'generalized-esd')).toBe(
      '2 readings left out by Generalized ESD and 1 misfire',
    );
  });
  it('have one clear winner, one clear last and a tie within the margin', () => {
    const said = answer(group?.items.map(({ name }) => name) ?? [], group?.analysis as never, 'm/s');
    expect(said.sentence).toBe('Calvessa 2 is first. Quillop S is last.');
    expect(said.notes.map(({ title }) => title)).toContain('Dappelin and Merrowick are practically the same');
  });
  it('put the same fan first under every school that finds the misreads', () => {
    const { schools, design } = finished(compareSchools(fans, airSpeed, ''));
    const of = (name: string) => schools.find(({ rule }) => rule.name === name);
    const first = group?.items.findIndex(({ name }) => name === 'Calvessa 2');
    for (const name of ['generalized-esd', 'grubbs', 'drop-extremes', 'modified-z']) {
      expect(of(name)?.contenders).toEqual([first]);
    }
    expect(of('drop-extremes')?.leftOut).toHaveLength(12);
    expect(of('none')?.leftOut).toHaveLength(0);
    expect(of('none')?.contenders.length).toBeGreaterThan(1);
    expect(of('trimmed')?.notApplied).toContain('needs 10 readings');
    expect(
      of('generalized-esd')
        ?.leftOut.map(({ value }) => value)
        .sort(),
    ).toEqual([2.31, 3.9]);
    expect(design).toEqual({
      ...{ counts: [8, 8, 8, 8, 8, 8], samples: 6, inRounds: true, step: 0.5 },
      studies: 400,
    });
  });
  it('gives the same chances for the same seed', () => {
    const again = analysed(fans, airSpeed);
    expect(again.classes[0]?.analysis.ranking).toEqual(group?.analysis.ranking);
  });
  it('fits a small preview', () => {
    const preview = studyPreview(fans);
    expect(preview.items).toHaveLength(6);
    expect(preview.runs).toEqual({ done: 144, of: 144 });
    expect(preview.marks.filter((mark) => mark.out)).toHaveLength(3);
  });
});

describe('what counts', () => {
  it('is the same after leaving out and taking back', () => {
    const { document, measurand, read, decide } = testStudy(['Ama', 'Bel']);
    for (const round of [1, 2, 3]) {
      read(0, round, String(10 + round));
      read(1, round, String(20 + round));
    }
    const before = analysed(document, measurand.id);
    const first = document.readings[0]?.id as string;
    decide('leave-out', { readingId: first, reason: 'draught' });
    const without = analysed(document, measurand.id);
    expect(without.classes[0]?.analysis.items[0]?.summary.n).toBe(2);
    expect(without.readings[0]?.use).toMatchObject({ is: 'left out', by: 'hand', reason: 'draught' });
    decide('take-back', { readingId: first });
    expect(analysed(document, measurand.id)).toEqual(before);
  });
  it('never holds a withdrawn reading, and holds it again once restored', () => {
    const { document, measurand, read, decide } = testStudy(['Ama', 'Bel']);
    const reading = read(0, 1, '5');
    decide('withdraw', { readingId: reading.id });
    expect(analysed(document, measurand.id).readings).toHaveLength(0);
    decide('restore', { readingId: reading.id });
    expect(analysed(document, measurand.id).readings).toHaveLength(1);
  });
  it('keeps what the tester insists on, and lets the rule judge again when that is taken back', () => {
    const { document, measurand, read, decide } = testStudy(['Ama']);
    measurand.rule = { name: 'grubbs', parameter: null, level: 'study', judges: 'reading' };
    for (const text of ['3', '3.1', '2.9', '3.05', '3', '9']) read(0, document.readings.length + 1, text);
    const last = document.readings[5]?.id as string;
    const use = () => analysed(document, measurand.id).readings[5]?.use;
    expect(use()).toMatchObject({ is: 'left out', by: 'rule' });
    decide('keep', { readingId: last, reason: 'seen twice' });
    expect(use()).toEqual({ is: 'kept', insisted: 'seen twice' });
    decide('take-back', { readingId: last });
    expect(use()).toMatchObject({ is: 'left out', by: 'rule' });
  });
  it('ranks within classes only and never ranks a control', () => {
    const { document, items, measurand, read } = testStudy(['Ama', 'Bel', 'Cor', 'Zero']);
    (items[2] as (typeof items)[0]).class = 'large';
    (items[3] as (typeof items)[0]).role = 'control';
    for (const round of [1, 2, 3])
      for (const item of [0, 1, 2, 3]) read(item, round, String(item * 10 + round));
    const { classes, controls } = analysed(document, measurand.id);
    expect(classes.map(({ name, analysis }) => [name, analysis.ranking.length])).toEqual([
      ['', 2],
      ['large', 1],
    ]);
    expect(controls?.analysis.ranking).toEqual([]);
    expect(controls?.analysis.items[0]?.summary.mean).toBe(32);
  });
  it('is refused for a measurand that is not there', () => {
    expect(() => analyseStudy(fans, 'no such id')).toThrow(RangeError);
  });
});

describe('classes of items', () => {
  const { document, items, measurand, read } = testStudy(['Ama', 'Bel', 'Cor']);
  const [ama, , cor] = items as [(typeof items)[number], (typeof items)[number], (typeof items)[number]];
  cor.class = 'Large';
  const names = () => atSetting(analyseStudy(document, measurand.id)).classes.map(({ name }) => name);
  it('are those with an item that is measured', () => {
    expect(names()).toEqual(['', 'Large']);
    measurand.onItems = [ama.id];
    expect(names()).toEqual(['']);
    measurand.onItems = [cor.id];
    expect(names()).toEqual(['Large']);
  });
  it('are those with a reading, or a figure from elsewhere, too', () => {
    measurand.onItems = [ama.id];
    const { version, createdAt, updatedAt } = document.study;
    document.figures = [
      {
        ...{ id: testId(), studyId: document.study.id, version, createdAt, updatedAt, levels: [] },
        ...{ itemId: cor.id, measurandId: measurand.id, kind: 'summary', source: '' },
        ...{ n: 4, mean: 3, sd: 0.1, low: null, high: null },
      },
    ];
    expect(names()).toEqual(['', 'Large']);
    document.figures = [
      { ...(document.figures[0] as (typeof document.figures)[number]), measurandId: testId() },
    ];
    expect(names()).toEqual(['']);
    document.figures = [];
    read(2, 1, '5');
    expect(names()).toEqual(['', 'Large']);
  });
  it('are all where it is measured on no item, or is worked out', () => {
    document.readings = [];
    measurand.onItems = [];
    expect(names()).toEqual(['', 'Large']);
    measurand.onItems = null;
    Object.assign(measurand, { form: 'derived', expression: '2' });
    expect(names()).toEqual(['', 'Large']);
  });
});
