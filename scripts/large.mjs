/** A study of 200,000 readings comes in as a table, goes out in each format, and comes in again: how long, how much memory. */
import { spawn } from 'node:child_process';
import {
  createReadStream,
  createWriteStream,
  mkdtempSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ROOT } from './setup.mjs';

const ITEMS = 20;
const AIM = 'under 600 MB';

/** A table of readings, the same each time. */
function table(readings) {
  const rows = ['item,value'];
  let state = 1;
  for (let i = 0; i < readings; i += 1) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    rows.push(`Item ${(i % ITEMS) + 1},${(20 + (i % ITEMS) * 0.1 + state / 2 ** 31).toFixed(2)}`);
  }
  return `${rows.join('\n')}\n`;
}

/** A server on an empty folder; `most` measures what work needs at most, of the whole process. */
async function started(folder) {
  const child = spawn(process.execPath, ['dist/node/server.js', '--data', folder, '--port', '0'], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const address = await new Promise((resolve, reject) => {
    let said = '';
    child.stdout.on('data', (piece) => {
      said += piece;
      const found = /http:\/\/\S+:\d+/.exec(said);
      if (found) resolve(found[0]);
    });
    child.on('exit', () => reject(new Error(`the server ended: ${said}`)));
  });
  const most = async (work) => {
    // The kernel counts the peak from here on (proc(5), clear_refs).
    writeFileSync(`/proc/${child.pid}/clear_refs`, '5');
    const begin = performance.now();
    const done = await work();
    const seconds = (performance.now() - begin) / 1000;
    const peak = Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))[1]) / 1024;
    return { done, seconds, peak };
  };
  const stop = async () => {
    child.removeAllListeners('exit');
    const ended = new Promise((resolve) => child.on('exit', resolve));
    child.kill();
    await ended;
  };
  return { studies: `${address}/api/v1/studies`, most, stop };
}

/** @param row prints what was measured, the figure, and the aim */
export async function largeStudy(row, readings = 200_000) {
  const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-large-'));
  const print = (what, { seconds, peak }) => {
    row(
      `${readings.toLocaleString('en')} readings, ${what}`,
      `${seconds.toFixed(1)} s, ${peak.toFixed(0)} MB`,
      AIM,
    );
  };
  const arriving = (studies, type, body) => async () => {
    const answer = await fetch(`${studies}/import?title=Many`, {
      method: 'POST',
      headers: { 'content-type': type },
      body,
      duplex: 'half',
    });
    const imported = await answer.json();
    if (answer.status !== 201 || imported.readings !== readings)
      throw new Error(JSON.stringify(imported).slice(0, 400));
    return imported.study.id;
  };
  try {
    const first = await started(path.join(folder, 'first'));
    const read = await first.most(arriving(first.studies, 'text/csv', table(readings)));
    print('table in', read);
    const files = [];
    for (const [name, type] of [
      ['export.json', 'application/json'],
      ['export.zip', 'application/zip'],
      ['export.csv', 'text/csv'],
    ]) {
      const file = path.join(folder, name);
      const made = await first.most(async () => {
        const answer = await fetch(`${first.studies}/${read.done}/${name}`);
        if (!answer.ok) throw new Error(await answer.text());
        await pipeline(Readable.fromWeb(answer.body), createWriteStream(file));
      });
      print(`${name} out, ${(statSync(file).size / 1e6).toFixed(0)} MB`, made);
      files.push([name, type, file]);
    }
    await first.stop();
    for (const [name, type, file] of files) {
      const again = await started(path.join(folder, `again-${name}`));
      const body = Readable.toWeb(createReadStream(file));
      print(`${name} in`, await again.most(arriving(again.studies, type, body)));
      await again.stop();
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
