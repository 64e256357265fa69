import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { ToastMessage } from '../ui/toast.tsx';
import { Refusal, ServerAway } from './api/client.ts';
import { tell, tellDone } from './tell.ts';

const said: ToastMessage[] = [];
vi.mock('../ui/toast.tsx', () => ({
  toast: (message: ToastMessage) => {
    said.push(message);
  },
}));
beforeEach(() => {
  said.length = 0;
});
const settled = () => new Promise((resolve) => setTimeout(resolve, 0));

describe('a change that fails', () => {
  it.each<[Error, string]>([
    [new ServerAway(), 'The server is away; try it again when it is back.'],
    [
      new Refusal(422, 'A name is missing. (/name)', [{ path: '/name', message: 'A name is missing.' }]),
      'A name is missing. (/name)',
    ],
    [new Error('odd'), 'odd'],
  ])('says why: %s', async (error, text) => {
    tell(Promise.reject(error));
    await settled();
    expect(said).toEqual([{ text, tone: 'attention' }]);
  });
  it('is silent where it succeeds', async () => {
    tell(Promise.resolve('done'));
    await settled();
    expect(said).toEqual([]);
  });
});

describe('a way back', () => {
  it('is gone once, and says no more', async () => {
    const undo = vi.fn(() => Promise.resolve());
    tellDone('The claim is removed.', undo);
    said[0]?.action?.run();
    await settled();
    expect(said.map(({ text }) => text)).toEqual(['The claim is removed.']);
    expect(undo).toHaveBeenCalledOnce();
  });
  it('that fails says so and is offered again, as often as it takes', async () => {
    const undo = vi
      .fn<() => Promise<void>>()
      .mockRejectedValueOnce(new ServerAway())
      .mockRejectedValueOnce(new Refusal(409, 'Changed elsewhere.'))
      .mockResolvedValueOnce(undefined);
    tellDone('The claim is removed.', undo);
    for (let i = 0; i < 3; i += 1) {
      said.at(-1)?.action?.run();
      await settled();
    }
    expect(said.map(({ text, tone }) => [text, tone])).toEqual([
      ['The claim is removed.', 'plain'],
      ['Not undone: The server is away; try it again when it is back.', 'attention'],
      ['Not undone: Changed elsewhere.', 'attention'],
    ]);
    expect(undo).toHaveBeenCalledTimes(3);
  });
});
