import { describe, expect, it } from 'vitest';
import { analyseStudy } from '../../../core/analysis/analyse-study.ts';
import { testStudy } from '../../../core/testing-study.ts';
import { headline } from './headline.ts';

/** What stands over the strip once the last reading of the first item is left out. */
function said(first: readonly string[], second: readonly string[], name = 'Ama'): string {
  const { document, measurand, read, decide } = testStudy([name, 'Bel']);
  second.forEach((text, round) => read(1, round + 1, text));
  const [last] = first.map((text, round) => read(0, round + 1, text).id).slice(-1);
  decide('leave-out', { readingId: last ?? '', reason: 'a slip' });
  const [setting] = analyseStudy(document, measurand.id, { resamples: 0 }).settings;
  if (!setting) throw new Error('nothing was read');
  return headline(setting, measurand).replaceAll('\u202f', ' ');
}

describe('what leaving readings out does to the means', () => {
  it.each([
    [['3.1', '3.2', '3.3', '4.4'], ['5.1', '5.2', '5.4'], 'That moves Ama by 0.30 g.'],
    [['0.0841', '0.0843', '0.0842', '0.0565'], ['0.0991', '0.0993', '0.0994'], 'That moves Ama by 0.0069 g.'],
    [['310', '320', '330', '800'], ['510', '520', '540'], 'That moves Ama by 120 g.'],
    // Printed as before.
    [['3.1', '3.2', '3.3', '3.2'], ['5.1', '5.2', '5.4'], 'No mean moves by it.'],
  ])('is said with the figures of the shift, however large readings are: %j', (first, second, moves) => {
    expect(said(first, second)).toBe(`1 reading is left out. ${moves}`);
  });
  it('does not count as left out what gave way at the bench, and says that too', () => {
    const { document, measurand, read, decide } = testStudy(['Ama', 'Bel']);
    const first = ['3.1', '3.2', '3.3', '4.4'].map((text, round) => read(0, round + 1, text));
    ['5.1', '5.2', '5.4', '5.3'].forEach((text, round) => read(1, round + 1, text));
    const now = () => {
      const [setting] = analyseStudy(document, measurand.id, { resamples: 0 }).settings;
      return setting && headline(setting, measurand).replaceAll('\u202f', ' ');
    };
    expect(now()).toBe('Every reading counts.');
    decide('misfire', { readingId: first[0]?.id ?? '', reason: 'a draught' });
    expect(now()).toBe('Every reading counts but 1 misfire.');
    decide('leave-out', { readingId: first[3]?.id ?? '', reason: 'a slip' });
    expect(now()).toMatch(/^1 reading is left out, besides 1 misfire\. That moves Ama by /);
  });
  it('keeps the number of an item with its name, wherever a line ends', () => {
    const moves = (name: string) => said(['3.1', '3.2', '3.3', '4.4'], ['5.1', '5.2'], name);
    expect(moves('Ama 2')).toContain('moves Ama\u00a02 by');
    expect(moves('Ama Mini')).toContain('moves Ama Mini by');
  });
});
