import { execFileSync } from 'node:child_process';
import { expect, test } from './bench-server.ts';

test.use({ demo: true });

const run = (command: string, ...args: string[]) =>
  execFileSync(command, args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });

test('the example in Python takes a reading and reads the ranking', async ({ server }) => {
  const study = await server.study('Desk fans');
  const before = (await server.get<unknown[]>(`/studies/${study.id}/readings`)).length;
  const said = run(
    'python3',
    'docs/examples/take-a-reading.py',
    server.address,
    'Desk fans',
    'Fenwhir',
    '3.18',
  );
  expect(said).toMatch(/^Calvessa 2 is first/);
  expect(said).toMatch(/Fenwhir: place \d.*, mean 3\.1\d+ m\/s, n = \d+/);
  expect(await server.get<unknown[]>(`/studies/${study.id}/readings`)).toHaveLength(before + 1);
  expect(() =>
    run('python3', 'docs/examples/take-a-reading.py', server.address, 'Desk fans', 'Nobody', '3'),
  ).toThrow(/The study has no item 'Nobody'/);
});

test('the examples by curl make a study and take it away', ({ server }) => {
  const said = run('sh', 'docs/examples/curl.sh', server.address);
  expect(said).toContain('"name":"Ama 2"');
  expect(said).toContain('(refused, as it should be)');
  expect(said).toContain('item,measurand,unit,value,round,taken at');
  expect(said).toMatch(/package: \d{3,} bytes/);
  expect(said).toContain('"status":"deleted"');
});
