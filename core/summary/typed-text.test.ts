import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { knownBy, textsOf } from './typed-text.ts';

const NOTHING = { n: '', mean: '', sd: '', ends: '', range: '' };
const summary = (texts: Partial<typeof NOTHING>, unit = 'g') =>
  knownBy('summary', { ...NOTHING, ...texts }, unit);

describe('a figure from elsewhere as it is typed in', () => {
  it('is a mean, how many readings it is of and their SD, in any unit that fits', () => {
    expect(summary({ n: '5', mean: '1,2 kg', sd: '30 g', ends: '1150 to 1.25 kg' })).toEqual({
      known: { kind: 'summary', n: 5, mean: 1200, sd: 30, low: 1150, high: 1250 },
    });
    expect(summary({ n: '1', mean: '3' })).toEqual({
      known: { kind: 'summary', n: 1, mean: 3, sd: null, low: null, high: null },
    });
    expect(knownBy('range', { ...NOTHING, range: '> 2 kg' }, 'g')).toEqual({
      known: { kind: 'range', n: null, mean: null, sd: null, low: 2000, high: null },
    });
  });
  it.each([
    [{}, ['n', 'mean']],
    [{ n: '2.5', mean: '3', sd: '1' }, ['n']],
    [{ n: '0', mean: '3' }, ['n']],
    [{ n: '5', mean: 'a lot', sd: '1' }, ['mean']],
    [{ n: '5', mean: '3' }, ['sd']],
    [{ n: '2', mean: '3' }, ['sd']],
    [{ n: '5', mean: '3', sd: '-1' }, ['sd']],
    [{ n: '1', mean: '3', sd: '1' }, ['sd']],
    [{ n: '5', mean: '3', sd: '1', ends: '4 to 2' }, ['ends']],
  ])('says what is wrong with which field: %o', (texts, fields) => {
    const understood = summary(texts);
    expect(Object.keys('problems' in understood ? understood.problems : {})).toEqual(fields);
  });
  it('takes no spread in degrees of another scale, which has no zero to convert by', () => {
    expect(summary({ n: '5', mean: '212 °F', sd: '0.5' }, '°C')).toMatchObject({
      known: { mean: 100, sd: 0.5 },
    });
    expect(summary({ n: '5', mean: '20', sd: '0.5 °F' }, '°C')).toHaveProperty('problems.sd');
  });
  it('asks for a range where none is typed in', () => {
    expect(knownBy('range', NOTHING, 'g')).toHaveProperty('problems.range');
  });
  it('is read again as it was, to the last digit', () => {
    const number = fc
      .double({ noNaN: true, noDefaultInfinity: true, min: -1e12, max: 1e12 })
      .map((value) => value + 0);
    const end = fc.option(number, { nil: null });
    const known = fc.oneof(
      fc.record({
        ...{ kind: fc.constant('summary' as const), n: fc.integer({ min: 2, max: 1e9 }), mean: number },
        ...{ sd: number.map(Math.abs), low: end, high: end },
      }),
      fc.record({
        ...{ kind: fc.constant('range' as const), n: fc.constant(null), mean: fc.constant(null) },
        ...{ sd: fc.constant(null), low: end, high: end },
      }),
    );
    fc.assert(
      fc.property(known, (figure) => {
        const { low, high } = figure;
        fc.pre(low === null || high === null || low <= high);
        fc.pre(figure.kind === 'summary' || low !== null || high !== null);
        expect(knownBy(figure.kind, textsOf(figure), 'g')).toEqual({ known: figure });
      }),
    );
  });
});
