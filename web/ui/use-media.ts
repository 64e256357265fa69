import { useCallback, useSyncExternalStore } from 'react';

/** Whether the page is as a media query of the stylesheets says: `@media (max-width: 920px)`. */
export function useMedia(rule: string): boolean {
  const query = rule.replace('@media', '').trim();
  const subscribe = useCallback(
    (listen: () => void) => {
      const list = matchMedia(query);
      list.addEventListener('change', listen);
      return () => {
        list.removeEventListener('change', listen);
      };
    },
    [query],
  );
  return useSyncExternalStore(subscribe, () => matchMedia(query).matches);
}
