import { describe, expect, it } from 'vitest';
import deskFans from '../../demo/desk-fans.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { newMeasurand } from '../plan/new-parts.ts';
import { readingForm } from '../forms/index.ts';
import type { Level, Measurand } from '../model/parts.ts';
import { EXACT, expectRelative } from '../testing.ts';
import { testId, testStudy } from '../testing-study.ts';
import { isDerived } from '../observations/observation.ts';
import { factorLevels } from '../plan/grid.ts';
import { analyseStudy } from './analyse-study.ts';
import { atSetting } from './at-setting.ts';
import { settingsRead } from './settings.ts';

const fans = deskFans as unknown as StudyDocument;

/** Adds a measurand to a study, a derived one where an expression is given. */
function addMeasurand({ document }: ReturnType<typeof testStudy>, change: Partial<Measurand>): Measurand {
  const { id: studyId, createdAt, updatedAt } = document.study;
  const measurand: Measurand = {
    ...newMeasurand('Derived', document.measurands.length + 1, change.form ?? 'value'),
    id: testId(),
    studyId,
    version: 1,
    createdAt,
    updatedAt,
    rule: { name: 'none', parameter: null, level: 'study', judges: 'distance' },
    ...change,
  };
  document.measurands.push(measurand);
  return measurand;
}

const analysedAt = (document: StudyDocument, id: string, key?: string) =>
  atSetting(analyseStudy(document, id, { resamples: 0 }), key);

const means = (document: StudyDocument, id: string, key?: string) =>
  analysedAt(document, id, key).classes.flatMap(({ analysis }) =>
    analysis.items.map(({ summary }) => summary.mean),
  );

describe('a derived measurand', () => {
  it('is worked out run by run from what was read', () => {
    const planned = testStudy(['Ama', 'Bel']);
    planned.items.forEach(
      (item, i) => (item.attributes = [{ name: 'Mass', value: 303 + 51 * i, unit: 'g' }]),
    );
    // Common practice, no source: a pull of 135 g by a vehicle of 303 g is a coefficient of 0.45, 74 g by 354 g 0.21.
    planned.read(0, 1, '135');
    planned.read(1, 1, '74');
    const derived = addMeasurand(planned, { name: 'Coefficient', expression: 'pull / mass' });
    const [ama, bel] = means(planned.document, derived.id) as [number, number];
    expect(ama.toFixed(2)).toBe('0.45');
    expect(bel.toFixed(2)).toBe('0.21');
    expect(analysedAt(planned.document, derived.id).readings.filter(isDerived)).toHaveLength(2);
    expect(analysedAt(planned.document, planned.measurand.id).readings.some(isDerived)).toBe(false);
  });

  it('is left out with the reading that it comes from, and says so', () => {
    const planned = testStudy(['Ama', 'Bel']);
    const out = planned.read(0, 1, '500');
    planned.read(0, 2, '12');
    const misfire = planned.read(1, 1, '9');
    planned.decide('leave-out', { readingId: out.id, reason: 'draught' });
    planned.decide('misfire', { readingId: misfire.id, reason: 'slipped' });
    const derived = addMeasurand(planned, { name: 'Double', unit: 'g', expression: '2 * pull' });
    const { readings } = analysedAt(planned.document, derived.id);
    expect(readings.map(({ value, use }) => [value, use.is])).toEqual([
      [1000, 'left out'],
      [24, 'kept'],
    ]);
    expect(readings[0]?.use).toMatchObject({ by: 'source', reason: 'with its source: Pull, draught' });
  });

  it('may be made of another derived one, of attributes alone, and of nothing that is missing', () => {
    const planned = testStudy(['Ama', 'Bel']);
    const [ama] = planned.items;
    if (ama) {
      ama.attributes = [
        { name: 'Price', value: 12, unit: 'EUR' },
        { name: 'Pack', value: 500, unit: 'g' },
      ];
    }
    const second = addMeasurand(planned, {
      name: 'Twice that',
      unit: 'EUR/kg',
      expression: '2 * cost_per_mass',
    });
    addMeasurand(planned, { name: 'Cost per mass', unit: 'EUR/kg', expression: 'price / pack' });
    expect(means(planned.document, second.id)).toEqual([48, null]);
    expect(analysedAt(planned.document, second.id).classes[0]?.analysis.exact).toBe(true);
  });

  it('takes what comes from attributes alone along to every run of the item', () => {
    const planned = testStudy(['Ama', 'Bel']);
    planned.items.forEach((item, i) => (item.attributes = [{ name: 'Mass', value: 2 + i, unit: 'g' }]));
    ['10', '20', '30'].forEach((text, i) => planned.read(0, i + 1, text));
    planned.read(1, 2, '9');
    addMeasurand(planned, { name: 'Half mass', unit: 'g', expression: 'mass / 2' });
    const derived = addMeasurand(planned, { name: 'Ratio', unit: '', expression: 'pull / half_mass' });
    const { readings, classes } = analysedAt(planned.document, derived.id);
    expect(readings.map(({ round, value }) => [round, value])).toEqual([
      [1, 10],
      [2, 20],
      [3, 30],
      [2, 6],
    ]);
    expect(classes[0]?.analysis.exact).toBe(false);
  });

  it('of the desk fans turns the order: the winner by speed is not the winner per watt', () => {
    const derived = fans.measurands.find(({ expression }) => expression !== null) as Measurand;
    const { classes } = analysedAt(fans, derived.id);
    const first = classes[0]?.analysis.ranking[0]?.index ?? -1;
    expect(classes[0]?.items[first]?.name).toBe('Quillop S');
    // Two misreads of the air speed are left out along with it.
    const out = analysedAt(fans, derived.id).readings.filter(({ use }) => use.is === 'left out');
    expect(out.length).toBeGreaterThanOrEqual(2);
  });
});

describe('readings at several settings', () => {
  it('are judged at one of them at a time', () => {
    const planned = testStudy(['Ama', 'Bel'], { rounds: 1 });
    const { document } = planned;
    const { id: studyId, createdAt, updatedAt } = document.study;
    const stamp = { studyId, version: 1, createdAt, updatedAt };
    const factorId = testId();
    document.factors.push({
      id: factorId,
      ...stamp,
      name: 'Cover',
      kind: 'treatment',
      unit: '',
      irreversible: false,
      position: 1,
    });
    for (const [i, name] of ['on', 'off'].entries()) {
      document.levels.push({
        id: testId(),
        ...stamp,
        factorId,
        name,
        value: null,
        baseline: false,
        position: i + 1,
      });
    }
    const [on, off] = factorLevels(document)[0]?.levels as [Level, Level];
    expect(settingsRead(document)).toEqual([{ key: on.id, levels: [on], words: 'on' }]);
    const reading = planned.read(0, 1, '7');
    reading.levels = [{ factorId, levelId: off.id }];
    expect(settingsRead(document).map(({ words }) => words)).toEqual(['off']);
    expect(means(document, planned.measurand.id, off.id)).toEqual([7, null]);
    const other = planned.read(1, 1, '9');
    other.levels = [{ factorId, levelId: on.id }];
    expect(settingsRead(document).map(({ words }) => words)).toEqual(['on', 'off']);
    expect(means(document, planned.measurand.id, off.id)).toEqual([7, null]);
    expect(means(document, planned.measurand.id, on.id)).toEqual([null, 9]);
  });
});

describe('levels in decibels', () => {
  it('are averaged by energy: 60 and 70 dB give 67.4 dB', () => {
    const planned = testStudy(['Ama', 'Bel']);
    const noise = addMeasurand(planned, { name: 'Noise', form: 'level', unit: 'dB' });
    for (const [item, round, text] of [
      [0, 1, '60'],
      [0, 2, '70'],
      [1, 1, '66'],
      [1, 2, '66.2'],
    ] as const) {
      const reading = planned.read(item, round, text);
      reading.measurandId = noise.id;
      const read = readingForm('level')?.read({ level: text }, noise);
      if (read && 'parts' in read) reading.parts = read.parts;
    }
    const { classes } = analysedAt(planned.document, noise.id);
    const summary = classes[0]?.analysis.items[0]?.summary;
    expectRelative(summary?.mean, 10 * Math.log10((1e6 + 1e7) / 2), EXACT);
    // By the delta method: 10/ln 10 times the energies' standard error over their mean.
    const energies = [1e6, 1e7];
    const mean = 5.5e6;
    const se = Math.sqrt(energies.reduce((sum, e) => sum + (e - mean) ** 2, 0) / 2);
    expectRelative(summary?.se, ((10 / Math.LN10) * se) / mean, EXACT);
    // Energies of one round have no residual to share, so the pairs go by T2.
    expect(classes[0]?.analysis.method).toBe('tamhane-t2');
  });
});

describe('ordered marks', () => {
  it('are compared by rank', () => {
    const planned = testStudy(['Ama', 'Bel']);
    const ease = addMeasurand(planned, { name: 'Ease', form: 'score', unit: '' });
    // Six rounds alike come by chance in 2 of 64 cases, five in 2 of 32.
    for (const round of [1, 2, 3, 4, 5, 6]) {
      for (const [item, mark] of [
        [0, 'good'],
        [1, 'poor'],
      ] as const) {
        const reading = planned.read(item, round, '1');
        reading.measurandId = ease.id;
        const read = readingForm('score')?.read({ mark }, ease);
        if (read && 'parts' in read) reading.parts = read.parts;
      }
    }
    const analysis = analysedAt(planned.document, ease.id).classes[0]?.analysis;
    expect(analysis?.method).toBe('rank-sums');
    expect(analysis?.pairs[0]?.verdict).toBe('a ahead');
  });
});
