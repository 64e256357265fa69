import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseItemTable, pasteEffects, splitHeader } from './item-table.ts';

describe('a table of items copied from a spreadsheet', () => {
  it('gives items, attributes and units', () => {
    const table = parseItemTable('Item\tMass (g)\tPrice [EUR]\nAlmo\t303\t34,50\nBerrin\t354 g\t\n');
    expect(table.problem).toBeUndefined();
    expect(table.attributes).toEqual([
      { name: 'Mass', unit: 'g' },
      { name: 'Price', unit: 'EUR' },
    ]);
    expect(table.rows.map(({ name, cells }) => [name, cells])).toEqual([
      ['Almo', [{ value: 303 }, { value: 34.5 }]],
      ['Berrin', [{ value: 354 }, { value: null }]],
    ]);
  });
  it.each([
    ['Mass (g)', 'Mass', 'g'],
    ['Mass [g]', 'Mass', 'g'],
    ['Mass, g', 'Mass', 'g'],
    ['Mass', 'Mass', ''],
    [' Rated flow (l/min) ', 'Rated flow', 'l/min'],
    ['(g)', '', 'g'],
    ['Mass (dry) (g)', 'Mass (dry)', 'g'],
    ['Mass, dry (g)', 'Mass, dry', 'g'],
    ['Mass, dry, g', 'Mass, dry', 'g'],
    ['Mass,g', 'Mass', 'g'],
    ['Mass of it, when dry', 'Mass of it, when dry', ''],
    ['Mass,', 'Mass,', ''],
  ])('reads the header “%s”', (header, name, unit) => {
    expect(splitHeader(header)).toEqual({ name, unit });
  });
  it('marks each bad cell and keeps the good ones', () => {
    const { rows } = parseItemTable('Item;Mass (g);Price\nAlmo;heavy;34\nBerrin;303;12,5\n');
    expect(rows[0]?.cells).toEqual([
      { text: 'heavy', problem: '“heavy” is not a number in g.' },
      { value: 34 },
    ]);
    expect(rows[1]?.cells).toEqual([{ value: 303 }, { value: 12.5 }]);
  });
  it('marks ragged rows, missing names and repeats', () => {
    const { rows } = parseItemTable('Item,Mass\nAlmo,1\nBerrin\n,3\nALMO,4\n');
    expect(rows.map(({ row, problem }) => [row, problem])).toEqual([
      [2, undefined],
      [3, '1 cell, where the header has 2.'],
      [4, 'The item has no name.'],
      [5, '“ALMO” is there twice.'],
    ]);
  });
  it.each([
    ['', 'Paste a table first'],
    ['Item\nAlmo\n', 'at least one attribute'],
    ['Item\tMass\n', 'a header and no row'],
    ['Item\tMass\tmass\nAlmo\t1\t2\n', 'is there twice'],
    ['Item\tMass\t\nAlmo\t1\t2\n', 'Column 3 has no name'],
    ['Item,"Mass\nAlmo,1\n', 'A quote is opened'],
  ])('refuses %j in a sentence', (text, problem) => {
    expect(parseItemTable(text).problem).toContain(problem);
  });
  it('reads quoted cells with the separator, a quote and a line break inside', () => {
    const { rows } = parseItemTable(
      'Item,Mass (g),Note\n"Almo, large","1200","7"\n"The ""small""\none",303,8\n',
    );
    expect(rows.map(({ name }) => name)).toEqual(['Almo, large', 'The "small" one']);
    expect(rows[0]?.cells[0]).toEqual({ value: 1200 });
  });
  it('takes decimal commas where the separator leaves them free, and asks where it does not', () => {
    expect(parseItemTable('Item;Mass (g)\nAlmo;12,5\n').rows[0]?.cells).toEqual([{ value: 12.5 }]);
    expect(parseItemTable('Item\tMass (g)\nAlmo\t12,5\n').rows[0]?.cells).toEqual([{ value: 12.5 }]);
    // With commas between the cells, an unquoted decimal comma makes a cell too many.
    expect(parseItemTable('Item,Mass (g)\nAlmo,12,5\n').rows[0]?.problem).toBe(
      '3 cells, where the header has 2.',
    );
    expect(parseItemTable('Item,Mass (g)\nAlmo,"12,5"\n').rows[0]?.cells).toEqual([{ value: 12.5 }]);
  });
  it('keeps the units that were there, and converts values in another', () => {
    const known = [
      { name: 'Mass', unit: 'kg' },
      { name: 'Price', unit: 'EUR' },
    ];
    const table = parseItemTable('Item\tmass\tPrice\nAlmo\t0.3\t34\n', known);
    expect(table.attributes).toEqual(known);
    const inGrams = parseItemTable('Item\tMass (g)\tPrice (h)\nAlmo\t303\t2\n', known);
    expect(inGrams.attributes).toEqual([
      { name: 'Mass', unit: 'kg' },
      { name: 'Price', unit: 'h' },
    ]);
    expect(inGrams.rows[0]?.cells).toEqual([{ value: 0.303 }, { value: 2 }]);
  });
  it('says what taking it over would add and overwrite, and leaves alone where a cell is empty', () => {
    const items = [
      {
        id: 'a',
        name: 'Almo',
        attributes: [
          { name: 'Mass', unit: 'kg', value: 0.3 },
          { name: 'Price', unit: 'EUR', value: 34 },
        ],
      },
    ];
    const known = items[0]?.attributes ?? [];
    const table = parseItemTable('Item\tMass\tPrice (h)\tWidth (cm)\nalmo\t\t2\t9\nBerrin\t1\t3\t8\n', known);
    const effects = pasteEffects(table, items);
    expect(effects.added).toEqual(['Berrin']);
    expect(effects.changed).toEqual([{ item: 'Almo', attribute: 'Price', before: 34, after: 2, unit: 'h' }]);
    expect(effects.units).toEqual([{ attribute: 'Price', before: 'EUR', after: 'h' }]);
    expect(effects.attributes.get('a')).toEqual([
      { name: 'Mass', unit: 'kg', value: 0.3 },
      { name: 'Price', unit: 'h', value: 2 },
      { name: 'Width', unit: 'cm', value: 9 },
    ]);
  });
  it('changes nothing by rows that are wrong, by figures that stand already, or where there was none', () => {
    const items = [
      { id: 'a', name: 'Almo', attributes: [{ name: 'Mass', unit: 'g', value: 3 }] },
      { id: 'b', name: 'Berrin', attributes: [{ name: 'Mass', unit: 'kg', value: null }] },
    ];
    const table = parseItemTable('Item\tMass (g)\nAlmo\t3\nBerrin\t4\nAlmo\t9\nCor\t1\tx\n\t7\n');
    const effects = pasteEffects(table, items);
    expect([effects.added, effects.changed]).toEqual([[], []]);
    expect(effects.units).toEqual([{ attribute: 'Mass', before: 'kg', after: 'g' }]);
    expect([...effects.attributes]).toEqual([
      ['a', [{ name: 'Mass', unit: 'g', value: 3 }]],
      ['b', [{ name: 'Mass', unit: 'g', value: 4 }]],
    ]);
    // A unit that gives way is said once, however many items had it.
    const both = items.map((item) => ({ ...item, attributes: [{ name: 'Mass', unit: 'kg', value: 3 }] }));
    expect(pasteEffects(table, both).units).toHaveLength(1);
    expect(pasteEffects(table, both).changed.map(({ item, after }) => [item, after])).toEqual([
      ['Berrin', 4],
    ]);
  });
  it('says what is too much, or is no table', () => {
    const problem = (text: string) => parseItemTable(text).problem;
    expect(problem(' ')).toMatch(/^Paste a table first/);
    expect(problem('Item\nAlmo')).toBe('The header needs the item’s name and at least one attribute.');
    expect(problem('Item\tMass')).toBe('There is a header and no row.');
    expect(problem(`Item\t${'x\t'.repeat(200)}x\nAlmo`)).toMatch(/^At most \d+ columns can be taken over\.$/);
    expect(problem(`Item\tMass\n${'Almo\t1\n'.repeat(20001)}`)).toMatch(
      /^At most \d+ rows can be taken over\.$/,
    );
    expect(problem('Item\tMass\t(g)\nAlmo\t1\t2')).toBe('Column 3 has no name.');
    expect(problem('Item\tMass\tmass\nAlmo\t1\t2')).toBe('The column “mass” is there twice.');
    expect(problem('Item\tMass\n"Almo\t1')).toMatch(/^A quote is opened and not closed in row \d\.$/);
  });
  it('never throws, and never gives a number that is not finite', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (text) => {
        const { rows } = parseItemTable(text);
        for (const { cells } of rows) {
          for (const cell of cells) {
            expect('problem' in cell || cell.value === null || Number.isFinite(cell.value)).toBe(true);
          }
        }
      }),
    );
  });
});
