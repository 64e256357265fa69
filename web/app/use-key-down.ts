import { useEffect, useEffectEvent } from 'react';

/** Hears every key that is pressed while the page is open. */
export function useKeyDown(onKey: (event: KeyboardEvent) => void): void {
  const onKeyNow = useEffectEvent(onKey);
  useEffect(() => {
    const hear = (event: KeyboardEvent) => {
      onKeyNow(event);
    };
    globalThis.addEventListener('keydown', hear);
    return () => {
      globalThis.removeEventListener('keydown', hear);
    };
  }, []);
}
