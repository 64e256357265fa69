/**
 * npm run bench -- --kills 1000: kills the server at random moments while four writers and an import are at it, and
 * starts it from copies of its folder. Nothing that was acknowledged may be missing, nothing may be there twice.
 */
import { spawn } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { v7 } from 'uuid';
import { ROOT } from './setup.mjs';

const WRITERS = 4;
const ROWS = 200;
/** The record is read again after so many kills, and at the end; a copy of the folder is started as often. */
const LOOKED_AFTER = 5;

/** Starts a server on a folder; resolves with its address and how to kill it. */
function start(folder) {
  const child = spawn(process.execPath, ['dist/node/server.js', '--data', folder, '--port', '0'], {
    cwd: ROOT,
  });
  return new Promise((resolve, reject) => {
    let said = '';
    const hear = (chunk) => {
      said += chunk;
      const address = /http:\/\/127\.0\.0\.1:\d+/.exec(said)?.[0];
      if (!address) return;
      const kill = () =>
        new Promise((ended) => {
          child.on('exit', ended);
          child.kill('SIGKILL');
        });
      resolve({ api: `${address}/api/v1`, kill });
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.on('exit', () => reject(new Error(`The server ended: ${said}`)));
  });
}

async function send(api, address, body, type = 'application/json') {
  const answer = await fetch(api + address, {
    method: 'POST',
    headers: { 'content-type': type },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  });
  const said = await answer.json();
  if (!answer.ok)
    throw Object.assign(new Error(`${answer.status}: ${JSON.stringify(said)}`), { refused: true });
  return said;
}

const reading = (itemId, measurandId, text, round) => ({
  id: v7(),
  ...{ itemId, measurandId, sessionId: null, round, place: 0, levels: [], source: 'typed' },
  parts: [{ name: 'value', text, number: Number(text) }],
  takenAt: new Date().toISOString(),
});

/** Sends one reading after another until the server is gone; what was not acknowledged is sent again. */
async function write(api, studyId, writer) {
  for (;;) {
    writer.pending ??= reading(
      writer.itemId,
      writer.measurandId,
      String(writer.acknowledged.length + 1),
      (writer.acknowledged.length % 9000) + 1,
    );
    try {
      await send(api, `/studies/${studyId}/readings`, writer.pending);
    } catch (error) {
      if (error.refused) throw error;
      return;
    }
    writer.acknowledged.push(writer.pending.id);
    writer.pending = undefined;
  }
}

/** Imports whole studies, each again until it is acknowledged. */
async function importStudies(api, importer) {
  for (;;) {
    importer.pending ??= importer.next();
    try {
      await send(api, '/studies/import', importer.pending);
    } catch (error) {
      if (error.refused) throw error;
      return;
    }
    importer.acknowledged.push(importer.pending.study.id);
    importer.pending = undefined;
  }
}

/** What is lost or doubled of what the server has acknowledged. */
async function look(api, studyId, writers, importer) {
  const get = async (address) => (await fetch(api + address)).json();
  const ids = (await get(`/studies/${studyId}/readings`)).map(({ id }) => id);
  const there = new Set(ids);
  const lost = writers.flatMap(({ acknowledged }) => acknowledged.filter((id) => !there.has(id)));
  const listed = (await get('/studies')).map(({ study }) => study.id);
  const lostStudies = importer.acknowledged.filter((id) => !listed.includes(id));
  const broken = [];
  for (const id of importer.acknowledged.slice(-3)) {
    const { readings } = await get(`/studies/${id}/document`);
    if (readings?.length !== ROWS) broken.push(id);
  }
  return {
    lost: lost.length + lostStudies.length + broken.length,
    doubled: ids.length - there.size + (listed.length - new Set(listed).size),
  };
}

/** @param kills how often the server is killed */
export async function killBench(kills) {
  const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-kills-'));
  const copy = `${folder}-copy`;
  const sum = { lost: 0, doubled: 0, copies: 0 };
  try {
    let server = await start(folder);
    const studyId = v7();
    await send(server.api, '/studies', { id: studyId, title: 'Killed', question: '', rounds: 5, seed: 1 });
    const csv = 'item,measurand,unit,round,value\nA,Pull,g,1,1\nB,Pull,g,1,2\nC,Pull,g,1,3\nD,Pull,g,1,4\n';
    const { study } = await send(server.api, '/studies/import', csv, 'text/csv');
    const pattern = await (await fetch(`${server.api}/studies/${study.id}/document`)).json();
    const measurandId = v7();
    await send(server.api, `/studies/${studyId}/measurands`, {
      ...fields(pattern.measurands[0]),
      id: measurandId,
    });
    const writers = [];
    for (const item of pattern.items.slice(0, WRITERS)) {
      const itemId = v7();
      await send(server.api, `/studies/${studyId}/items`, { ...fields(item), id: itemId });
      writers.push({ itemId, measurandId, acknowledged: [], pending: undefined });
    }
    const importer = {
      acknowledged: [],
      pending: undefined,
      next: () => {
        const id = v7();
        const text = JSON.stringify(pattern).replaceAll(study.id, id);
        const document = JSON.parse(text);
        const renew = (kind) => {
          for (const part of document[kind]) {
            const fresh = v7();
            const whole = JSON.stringify(document).replaceAll(part.id, fresh);
            Object.assign(document, JSON.parse(whole));
          }
        };
        for (const kind of ['items', 'measurands', 'sessions', 'readings']) renew(kind);
        const [first] = document.readings;
        document.readings = Array.from({ length: ROWS }, (_, i) => ({
          ...first,
          id: v7(),
          itemId: document.items[i % document.items.length].id,
          round: Math.floor(i / document.items.length) + 1,
        }));
        return document;
      },
    };
    for (let kill = 1; kill <= kills; kill += 1) {
      // Long enough now and then for an import to end, and to be killed in the middle of its end.
      const moment = 60 + Math.floor(Math.random() * (kill % 4 === 0 ? 4000 : 400));
      const running = server;
      const ending = new Promise((resolve) => setTimeout(resolve, moment)).then(() => running.kill());
      const work = writers.map((writer) => write(running.api, studyId, writer));
      await Promise.all([...work, importStudies(running.api, importer), ending]);
      if (kill % LOOKED_AFTER === 0 || kill === kills) {
        rmSync(copy, { recursive: true, force: true });
        cpSync(folder, copy, { recursive: true });
        for (const from of [copy, folder]) {
          server = await start(from);
          const { lost, doubled } = await look(server.api, studyId, writers, importer);
          sum.lost += lost;
          sum.doubled += doubled;
          if (from === copy) {
            sum.copies += 1;
            await server.kill();
          }
        }
      } else server = await start(folder);
    }
    const readings = writers.reduce((count, { acknowledged }) => count + acknowledged.length, 0);
    await server.kill();
    return { ...sum, kills, readings, studies: importer.acknowledged.length };
  } finally {
    rmSync(folder, { recursive: true, force: true });
    rmSync(copy, { recursive: true, force: true });
  }
}

/** A part as it is posted: without what the server stamps. */
function fields(part) {
  const stamped = ['studyId', 'version', 'createdAt', 'updatedAt'];
  return Object.fromEntries(Object.entries(part).filter(([name]) => !stamped.includes(name)));
}
