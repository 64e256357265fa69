import { describe, expect, it } from 'vitest';
import { testStudy } from '../testing-study.ts';
import { pooledSpread } from './pooled-spread.ts';

describe('the pooled spread', () => {
  const spreadOf = (...items: string[][]) => {
    const { document, measurand, read } = testStudy(items.map((_, i) => `Item ${String(i + 1)}`));
    items.forEach((texts, item) => {
      texts.forEach((text, round) => read(item, round + 1, text));
    });
    return pooledSpread(document, measurand.id).spread;
  };
  it('is that of each item around its own mean', () => {
    // By hand: (1 + 0 + 1 + 4 + 4)/(2 + 1).
    expect(spreadOf(['1', '2', '3'], ['10', '14'], ['7'])).toBeCloseTo(Math.sqrt(10 / 3), 12);
  });
  it('is not known where nothing was read twice, or all readings of an item are the same', () => {
    expect(spreadOf(['1'], ['2'])).toBeUndefined();
    expect(spreadOf(['1', '1'], ['2', '2'])).toBeUndefined();
  });
});
