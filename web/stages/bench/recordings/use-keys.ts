import { useKeyDown } from '../../../app/use-key-down.ts';
import { usePreferences } from '../../../app/preferences.ts';

/** Keys that do something by themselves on what has the focus. */
const HANDLES_KEYS =
  'input, textarea, select, [role="slider"], [role="listbox"], [role="dialog"], [role="menu"]';
const HANDLES_SPACE = `${HANDLES_KEYS}, button, a, label`;

/** Letters and signs that a tester may have turned off. */
const LETTER = /^[^ ]$/;

/** Keys that work anywhere on the page but where something is typed or chosen. */
export function useKeys(actions: Readonly<Record<string, () => void>>): void {
  const { letterKeys } = usePreferences();
  useKeyDown((event) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (LETTER.test(event.key) && !letterKeys) return;
    const target = event.target instanceof Element ? event.target : document.body;
    if (target.closest(event.key === ' ' ? HANDLES_SPACE : HANDLES_KEYS)) return;
    const action = actions[event.key.length === 1 ? event.key.toLowerCase() : event.key];
    if (!action) return;
    event.preventDefault();
    action();
  });
}
