import { describe, expect, it } from 'vitest';
import { newMeasurand } from '../plan/new-parts.ts';
import { readingForm } from '../forms/index.ts';
import type { PartTexts } from '../forms/form.ts';
import { type SlipContext, readingQuestion, slipQuestion, swappedDigits } from './slip.ts';

const context: SlipContext = {
  unit: 'm/s',
  limits: { low: 0.5, high: 8 },
  resolution: 0.01,
  ofItem: [3.02, 3.03, 3.01, 3.04],
  all: [3.02, 3.41, 3.03, 2.71, 3.01, 3.4, 3.04],
  itemName: 'Merrowick',
};

// Common practice, no source: the slips that testers report of themselves.
describe('the slip question', () => {
  it('lets an ordinary reading pass', () => {
    expect(slipQuestion(3.05, context)).toBeUndefined();
    expect(slipQuestion(3.1, context)).toBeUndefined();
  });
  it('sees a decimal point that moved by one or two places', () => {
    expect(slipQuestion(30.3, context)).toMatchObject({ kind: 'decimal point', suggestion: 3.03 });
    expect(slipQuestion(303, context)).toMatchObject({ kind: 'decimal point', suggestion: 3.03 });
    expect(slipQuestion(0.303, context)).toMatchObject({ kind: 'decimal point', suggestion: 3.03 });
    expect(slipQuestion(31.9, context)).toMatchObject({ kind: 'decimal point', suggestion: 3.19 });
  });
  it('sees one that moved by three places, either way', () => {
    const [small, large] = [3.02 / 1000, 3020];
    expect(slipQuestion(small, context)).toMatchObject({ kind: 'decimal point', suggestion: 3.02 });
    expect(slipQuestion(large, context)).toMatchObject({ kind: 'decimal point', suggestion: 3.02 });
  });
  it('asks from eight typical deviations on, and not at eight', () => {
    // The others lie around 4, apart by more than a hundredth of it: 8 · 1.4826 · 1 away is as far as goes without a question.
    const even = { ...context, ofItem: [3, 4, 5], limits: { low: null, high: null } };
    const farthest = 4 + 8 * 1.4826;
    expect(slipQuestion(farthest, even)).toBeUndefined();
    expect(slipQuestion(farthest + 0.01, even)).toBeDefined();
  });
  it('sees two digits swapped', () => {
    expect(swappedDigits(3.9, 2)).toEqual([9.3, 3.09]);
    expect(swappedDigits(-12)).toEqual([-21]);
    expect(swappedDigits(33)).toEqual([]);
    expect(slipQuestion(3.9, { ...context, ofItem: [3.08, 3.09, 3.1] })).toMatchObject({
      kind: 'digits swapped',
      suggestion: 3.09,
    });
  });
  it('questions a value outside the plausible limits, without other readings too', () => {
    const first = { ...context, ofItem: [], all: [] };
    expect(slipQuestion(9, first)).toMatchObject({ kind: 'outside limits' });
    expect(slipQuestion(9, first)?.sentence).toContain('above your limit of 8');
    expect(slipQuestion(0.1, first)?.sentence).toContain('below your limit of 0.5');
    expect(slipQuestion(3, first)).toBeUndefined();
  });
  it('questions a value far from the item’s own, not from another item’s', () => {
    expect(slipQuestion(4.2, context)).toMatchObject({ kind: 'far from its others' });
    expect(slipQuestion(2.7, { ...context, ofItem: [] })).toBeUndefined();
  });
  it('asks after the fifth equal reading whether the instrument is stuck', () => {
    const stuck = { ...context, ofItem: [3.02, 3.02, 3.02, 3.02] };
    expect(slipQuestion(3.02, stuck)).toMatchObject({ kind: 'same again' });
    expect(slipQuestion(3.02, { ...context, ofItem: [3.02, 3.02, 3.02] })).toBeUndefined();
    expect(slipQuestion(3.03, stuck)).toBeUndefined();
    const before = { ...context, ofItem: [3.03, 3.02, 3.02, 3.02, 3.02] };
    expect(slipQuestion(3.02, before)).toMatchObject({ kind: 'same again' });
    expect(slipQuestion(3.02, { ...context, ofItem: [3.02, 3.03, 3.02, 3.02, 3.02] })).toBeUndefined();
  });
  it('suggests nothing that the limits forbid', () => {
    const narrow = { ...context, limits: { low: 3.1, high: 8 } };
    expect(slipQuestion(30.3, narrow)?.suggestion).toBeUndefined();
  });
});

describe('the question about a reading of several parts', () => {
  const ask = (form: string, texts: PartTexts, ofItem: number[], change: object = {}) => {
    const measurand = { ...newMeasurand('Any', 1), form, unit: 'g', ...change };
    const read = readingForm(form)?.read(texts, measurand);
    if (!read || 'problem' in read) throw new Error(read?.problem ?? form);
    return readingQuestion(read.parts, measurand, { ofItem, all: ofItem, itemName: 'Almo' });
  };
  it('asks about a second release that came before the first', () => {
    const ramp = { unit: '°' };
    expect(ask('ramp', { release1: '31', release2: '24' }, [], ramp)?.kind).toBe('odd parts');
    expect(ask('ramp', { release1: '24', release2: '31' }, [], ramp)).toBeUndefined();
  });
  it('points to the parts where the value that came of them is far off, and suggests no value', () => {
    const doubt = ask('before-after', { before: '10', after: '310' }, [30, 31, 29, 30]);
    expect(doubt?.sentence).toMatch(/^300\sg is far from the others. Look at the parts again.$/);
    expect(doubt?.suggestion).toBeUndefined();
    expect(ask('before-after', { before: '10', after: '40' }, [30, 31, 29, 30])).toBeUndefined();
  });
  it('asks about no score: marks are not a measure', () => {
    const score = { unit: '', settings: { marks: ['poor', 'fair', 'good'] } };
    expect(ask('score', { mark: 'good' }, [1, 1, 1, 1], score)).toBeUndefined();
  });
});
