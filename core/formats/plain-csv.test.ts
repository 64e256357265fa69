import { describe, expect, it } from 'vitest';
import aerators from '../../demo/tap-aerators.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { testStudy } from '../testing-study.ts';
import { parseReadingsTable } from './readings-table.ts';
import { type PlainCsvOptions, plainCsv } from './plain-csv.ts';
import { guessStudyMatching } from './study-columns.ts';
import { studyFromTable } from './study-table.ts';

const OPTIONS: PlainCsvOptions = { layout: 'wide', decimal: '.', units: 'names', leftOut: false };
const written = (document: StudyDocument, change: Partial<PlainCsvOptions> = {}) => [
  ...[...plainCsv(document, { ...OPTIONS, ...change })].join('').split('\r\n'),
];

function twoItems() {
  const { document, read, decide, items } = testStudy(['Ama', '=Bel']);
  read(0, 1, '3.5');
  read(1, 1, '4');
  read(0, 2, '3.25');
  const out = read(1, 2, '9');
  decide('leave-out', { readingId: out.id, reason: 'a bump' });
  return { document, items };
}

describe('a plain table', () => {
  it('has a column for each item and a row for each round', () => {
    const { document } = twoItems();
    expect(written(document)).toEqual(["round,Ama (g),'=Bel (g)", '1,3.5,4', '2,3.25,', '']);
    expect(written(document, { leftOut: true })[2]).toBe('2,3.25,9');
  });
  it('has units in a line of their own, and decimal commas, where that is asked for', () => {
    const { document } = twoItems();
    expect(written(document, { units: 'line', decimal: ',' })).toEqual([
      ...["round;Ama;'=Bel", ';g;g', '1;3,5;4', '2;3,25;', ''],
    ]);
  });
  it('has one reading a row, with why it does not count where that is asked for', () => {
    const { document } = twoItems();
    const [head, ...rows] = written(document, { layout: 'long', leftOut: true });
    expect(head).toBe('item,measurand,unit,value,round,left out,reason,taken at');
    expect(rows[3]).toMatch(/^'=Bel,Pull,g,9,2,yes,a bump,2026-/);
    expect(written(document, { layout: 'long' })).toHaveLength(5);
  });
  it('keeps each reading of an item that was read more than once in a round, and levels', () => {
    const document = aerators as unknown as StudyDocument;
    const [head, first] = written(document, { measurandId: document.measurands[0]?.id });
    expect(head).toMatch(/^Pressure \(bar\),round,No aerator \(L\/min\)/);
    expect(first?.split(',')).toHaveLength(2 + document.items.length);
    const { document: small, read } = testStudy(['Ama']);
    read(0, 1, '1');
    read(0, 1, '2');
    expect(written(small).slice(1, 3)).toEqual(['1,1', '1,2']);
  });
  it('is read again as a new study with the same readings', () => {
    const document = aerators as unknown as StudyDocument;
    for (const layout of ['long', 'wide'] as const) {
      for (const decimal of ['.', ','] as const) {
        const [measurand] = document.measurands;
        const text = written(document, { layout, decimal, measurandId: measurand?.id }).join('\n');
        const table = parseReadingsTable(text);
        if ('problem' in table) throw new Error(table.problem);
        let made = 0;
        const outcome = studyFromTable(table, guessStudyMatching(table), {
          ...{ title: 'Again', seed: 1, now: '2026-11-26T00:00:00.000Z' },
          newId: () => {
            made += 1;
            return `01900000-0000-7000-8000-${String(made).padStart(12, '0')}`;
          },
        });
        expect([outcome.refused, outcome.problems]).toEqual([undefined, []]);
        const kept = text.split('\n').length - 2;
        expect(outcome.readings).toBe(layout === 'long' ? kept : kept * document.items.length);
      }
    }
  });
});
