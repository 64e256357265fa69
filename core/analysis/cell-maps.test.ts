import { describe, expect, it } from 'vitest';
import { itemsInOrder } from '../model/in-order.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { cellTable, cellViews, cellsCaption } from '../report/cells.ts';
import sprinklers from '../../demo/lawn-sprinklers.json' with { type: 'json' };
import { analyseStudy } from './analyse-study.ts';
import { atSetting } from './at-setting.ts';
import { type CellMaps, cellMaps, cellNumbers, cellsOf } from './cell-maps.ts';

const document = sprinklers as unknown as StudyDocument;
const measurandOf = (name: string) =>
  document.measurands.find((measurand) => measurand.name === name) as StudyDocument['measurands'][number];
const evenness = measurandOf('Evenness');
const analysis = atSetting(analyseStudy(document, evenness.id, { resamples: 0 }));
const maps = cellMaps(analysis, itemsInOrder(document)) as CellMaps;
const mapOf = (name: string) => maps.maps.find(({ item }) => item.name === name) as CellMaps['maps'][number];

describe('grids, cell by cell', () => {
  it('are of what is read in cells, in the unit of a cell', () => {
    expect(cellsOf(evenness)).toEqual({ rows: 5, columns: 5, unit: 'mL' });
    expect(cellsOf(measurandOf('Water used'))).toBeUndefined();
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
    for (const { cells, least, greatest } of maps.maps) {
      expect(cells[least.row * 5 + least.column]).toBe(Math.min(...(cells as number[])));
      expect(cells[greatest.row * 5 + greatest.column]).toBe(Math.max(...(cells as number[])));
    }
    expect(cellsCaption(maps, 'share')).toContain('1 of ');
    expect(cellsCaption(maps, 'amount')).toContain('in mL');
    const { rows, head } = cellTable(maps);
    expect(rows).toHaveLength(4);
    expect(new Set(rows.map((row) => row.length))).toEqual(new Set([head.length]));
  });

  it('have no figure where a reading has none, and no share of a mean that is not above nothing', () => {
    const dry = { ...maps, maps: maps.maps.map((map) => ({ ...map, mean: 0 })) };
    expect(cellViews(maps, evenness)).toEqual(['share', 'amount']);
    expect(cellViews(maps, { unit: 'mL' })).toEqual(['amount', 'share']);
    expect(cellViews(dry, evenness)).toEqual(['amount']);
    expect(cellViews({ ...maps, unit: '°C' }, evenness)).toEqual(['amount']);
    const [one] = analysis.readings;
    const parts = one?.parts.map((part, i) => (i === 0 ? { ...part, number: 0 } : part)) ?? [];
    const zero = cellMaps(
      { measurand: evenness, readings: one ? [{ ...one, parts }] : [] },
      itemsInOrder(document),
    );
    expect(zero?.maps[0]?.figures.maxToMin).toBeNull();
    expect(zero?.maps[0]?.figures.minToMean).toBe(0);
    expect(cellTable(zero as CellMaps).rows[0]?.map(({ text }) => text)).toContain('–');
  });

  it('know an empty cell from a nought', () => {
    expect(cellNumbers({ rows: 1, columns: 2 }, [{ name: 'r1c2', text: '0', number: 0 }])).toEqual([null, 0]);
  });
});
