import { describe, expect, it } from 'vitest';
import { analyseStudy } from '../../../core/analysis/analyse-study.ts';
import { testStudy } from '../../../core/testing-study.ts';
import { headline } from './headline.ts';

/** What stands over the strip once the last reading of the first item is left out. */
function said(readings: readonly (readonly string[])[], item = 0): string {
  const { document, measurand, read, decide } = testStudy(['Ama', 'Bel', 'Cor', 'Dun']);
  const places = readings.map((texts, i) => texts.map((text, round) => read(i, round + 1, text).id));
  const last = places[item]?.at(-1);
  if (last !== undefined) decide('leave-out', { readingId: last, reason: 'a slip' });
  const [setting] = analyseStudy(document, measurand.id, { resamples: 0 }).settings;
  if (!setting) throw new Error('nothing was read');
  return headline(setting, measurand).replace(/\s/g, ' ');
}

describe('what leaving readings out does to the means', () => {
  it('is said with the figures of the shift, however small the readings are', () => {
    expect(
      said([
        ['3.1', '3.2', '3.3', '4.4'],
        ['5.1', '5.2', '5.4'],
      ]),
    ).toBe('1 reading is left out. That moves Ama by 0.30 g.');
    expect(
      said([
        ['0.0841', '0.0843', '0.0842', '0.0565'],
        ['0.0991', '0.0993', '0.0994'],
      ]),
    ).toBe('1 reading is left out. That moves Ama by 0.0069 g.');
    expect(
      said([
        ['310', '320', '330', '800'],
        ['510', '520', '540'],
      ]),
    ).toBe('1 reading is left out. That moves Ama by 120 g.');
  });
  it('is nothing where the mean is printed as before', () => {
    expect(
      said([
        ['3.1', '3.2', '3.3', '3.2'],
        ['5.1', '5.2', '5.4'],
      ]),
    ).toBe('1 reading is left out. No mean moves by it.');
  });
});
