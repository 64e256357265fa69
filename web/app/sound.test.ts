import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

/** What the page asked the browser to play, Hz, and when, s. */
let played: { frequency: number; from: number }[] = [];

class Loudspeaker {
  currentTime = 2;
  destination = {};
  resume = () => Promise.resolve();
  createGain = () => ({
    gain: { setValueAtTime: () => undefined, exponentialRampToValueAtTime: () => undefined },
    connect: () => undefined,
  });
  createOscillator() {
    const tone = {
      frequency: { value: 0 },
      connect: (next: unknown) => next,
      start: (from: number) => played.push({ frequency: tone.frequency.value, from }),
      stop: () => undefined,
    };
    return tone;
  }
}

beforeEach(() => {
  played = [];
  vi.resetModules();
  vi.stubGlobal('AudioContext', Loudspeaker);
});
afterEach(() => {
  vi.unstubAllGlobals();
});
const load = async () => ({
  ...(await import('./sound.ts')),
  ...(await import('./preferences.ts')),
});

describe('sounds at the bench', () => {
  it('tell a reading that is recorded from a question and from a wait that is over', async () => {
    const { sound } = await load();
    const heard = (['recorded', 'question', 'wait over'] as const).map((what) => {
      played = [];
      sound(what);
      return played.map(({ frequency }) => frequency);
    });
    expect(heard.map(({ length }) => length)).toEqual([1, 2, 3]);
    // A question falls, a wait that is over rises.
    expect(heard[1]?.[0]).toBeGreaterThan(heard[1]?.[1] ?? 0);
    expect([...(heard[2] ?? [])].sort((a, b) => a - b)).toEqual(heard[2]);
  });
  it('come one note after the other, from now on', async () => {
    const { sound } = await load();
    sound('wait over');
    expect(played[0]?.from).toBe(2);
    expect((played[1]?.from ?? 0) - (played[0]?.from ?? 0)).toBeCloseTo(0.09, 9);
  });
  it('are none where the tester has turned them off, and no error where the browser has none', async () => {
    const { sound, prefer } = await load();
    prefer({ sounds: false });
    sound('recorded');
    expect(played).toEqual([]);
    prefer({ sounds: true });
    vi.stubGlobal('AudioContext', undefined);
    vi.resetModules();
    const { sound: silent } = await import('./sound.ts');
    expect(() => {
      silent('recorded');
    }).not.toThrow();
  });
});
