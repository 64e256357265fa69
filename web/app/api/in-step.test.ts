import { describe, expect, it } from 'vitest';
import { eventually } from '../../testing.ts';
import { stepKeeper } from './in-step.ts';

/** A page at a study on a server; each fetch brings the next of these states. */
function page(states: string[]) {
  let fetches = 0;
  const keeper = stepKeeper((studyId) => {
    fetches += 1;
    const state = states.shift();
    if (state === undefined) return Promise.reject(new Error('The server is away.'));
    keeper.has(studyId, state);
    return Promise.resolve();
  });
  return { keeper, fetches: () => fetches };
}

describe('a study in the page is kept in step', () => {
  it('with nothing to fetch where nothing was missed', async () => {
    const { keeper, fetches } = page([]);
    keeper.has('s', 'a:4');
    keeper.hears('s', 'a:4', false);
    keeper.hears('s', 'a:5', true);
    keeper.hears('s', 'a:6', true);
    await Promise.resolve();
    expect(fetches()).toBe(0);
  });
  it('by a fetch where it changed before this page listened', async () => {
    const { keeper, fetches } = page(['a:5']);
    keeper.has('s', 'a:4');
    keeper.hears('s', 'a:5', false);
    await eventually(() => {
      expect(fetches()).toBe(1);
    });
    keeper.hears('s', 'a:6', true);
    await Promise.resolve();
    expect(fetches()).toBe(1);
  });
  it('where something was said while a fetch brought what was before it', async () => {
    const { keeper, fetches } = page(['a:5', 'a:6']);
    keeper.has('s', 'a:4');
    keeper.hears('s', 'a:5', false);
    keeper.hears('s', 'a:6', true);
    await eventually(() => {
      expect(fetches()).toBe(2);
    });
  });
  it('after a new start of the server, whose count begins again', async () => {
    const { keeper, fetches } = page(['b:0']);
    keeper.has('s', 'a:9');
    keeper.hears('s', 'b:0', false);
    await eventually(() => {
      expect(fetches()).toBe(1);
    });
  });
  it('again with the next word where a fetch failed, and never without end', async () => {
    const { keeper, fetches } = page([]);
    keeper.has('s', 'a:1');
    keeper.hears('s', 'a:2', false);
    await eventually(() => {
      expect(fetches()).toBe(1);
    });
    const behind = page(Array.from({ length: 50 }, () => 'a:1'));
    behind.keeper.hears('s', 'a:2', false);
    await eventually(() => {
      expect(behind.fetches()).toBe(5);
    });
  });
});
