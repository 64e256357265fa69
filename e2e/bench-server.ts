import { AxeBuilder } from '@axe-core/playwright';
import { type ChildProcess, spawn } from 'node:child_process';
import { constants, cpSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { test as base, expect, type Page } from '@playwright/test';
import { v7 } from 'uuid';
import type { StudyDocument } from '../core/model/study-document.ts';
import { newItem, newMeasurand } from '../core/plan/new-parts.ts';

const ROOT = fileURLToPath(new URL('..', import.meta.url));

/** Ids of the studies of the demo, by their titles. */
const DEMO_IDS = new Map(
  readdirSync(path.join(ROOT, 'demo'))
    .filter((file) => file.endsWith('.json'))
    .map((file): [string, string] => {
      const { study } = JSON.parse(readFileSync(path.join(ROOT, 'demo', file), 'utf8')) as StudyDocument;
      return [study.title, study.id];
    }),
);

/** A server of its own for one test: started, killed and started again on the same database and port. */
export class BenchServer {
  readonly folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-e2e-'));
  private child: ChildProcess | undefined;
  private port = 0;
  /** Folder of the built pages. */
  pages = 'dist/web';

  /** @param begun a folder with the demo in it, a copy of which is the server's */
  constructor(
    private readonly demo: boolean,
    begun?: string,
  ) {
    if (begun !== undefined)
      cpSync(begun, this.folder, { recursive: true, mode: constants.COPYFILE_FICLONE });
  }

  get address(): string {
    return `http://127.0.0.1:${String(this.port)}`;
  }

  async start(): Promise<void> {
    const args = [
      'dist/node/server.js',
      '--data',
      this.folder,
      '--pages',
      this.pages,
      '--port',
      String(this.port),
    ];
    const child = spawn(process.execPath, [...args, ...(this.demo ? ['--demo', 'demo'] : [])], { cwd: ROOT });
    this.child = child;
    this.port = await new Promise<number>((resolve, reject) => {
      let said = '';
      const hear = (chunk: Buffer) => {
        said += chunk.toString();
        const port = /http:\/\/127\.0\.0\.1:(\d+)/.exec(said)?.[1];
        if (port) resolve(Number(port));
      };
      child.stdout.on('data', hear);
      child.stderr.on('data', hear);
      child.on('exit', () => {
        reject(new Error(`the server ended: ${said}`));
      });
    });
  }

  async kill(signal: 'SIGKILL' | 'SIGTERM' = 'SIGKILL'): Promise<void> {
    const { child } = this;
    this.child = undefined;
    if (!child) return;
    await new Promise<void>((resolve) => {
      child.on('exit', () => {
        resolve();
      });
      child.kill(signal);
    });
  }

  async get<T>(address: string): Promise<T> {
    return (await (await fetch(`${this.address}/api/v1${address}`)).json()) as T;
  }

  /** A study by its title, as it is now. */
  async study(title = 'Desk fans'): Promise<StudyDocument['study']> {
    const id = DEMO_IDS.get(title);
    // The list sums up every study, which is not needed to find one of the demo.
    if (id !== undefined) return this.get(`/studies/${id}`);
    const listed = await this.get<{ study: StudyDocument['study'] }[]>('/studies');
    const found = listed.find(({ study }) => study.title === title);
    if (!found) throw new Error(`there is no study “${title}”`);
    return found.study;
  }

  /** A copy of a study's plan, with nothing read yet; without its waits, which a test need not sit through. */
  async planOf(title: string, waits: 'with waits' | 'without waits' = 'without waits'): Promise<string> {
    const id = v7();
    const { id: source } = await this.study(title);
    const made = await this.post(`/studies/${source}/duplicate`, {
      id,
      title: `${title}, again`,
      extent: 'plan',
    });
    expect(made.status).toBe(201);
    const { version, procedure } = (await made.json()) as StudyDocument['study'];
    if (waits === 'without waits') {
      await this.patch(`/studies/${id}`, { version, procedure: { ...procedure, waits: [] } });
    }
    return id;
  }

  async post(address: string, body: unknown, type = 'application/json'): Promise<Response> {
    return fetch(`${this.address}/api/v1${address}`, {
      method: 'POST',
      headers: { 'content-type': type },
      body: typeof body === 'string' ? body : JSON.stringify(body),
    });
  }

  async patch(address: string, body: unknown): Promise<Response> {
    return fetch(`${this.address}/api/v1${address}`, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
  }

  async end(): Promise<void> {
    await this.kill();
    this.remove();
  }

  remove(): void {
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** A study of three items in four rounds, ready for the bench. */
export async function readyStudy(
  server: BenchServer,
  limits: { low: number | null; high: number | null } = { low: null, high: null },
  rounds = 4,
) {
  const id = v7();
  await server.post('/studies', { id, title: 'Three clips', question: '', rounds, seed: 5 });
  const names = ['Almo', 'Berrin', 'Castor'];
  for (const [i, name] of names.entries()) {
    await server.post(`/studies/${id}/items`, {
      id: v7(),
      ...newItem(name, []),
      code: name[0],
      mark: i,
      position: i + 1,
    });
  }
  const measurand = newMeasurand('Pull', 1);
  await server.post(`/studies/${id}/measurands`, {
    id: v7(),
    ...measurand,
    unit: 'g',
    limits,
    instrument: { ...measurand.instrument, name: 'Balance', resolution: 0.1 },
    rule: { name: 'none', parameter: null, level: 'study', judges: 'distance' },
  });
  return {
    id,
    readings: () =>
      server.get<{ id: string; round: number; itemId: string; parts: { text: string }[] }[]>(
        `/studies/${id}/readings`,
      ),
  };
}

/** Starts a session without its conditions, as a tester in a hurry would. */
export async function startSession(page: Page): Promise<void> {
  await expect(page.getByRole('heading', { name: 'Before the first reading' })).toBeVisible();
  await page.getByText('I have read the cautions.').click();
  await page.getByRole('button', { name: 'Start the session' }).click();
  const without = page.getByRole('button', { name: /^Start without/ });
  await expect(without.or(page.getByRole('textbox', { name: /^Reading of/ }))).toBeVisible();
  if (await without.isVisible()) await without.click();
  await expect(page.getByRole('heading', { name: 'Before the first reading' })).toBeHidden();
}

interface Fixtures {
  demo: boolean;
  server: BenchServer;
  /** Problems that the page reported to its console; empty at the end of a good test. */
  complaints: string[];
}

/** Complaints that a test provokes: by killing the server, or by asking for what is not there. */
const AWAY = /Failed to load resource|net::ERR|status of 4\d\d|There is no study with this id|ServerAway: /;

export const test = base.extend<Fixtures>({
  demo: [false, { option: true }],
  server: async ({ demo }, use) => {
    const server = new BenchServer(demo, demo ? process.env.DEMO_FOLDER : undefined);
    await server.start();
    await use(server);
    await server.end();
  },
  complaints: [
    // With the server, so that it is looked at while the server still runs.
    async ({ page, server: _server }, use) => {
      const complaints: string[] = [];
      page.on('pageerror', (error) => complaints.push(error.message));
      page.on('console', (message) => {
        if (message.type() === 'error' && !AWAY.test(message.text())) complaints.push(message.text());
      });
      await use(complaints);
      expect(complaints).toEqual([]);
    },
    { auto: true },
  ],
});

export { expect, type Page };

/** Waits until the bench has all its files: what draws the readings comes a moment after the page. */
export async function benchFetched(page: Page): Promise<void> {
  await expect
    .poll(() =>
      page.evaluate(
        () =>
          performance
            .getEntriesByType('resource')
            .filter(({ name }) => /\/assets\/(?:bench-readings|strip)-/.test(name)).length,
      ),
    )
    .toBeGreaterThanOrEqual(2);
}

/** Presses Tab until something with this name has the focus. */
export async function tabTo(page: Page, name: RegExp, presses = 80): Promise<void> {
  for (let press = 0; press < presses; press += 1) {
    const focused = await page.evaluate(() => {
      const element = document.activeElement;
      if (!element || element === document.body) return '';
      const labels = 'labels' in element ? [...((element as HTMLInputElement).labels ?? [])] : [];
      const byId = (element.getAttribute('aria-labelledby') ?? '')
        .split(' ')
        .map((id) => document.getElementById(id)?.textContent ?? '');
      return [
        element.getAttribute('aria-label'),
        ...labels.map(({ textContent }) => textContent),
        ...byId,
        element.textContent,
      ]
        .filter(Boolean)
        .join(' ');
    });
    if (name.test(focused)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`no Tab led to ${String(name)}`);
}

/** What axe calls serious or critical on a page, by its rules. */
export async function graveViolations(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => `${id} at ${nodes.map(({ target }) => target.join(' ')).join(' | ')}`);
}
