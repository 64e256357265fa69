/**
 * Runs tests with the changes that they may notice switched on, one after another. Files in a folder say which these
 * are, and take what was noticed.
 */
import { appendFileSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { type RunnerTestCase, TestRunner } from 'vitest';
import { forgetAll, ForgetfulMap, ForgetfulWeakMap } from './forgetful.ts';
import type { Plan, Seen } from './together.ts';

const FOLDER = process.env.MUTANTS_FOLDER ?? '';
const place = (...names: string[]): string => path.join(FOLDER, ...names);
/** What is to be tried; nothing while it is seen what each test runs. */
const plan = (JSON.parse(readFileSync(place('plan.json'), 'utf8')) ?? undefined) as Plan | undefined;

const NONE = -1;
let on = NONE;
/** When a test is taken to have stopped, ms. */
let until = Number.POSITIVE_INFINITY;
let calls = 0;
const seen = new Set<number>();

function isOn(id: number): boolean {
  if (!plan) seen.add(id);
  calls += 1;
  if (calls % 1024 === 0 && performance.now() > until) throw new Error('It does not end.');
  return id === on;
}
Object.assign(globalThis, { mutants: { isOn, Map: ForgetfulMap, WeakMap: ForgetfulWeakMap } });

/** Runs what follows with a change switched on, or with none. */
function switchOn(id: number, longest: number): void {
  on = id;
  until = performance.now() + longest;
  forgetAll();
}

/** Whether a change was noticed, by this process or another. */
const isNoticed = (id: number): boolean => existsSync(place('noticed', String(id)));

export default class MutantRunner extends TestRunner {
  /** Each change, and after it none: a test that fails then was left broken. */
  private tries: number[] = [];
  private id = NONE;
  private isIdle = false;
  private failedBy: number | undefined;
  private isBroken = false;
  private began = 0;

  override async onBeforeRunTask(test: RunnerTestCase): Promise<void> {
    await super.onBeforeRunTask(test);
    if (!plan) return;
    const planned = plan[test.id];
    if (!planned) {
      test.mode = 'skip';
      return;
    }
    this.tries = planned.ids.flatMap((id) => [id, NONE]);
    this.isBroken = false;
    test.repeats = this.tries.length - 1;
  }

  override onBeforeTryTask(
    test: RunnerTestCase,
    { repeats }: { repeats: number; retry: number } = { repeats: 0, retry: 0 },
  ): void {
    super.onBeforeTryTask(test);
    this.began = performance.now();
    if (!plan) {
      this.noteLoaded();
      return;
    }
    this.id = this.tries[repeats] ?? NONE;
    this.isIdle = this.isBroken || (this.id === NONE ? this.failedBy === undefined : isNoticed(this.id));
    if (this.isIdle) return;
    writeFileSync(place(`current-${String(process.pid)}`), String(this.id));
    switchOn(this.id, 10_000 + 5 * (plan[test.id]?.ms ?? 0));
  }

  async runTask(test: RunnerTestCase): Promise<void> {
    if (!this.isIdle) await TestRunner.getTestFn(test)();
  }

  onAfterRetryTask(test: RunnerTestCase): void {
    if (!plan) {
      const line: Seen = {
        test: test.id,
        file: test.file.name,
        ids: [...seen],
        ms: performance.now() - this.began,
      };
      appendFileSync(place('seen'), `${JSON.stringify(line)}\n`);
      seen.clear();
      return;
    }
    switchOn(NONE, Number.POSITIVE_INFINITY);
    const isFailed = test.result?.state === 'fail';
    if (test.result) Object.assign(test.result, { state: 'pass', errors: undefined });
    if (this.isIdle) return;
    if (this.id !== NONE) {
      this.failedBy = isFailed ? this.id : undefined;
      return;
    }
    writeFileSync(place(isFailed ? 'alone' : 'noticed', String(this.failedBy)), '');
    this.isBroken = isFailed;
    this.failedBy = undefined;
  }

  override onAfterRunTask(test: RunnerTestCase): void {
    super.onAfterRunTask(test);
    if (plan) appendFileSync(place('finished'), `${test.id}\n`);
  }

  /** What ran before a test did, when its file was loaded or its suite prepared, it may bear on. */
  private noteLoaded(): void {
    if (seen.size > 0) appendFileSync(place('loaded'), `${JSON.stringify([...seen])}\n`);
    seen.clear();
  }
}
