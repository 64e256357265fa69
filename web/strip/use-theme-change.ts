import { useEffect, useEffectEvent } from 'react';

/** Calls when the theme has changed, by choice or by the system, since a canvas keeps the colours it was drawn in. */
export function useThemeChange(onChange: () => void): void {
  const changed = useEffectEvent(onChange);
  useEffect(() => {
    const tell = () => {
      changed();
    };
    const observer = new MutationObserver(tell);
    observer.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
    const scheme = matchMedia('(prefers-color-scheme: dark)');
    scheme.addEventListener('change', tell);
    return () => {
      observer.disconnect();
      scheme.removeEventListener('change', tell);
    };
  }, []);
}
