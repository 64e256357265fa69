import { NO_CORRECTIONS } from '../model/new-study.ts';
import { describe, expect, it } from 'vitest';
import { checkPart } from '../record/checks.ts';
import { testStudy } from '../testing-study.ts';
import { newMeasurand } from './new-parts.ts';
import { letGo, withForm, withSettings, withUnit } from './meaning.ts';

const measurand = (form: string, change = {}) => ({
  ...testStudy(['Ama']).measurand,
  ...newMeasurand('Catch', 1, form),
  margin: { kind: 'absolute' as const, value: 5 },
  limits: { low: 1, high: 50 },
  ...change,
});

describe('another unit', () => {
  it('takes margin, limits and target along where they can be turned', () => {
    const changed = withUnit(
      measurand('value', { unit: 'g', direction: { kind: 'nearest', target: 20 } }),
      'kg',
    );
    expect(changed).toEqual({
      unit: 'kg',
      controls: [],
      corrections: NO_CORRECTIONS,
      margin: { kind: 'absolute', value: 0.005 },
      limits: { low: 0.001, high: 0.05 },
      direction: { kind: 'nearest', target: 0.02 },
      spec: null,
    });
  });
  it('turns a margin of temperature as a difference', () => {
    const changed = withUnit(measurand('value', { unit: '°C' }), '°F');
    expect(changed.margin?.value).toBeCloseTo(9, 9);
    expect(changed.limits?.low).toBeCloseTo(33.8, 9);
  });
  it('leaves an end open that was open', () => {
    const limits = { low: null, high: 50 };
    expect(withUnit(measurand('value', { unit: 'g', limits }), 'kg').limits).toEqual({
      low: null,
      high: 0.05,
    });
    expect(withUnit(measurand('value', { unit: '°C', limits }), 'K').limits?.low).toBeNull();
  });
  it('keeps nothing that meant something else', () => {
    expect(withUnit(measurand('value', { unit: 'g' }), 'dB')).toEqual({
      unit: 'dB',
      controls: [],
      corrections: NO_CORRECTIONS,
      margin: { kind: 'absolute', value: 0 },
      limits: { low: null, high: null },
      spec: null,
      direction: { kind: 'higher', target: null },
    });
  });
  it('said for the first time is that of the numbers which are there', () => {
    expect(withUnit(measurand('value', { unit: '' }), 'm/s')).toEqual({ unit: 'm/s' });
  });
  it('turns a spec, of an error as a difference', () => {
    const spec = { kind: 'absolute', low: -1, high: 2, below: { split: 10, within: 0.5 }, share: 95 };
    const error = withUnit(measurand('against-reference', { unit: '°C', spec }), 'K');
    expect(error.spec).toMatchObject({ low: -1, high: 2, below: { split: 283.15, within: 0.5 }, share: 95 });
    const mass = withUnit(measurand('value', { unit: 'g', spec: { ...spec, below: null } }), 'kg');
    expect(mass.spec).toMatchObject({ low: -0.001, high: 0.002 });
  });
  it('keeps what is in per cent, and turns what controls should read', () => {
    const spec = { kind: 'percent', low: -5, high: 5, below: null, share: 95 } as const;
    const changed = withUnit(
      measurand('value', {
        ...{ unit: 'g', spec, margin: { kind: 'percent', value: 5 } },
        ...{
          direction: { kind: 'nearest', target: 20 },
          controls: [{ itemId: 'blank', low: 1, high: null }],
        },
      }),
      'kg',
    );
    expect(changed).toMatchObject({
      margin: { kind: 'percent', value: 5 },
      spec,
      controls: [{ itemId: 'blank', low: 0.001, high: null }],
    });
  });
  it('says that a target is gone where it alone is', () => {
    const before = measurand('value', {
      ...{ unit: 'g', margin: { kind: 'absolute', value: 0 }, limits: { low: null, high: null } },
      direction: { kind: 'nearest', target: 20 },
    });
    const nearest = (target: number) => ({ direction: { kind: 'nearest' as const, target } });
    expect(letGo(before, { unit: 'dB', ...nearest(0) })).toEqual(['the target']);
    expect(letGo(before, { unit: 'dB', ...nearest(20) })).toEqual([]);
    expect(letGo(before, nearest(0))).toEqual([]);
  });
  it('says what it has let go of', () => {
    const before = measurand('value', { unit: 'g', direction: { kind: 'lower', target: null } });
    expect(letGo(before, withUnit(before, 'dB'))).toEqual([
      'the margin',
      'the plausible limits',
      'the direction',
    ]);
    expect(letGo(before, withUnit(before, 'kg'))).toEqual([]);
    const controls = [{ itemId: 'blank', low: 1, high: 2 }];
    const spec = { kind: 'absolute', from: -1, to: 1, share: 0.95 } as never;
    expect(letGo({ ...before, controls, spec }, { controls: [], spec: null })).toEqual([
      'the spec',
      'what controls should read',
    ]);
    expect(letGo({ ...before, controls }, {})).toEqual([]);
  });
});

describe('corrections', () => {
  const tare = { on: true, value: 12 };
  const calibrations = [{ on: true, instrument: '', points: [{ indicated: 94.3, is: 94 }], mayBeOff: null }];
  const before = measurand('value', {
    unit: 'dB',
    corrections: { ...NO_CORRECTIONS, tare, calibrations },
  });
  it('are let go of with another unit, since they are said in the one before', () => {
    const heavy = { ...before, unit: 'g' };
    const changed = withUnit(heavy, 'kg');
    expect(changed.corrections).toEqual(NO_CORRECTIONS);
    expect(letGo(heavy, changed)).toEqual(['the corrections']);
  });
  it('stay where another form allows for them, and go where it does not', () => {
    const level = withForm(before, 'level');
    expect(level.corrections).toEqual({ ...NO_CORRECTIONS, calibrations });
    expect(letGo(before, level)).toContain('the corrections');
    expect(withForm(before, 'ramp')).not.toHaveProperty('corrections');
    expect(withForm(before, 'count').corrections).toEqual(NO_CORRECTIONS);
    // A time has everything but another unit.
    const ambient = { on: true, conditionId: 'room', reference: 20, perUnit: 0.1, estimates: [] };
    const all = { unit: { on: true, from: 'min' }, calibrations, tare, ambient };
    expect(withForm({ ...before, unit: 's', corrections: all }, 'timed').corrections).toEqual({
      ...all,
      unit: null,
    });
    // The server takes what is left.
    for (const form of ['level', 'ramp', 'count', 'score', 'grid']) {
      const after = { ...before, ...withForm(before, form) };
      const { document } = testStudy(['Ama']);
      const problems = checkPart('measurands', after, document).filter(({ path }) =>
        path.includes('corrections'),
      );
      expect(problems).toEqual([]);
    }
  });
});

describe('another quantity of the same reading', () => {
  it('has a direction of its own and neither margin nor limits of the one before', () => {
    const grid = measurand('grid', { unit: 'mm' });
    const ratio = withSettings(grid, { ...grid.settings, statistic: 'maxToMin' });
    expect(ratio).toMatchObject({
      unit: '',
      direction: { kind: 'lower' },
      margin: { value: 0 },
      limits: { low: null, high: null },
    });
    expect(withSettings(grid, { ...grid.settings, statistic: 'christiansen' })).toMatchObject({
      unit: '%',
      direction: { kind: 'higher' },
    });
  });
  it.each([
    ['before-after', { as: 'percent' }],
    ['against-reference', { as: 'relative' }],
    ['recording', { weighting: 'C' }],
    ['trace', { quantity: 'peak' }],
  ])('is made by asking a %s for something else', (form, change) => {
    const before = measurand(form);
    const settings = { ...before.settings, ...change };
    expect(settings).not.toEqual(before.settings);
    expect(withSettings(before, settings)).toMatchObject({
      margin: { value: 0 },
      limits: { low: null, high: null },
    });
  });
  it('is not made by another number of rows', () => {
    const grid = measurand('grid', { unit: 'mm' });
    expect(withSettings(grid, { ...grid.settings, rows: 4 })).toEqual({
      settings: { ...grid.settings, rows: 4 },
    });
  });
});

describe('another reading form', () => {
  it('brings its direction along unless the tester chose one', () => {
    expect(withForm(measurand('value', { unit: 'g' }), 'timed')).toMatchObject({
      form: 'timed',
      unit: 's',
      direction: { kind: 'lower' },
      margin: { value: 0 },
    });
    expect(
      withForm(measurand('value', { unit: 's', direction: { kind: 'lower', target: null } }), 'count'),
    ).not.toHaveProperty('direction');
    // Less was better of a mass; that says nothing of a time.
    expect(
      withForm(measurand('value', { unit: 'g', direction: { kind: 'nearest', target: 2 } }), 'timed'),
    ).toMatchObject({ direction: { kind: 'lower' } });
  });
  it('of which nobody else can know what is better is not ranked until the tester says', () => {
    expect(newMeasurand('Loss', 1, 'before-after').direction.kind).toBe('unranked');
  });
});
