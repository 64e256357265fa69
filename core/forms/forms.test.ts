import { describe, expect, it } from 'vitest';
import intervals from '../reference/intervals.json' with { type: 'json' };
import { newMeasurand } from '../plan/new-parts.ts';
import type { FormSettings } from '../model/parts.ts';
import { countedInterval } from '../summary/counted.ts';
import { CLOSE, expectRelative } from '../testing.ts';
import { READING_FORMS, readingForm, settingProblems } from './index.ts';
import type { PartTexts, ReadingForm } from './form.ts';

const formOf = (name: string) => readingForm(name) as ReadingForm;

/** The value of a reading as it was typed, or the sentence that refuses it. */
function take(name: string, texts: PartTexts, settings: FormSettings = {}, unit?: string) {
  const form = formOf(name);
  const context = { unit: unit ?? form.valueUnit?.(settings) ?? 'mm', settings };
  const read = form.read(texts, context);
  if ('problem' in read) return { problem: read.problem, part: read.part };
  return {
    value: form.value(read.parts, context),
    parts: read.parts,
    doubt: form.doubt?.(read.parts, context),
  };
}

describe('the cells of a grid', () => {
  it('are read in the unit of their mean, or in the one that the plan says where the value is a share', () => {
    const unitOf = (settings: FormSettings) =>
      formOf('grid').parts({ unit: 'mm', settings: { rows: 2, columns: 2, ...settings } })[0]?.unit;
    expect(unitOf({ statistic: 'mean', readUnit: 'cm' })).toBe('mm');
    expect(unitOf({ statistic: 'christiansen', readUnit: 'cm' })).toBe('cm');
  });
  it('are called by row and column, from 1', () => {
    const parts = formOf('grid').parts({ unit: '°C', settings: { rows: 2, columns: 2 } });
    expect(parts.map(({ label }) => label)).toEqual([
      ...['Row 1, column 1', 'Row 1, column 2', 'Row 2, column 1', 'Row 2, column 2'],
    ]);
  });
});

describe('every reading form', () => {
  it.each(READING_FORMS.map((form) => [form.name, form] as const))(
    '%s makes a measurand that passes',
    (name, form) => {
      const measurand = newMeasurand('New', 1, name);
      expect(settingProblems(form, measurand.settings)).toEqual([]);
      expect(form.parts(measurand).length).toBeGreaterThan(0);
      expect(new Set(form.parts(measurand).map((part) => part.name)).size).toBe(form.parts(measurand).length);
      expect(form.typicalS(measurand)).toBeGreaterThan(0);
      // Nothing typed is a sentence and a part, never a value.
      const nothing = form.read({}, measurand);
      expect(nothing).toMatchObject({
        problem: expect.any(String) as string,
        part: expect.any(String) as string,
      });
      expect(form.value([], measurand)).toBeNull();
    },
  );
});

describe('a ramp', () => {
  it('of a slowly tilted table is the mean of the first and the second release', () => {
    // Common practice, no source: the usable angle lies between the first and the second grain that let go.
    expect(take('ramp', { release1: '31,5', release2: '34.5' }).value).toBe(33);
  });
  it('may be its first release, or the last one written down', () => {
    const texts = { release1: '10', release2: '14', release3: '18' };
    expect(take('ramp', texts, { counts: 'first' }).value).toBe(10);
    expect(take('ramp', texts, { counts: 'nth', releases: 3 }).value).toBe(18);
    expect(take('ramp', { release1: '10' }, { counts: 'first' }).value).toBe(10);
  });
  it('questions a release below the one before, and refuses a missing one', () => {
    expect(take('ramp', { release1: '14', release2: '10' }).doubt).toContain('below an earlier one');
    expect(take('ramp', { release1: '14' })).toEqual({
      problem: 'Release 2: type a number.',
      part: 'release2',
    });
    expect(settingProblems(formOf('ramp'), { releases: 1 })).toHaveLength(1);
  });
});

describe('a time', () => {
  it('is told in seconds, less what the key was late', () => {
    expect(take('timed', { time: '4:18.6' }).value).toBe(258.6);
    expect(take('timed', { time: '1:00', late: '0.4' }).value).toBe(59.6);
    expect(take('timed', { time: '3', late: '4' })).toMatchObject({ part: 'late' });
    expect(take('timed', { time: '3', late: '3' }).value).toBe(0);
    expect(take('timed', { time: '-3' })).toMatchObject({ part: 'time' });
    expect(take('timed', { time: '-3' })).toMatchObject({ problem: 'Time: A time is 0 or more.' });
  });
  it('keeps its splits beside it', () => {
    expect(take('timed', { time: '30', split1: '9.5', split2: '20' }).parts).toHaveLength(3);
  });
});

describe('a count', () => {
  it.each(['3.5', '-1', '1e20'])('of %s is refused', (count) => {
    expect(take('count', { count })).toMatchObject({ problem: 'A count is a whole number, 0 or more.' });
  });
  it.each(intervals.poisson95.map(({ count, ci }) => [count, ci] as const))(
    'of %d has R’s exact Poisson interval',
    (count, ci) => {
      const form = formOf('count');
      const counted = form.counted?.([[{ name: 'count', text: '', number: count }]], {
        unit: '',
        settings: {},
      });
      expect(counted).toEqual({ events: count, worth: 1 });
      const found = counted && countedInterval(counted, 0.05);
      expectRelative(found?.low, ci[0] as number, CLOSE);
      expectRelative(found?.high, ci[1] as number, CLOSE);
    },
  );
});

describe('a yield', () => {
  it('is what came back of what was fed, whatever unit each is typed in', () => {
    expect(take('fed-recovered', { fed: '0.5 kg', recovered: '485 g' }, { readUnit: 'g' }).value).toBe(97);
  });
  it('over 100 % is questioned and not refused', () => {
    const found = take('fed-recovered', { fed: '100', recovered: '104' }, { readUnit: 'g' });
    expect(found.value).toBe(104);
    expect(found.doubt).toContain('over 100 %');
  });
  it('needs something fed, and whole pieces where they are counted', () => {
    expect(take('fed-recovered', { fed: '0', recovered: '0' })).toMatchObject({ part: 'fed' });
    expect(take('fed-recovered', { fed: '10', recovered: '9.5' }, { counted: true })).toMatchObject({
      part: 'recovered',
    });
  });
  it.each(intervals.wilson95.map(({ fed, recovered, ci }) => [recovered, fed, ci] as const))(
    'of %d pieces out of %d has R’s Wilson interval',
    (recovered, fed, ci) => {
      const parts = [
        { name: 'fed', text: '', number: fed },
        { name: 'recovered', text: '', number: recovered },
      ];
      const counted = formOf('fed-recovered').counted?.([parts], { unit: '%', settings: { counted: true } });
      const found = counted && countedInterval(counted, 0.05);
      expectRelative((found?.high ?? 0) / 100, ci[1] as number, CLOSE);
      if (ci[0] === 0) expect(found?.low).toBe(0);
      else expectRelative((found?.low ?? 0) / 100, ci[0] as number, CLOSE);
    },
  );
});

describe('before and after', () => {
  it('is the change, or the change in per cent of before', () => {
    // Common practice: from 1.46 to 2.896 is an increase of 98 %.
    const texts = { before: '1.46', after: '2.896' };
    expectRelative(take('before-after', texts).value, 1.436, 1e-9);
    expect(take('before-after', texts, { as: 'percent' }).value?.toFixed(0)).toBe('98');
    expect(take('before-after', { before: '0', after: '2' }, { as: 'percent' })).toMatchObject({
      part: 'before',
    });
  });
  it('may end at nothing, and begins at nothing where no per cent are asked for', () => {
    expect(take('before-after', { before: '4', after: '0' }, { as: 'percent' }).value).toBe(-100);
    expect(take('before-after', { before: '0', after: '2' }).value).toBe(2);
    const unitOf = (settings: FormSettings) => formOf('before-after').valueUnit?.(settings);
    expect([unitOf({ as: 'percent' }), unitOf({})]).toEqual(['%', undefined]);
  });
  it('says the change besides, without the digits that a double cannot hold', () => {
    const parts = [
      { name: 'before', text: '10000', number: 10_000 },
      { name: 'after', text: '10000.1', number: 10_000.1 },
    ];
    const also = formOf('before-after').also?.(parts, { unit: '%', settings: { as: 'percent', unit: 'g' } });
    expect(also?.number).toBe(0.1);
    const share = formOf('before-after').also;
    expect(share?.(parts, { unit: 'g', settings: {} })).toEqual({
      number: expect.closeTo(0.001, 9) as number,
      unit: '%',
    });
    expect(share?.(parts, { unit: '°C', settings: {} })).toBeUndefined();
  });
});

describe('against a reference', () => {
  it('is the error, or the error in per cent: 9 where 10 is right is 10 %', () => {
    // Common practice, no source.
    const texts = { reference: '10', indicated: '9' };
    expect(take('against-reference', texts).value).toBe(-1);
    expect(take('against-reference', texts, { as: 'relative' }).value).toBe(-10);
    expect(
      take('against-reference', { reference: '98.6 °F', indicated: '37,2' }, {}, '°C').value,
    ).toBeCloseTo(0.2, 9);
  });
});

describe('a reading that lacks a part, or has one that cannot be', () => {
  const part = (name: string, number: number | null) => ({ name, text: '', number });
  const worth = (form: string, parts: ReturnType<typeof part>[], settings: FormSettings = {}, unit = 'g') =>
    formOf(form).value(parts, { unit, settings });
  it('has no value', () => {
    for (const [form, first, second] of [
      ['against-reference', 'reference', 'indicated'],
      ['before-after', 'before', 'after'],
      ['fed-recovered', 'fed', 'recovered'],
      ['ramp', 'release1', 'release2'],
    ] as const) {
      expect(worth(form, [part(first, 2), part(second, 3)]), form).not.toBeNull();
      expect(worth(form, [part(first, null), part(second, 3)]), form).toBeNull();
      expect(worth(form, [part(first, 2), part(second, null)]), form).toBeNull();
    }
    expect(worth('ramp', [part('release1', 2), part('release2', null)], { counts: 'first' })).toBe(2);
    expect(worth('fed-recovered', [part('fed', 0), part('recovered', 0)])).toBeNull();
  });
  it('says nothing besides either', () => {
    const also = (form: string, parts: ReturnType<typeof part>[], settings: FormSettings = {}) =>
      formOf(form).also?.(parts, { unit: 'g', settings });
    const [reference, indicated] = [part('reference', 10), part('indicated', 9)];
    expect(also('against-reference', [reference, indicated])).toEqual({ number: -10, unit: '%' });
    expect(also('against-reference', [reference, indicated], { as: 'relative', unit: 'kg' })?.number).toBe(
      -1,
    );
    expect(also('against-reference', [part('reference', 0), indicated])).toBeUndefined();
    expect(also('against-reference', [part('reference', null), indicated])).toBeUndefined();
    expect(also('before-after', [part('before', 10), part('after', null)])).toBeUndefined();
    const referenceIn = formOf('against-reference').reference;
    expect([
      referenceIn?.([reference, indicated], {}),
      referenceIn?.([reference, indicated], { as: 'relative' }),
    ]).toEqual([10, null]);
  });
  it('is refused at the part that cannot be', () => {
    expect(take('against-reference', { reference: '0', indicated: '2' }, { as: 'relative' })).toMatchObject({
      part: 'reference',
    });
    expect(take('against-reference', { reference: '0', indicated: '2' }).value).toBe(2);
    expect(take('fed-recovered', { fed: '10', recovered: '-1' })).toMatchObject({ part: 'recovered' });
    for (const count of ['-1', '1.5', '1e17'])
      expect(take('count', { count }), count).toHaveProperty('problem');
    expect(take('count', { count: '0' }).value).toBe(0);
  });
});

describe('a grid', () => {
  const cells = { r1c1: '8', r1c2: '10', r2c1: '12', r2c2: '10' };
  const two = { rows: 2, columns: 2 };
  it('has its mean, or how even it is', () => {
    expect(take('grid', cells, two).value).toBe(10);
    expect(take('grid', cells, { ...two, statistic: 'christiansen' }).value).toBe(90);
    expect(take('grid', cells, { ...two, statistic: 'lowQuarter' }).value).toBe(80);
    expect(take('grid', cells, { ...two, statistic: 'maxToMin' }).value).toBe(1.5);
    expect(take('grid', cells, { ...two, statistic: 'minToMean' }).value).toBe(0.8);
    expectRelative(
      take('grid', cells, { ...two, statistic: 'cv' }).value,
      (100 * Math.sqrt(8 / 3)) / 10,
      1e-12,
    );
  });
  it('may have empty cells, but not only those', () => {
    expect(take('grid', { r1c1: '8', r2c2: '12' }, two)).toMatchObject({ value: 10 });
    expect(take('grid', {}, two)).toEqual({ problem: 'Fill in at least one cell.', part: 'r1c1' });
    expect(take('grid', { r1c1: '8', r2c2: 'wet' }, two)).toMatchObject({ part: 'r2c2' });
  });
  it('has no ratio where nothing came down', () => {
    expect(take('grid', { r1c1: '0', r1c2: '0' }, { ...two, statistic: 'christiansen' }).value).toBeNull();
  });
  it('of too many cells is refused with the count', () => {
    expect(settingProblems(formOf('grid'), { rows: 60, columns: 60 })[0]?.message).toContain('3600 cells');
  });
});

describe('a score', () => {
  it('is the place of its mark, by word or by number', () => {
    expect(take('score', { mark: 'Good' }).value).toBe(3);
    expect(take('score', { mark: '4' }).value).toBe(4);
    expect(take('score', { mark: 'splendid' })).toMatchObject({
      problem: '“splendid” is no mark; the marks are poor, fair, good, very good, or 1 to 4.',
    });
    expect(settingProblems(formOf('score'), { marks: ['bad', 'Bad'] })).toHaveLength(1);
    expect(settingProblems(formOf('score'), { marks: ['bad'] })).toHaveLength(1);
  });
});

describe('a setting', () => {
  it.each([
    ['grid', { rows: 2.5 }],
    ['grid', { rows: '3' }],
    ['grid', { statistic: 'luck' }],
    ['grid', { columnz: 3 }],
    ['fed-recovered', { counted: 'yes' }],
    ['fed-recovered', { readUnit: 'x'.repeat(30) }],
  ] as const)('of %s that is wrong is told: %j', (name, settings) => {
    expect(settingProblems(formOf(name), settings as unknown as FormSettings)).toHaveLength(1);
  });
});
