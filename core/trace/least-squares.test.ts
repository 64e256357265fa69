import { describe, expect, it } from 'vitest';
import { type Curve, fitCurve } from './least-squares.ts';

/**
 * Three sets of NIST StRD, nonlinear regression, with certified parameters, standard deviations and sums of squares.
 * Data and figures are from memory; that they fit each other to ten figures shows that both are as published.
 */
const MISRA: Curve = (x, [a = 0, k = 0], gradient = new Float64Array(2)) => {
  gradient[0] = 1 - Math.exp(-k * x);
  gradient[1] = a * x * Math.exp(-k * x);
  return a * gradient[0];
};
const DAN_WOOD: Curve = (x, [a = 0, power = 0], gradient = new Float64Array(2)) => {
  gradient[0] = x ** power;
  gradient[1] = a * x ** power * Math.log(x);
  return a * gradient[0];
};
const CHWIRUT: Curve = (x, [k = 0, a = 0, b = 0], gradient = new Float64Array(3)) => {
  const height = Math.exp(-k * x) / (a + b * x);
  gradient[0] = -x * height;
  gradient[1] = -height / (a + b * x);
  gradient[2] = (-x * height) / (a + b * x);
  return height;
};

const CHWIRUT_2 = `92.9 .5 57.1 1 31.05 1.75 11.5875 3.75 8.025 5.75 63.6 .875 21.4 2.25 14.25 3.25 8.475 5.25
  63.8 .75 26.8 1.75 16.4625 2.75 7.125 4.75 67.3 .625 41 1.25 21.15 2.25 8.175 4.25 81.5 .5 13.12 3 59.9 .75 14.62 3
  32.9 1.5 5.44 6 12.56 3 5.44 6 32 1.5 13.95 3 75.8 .5 20 2 10.42 4 59.5 .75 21.67 2 8.55 5 62 .75 20.2 2.25 7.76 3.75
  3.75 5.75 11.81 3 54.7 .75 23.7 2.5 11.55 4 61.3 .75 17.7 2.5 8.74 4 59.2 .75 16.3 2.5 8.62 4 81 .5 4.87 6 14.62 3
  81.7 .5 17.17 2.75 81.3 .5 28.9 1.75`
  .trim()
  .split(/\s+/)
  .map(Number);

const SETS = [
  {
    name: 'Misra1a',
    curve: MISRA,
    y: [10.07, 14.73, 17.94, 23.93, 29.61, 35.18, 40.02, 44.82, 50.76, 55.05, 61.01, 66.4, 75.47, 81.78],
    x: [77.6, 114.9, 141.1, 190.8, 239.9, 289, 332.8, 378.4, 434.8, 477.3, 536.8, 593.1, 689.1, 760],
    starts: [
      [500, 0.0001],
      [250, 0.0005],
    ],
    parameters: [2.3894212918e2, 5.5015643181e-4],
    sds: [2.7070075241, 7.2668688436e-6],
    squares: 1.2455138894e-1,
  },
  {
    name: 'Chwirut2',
    curve: CHWIRUT,
    y: CHWIRUT_2.filter((_, i) => i % 2 === 0),
    x: CHWIRUT_2.filter((_, i) => i % 2 === 1),
    starts: [
      [0.1, 0.01, 0.02],
      [0.15, 0.008, 0.01],
    ],
    parameters: [1.6657666537e-1, 5.1653291286e-3, 1.2150007096e-2],
    sds: [3.830328681e-2, 6.6621605126e-4, 1.5304234767e-3],
    squares: 5.1304802941e2,
  },
  {
    name: 'DanWood',
    curve: DAN_WOOD,
    y: [2.138, 3.421, 3.597, 4.34, 4.882, 5.66],
    x: [1.309, 1.471, 1.49, 1.565, 1.611, 1.68],
    starts: [
      [1, 5],
      [0.7, 4],
    ],
    parameters: [7.6886226176e-1, 3.8604055871],
    sds: [1.828197386e-2, 5.1726610913e-2],
    squares: 4.3173084083e-3,
  },
];

describe('a curve by least squares', () => {
  for (const { name, curve, x, y, starts, parameters, sds, squares } of SETS) {
    it.each(starts.map((start) => [start]))(`finds the certified values of ${name} from %j`, (start) => {
      const fit = fitCurve(Float64Array.from(x), Float64Array.from(y), curve, start);
      expect(fit?.df).toBe(x.length - parameters.length);
      const share = (found: number | undefined, certified: number) => (found ?? Number.NaN) / certified;
      for (const [i, certified] of parameters.entries())
        expect(share(fit?.parameters[i], certified)).toBeCloseTo(1, 8);
      for (const [i, certified] of sds.entries()) expect(share(fit?.sds[i], certified)).toBeCloseTo(1, 7);
      expect(share(fit?.residualSquares, squares)).toBeCloseTo(1, 9);
    });
  }

  it('gives a search up that finds no better place anywhere', () => {
    // It has a height where the search begins, and nowhere else.
    const island: Curve = (x, [a = 0], gradient) => {
      gradient?.fill(x);
      return a === 0 ? 0 : Number.NaN;
    };
    expect(fitCurve(Float64Array.from([1, 2, 3]), Float64Array.from([1, 2, 3]), island, [0])).toBeUndefined();
  });
  it('says that it has none where the data do not settle the parameters', () => {
    const flat = Float64Array.from([0, 1, 2, 3], () => 5);
    const line: Curve = (_x, [a = 0, b = 0], gradient) => {
      gradient?.fill(1);
      return a + b;
    };
    expect(fitCurve(Float64Array.from([0, 1, 2, 3]), flat, line, [1, 1])).toBeUndefined();
  });
});
