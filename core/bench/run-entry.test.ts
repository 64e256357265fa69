import { describe, expect, it } from 'vitest';
import type { Measurand } from '../model/parts.ts';
import { testStudy } from '../testing-study.ts';
import { runQueue } from './queue.ts';
import { filledIn, understoodWords, withInstrumentText, yardstick } from './run-entry.ts';

const plain = (text: string | undefined) => text?.replace(/\s/g, ' ');
const measurandOf = (change: Partial<Measurand>): Measurand => ({
  ...testStudy(['Ama']).measurand,
  ...change,
});

describe('what was typed, in words', () => {
  it.each([
    ['2.5 kg', '2500 g'],
    ['1/4', '0.25 g'],
    ['1.2k', '1200 g'],
    ['12,5', undefined],
    ['12.5', undefined],
    ['', undefined],
    ['half a spoon', undefined],
  ])('of “%s” is %s', (text, words) => {
    expect(plain(understoodWords(measurandOf({}), { value: text }))).toBe(words);
  });
  it('says a yield and a relative error as they come about', () => {
    const yieldOf = measurandOf({ form: 'fed-recovered', unit: '%' });
    expect(plain(understoodWords(yieldOf, { fed: '200', recovered: '150' }))).toBe('75 %');
    expect(understoodWords(yieldOf, { fed: '200' })).toBeUndefined();
    const errorIn = (unit: string) => measurandOf({ form: 'against-reference', unit });
    const pair = { reference: '50', indicated: '51' };
    expect(plain(understoodWords(errorIn('L'), pair))).toBe('1 L (2 %)');
    const evenness = measurandOf({
      form: 'grid',
      unit: '',
      settings: { rows: 1, columns: 2, statistic: 'maxToMin' },
    });
    expect(understoodWords(evenness, { r1c1: '4', r1c2: '2' })).toBe('2');
    // The largest to a smallest of 0 is no number.
    expect(understoodWords(evenness, { r1c1: '4', r1c2: '0' })).toBeUndefined();
    // A share of a temperature in degrees Celsius means nothing.
    expect(plain(understoodWords(errorIn('°C'), pair))).toBe('1 °C');
  });
});

describe('what an instrument sends', () => {
  it('fills the first part that is empty, and says when all are there', () => {
    const ramp = measurandOf({ form: 'before-after' });
    const first = withInstrumentText(ramp, {}, '3.1 g');
    expect(first).toEqual({ texts: { before: '3.1 g' }, complete: false });
    const second = withInstrumentText(ramp, first.texts, '3.4 g');
    expect(second).toEqual({ texts: { before: '3.1 g', after: '3.4 g' }, complete: true });
    // With nothing empty it is the first part again.
    expect(withInstrumentText(ramp, second.texts, '9').texts).toEqual({ before: '9', after: '3.4 g' });
  });
  it('is cut to what a reading may hold', () => {
    expect(withInstrumentText(measurandOf({}), {}, 'x'.repeat(1000)).texts.value).toHaveLength(60);
  });
});

describe('what the next item is fed with', () => {
  const chained = (settings: Measurand['settings']) => {
    const study = testStudy(['Ama', 'Bel'], { runOrder: 'fixed', rounds: 1 });
    Object.assign(study.measurand, { form: 'fed-recovered', settings });
    const [first, second] = runQueue(study.document);
    if (!first || !second) throw new Error('no runs');
    const reading = study.read(0, 1, '0');
    reading.parts = [
      { name: 'fed', text: '200', number: 200 },
      { name: 'recovered', text: '180 g', number: 180 },
    ];
    return { queue: runQueue(study.document), first, second };
  };
  it('is what the last one recovered, as it was typed', () => {
    const { queue, first, second } = chained({ chained: true });
    expect(filledIn(queue, second)).toEqual({ fed: '180 g' });
    expect(filledIn(queue, first)).toEqual({});
  });
  it('is typed where the plan chains nothing', () => {
    const { queue, second } = chained({});
    expect(filledIn(queue, second)).toEqual({});
  });
});

describe('what a reading is held against', () => {
  it('are those that count, of its measurand and setting, its own item’s apart', () => {
    const { document, read, decide } = testStudy(['Ama', 'Bel'], { runOrder: 'fixed' });
    read(0, 1, '3');
    read(1, 1, '5');
    const misread = read(0, 2, '30');
    decide('misfire', { readingId: misread.id });
    const elsewhere = read(0, 3, '99');
    elsewhere.levels = [{ factorId: document.study.id, levelId: document.study.id }];
    const run = runQueue(document).find(({ state }) => state === 'to come');
    if (!run) throw new Error('no run');
    const ama = { ...run, itemId: document.items[0]?.id ?? '' };
    expect(yardstick(document, ama)).toEqual({ ofItem: [3], all: [3, 5] });
    expect(yardstick(document, { ...ama, measurandId: document.study.id })).toEqual({ ofItem: [], all: [] });
  });
});
