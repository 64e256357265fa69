import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';
import plantGrowth from '../core/reference/plant-growth.json' with { type: 'json' };

const COMMAND = fileURLToPath(new URL('../dist/node/analyse.js', import.meta.url));
const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-analyse-'));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

/** Runs the built command on a file with these contents. */
function command(contents: string | Uint8Array, ...args: string[]) {
  const file = path.join(folder, 'readings.csv');
  writeFileSync(file, contents);
  return spawnSync(process.execPath, [COMMAND, file, ...args], { encoding: 'utf8' });
}

describe('the built command', () => {
  it('prints one JSON document and nothing else', () => {
    // Dobson (1983), PlantGrowth.
    const rows = plantGrowth.items.map((item, i) => `${item},${String(plantGrowth.values[i])}`);
    const { status, stdout, stderr } = command(`item,value\n${rows.join('\n')}\n`, '--json');
    expect([status, stderr]).toEqual([0, '']);
    const document = JSON.parse(stdout) as Record<string, unknown>;
    expect(Object.keys(document)).toEqual([
      'items',
      'tests',
      'method',
      'pairs',
      'ranking',
      'findings',
      'notes',
    ]);
  });
  it('writes a report beside what it prints, and nothing at all where that fails', () => {
    const contents = 'item,value\nAma,3.5\nAma,3.6\nBel,4.5\nBel,4.6\n';
    const page = path.join(folder, 'readings.html');
    const written = command(contents, '--report', page);
    expect([written.status, written.stderr]).toEqual([0, '']);
    expect(written.stdout).toContain('Bel');
    const html = readFileSync(page, 'utf8');
    expect(html).toContain('<h2><bdi>The answer</bdi></h2>');
    expect(html).toContain('role="img"');
    const refused = command(contents, '--report', path.join(folder, 'none', 'x.html'));
    expect([refused.status, refused.stdout]).toEqual([2, '']);
    expect(refused.stderr).toContain('cannot be written');
  });
  it('prints a table for people without --json', () => {
    const { status, stdout } = command('item;value\nAma;3,5\nAma;3,6\nBel;4,5\nBel;4,6\n');
    expect(status).toBe(0);
    expect(stdout).toContain('95 % interval');
  });
  it.each([
    ['an unknown option', 'item,value\nA,1\n', ['--fast'], /Unknown option/],
    [
      'a column that is not there',
      'item,value\nA,1\n',
      ['--value', 'speed'],
      /Line 1: there is no column “speed”/,
    ],
    ['a word for a number', 'item,value\nA,1\nA,fast\n', [], /Line 3: column “value”/],
    ['an empty file', '', [], /empty/],
    ['a file that is no text', Uint8Array.of(137, 80, 78, 71, 0, 1, 2), [], /not text/],
    ['a file in another encoding', Uint8Array.of(105, 116, 101, 109, 0xe9), [], /UTF-8/],
    ['a rule that is not there', 'item,value\nA,1\n', ['--rule', 'pierce'], /There is no rule/],
  ])('ends with status 2 and one sentence for %s', (_what, contents, args, sentence) => {
    const { status, stdout, stderr } = command(contents, ...args);
    expect(status).toBe(2);
    expect(stdout).toBe('');
    expect(stderr).toMatch(sentence);
    expect(stderr.trim().split('\n')).toHaveLength(1);
  });
  it('says when there is no such file', () => {
    const missing = spawnSync(process.execPath, [COMMAND, path.join(folder, 'none.csv')], {
      encoding: 'utf8',
    });
    expect([missing.status, missing.stdout]).toEqual([2, '']);
    expect(missing.stderr).toContain('There is no file');
    const directory = spawnSync(process.execPath, [COMMAND, folder], { encoding: 'utf8' });
    expect([directory.status, directory.stdout]).toEqual([2, '']);
  });
  it('reads a hundred thousand readings in rounds', () => {
    const rows = Array.from(
      { length: 100000 },
      (_, i) =>
        `item ${String(i % 10)},${String(Math.floor(i / 10))},${String(3 + (i % 10) / 100 + ((i * 7919) % 101) / 1000)}`,
    );
    const { status, stdout } = command(`item,round,value\n${rows.join('\n')}\n`, '--json');
    expect(status).toBe(0);
    const { method, items, ranking } = JSON.parse(stdout) as {
      method: string;
      items: { n: number }[];
      ranking: { item: string }[];
    };
    expect(method).toBe('within-rounds');
    expect(items.every(({ n }) => n === 10000)).toBe(true);
    expect(ranking[0]?.item).toBe('item 9');
  });
});
