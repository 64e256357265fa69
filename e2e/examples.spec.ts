import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { expect, test } from './bench-server.ts';

test.use({ demo: true });

const started = promisify(execFile);
// Not waited for in place: a connection that the server closes meanwhile must be seen to close.
const run = async (command: string, ...args: string[]): Promise<string> =>
  (await started(command, args, { encoding: 'utf8' })).stdout;

test('the example in Python takes a reading and reads the ranking', async ({ server }) => {
  const study = await server.study('Desk fans');
  const before = (await server.get<unknown[]>(`/studies/${study.id}/readings`)).length;
  const said = await run(
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
  await expect(
    run('python3', 'docs/examples/take-a-reading.py', server.address, 'Desk fans', 'Nobody', '3'),
  ).rejects.toThrow(/The study has no item 'Nobody'/);
});

test('the examples by curl make a study and take it away', async ({ server }) => {
  const said = await run('sh', 'docs/examples/curl.sh', server.address);
  expect(said).toContain('"name":"Ama 2"');
  expect(said).toContain('(refused, as it should be)');
  expect(said).toContain('item,measurand,unit,value,round,taken at');
  expect(said).toMatch(/package: \d{3,} bytes/);
  expect(said).toContain('"status":"deleted"');
});
