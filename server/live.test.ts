import { describe, expect, it } from 'vitest';
import { type LiveEvent, LiveHub } from './live.ts';

const change = { event: 'gone', kind: 'items', id: 'x' } as const;

describe('what pages at a study are told', () => {
  it('comes with the state after it, which counts changes and not who has the bench', () => {
    const hub = new LiveHub();
    const heard: string[] = [];
    const off = hub.subscribe('one', ({ event }: LiveEvent, state) => {
      heard.push(`${event} ${state.split(':')[1] ?? ''}`);
    });
    hub.publish('one', change);
    hub.publish('another', change);
    hub.come('one', 'tab');
    hub.publish('one', change);
    expect(heard).toEqual(['gone 1', 'bench 1', 'gone 2']);
    off();
    hub.publish('one', change);
    expect(heard).toHaveLength(3);
    expect(hub.state('one')).toMatch(/:3$/);
    expect(hub.state('none')).toMatch(/:0$/);
    expect(hub.state('one').split(':')[0]).not.toBe(new LiveHub().state('one').split(':')[0]);
  });
  it('is who has the bench: the first that came, who took it over, or the next one', () => {
    const hub = new LiveHub();
    const told: (string | null)[] = [];
    hub.subscribe('one', (event) => {
      if (event.event === 'bench') told.push(event.holder);
    });
    expect(hub.holder('one')).toBeNull();
    for (const tab of ['a', 'b', 'a']) hub.come('one', tab);
    expect(hub.takeOver('one', 'nobody')).toBe(false);
    expect(told).toEqual(['a', 'a', 'a']);
    expect(hub.takeOver('one', 'b')).toBe(true);
    expect(hub.holder('one')).toBe('b');
    hub.leave('one', 'b');
    // Of two connections of a tab one is left.
    hub.leave('one', 'a');
    expect(hub.holder('one')).toBe('a');
    hub.leave('one', 'nobody');
    hub.leave('one', 'a');
    expect(hub.holder('one')).toBeNull();
    hub.leave('one', 'a');
    expect(told).toEqual(['a', 'a', 'a', 'b', 'a', 'a', null]);
    expect(hub.holder('another')).toBeNull();
  });
});
