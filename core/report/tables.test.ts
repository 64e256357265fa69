import { describe, expect, it } from 'vitest';
import fans from '../../demo/desk-fans.json' with { type: 'json' };
import thermometers from '../../demo/kitchen-thermometers.json' with { type: 'json' };
import flasks from '../../demo/vacuum-flasks.json' with { type: 'json' };
import { analyseStudy } from '../analysis/analyse-study.ts';
import { atSetting } from '../analysis/at-setting.ts';
import { NO_CORRECTIONS } from '../model/new-study.ts';
import type { Corrections } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { budgetWords } from './budget.ts';
import { movedWords } from './moved.ts';
import { headOfRow } from './report.ts';
import { precisionSentences, precisionTable } from './precision.ts';

const plain = (text: string) => text.replaceAll('\u202f', ' ');
const analysed = (document: unknown, name: string, changes: Partial<Corrections> = {}) => {
  const study = document as StudyDocument;
  const measurands = study.measurands.map((measurand) =>
    measurand.name === name ? { ...measurand, corrections: { ...NO_CORRECTIONS, ...changes } } : measurand,
  );
  const id = measurands.find((measurand) => measurand.name === name)?.id ?? '';
  return atSetting(analyseStudy({ ...study, measurands }, id, { resamples: 0 }));
};
const calibration = { on: true, instrument: '', points: [{ indicated: 1, is: 0.5 }], mayBeOff: 0.6 };

describe('the table of what means are uncertain by', () => {
  it('has a column for corrections where they leave something open, and says what is largest', () => {
    const sure = budgetWords(analysed(fans, 'Air speed at one metre'));
    expect(sure?.table.head).toEqual([
      'Item',
      'spread',
      'step',
      'stated accuracy',
      'together',
      'U',
      'improve first',
    ]);
    const open = budgetWords(analysed(fans, 'Air speed at one metre', { calibrations: [calibration] }));
    expect(open?.table.head).toContain('corrections');
    // Every column but the items’ names and what to improve is one of figures.
    expect([sure?.table.figures, open?.table.figures]).toEqual([
      [1, 2, 3, 4, 5],
      [1, 2, 3, 4, 5, 6],
    ]);
    expect(open?.summary).toContain('Mostly what the corrections leave open');
    expect(open?.how).toContain('what of the corrections the items do not share');
    for (const row of open?.table.rows ?? []) {
      expect(row).toHaveLength(open?.table.head.length ?? 0);
      // 0.6/√3
      expect(row[4]?.text).toMatch(/^0\.346/);
    }
  });
  it('has a row for each item, controls too, and is none for marks or exact figures', () => {
    const analysis = analysed(fans, 'Power');
    expect(budgetWords(analysis)?.table.rows.map(([item]) => item?.text)).toEqual(
      [...analysis.classes.flatMap(({ items }) => items), ...(analysis.controls?.items ?? [])].map(
        ({ name }) => name,
      ),
    );
    const ease = analysed(thermometers, 'Ease of reading');
    expect(ease.classes[0]?.analysis.ranksOnly).toBe(true);
    expect(budgetWords(ease)).toBeUndefined();
  });
});

describe('what corrections move', () => {
  it('is said from the least to the most of any item, or once where it is the same', () => {
    expect(movedWords(analysed(flasks, 'Water after 8 h'))).toBe('');
    expect(plain(movedWords(analysed(flasks, 'Water after 8 h', { tare: { on: true, value: 2 } })))).toBe(
      'Moves all readings by −2.0 °C',
    );
    const line = { ...calibration, points: [...calibration.points, { indicated: 101, is: 110.5 }] };
    expect(plain(movedWords(analysed(flasks, 'Water after 8 h', { calibrations: [line] })))).toMatch(
      /^Moves items by 6\.\d to 7\.\d °C$/,
    );
  });
});

describe('the table of who and what read it', () => {
  const precision = {
    n: 40,
    parts: [
      { sources: ['operator' as const], groups: 2, sd: 0.8, share: 0.64 },
      { sources: ['session' as const], groups: 6, sd: 0, share: 0 },
    ],
    repeat: { sd: 0.6, share: 0.36 },
    reproduced: 1,
    limits: { repeatability: 1.68, reproducibility: 2.8 },
    items: 0.5,
    shared: false,
  };
  it('gives each source its row, and says what is not seen', () => {
    const { rows, caption } = precisionTable(precision, 'g');
    expect(rows.map((row) => row.map(({ text }) => plain(text)))).toEqual([
      ['Between operators', '2', '0.800', '64 %'],
      ['Between sessions', '6', 'none seen', '0 %'],
      ['Between repeats', '40', '0.600', '36 %'],
      ['All together', '', '1.000', '100 %'],
    ]);
    expect(plain(caption)).toContain('repeatability limit 1.680 g, reproducibility limit 2.800 g');
  });
  it('goes with sentences that say what to do', () => {
    const said = plain(precisionSentences(precision, 'g').join(' '));
    expect(said).toContain('Two repeats lie within 1.68 g of each other in 95 of 100 cases');
    expect(said).toContain('Operators differ by more than the items do (SD 0.80 g against 0.50 g).');
    expect(said).toContain('let one read everything, or let each read every item');
    expect(said).toContain('falls on the items');
    expect(said).toContain('2 operators are few');
  });
});

describe('the head of a row', () => {
  it('is its item, wherever that stands, else its first cell', () => {
    expect(headOfRow([{ text: '2–3' }, { text: 'Ama', mark: 1 }, { text: '3.1' }])).toBe(1);
    expect(headOfRow([{ text: 'Ama', mark: 0 }, { text: '3.1' }])).toBe(0);
    expect(headOfRow([{ text: '1 bar' }, { text: '3.1' }])).toBe(0);
    expect(headOfRow([])).toBe(0);
  });
});
