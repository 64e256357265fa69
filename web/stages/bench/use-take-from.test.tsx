// @vitest-environment happy-dom
import { act, useEffect } from 'react';
import { type Root, createRoot } from 'react-dom/client';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { InstrumentReading } from '../../../core/model/instrument.ts';
import { inWords, useTakeFrom } from './use-take-from.ts';

type AtBench = Parameters<typeof useTakeFrom>[0];

/** Answers to the questions that were asked, in their order. */
let answers: ((text: string | Error) => Promise<void>)[] = [];
let root: Root;
let take: Take;
const bench = { takeText: vi.fn(), trouble: vi.fn() };

type Take = ReturnType<typeof useTakeFrom>;

function Hand({ id, state, onDrawn }: { id: string; state: string; onDrawn: (take: Take) => void }) {
  const drawn = useTakeFrom({ ...bench, run: { key: id, state } as NonNullable<AtBench['run']> });
  useEffect(() => {
    onDrawn(drawn);
  });
  return null;
}
const setTake = (drawn: Take) => {
  take = drawn;
};
/** Draws the bench with a run at hand. */
const runIs = (id: string, state = 'to come'): Promise<void> =>
  act(() => {
    root.render(<Hand id={id} state={state} onDrawn={setTake} />);
    return Promise.resolve();
  });
const ask = () => {
  take({ id: '127.0.0.1:5025' });
};

beforeEach(() => {
  vi.stubGlobal('IS_REACT_ACT_ENVIRONMENT', true);
  answers = [];
  root = createRoot(document.createElement('div'));
  vi.stubGlobal(
    'fetch',
    () =>
      new Promise((resolve, reject) => {
        answers.push(async (text) => {
          const reading: InstrumentReading = { id: '127.0.0.1:5025', text: String(text), unit: 'm/s' };
          if (text instanceof Error) reject(text);
          else resolve(new Response(JSON.stringify(reading)));
          await new Promise((then) => setTimeout(then, 20));
        });
      }),
  );
});
afterEach(async () => {
  await act(() => {
    root.unmount();
    return Promise.resolve();
  });
  vi.unstubAllGlobals();
  vi.clearAllMocks();
});

describe('what an instrument shows, taken by a key', () => {
  it('goes to the run that it was asked for', async () => {
    await runIs('first');
    ask();
    await answers[0]?.('3.14');
    expect(bench.takeText).toHaveBeenCalledExactlyOnceWith('3.14 m/s');
    expect(bench.trouble).not.toHaveBeenCalled();
  });
  it('is asked once, however often the key is pressed before it answers', async () => {
    await runIs('first');
    ask();
    ask();
    expect(answers).toHaveLength(1);
    await answers[0]?.('3.14');
    ask();
    expect(answers).toHaveLength(2);
    await answers[1]?.('3.15');
    expect(bench.takeText.mock.calls).toEqual([['3.14 m/s'], ['3.15 m/s']]);
  });
  it('is not taken for another run, nor for one that was read meanwhile', async () => {
    await runIs('first');
    ask();
    await runIs('second');
    await answers[0]?.('3.14');
    expect(bench.trouble.mock.calls).toEqual([
      ['Not taken: 3.14 m/s. It came when the run that it was for was over.'],
    ]);
    ask();
    await runIs('second', 'done');
    await answers[1]?.('3.15');
    expect(bench.trouble).toHaveBeenCalledTimes(2);
    expect(bench.takeText).not.toHaveBeenCalled();
  });
  it('is not asked for a run that is read, and it is said why', async () => {
    await runIs('first', 'done');
    ask();
    expect(answers).toEqual([]);
    expect(bench.trouble).toHaveBeenCalledExactlyOnceWith(
      'This run is read already. Take it again to type another reading.',
    );
  });
  it('is said to be missing where it does not come, and asked for again', async () => {
    await runIs('first');
    ask();
    await answers[0]?.(new TypeError('gone'));
    expect(bench.trouble).toHaveBeenCalledOnce();
    ask();
    await answers[1]?.('3.16');
    expect(bench.takeText).toHaveBeenCalledExactlyOnceWith('3.16 m/s');
  });
});

describe('a reading in words', () => {
  it('has no unit where the instrument has none', () => {
    expect(inWords({ id: '', text: '3', unit: '' })).toBe('3');
  });
});
