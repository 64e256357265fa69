import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { StudyDocument } from '../model/study-document.ts';
import { testStudy } from '../testing-study.ts';
import { agreementOf } from './agree.ts';
import { settingsRead } from './settings.ts';

const thermometers = JSON.parse(readFileSync('demo/kitchen-thermometers.json', 'utf8')) as StudyDocument;

describe('agreement of a study with its reference', () => {
  const [error] = thermometers.measurands;
  const found = agreementOf(thermometers, error?.id ?? '');
  it('is of every item, over all settings, with its share within the spec', () => {
    expect(found?.byItem.map(({ label }) => label)).toEqual([
      ...['Brindle P', 'Casker 3', 'Dorrit', 'Ellow Mini', 'Fennick'],
    ]);
    const pairs = found?.byItem.reduce((sum, { agreement }) => sum + agreement.n, 0);
    expect(pairs).toBe(found?.pairs.length);
    expect(found?.whole.n).toBe(pairs);
    for (const { within, agreement } of found?.byItem ?? []) expect(within?.n).toBe(agreement.n);
  });
  it('has three bands of the reference, which hold every pair once', () => {
    expect(found?.byBand.map(({ label }) => label)).toEqual(['low', 'middle', 'high']);
    expect(found?.byBand.reduce((sum, { agreement }) => sum + agreement.n, 0)).toBe(found?.pairs.length);
  });
  it('is of every setting, such as before and after what was done to the items', () => {
    expect(found?.bySetting.map(({ label }) => label)).toEqual(
      settingsRead(thermometers).map(({ words }) => words),
    );
    expect(found?.bySetting.length).toBeGreaterThan(1);
    expect(found?.bySetting.reduce((sum, { agreement }) => sum + agreement.n, 0)).toBe(found?.pairs.length);
    // Each group has what its own readings say, and no other's.
    for (const { key, agreement } of found?.bySetting ?? []) {
      const pairs = found?.pairs.filter(({ setting }) => setting === key) ?? [];
      const errors = pairs.map(({ indicated, reference }) => indicated - reference);
      expect(agreement.bias).toBeCloseTo(errors.reduce((sum, error) => sum + error, 0) / errors.length, 12);
    }
  });
  it('gives lines for items with enough pairs', () => {
    // Dorrit's scale is planted to be a fifth short; the others follow the bath.
    for (const { label, deming, passingBablok } of found?.byItem ?? []) {
      for (const line of [deming, passingBablok]) {
        expect(Math.abs((line?.slope ?? 0) - (label === 'Dorrit' ? 0.807 : 1))).toBeLessThan(0.02);
      }
    }
  });
  it('can do without the pairs that were taken while the reference moved', () => {
    const { document, measurand, items, read } = testStudy(['Ama', 'Bel']);
    Object.assign(measurand, { form: 'against-reference', unit: '°C' });
    // The bath warms by 2 °C a minute for a while; Bel lags by a degree meanwhile.
    [20, 20, 22, 24, 26, 26, 26].forEach((reference, minute) => {
      items.forEach((_, item) => {
        const reading = read(item, minute + 1, '0');
        const moving = minute > 1 && minute < 4;
        const indicated = reference + 0.1 * item - (item === 1 && moving ? 1 : 0);
        reading.parts = [
          { name: 'indicated', text: '', number: indicated },
          { name: 'reference', text: '', number: reference },
        ];
        reading.takenAt = new Date(Date.UTC(2026, 4, 4, 10, minute, 10 * item)).toISOString();
      });
    });
    const all = agreementOf(document, measurand.id);
    expect(Math.max(...(all?.pairs ?? []).map(({ rate }) => rate ?? 0))).toBeGreaterThan(1.9);
    const calm = agreementOf(document, measurand.id, 0.05);
    const biasOf = (found: typeof all) => found?.byItem[1]?.agreement.bias ?? Number.NaN;
    expect(biasOf(all)).toBeLessThan(-0.1);
    expect(biasOf(calm)).toBeCloseTo(0.1, 12);
    expect(calm?.pairs.length).toBeLessThan(all?.pairs.length ?? 0);
    expect(agreementOf(document, measurand.id, Number.POSITIVE_INFINITY)).toEqual(all);
  });
  it('is of each day, where there is more than one, in their order', () => {
    const { document, measurand, read } = testStudy(['Ama']);
    Object.assign(measurand, { form: 'against-reference', unit: '°C' });
    const take = (round: number, day: string, error: number, reference: number | null = 20) => {
      const reading = read(0, round, '0');
      reading.parts = [
        { name: 'indicated', text: '', number: 20 + error },
        { name: 'reference', text: '', number: reference },
      ];
      reading.takenAt = `${day}T10:0${String(round % 10)}:00.000Z`;
    };
    for (const round of [1, 2, 3]) take(round, '2026-05-05', 0.5 + 0.1 * (round % 2));
    expect(agreementOf(document, measurand.id)?.byDay).toEqual([]);
    for (const round of [4, 5, 6]) take(round, '2026-05-04', -0.5 + 0.1 * (round % 2));
    // Without a reference it is no pair.
    take(7, '2026-05-06', 3, null);
    const byDay = agreementOf(document, measurand.id)?.byDay ?? [];
    expect(byDay.map(({ label, agreement: { n } }) => [label, n])).toEqual([
      ['2026-05-04', 3],
      ['2026-05-05', 3],
    ]);
    expect(byDay[0]?.agreement.bias).toBeCloseTo(-0.5 + 0.1 / 3, 9);
    expect(byDay[1]?.agreement.bias).toBeCloseTo(0.5 + 0.2 / 3, 9);
  });
  it('is not there without a reference', () => {
    const { document, measurand } = testStudy(['Ama']);
    expect(agreementOf(document, measurand.id)).toBeUndefined();
    expect(agreementOf(document, 'nothing')).toBeUndefined();
  });
});
