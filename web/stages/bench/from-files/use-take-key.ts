import { useEffect, useEffectEvent, useRef } from 'react';

/**
 * Takes what is ticked by Ctrl Enter: once a field that was typed in is saved and its window is worked out, where the key
 * comes before.
 */
export function useTakeKey(working: boolean, taking: () => Promise<void>) {
  const waits = useRef(false);
  const onTake = useEffectEvent(() => {
    waits.current = working;
    if (!working) void taking();
  });
  useEffect(() => {
    if (!working && waits.current) onTake();
  }, [working]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      if (event.target instanceof HTMLInputElement) event.target.blur();
      setTimeout(() => {
        onTake();
      });
    };
    globalThis.addEventListener('keydown', onKey, true);
    return () => {
      globalThis.removeEventListener('keydown', onKey, true);
    };
  }, []);
}
