import { describe, expect, it } from 'vitest';
import { cellsRead } from '../forms/index.ts';
import { itemsInOrder } from '../model/in-order.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { cellDecimals, cellTable, cellViews, cellsCaption, cellsIn, drawnMaps } from '../report/cells.ts';
import sprinklers from '../../demo/lawn-sprinklers.json' with { type: 'json' };
import { analyseStudy } from './analyse-study.ts';
import { atSetting } from './at-setting.ts';
import { type CellMap, type CellMaps, cellMaps, cellNumbers, extremeCells } from './cell-maps.ts';

const document = sprinklers as unknown as StudyDocument;
const measurandOf = (name: string) =>
  document.measurands.find((measurand) => measurand.name === name) as StudyDocument['measurands'][number];
const evenness = measurandOf('Evenness');
const analysis = atSetting(analyseStudy(document, evenness.id, { resamples: 0 }));
const maps = cellMaps(analysis, itemsInOrder(document)) as CellMaps;
const mapOf = (name: string) => maps.maps.find(({ item }) => item.name === name) as CellMaps['maps'][number];

describe('grids, cell by cell', () => {
  it('are of what is read in cells, in the unit of a cell', () => {
    expect(cellsRead(evenness)).toEqual({ rows: 5, columns: 5, unit: 'mL' });
    expect(cellsRead(measurandOf('Water used'))).toBeUndefined();
    const water = atSetting(analyseStudy(document, measurandOf('Water used').id, { resamples: 0 }));
    expect(cellMaps(water, itemsInOrder(document))).toBeUndefined();
  });

  it('take each cell’s mean over the readings that have it, and no other reading’s', () => {
    const { item, cells, readings, empty } = mapOf('Dewlo');
    const counting = analysis.readings.filter(({ itemId, use }) => itemId === item.id && use.is === 'kept');
    expect(readings).toBe(counting.length);
    // A bird knocked this cup over in one round.
    const there = counting.flatMap(({ parts }) => parts.find(({ name }) => name === 'r1c5')?.number ?? []);
    expect(there).toHaveLength(counting.length - 1);
    expect(cells[4]).toBeCloseTo(there.reduce((sum, number) => sum + number, 0) / there.length, 12);
    expect(empty).toBe(1);
    expect(cells).toHaveLength(25);
  });

  it('have the figures that the measurand itself has', () => {
    const { items, analysis: analysed } = analysis.classes[0] as (typeof analysis.classes)[number];
    for (const { item, figures } of maps.maps) {
      const summary = analysed.items[items.findIndex(({ id }) => id === item.id)]?.summary;
      expect(figures.christiansen).toBeCloseTo(summary?.mean as number, 10);
    }
  });

  it('leave out a reading that is left out', () => {
    const [first] = mapOf('Arvo 360').item.id
      ? analysis.readings.filter(({ itemId }) => itemId === mapOf('Arvo 360').item.id)
      : [];
    const without = {
      ...analysis,
      readings: analysis.readings.map((reading) =>
        reading === first
          ? { ...reading, use: { is: 'left out' as const, by: 'hand' as const, reason: 'wind' } }
          : reading,
      ),
    };
    const now = cellMaps(without, itemsInOrder(document))?.maps.find(({ item }) => item.name === 'Arvo 360');
    expect(now?.readings).toBe(mapOf('Arvo 360').readings - 1);
    expect(now?.cells).not.toEqual(mapOf('Arvo 360').cells);
  });

  it('say where the least and the greatest cell is, and what was left empty', () => {
    expect(extremeCells([3, null, 1, 4, 1, null], 3)).toEqual({
      least: { row: 0, column: 2, value: 1 },
      greatest: { row: 1, column: 0, value: 4 },
    });
    // The first of equal ones.
    expect(extremeCells([2, 2, 1, 1], 2)).toEqual({
      least: { row: 1, column: 0, value: 1 },
      greatest: { row: 0, column: 0, value: 2 },
    });
    expect(extremeCells([null], 1)).toBeUndefined();
    expect(cellsCaption(maps, 'share')).toContain('1 of 400 cells was left empty.');
    expect(cellsCaption(maps, 'amount')).toContain('in mL');
    const { rows, head } = cellTable(maps);
    expect(rows).toHaveLength(4);
    expect(new Set(rows.map((row) => row.length))).toEqual(new Set([head.length]));
  });

  it('tell a share of each reading’s own mean, so that a longer run weighs no more', () => {
    const [reading] = analysis.readings as [(typeof analysis.readings)[number]];
    const twice = {
      ...reading,
      id: 'twice',
      parts: reading.parts.map((part) => ({ ...part, number: 2 * (part.number as number) })),
    };
    const of = (readings: typeof analysis.readings) =>
      cellMaps({ measurand: evenness, readings }, itemsInOrder(document))?.maps[0];
    const [once, both] = [of([reading]), of([reading, twice])];
    both?.shares?.forEach((share, i) => {
      expect(share).toBeCloseTo(once?.shares?.[i] as number, 10);
    });
    expect(both?.mean).toBeCloseTo(1.5 * (once?.mean as number), 10);
    expect(cellsIn(both as CellMap, 'share')).toBe(both?.shares);
    expect(cellsIn(both as CellMap, 'amount')).toBe(both?.cells);
  });

  it('have no figure where a reading has none, and no share of a mean that is not above nothing', () => {
    const dry = { ...maps, maps: maps.maps.map((map) => ({ ...map, shares: undefined })) };
    expect(cellViews(maps, evenness)).toEqual(['share', 'amount']);
    expect(cellViews(maps, { unit: 'mL' })).toEqual(['amount', 'share']);
    expect(cellViews(dry, evenness)).toEqual(['amount']);
    expect(cellViews({ ...maps, unit: '°C' }, evenness)).toEqual(['amount']);
    const [reading] = analysis.readings as [(typeof analysis.readings)[number]];
    const withParts = (number: (i: number, was: number | null) => number | null) => ({
      measurand: evenness,
      readings: [
        { ...reading, parts: reading.parts.map((part, i) => ({ ...part, number: number(i, part.number) })) },
      ],
    });
    const zero = cellMaps(
      withParts((i, was) => (i === 0 ? 0 : was)),
      itemsInOrder(document),
    );
    expect(zero?.maps[0]?.figures.maxToMin).toBeNull();
    expect(zero?.maps[0]?.figures.minToMean).toBe(0);
    expect(cellTable(zero as CellMaps).rows[0]?.map(({ text }) => text)).toContain('–');
    const none = cellMaps(
      withParts(() => 0),
      itemsInOrder(document),
    );
    expect(none?.maps[0]?.shares).toBeUndefined();
    expect(none?.maps[0]?.mean).toBe(0);
  });

  it('are drawn as far as there is room, and say so', () => {
    const many = { ...maps, rows: 60, columns: 60 };
    expect(drawnMaps(maps)).toHaveLength(4);
    expect(drawnMaps(many)).toHaveLength(2);
    expect(cellsCaption(many, 'amount')).toContain('The first 2 of 4 items are drawn; the table has all.');
    expect(cellDecimals([12, 130.25])).toBe(0);
    expect(cellDecimals([12.25, 3])).toBe(1);
    expect(cellDecimals([12, 3])).toBe(0);
    expect(cellDecimals([0.126])).toBe(2);
  });

  it('know an empty cell from a nought', () => {
    expect(cellNumbers({ rows: 1, columns: 2 }, [{ name: 'r1c2', text: '0', number: 0 }])).toEqual([null, 0]);
  });
});
