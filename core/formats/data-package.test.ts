import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import deskFans from '../../demo/desk-fans.json' with { type: 'json' };
import recordedFans from '../../demo/recorded-fans.json' with { type: 'json' };
import tapAerators from '../../demo/tap-aerators.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { testId, testStudy } from '../testing-study.ts';
import { type PackageTable, dataPackage, packageTables, tableCsv, tablePath } from './data-package.ts';

const DEMOS = { deskFans, recordedFans, tapAerators } as unknown as Record<string, StudyDocument>;
const tablesByName = (document: StudyDocument) =>
  new Map(packageTables(document).map((table) => [table.name, table] as const));
const rowsOf = (table: PackageTable | undefined) =>
  [...(table?.rows() ?? [])].map((row) =>
    Object.fromEntries(row.map((cell, i) => [table?.schema.fields[i]?.name ?? '', cell])),
  );

describe.each(Object.entries(DEMOS))('the tables of %s', (_, document) => {
  const tables = tablesByName(document);
  it('hold to their schemas', () => {
    for (const { name, schema, rows } of tables.values()) {
      for (const row of rows()) {
        expect(row, name).toHaveLength(schema.fields.length);
        schema.fields.forEach(({ name: field, type, constraints }, i) => {
          const cell = row[i];
          const where = `${name}.${field}`;
          if (constraints?.required) expect(cell, where).not.toBeNull();
          if (cell === null) return;
          if (type === 'number' || type === 'integer') expect(typeof cell, where).toBe('number');
          else expect(typeof cell, where).toBe(type === 'boolean' ? 'boolean' : 'string');
          if (type === 'integer') expect(Number.isInteger(cell), where).toBe(true);
          if (type === 'datetime') expect(new Date(cell as string).toISOString(), where).toBe(cell);
        });
      }
    }
  });
  it('point to rows that are there, and have ids that are there once', () => {
    for (const table of tables.values()) {
      const rows = rowsOf(table);
      const { foreignKeys = [], primaryKey } = table.schema;
      expect(primaryKey).toEqual(table.schema.fields[0]?.name === 'id' ? ['id'] : undefined);
      if (primaryKey) expect(new Set(rows.map(({ id }) => id)).size).toBe(rows.length);
      for (const { fields, reference } of foreignKeys) {
        const there = new Set(rowsOf(tables.get(reference.resource)).map(({ id }) => id));
        const lost = rows.filter((row) => row[fields] !== null && !there.has(row[fields] as string));
        expect(lost, `${table.name}.${fields}`).toEqual([]);
      }
    }
  });
  it('hold as many rows as the study has of each kind, and all of what readings are made of', () => {
    const counts = Object.fromEntries([...tables].map(([name, table]) => [name, rowsOf(table).length]));
    expect(counts).toMatchObject({
      items: document.items.length,
      measurands: document.measurands.length,
      levels: document.levels.length,
      readings: document.readings.length,
      files: document.files.length,
      calibrations: document.calibrations.length,
      decisions: document.decisions.length,
      'reading-parts': document.readings.flatMap(({ parts }) => parts).length,
      'reading-levels': document.readings.flatMap(({ levels }) => levels).length,
      'condition-readings': document.sessions.flatMap(({ conditions }) => conditions).length,
    });
  });
});

describe('the table of readings', () => {
  it('says of each whether it counts, by what it does not, and why', () => {
    const { document, read, decide, measurand } = testStudy(['Ama', 'Bel']);
    const [plain, byHand, undone] = [read(0, 1, '3.5'), read(0, 2, '4'), read(1, 1, '5')];
    decide('leave-out', { readingId: byHand.id, reason: 'a bump' });
    decide('withdraw', { readingId: undone.id, reason: 'typed twice' });
    const typed = read(1, 2, '6');
    typed.measurandId = measurand.id;
    const rows = new Map(rowsOf(tablesByName(document).get('readings')).map((row) => [row.id, row]));
    expect(rows.get(plain.id)).toMatchObject({ value: 3.5, left_out: false, left_out_by: '', reason: '' });
    expect(rows.get(byHand.id)).toMatchObject({ left_out: true, left_out_by: 'hand', reason: 'a bump' });
    expect(rows.get(undone.id)).toMatchObject({
      left_out: true,
      left_out_by: 'undone',
      reason: 'typed twice',
    });
    expect(rows.get(typed.id)).toMatchObject({ round: 2, run_order: 4, taken_at: typed.takenAt });
  });
});

describe('the tables of what stands besides', () => {
  it('hold figures with their levels, conditions, attributes and notes', () => {
    const { document, items, measurand } = testStudy(['Ama']);
    const itemId = items[0]?.id as string;
    items.forEach((item) => (item.attributes = [{ name: 'Mass', value: null, unit: 'g' }]));
    const figure = { id: testId(), itemId, measurandId: measurand.id, kind: 'range', low: 1, high: null };
    document.figures.push({ ...figure, levels: [{ factorId: 'f', levelId: 'l' }] } as never);
    document.conditions.push({
      id: 'c',
      quantity: 'Air',
      kind: 'number',
      unit: '°C',
      required: true,
    } as never);
    document.notes.push({ id: 'n', itemId, text: 'Seen', photo: null, removed: true } as never);
    document.factors.push({ id: 'f', name: 'Water', kind: 'treatment', unit: '' } as never);
    document.levels.push({ id: 'l', factorId: 'f', name: 'soft', value: null, baseline: true } as never);
    const tables = tablesByName(document);
    const rows = (name: string) => rowsOf(tables.get(name));
    expect(rows('figures')).toMatchObject([{ ...{ item_id: itemId, kind: 'range', low: 1, high: null } }]);
    expect(rows('figure-levels')).toEqual([{ figure_id: figure.id, factor_id: 'f', level_id: 'l' }]);
    expect(rows('conditions')).toEqual([
      { id: 'c', quantity: 'Air', kind: 'number', unit: '°C', required: true },
    ]);
    expect(rows('attributes')).toEqual([{ item_id: itemId, name: 'Mass', value: null, unit: 'g' }]);
    expect(rows('notes')).toMatchObject([{ id: 'n', item_id: itemId, text: 'Seen', removed: true }]);
    expect(rows('factors')).toEqual([{ id: 'f', name: 'Water', kind: 'treatment', unit: '' }]);
    expect(rows('levels')).toEqual([{ id: 'l', factor_id: 'f', name: 'soft', value: null, baseline: true }]);
  });
});

describe('a table as text', () => {
  const table = (count: number): PackageTable => ({
    ...{ name: 'odd', description: '' },
    schema: {
      fields: [
        { name: 'a', type: 'string' },
        { name: 'b', type: 'number' },
      ],
      missingValues: [''],
    },
    rows: () => Array.from({ length: count }, (_, i) => [i === 0 ? '=1+1' : `row "${String(i)}", and`, i]),
  });
  it.each([0, 1, 1999, 2000, 2001, 4000])('of %i rows comes in pieces that are one', (count) => {
    const pieces = [...tableCsv(table(count))];
    expect(pieces).toHaveLength(1 + Math.ceil(count / 2000));
    const whole = pieces.join('');
    expect(whole.endsWith('\r\n')).toBe(true);
    const { data } = Papa.parse<string[]>(whole, { skipEmptyLines: true });
    expect(data).toHaveLength(count + 1);
    expect(data[0]).toEqual(['a', 'b']);
    if (count > 0) expect(data[1]).toEqual(["'=1+1", '0']);
    if (count > 1) expect(data.at(-1)).toEqual([`row "${String(count - 1)}", and`, String(count - 1)]);
  });
});

describe('the description of a package', () => {
  it('names each table, the study, its photos and its files, with what was written', () => {
    const { document } = testStudy(['Ama']);
    const photo = `photos/${'a'.repeat(64)}.png`;
    const written = new Map(
      [...packageTables(document).map(({ name }) => tablePath(name)), 'study.json', photo, 'files/b.wav'].map(
        (path, i) => [path, { bytes: i, hash: `h${String(i)}` }] as const,
      ),
    );
    const { resources, ...head } = dataPackage(document, written) as { resources: Record<string, unknown>[] };
    expect(head).toMatchObject({
      profile: 'data-package',
      name: `study-${document.study.id}`,
      title: 'Test study',
    });
    expect(resources).toHaveLength(written.size);
    expect(resources[0]).toMatchObject({
      ...{ name: 'items', path: 'data/items.csv', bytes: 0, hash: 'sha256:h0', format: 'csv' },
      schema: {
        fields: expect.arrayContaining([
          { name: 'position', type: 'number' },
          { name: 'id', type: 'string', constraints: { required: true, unique: true } },
        ]) as unknown,
      },
    });
    expect(resources.slice(-3)).toMatchObject([
      { name: 'study', path: 'study.json', format: 'json' },
      { name: `photo-${'a'.repeat(64)}`, path: photo, format: 'png' },
      { name: 'file-b.wav', path: 'files/b.wav', format: 'wav' },
    ]);
    const readings = resources.find(({ name }) => name === 'readings');
    expect(readings).toMatchObject({
      schema: {
        primaryKey: ['id'],
        foreignKeys: [
          { fields: 'item_id', reference: { resource: 'items', fields: 'id' } },
          { fields: 'measurand_id', reference: { resource: 'measurands', fields: 'id' } },
          { fields: 'session_id', reference: { resource: 'sessions', fields: 'id' } },
        ],
      },
    });
    expect(resources.find(({ name }) => name === 'factors')).not.toHaveProperty('schema.foreignKeys');
  });
});
