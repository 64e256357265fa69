// @vitest-environment happy-dom
import 'fake-indexeddb/auto';
import { QueryClientProvider } from '@tanstack/react-query';
import { Suspense } from 'react';
import { type Root, createRoot } from 'react-dom/client';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { newMeasurand } from '../../../core/plan/new-parts.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { testStudy } from '../../../core/testing-study.ts';
import { outbox } from '../../app/api/outbox.ts';
import { documentKey, queryClient, useStudyDocument } from '../../app/api/studies.ts';
import { type Bench, useBench } from './use-bench.ts';
import { eventually } from '../../testing.ts';

/** A server that takes everything and says so. */
const takeAll = (address: string, { method = 'GET', body }: { method?: string; body?: string }) => {
  const [, studyId, , id] = /\/studies\/([^/]+)\/([a-z]+)\/?([^/]*)/.exec(address) ?? [];
  const part = JSON.parse(body ?? '{}') as Record<string, unknown>;
  const stamp = { createdAt: '2026-05-04T10:00:00Z', updatedAt: '2026-05-04T10:00:00Z' };
  const version = method === 'PATCH' ? Number(part.version) + 1 : 1;
  const held = queryClient.getQueryData<StudyDocument>(documentKey(studyId ?? ''));
  const before = held?.sessions.find((session) => session.id === id);
  return Promise.resolve(
    new Response(JSON.stringify({ ...stamp, ...before, studyId, ...part, version }), { status: 201 }),
  );
};

/** Waits until something is as it should be, also on a busy machine. */
const drawn = (what: () => unknown, is: unknown) =>
  eventually(() => {
    expect(what()).toEqual(is);
  });

let root: Root | undefined;
let bench: Bench;
let document: StudyDocument;

/** Opens the bench of a study; `bench` is what it is after every drawing. */
async function open(made: StudyDocument): Promise<void> {
  queryClient.setQueryData(documentKey(made.study.id), made);
  function Hand() {
    document = useStudyDocument(made.study.id);
    bench = useBench(document);
    return null;
  }
  root = createRoot(globalThis.document.createElement('div'));
  root.render(
    <QueryClientProvider client={queryClient}>
      <Suspense>
        <Hand />
      </Suspense>
    </QueryClientProvider>,
  );
  await drawn(() => bench.run?.item.studyId, made.study.id);
}
const leave = () => {
  root?.unmount();
  root = undefined;
};

const saved = () => drawn(() => outbox.snapshot().entries, []);
/** Does something, and waits until what comes of it is drawn. */
const after = async (doing: () => void, what: () => unknown, is: unknown) => {
  doing();
  await drawn(what, is);
};
const type = (text: string, part = 'value') =>
  after(
    () => bench.setText(part, text),
    () => bench.texts[part],
    text,
  );
const done = () => bench.queue.filter(({ state }) => state === 'done').length;
const record = async (text: string) => {
  const before = done();
  await type(text);
  await after(
    () => bench.enter(),
    () => done(),
    before + 1,
  );
};
const goTo = (place: number) =>
  after(
    () => bench.goTo(bench.queue[place]?.key),
    () => bench.run?.key,
    bench.queue[place]?.key,
  );
const undo = async () => {
  await drawn(() => bench.canUndo, true);
  await after(
    () => bench.undo(),
    () => bench.said.startsWith('Undone'),
    true,
  );
};

const study = (change: Partial<Measurand> = {}, names = ['Ama', 'Bel', 'Cor']) => {
  const { document: made, measurand } = testStudy(names);
  return { ...made, measurands: [{ ...measurand, ...change }] };
};
const withForm = (form: string, change: Partial<Measurand> = {}) =>
  study({
    ...newMeasurand('Mass', 1, form),
    unit: 'g',
    rule: { name: 'none', parameter: null, level: 'study', judges: 'distance' },
    ...change,
  });

beforeEach(() => {
  vi.stubGlobal('fetch', takeAll);
  vi.stubGlobal('navigator', { locks: { request: (_name: string, work: () => Promise<void>) => work() } });
});
afterEach(async () => {
  leave();
  await saved();
  queryClient.clear();
  vi.unstubAllGlobals();
});

describe('the entry', () => {
  it('is recorded for the run that is shown, empties, and the next run comes', async () => {
    await open(study());
    const first = bench.run;
    await record('3,5 g');
    expect(bench.run?.key).toBe(bench.queue[1]?.key);
    expect(bench.texts).toEqual({});
    await saved();
    expect(document.readings).toMatchObject([
      { itemId: first?.itemId, round: 1, place: 0, source: 'typed', parts: [{ text: '3,5 g', number: 3.5 }] },
    ]);
    // A study that asks for nothing has a session that begins with its first reading.
    expect(document.sessions).toMatchObject([{ startedAt: document.readings[0]?.takenAt, endedAt: null }]);
    await record('4');
    await saved();
    expect(document.sessions).toHaveLength(1);
    expect(document.readings[1]?.sessionId).toBe(document.sessions[0]?.id);
  });
  it('stays with its run while others are looked at, and when the bench is opened again', async () => {
    const made = study();
    await open(made);
    await type('3.1');
    await goTo(2);
    expect(bench.texts).toEqual({});
    await type('7');
    await goTo(0);
    expect(bench.texts).toEqual({ value: '3.1' });
    await goTo(2);
    leave();
    await open(made);
    expect([bench.run?.key, bench.texts]).toEqual([bench.queue[2]?.key, { value: '7' }]);
    await goTo(0);
    await record('3.1');
    await goTo(2);
    expect(bench.texts).toEqual({ value: '7' });
  });
  it('is left as it is on the way to the next run that is to come, and back to the first', async () => {
    const made = study();
    await open(made);
    await goTo(1);
    await record('5');
    await goTo(0);
    await type('3.1');
    const move = (to: 'next' | 'first', key: string | undefined) =>
      after(
        () => bench.move(to),
        () => bench.run?.key,
        key,
      );
    // The second run is done already.
    await move('next', bench.queue[2]?.key);
    expect(bench.texts).toEqual({});
    await goTo(bench.queue.length - 1);
    await after(
      () => bench.move('next'),
      () => bench.said,
      'That was the last run to come.',
    );
    expect(bench.run?.key).toBe(bench.queue.at(-1)?.key);
    await move('first', bench.queue[0]?.key);
    expect(bench.texts).toEqual({ value: '3.1' });
    expect(done()).toBe(1);
  });
  it('that is not understood says why, and nothing is recorded', async () => {
    await open(study());
    await type('heavy');
    await after(
      () => bench.enter(),
      () => bench.problem,
      '“heavy” is not a number in g.',
    );
    expect(done()).toBe(0);
    await type('3');
    expect(bench.problem).toBeUndefined();
  });
  it('that looks like a slip is asked about, and kept by a second Enter', async () => {
    await open(study({ limits: { low: 1, high: 10 } }));
    await type('50');
    await after(
      () => bench.enter(),
      () => bench.slip !== undefined,
      true,
    );
    expect(done()).toBe(0);
    await after(
      () => bench.dismiss(),
      () => bench.slip,
      undefined,
    );
    expect(bench.texts).toEqual({ value: '50' });
    await after(
      () => bench.enter(),
      () => bench.slip !== undefined,
      true,
    );
    await after(
      () => bench.enter(),
      () => done(),
      1,
    );
  });
  it('is asked about no more once another page took its run', async () => {
    const made = testStudy(['Ama', 'Bel']);
    const { id } = made.document.study;
    const reading = made.read(0, 1, '3');
    made.document.readings = [];
    await open({ ...made.document, measurands: [{ ...made.measurand, limits: { low: 1, high: 10 } }] });
    const first = bench.run as Run;
    await goTo(1);
    await type('99');
    await goTo(0);
    await type('50');
    await after(
      () => bench.enter(),
      () => bench.slip !== undefined,
      true,
    );
    const theirs = { ...reading, itemId: first.itemId };
    await after(
      () =>
        queryClient.setQueryData<StudyDocument>(
          documentKey(id),
          (held) => held && { ...held, readings: [theirs] },
        ),
      () => bench.queue[0]?.state,
      'done',
    );
    // The run that was chosen stays in view; its question is answered by what is recorded.
    bench.goTo(undefined);
    await drawn(() => bench.run?.key, bench.queue[1]?.key);
    expect([bench.slip, bench.texts]).toEqual([undefined, { value: '99' }]);
    await after(
      () => bench.enter(),
      () => bench.slip !== undefined,
      true,
    );
    expect(done()).toBe(1);
  });
  it('shows what another unit is understood to be', async () => {
    await open(study());
    await type('1.2 kg');
    expect(bench.understood).toContain('1');
    expect(bench.understood).toContain('g');
    await record('1.2 kg');
    expect(bench.queue[0]?.reading?.value).toBeCloseTo(1200, 9);
  });
  it('takes the parts of a reading from an instrument one after the other', async () => {
    await open(withForm('before-after'));
    await after(
      () => bench.takeText('20'),
      () => bench.texts,
      { before: '20' },
    );
    expect(done()).toBe(0);
    await after(
      () => bench.takeText('26'),
      () => done(),
      1,
    );
    await saved();
    expect(document.readings).toMatchObject([
      { source: 'instrument', parts: [{ text: '20' }, { text: '26' }] },
    ]);
    expect(bench.queue[0]?.reading?.value).toBe(6);
  });
  it('is fed by what the run before gave back, where the plan chains them', async () => {
    const [measurand] = withForm('fed-recovered').measurands;
    await open(withForm('fed-recovered', { settings: { ...measurand?.settings, chained: true } }));
    await type('100', 'fed');
    await type('80', 'recovered');
    await after(
      () => bench.enter(),
      () => done(),
      1,
    );
    await drawn(() => bench.texts, { fed: '80' });
    // Another feed may be typed over it.
    await type('90', 'fed');
    await type('45', 'recovered');
    await after(
      () => bench.enter(),
      () => done(),
      2,
    );
    expect(bench.queue.slice(0, 2).map(({ reading }) => reading?.value)).toEqual([80, 50]);
  });
});

describe('undo at the bench', () => {
  it('brings back text after text, marked as brought back until it is touched', async () => {
    await open(study());
    await record('3');
    await record('4');
    await undo();
    await drawn(() => [bench.texts, bench.undone], [{ value: '4' }, true]);
    await undo();
    await drawn(() => [bench.texts, bench.undone], [{ value: '3' }, true]);
    expect([done(), bench.run?.key]).toEqual([0, bench.queue[0]?.key]);
    await type('3.3');
    expect(bench.undone).toBe(false);
    await drawn(() => bench.canUndo, false);
    await goTo(1);
    expect([bench.texts, bench.undone]).toEqual([{ value: '4' }, true]);
  });
  it('takes back a skip, a run that was added, and a misfire', async () => {
    await open(study());
    const first = bench.run?.key;
    await after(
      () => bench.skip(),
      () => bench.queue[0]?.state,
      'skipped',
    );
    await undo();
    await drawn(() => [bench.queue[0]?.state, bench.run?.key], ['to come', first]);
    const runs = bench.queue.length;
    await after(
      () => bench.addRun(bench.run as Run),
      () => bench.queue.length,
      runs + 1,
    );
    expect(bench.run).toMatchObject({ added: true, round: 4 });
    await undo();
    await drawn(() => bench.queue.length, runs);
    await type('3');
    await after(
      () => bench.misfire('spilled'),
      () => bench.queue[0]?.misfires,
      1,
    );
    await undo();
    await drawn(() => bench.queue[0]?.misfires, 0);
  });
});

describe('a run', () => {
  it('that is skipped keeps what was typed, and is open again by its misfire or its reading', async () => {
    await open(study());
    await type('3');
    await after(
      () => bench.skip(),
      () => bench.queue[0]?.state,
      'skipped',
    );
    await goTo(0);
    expect(bench.texts).toEqual({ value: '3' });
    await after(
      () => bench.misfire('spilled'),
      () => bench.queue[0]?.misfires,
      1,
    );
    expect(bench.queue[0]?.state).toBe('to come');
    expect(bench.texts).toEqual({});
    await record('3.2');
    expect(bench.queue[0]).toMatchObject({ state: 'done', misfires: 1 });
  });
  it('is taken again, and the earlier reading stays in the record', async () => {
    await open(study());
    await record('3');
    await goTo(0);
    await after(
      () => bench.takeAgain(bench.run as Run),
      () => bench.queue[0]?.state,
      'to come',
    );
    expect(bench.run?.key).toBe(bench.queue[0]?.key);
    await record('3.4');
    await saved();
    expect(document.readings.map(({ parts }) => parts[0]?.text)).toEqual(['3', '3.4']);
    expect(bench.queue[0]?.reading?.value).toBe(3.4);
  });
  it('is known by its code only where the bench is blind', async () => {
    const made = study();
    await open({ ...made, study: { ...made.study, blind: 'blind' } });
    expect(bench.queue.map(({ item }) => item.name).every((name) => name.startsWith('Sample '))).toBe(true);
    await record('3');
    expect(bench.said).toMatch(/^Sample .* recorded\.$/);
    await saved();
    expect(made.items.map(({ id }) => id)).toContain(document.readings[0]?.itemId);
  });
});

describe('a session', () => {
  it('is paused, gone on with and ended in an order that undo knows', async () => {
    await open(study());
    await record('3');
    await after(
      () => bench.session.pause(),
      () => bench.session.paused,
      true,
    );
    await after(
      () => bench.session.goOn(),
      () => bench.session.paused,
      false,
    );
    await after(
      () => bench.session.end([]),
      () => bench.session.session,
      undefined,
    );
    const said: string[] = [];
    for (let i = 0; i < 4; i += 1) {
      await undo();
      await drawn(() => bench.said !== said.at(-1), true);
      said.push(bench.said);
    }
    expect(said).toEqual([
      'Undone: the last end of the session.',
      'Undone: the last going on.',
      'Undone: the last pause.',
      'Undone: the last reading.',
    ]);
  });
  it('that is split goes on with the other instrument, and its readings with it', async () => {
    await open(study());
    await record('3');
    await after(
      () => bench.session.split({ operator: 'Ola', instrument: 'Second balance' }),
      () => bench.session.session?.instrument,
      'Second balance',
    );
    await record('4');
    await saved();
    const [first, second] = document.sessions;
    expect(second).toMatchObject({ continuesId: first?.id, operator: 'Ola', endedAt: null });
    expect(document.readings.map(({ sessionId }) => sessionId)).toEqual([first?.id, second?.id]);
  });
});
