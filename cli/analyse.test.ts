import { describe, expect, it } from 'vitest';
import { analyse } from '../core/analysis/analyse.ts';
import { FileProblem } from '../core/formats/file-problem.ts';
import plantGrowth from '../core/reference/plant-growth.json' with { type: 'json' };
import teeth from '../core/reference/two-factors.json' with { type: 'json' };
import hollander from '../core/reference/rounds.json' with { type: 'json' };
import { CLOSE, expectRelative } from '../core/testing.ts';
import { commandOptions } from './options.ts';
import { noticed } from './noticed.ts';
import { jsonDocument, table } from './print.ts';
import { readReadings, stepWritten } from './readings.ts';

const run = (text: string, ...args: string[]) => {
  const options = commandOptions(['file.csv', ...args]);
  const readings = readReadings(text, options);
  const resolution = options.analysis.resolution ?? stepWritten(readings);
  const analysis = analyse(readings, { ...options.analysis, resolution });
  const seen = noticed(readings, options);
  return {
    json: jsonDocument(readings, options, analysis, seen),
    text: table(readings, options, analysis, seen),
  };
};
const plants = `item,value\n${plantGrowth.items.map((item, i) => `${item},${String(plantGrowth.values[i])}`).join('\n')}\n`;

describe('analyse', () => {
  // Dobson (1983), PlantGrowth; expected values by R.
  it('gives R’s pairs on PlantGrowth', () => {
    const { json } = run(plants);
    expect(json.method).toBe('tamhane-t2');
    json.pairs.forEach((pair, i) => {
      const expected = plantGrowth.expected.tamhaneT2[i];
      expect([pair.a, pair.b]).toEqual([expected?.a, expected?.b]);
      expectRelative(pair.p, expected?.p as number, CLOSE);
      expectRelative(pair.ciLow, expected?.ciLow as number, CLOSE);
    });
    expect(json.ranking.map(({ item }) => item)).toEqual(['trt2', 'ctrl', 'trt1']);
  });
  // Hollander and Wolfe (1973); expected values by R.
  it('compares complete rounds within rounds', () => {
    const rows = hollander.rounds.flatMap((row, round) =>
      row.map(
        (value, item) =>
          `${String(round)};${hollander.items[item] as string};${String(value).replace('.', ',')}`,
      ),
    );
    const { json } = run(`round;item;value\n${rows.join('\n')}\n`, '--better', 'lower');
    expect(json.method).toBe('within-rounds');
    expectRelative(json.tests.friedman?.p, hollander.expected.friedman.p, CLOSE);
    expectRelative(json.tests.blockedAnova?.f, hollander.expected.blockedAnova.f, CLOSE);
    expect(json.ranking[0]?.item).toBe('wide angle');
    expect(run(`round;item;value\n${rows.join('\n')}\n`, '--method', 'tamhane-t2').json.method).toBe(
      'tamhane-t2',
    );
  });
  it('names the line, statistic and limit of what a rule leaves out', () => {
    const { json } = run(
      '# bench 2\nitem,value\nA,3\nA,3.1\nA,\nA,2.9\nA,3\nA,9\nA,3.05\n',
      '--rule',
      'grubbs',
    );
    expect(json.items[0]).toMatchObject({ n: 6, missing: 1, kept: 5 });
    expect(json.items[0]?.leftOut).toHaveLength(1);
    expect(json.items[0]?.leftOut[0]).toMatchObject({ line: 8, value: 9, rule: 'grubbs' });
  });
  it('prints a table for people', () => {
    const { text } = run(plants, '--margin', '10%');
    expect(text.split('\n')[0]).toBe(
      'First place is not settled between trt2 and ctrl; trt2 comes first in 96\u202f% of the draws.',
    );
    expect(text).toMatch(/trt2\s+10\s+0\s+0\s+5\.53/);
  });
  it('gives null and not NaN for what one reading cannot tell', () => {
    const { json } = run('item,value\nA,3\nB,4\n');
    expect(JSON.stringify(json)).not.toContain('NaN');
    expect(json.items[0]).toMatchObject({ sd: null, se: null, ci95: null });
    expect(json.pairs[0]).toMatchObject({ p: null, verdict: 'too few', matters: 'unsure' });
    expect(json.findings.map(({ kind }) => kind)).toContain('one reading only');
  });
  it('says what the screen stage would notice, in the order of the file', () => {
    const drifting = Array.from({ length: 12 }, (_, round) =>
      ['A', 'B', 'C'].map((item, i) => `${String(round)},${item},${(5 + i - 0.2 * round).toFixed(1)}`),
    ).flat();
    const found = run(`round,item,value\n${drifting.join('\n')}\n`);
    expect(found.json.findings.map(({ kind }) => kind)).toContain('drift');
    expect(found.text).toMatch(/value falls along the run order/);
    const steady = drifting.map(
      (row, i) => `${row.slice(0, row.lastIndexOf(','))},${String(5 + (i % 3) + 0.1 * ((i * 7) % 5))}`,
    );
    expect(run(`round,item,value\n${steady.join('\n')}\n`).json.findings).toEqual([]);
  });
  it('says what it did not look over, where that would take long', () => {
    const rows = Array.from({ length: 50_001 }, (_, i) => `A,${String((i * 7919) % 1000)}`);
    const { json } = run(`item,value\n${rows.join('\n')}\n`);
    expect(json.notes.join(' ')).toContain('Not looked over for drift and the like');
  });
  it('draws the same chances from the same seed', () => {
    const first = run(plants, '--seed', '3', '--resamples', '500').json.ranking;
    expect(run(plants, '--seed', '3', '--resamples', '500').json.ranking).toEqual(first);
    expect(run(plants, '--seed', '4', '--resamples', '500').json.ranking).not.toEqual(first);
  });
  // Crampton (1947), ToothGrowth; expected values by R.
  it.each([
    ['two factors', ['--factor', 'supp', '--factor', 'dose']],
    ['the item and a factor', ['--item', 'supp', '--factor', 'dose']],
  ])('gives R’s analysis of variance of %s', (_what, args) => {
    const rows = teeth.values.map(
      (value, i) => `${teeth.factorA[i] as string},${teeth.factorB[i] as string},${String(value)}`,
    );
    const item = args.includes('--item') ? [] : ['--item', 'supp'];
    const { json, text } = run(`supp,dose,len\n${rows.join('\n')}\n`, '--value', 'len', ...item, ...args);
    expect(json.tests.factors?.map(({ term }) => term)).toEqual(['supp', 'dose', 'supp:dose']);
    json.tests.factors?.forEach(({ df, ss, f, p }, i) => {
      const expected = teeth.expected.terms[i];
      expect(df).toBe(expected?.df);
      expectRelative(ss, expected?.ss as number, CLOSE);
      expectRelative(f, expected?.f as number, CLOSE);
      expectRelative(p, expected?.p as number, CLOSE);
    });
    expect(text).toMatch(/supp:dose\s+2\s+108\.319\s+4\.107\s+0\.0219/);
    expect(json.notes.join(' ')).not.toContain('takes all items together');
  });
  it('says where items are taken together, and where factors say nothing', () => {
    const header = 'item,a,b,value\n';
    expect(
      run(`${header}A,x,u,1\nA,y,v,2\nB,x,v,3\nB,y,u,4\nB,y,u,5\n`, '--factor', 'a', '--factor', 'b').json
        .notes,
    ).toContain('The analysis of a and b takes all items together.');
    const { json } = run(`${header}A,x,u,1\nB,x,u,2\n`, '--factor', 'a');
    expect(json.tests.factors).toEqual([]);
    expect(json.notes.join(' ')).toContain('The analysis of item and a is not available');
  });
  it('compares with the baseline, absolute and in per cent', () => {
    const { json, text } = run(plants, '--baseline', 'ctrl');
    expect(json.baseline?.item).toBe('ctrl');
    expect(json.baseline?.differences.map(({ item }) => item)).toEqual(['trt1', 'trt2']);
    const [first] = json.baseline?.differences ?? [];
    // Means by R: 5.032 and 4.661.
    expect(first?.difference).toBeCloseTo(4.661 - 5.032, 9);
    expect(first?.percent).toBeCloseTo((100 * (4.661 - 5.032)) / 5.032, 9);
    expect(first?.percentLow).toBeLessThan(first?.percent as number);
    expect(text).toMatch(/from ctrl\s+difference/);
    expect(run(plants, '--baseline', 'ctrl', '--decibel').json.baseline?.differences[0]?.percent).toBeNull();
  });
  it('gives the error against a reference, of the readings that count and have one', () => {
    // By hand: errors 1, −1, 3 of references 10, 20, 10; a 10 against a reading of 9 is 10 % (common practice).
    const { json, text } = run(
      'item,value,bath\nA,11,10\nA,19,20\nA,13,10\nA,7,\nB,9,10\nC,1,\n',
      '--reference',
      'bath',
    );
    expect(json.items[0]?.error).toMatchObject({
      pairs: 3,
      bias: 1,
      meanAbsoluteError: expect.closeTo(5 / 3, 12) as number,
      meanAbsoluteRelativeDifference: expect.closeTo((0.1 + 0.05 + 0.3) / 3, 12) as number,
      rmse: expect.closeTo(Math.sqrt(11 / 3), 12) as number,
      maxAbsoluteError: 3,
      sd: 2,
      limitsOfAgreement: [expect.closeTo(1 - 1.96 * 2, 12), expect.closeTo(1 + 1.96 * 2, 12)],
    });
    expect(json.items[1]?.error).toMatchObject({ pairs: 1, meanAbsoluteRelativeDifference: 0.1, sd: null });
    expect(json.items[2]?.error).toBeNull();
    expect(text).toMatch(/error\s+pairs\s+bias/);
  });
  it('takes the columns that it is told', () => {
    const { json } = run('fan,speed\nA,3\nA,4\n', '--item', 'fan', '--value', 'speed');
    expect(json.items[0]?.mean).toBe(3.5);
  });
});

describe('what analyse cannot use', () => {
  const problem = (work: () => unknown): string => {
    try {
      work();
    } catch (error) {
      if (error instanceof FileProblem || error instanceof RangeError) return error.message;
      throw error;
    }
    return 'nothing was wrong';
  };
  it.each([
    [['--fast'], 'Unknown option'],
    [['--rule', 'guess'], 'There is no rule “guess”'],
    [['--rule', 'grubbs=2'], 'takes no parameter'],
    [['--rule', 'generalized-esd=1.5'], 'a whole number from 1'],
    [['--rule', 'plausibility'], 'There is no rule'],
    [['--factor', 'a', '--factor', 'b', '--factor', 'c'], 'twice at most, not 3 times'],
    [['--factor', 'dose', '--factor', 'dose'], 'The factor “dose” is given twice'],
    [['--alpha-per', 'item'], 'study or sample'],
    [['--resolution', '0'], 'a number above 0'],
    [['--better', 'bigger'], 'higher, lower or nearest'],
    [['--better', 'nearest=x'], 'nearest=NUMBER'],
    [['--alpha', '1'], 'between 0 and 1'],
    [['--margin', '-1'], 'from 0 on'],
    [['--margin', 'NaN'], 'from 0 on'],
    [['--method', 'guess'], 'There is no method'],
    [['--resamples', '1e9'], 'whole number from 0 to 1000000'],
    [['--seed', '-1'], 'whole number from 0'],
    [['second.csv'], 'One file at a time'],
  ])('%j is refused in a sentence', (args, message) => {
    const said = problem(() => commandOptions(['file.csv', ...args]));
    expect(said).toContain(message);
    expect(said).toMatch(/\.$/);
  });
  it('needs a file', () => {
    expect(problem(() => commandOptions([]))).toContain('Give the CSV file');
  });
  it.each([
    ['name,value\nA,1\n', 'no column “item”'],
    ['item,value\nA,1\nA,one\n', 'Line 3: column “value” is not a number: “one”.'],
    ['item,value\nA,1e999\n', 'Line 2'],
    ['item,value\n,1\n', 'Line 2: column “item” is empty.'],
    ['item,value\nA,1,2\n', 'Line 2: 3 fields'],
    ['item,value\n', 'no readings'],
    ['', 'empty'],
  ])('%j is refused with its place', (text, message) => {
    expect(problem(() => run(text))).toContain(message);
  });
  it.each([
    [['--baseline', 'Z'], 'There is no item “Z”; the items are A, B.'],
    [['--reference', 'bath'], 'there is no column “bath”'],
    [['--reference', 'dose'], 'Line 2: column “dose” is not a number: “low”.'],
    [['--factor', 'level'], 'there is no column “level”'],
    [['--factor', 'place'], 'Line 3: column “place” is empty.'],
  ])('%j is refused where the file has no such thing', (args, message) => {
    const file = 'item,value,dose,place\nA,1,low,x\nB,2,high,\n';
    expect(problem(() => run(file, ...args))).toContain(message);
  });
  it('refuses rounds that are not complete, when they are asked for', () => {
    expect(problem(() => run('item,round,value\nA,1,3\nB,1,4\nA,2,3\n', '--method', 'rounds'))).toContain(
      'does not apply',
    );
    expect(problem(() => run('item,value\nA,3\nB,4\n', '--method', 'rounds'))).toContain(
      'no two items were read together',
    );
  });
  it('takes too many items for the wrong column', () => {
    const rows = Array.from({ length: 301 }, (_, i) => `item ${String(i)},1`).join('\n');
    expect(problem(() => run(`item,value\n${rows}\n`))).toContain('right column');
  });
});

describe('readings in steps', () => {
  it('takes the step from how the numbers are written', () => {
    // 0.5 against 0.6, as finely as they are written: one step apart, and no spread to be seen.
    const coarse = 'item,value\nA,0.5\nA,0.5\nA,0.5\nB,0.6\nB,0.6\nB,0.6\n';
    expect(run(coarse).json.pairs[0]?.verdict).toBe('not settled');
    expect(run(coarse.replaceAll('0.5', '0.500').replaceAll('0.6', '0.600')).json.pairs[0]?.verdict).toBe(
      'b ahead',
    );
    expect(run(coarse, '--resolution', '0.01').json.pairs[0]?.verdict).toBe('b ahead');
  });
  it('averages decibels by energy', () => {
    expect(run('item,value\nA,60\nA,70\n', '--decibel').json.items[0]?.mean).toBeCloseTo(67.4036, 4);
  });
});
