import { usePreferences } from '../../app/preferences.ts';
import { Key } from '../../ui/key.tsx';

/** A single letter that is a key at the bench; nothing where the tester has turned letters off. */
export function LetterKey({ children }: { children: string }) {
  const { letterKeys } = usePreferences();
  return letterKeys ? <Key>{children}</Key> : null;
}
