import { describe, expect, it } from 'vitest';
import { agreement } from './agreement.ts';
import { deming, passingBablok } from './lines.ts';

const X = [1.2, 2.1, 3.3, 4.0, 5.2, 6.1, 7.4, 8.0, 9.1, 10.3];
const Y = [1.4, 2.0, 3.6, 4.1, 5.9, 6.0, 7.9, 8.1, 9.8, 10.2];
const PAIRS = X.map((reference, i) => ({ reference, indicated: Y[i] as number }));

const close = (found: readonly number[] | null | undefined, expected: readonly number[]) => {
  expect(found).toHaveLength(expected.length);
  expected.forEach((value, i) => {
    expect(found?.[i]).toBeCloseTo(value, 7);
  });
};

describe('agreement with a reference', () => {
  // R 4.2 on these ten pairs, by the definitions.
  it('is bias, mean absolute and relative error, RMSE, SD and limits', () => {
    const found = agreement(PAIRS, 0.05);
    close(
      [found?.bias, found?.meanAbsolute, found?.meanRelative, found?.rmse, found?.sd].map(Number),
      [0.23, 0.29, 0.0647903014788, 0.3754996671104, 0.3128720008069],
    );
    close(found?.limits, [-0.383229121581, 0.843229121581]);
    close(found?.limitIntervals?.[0], [-0.383229121581 - 0.396236397414, -0.383229121581 + 0.396236397414]);
    expect(found?.largest).toBeCloseTo(0.7, 12);
  });
  it('takes no relative difference from a reference of 0, and says how many there are', () => {
    const found = agreement(
      [
        { reference: 0, indicated: 1 },
        { reference: 10, indicated: 9 },
      ],
      0.05,
    );
    expect(found).toMatchObject({ n: 2, zeros: 1, meanRelative: 0.1 });
    expect(agreement([{ reference: 0, indicated: 1 }], 0.05)?.meanRelative).toBeNull();
  });
  // Common practice, no source: a 10 against a reading of 9 is a relative difference of 10 %.
  it('of one pair has no spread and no limits', () => {
    expect(agreement([{ reference: 10, indicated: 9 }], 0.05)).toMatchObject({
      ...{ bias: -1, meanRelative: 0.1, sd: null, limits: null, limitIntervals: null },
    });
    expect(agreement([], 0.05)).toBeUndefined();
  });
});

describe('lines of indicated against reference', () => {
  it('Deming’s, with its jackknife interval', () => {
    const line = deming(PAIRS, 0.05);
    close([line?.slope, line?.intercept].map(Number), [1.0202156891, 0.115377042802]);
    close(line?.slopeInterval, [0.91578334908, 1.1165932267]);
    close(line?.interceptInterval, [-0.346863947792, 0.60116133369]);
  });
  it('Passing and Bablok’s, with its interval', () => {
    const line = passingBablok(PAIRS, 0.05);
    close([line?.slope, line?.intercept].map(Number), [1, 0.15]);
    close(line?.slopeInterval, [0.913043478261, 1.114285714286]);
  });
  it('Passing and Bablok’s is untouched by one wild pair', () => {
    const wild = [...PAIRS, { reference: 5, indicated: 50 }];
    expect(passingBablok(wild, 0.05)?.slope).toBeCloseTo(1, 1);
  });
  it('are not drawn through two pairs, nor where nothing varies', () => {
    expect(deming(PAIRS.slice(0, 2), 0.05)).toBeUndefined();
    expect(passingBablok(PAIRS.slice(0, 2), 0.05)).toBeUndefined();
    const same = [1, 2, 3].map(() => ({ reference: 5, indicated: 5 }));
    expect(deming(same, 0.05)).toBeUndefined();
    expect(passingBablok(same, 0.05)).toBeUndefined();
  });
});
