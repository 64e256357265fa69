import { describe, expect, it } from 'vitest';
import toothGrowth from '../reference/two-factors.json' with { type: 'json' };
import { twoWay } from './two-way.ts';

/** Readings of the design, row by row; without those whose place in the list is named. */
function cells(without: readonly number[] = []): Float64Array[][] {
  return ['OJ', 'VC'].map((a) =>
    ['0.5', '1', '2'].map((b) =>
      Float64Array.from(
        toothGrowth.values.filter(
          (_, i) => toothGrowth.factorA[i] === a && toothGrowth.factorB[i] === b && !without.includes(i),
        ),
      ),
    ),
  );
}

describe('the two-way analysis', () => {
  it('agrees with R on a balanced design', () => {
    const found = twoWay(cells());
    const [a, b, ab] = toothGrowth.expected.terms;
    for (const [term, expected] of [
      [found?.rows, a],
      [found?.columns, b],
      [found?.interaction, ab],
    ] as const) {
      expect(term?.df).toBe(expected?.df);
      expect(term?.ss).toBeCloseTo(expected?.ss as number, 8);
      expect(term?.f).toBeCloseTo(expected?.f as number, 8);
      expect((term?.p as number) / (expected?.p as number)).toBeCloseTo(1, 6);
    }
    expect(found?.residual.ss).toBeCloseTo(toothGrowth.expected.residual.ss, 8);
  });
  it('is of type II where counts differ, as R’s anova of nested lm is', () => {
    // R 4: ToothGrowth[-c(1,2,3,15,40,41,60),], anova(lm(len ~ dose), lm(len ~ supp + dose)) and the like.
    const found = twoWay(cells([0, 1, 2, 14, 39, 40, 59]));
    expect(found?.rows.ss).toBeCloseTo(221.085915270385, 8);
    expect(found?.columns.ss).toBeCloseTo(2053.82609933096, 8);
    expect(found?.interaction?.ss).toBeCloseTo(112.932668271803, 8);
    expect(found?.interaction?.p).toBeCloseTo(0.0189287751785712, 9);
    expect(found?.residual).toEqual({ df: 47, ss: expect.closeTo(614.108126984127, 8) as number });
  });
  it('keeps the digits of readings that share many', () => {
    const plain = twoWay(cells());
    const lifted = twoWay(
      cells().map((row) => row.map((cell) => cell.map((value) => value * 1024 + 2 ** 40))),
    );
    expect((lifted?.interaction?.f as number) / (plain?.interaction?.f as number)).toBeCloseTo(1, 6);
  });
  it('says nothing of what the cells do not hold', () => {
    const [first] = cells();
    expect(twoWay([first as Float64Array[]])).toBeUndefined();
    expect(twoWay(cells().map((row) => row.map((cell) => cell.slice(0, 1))))).toBeUndefined();
    expect(twoWay([])).toBeUndefined();
    // Three cells of a two by two carry no interaction.
    const corner = cells().map((row) => row.slice(0, 2));
    (corner[1] as Float64Array[])[1] = new Float64Array();
    expect(twoWay(corner)?.interaction).toBeUndefined();
    expect(twoWay(corner)?.rows.df).toBe(1);
  });
});
