import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { StudyDocument } from '../model/study-document.ts';
import { testStudy } from '../testing-study.ts';
import { agreementOf } from './agree.ts';

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
  it('gives lines for items with enough pairs', () => {
    // Dorrit's scale is planted to be a fifth short; the others follow the bath.
    for (const { label, deming, passingBablok } of found?.byItem ?? []) {
      for (const line of [deming, passingBablok]) {
        expect(Math.abs((line?.slope ?? 0) - (label === 'Dorrit' ? 0.807 : 1))).toBeLessThan(0.02);
      }
    }
  });
  it('is not there without a reference', () => {
    const { document, measurand } = testStudy(['Ama']);
    expect(agreementOf(document, measurand.id)).toBeUndefined();
    expect(agreementOf(document, 'nothing')).toBeUndefined();
  });
});
