import { useEffect, useState } from 'react';
import { useContact } from './api/contact.ts';

/** Whether the server hands out another build of the program than the one that runs here. */
async function isRenewed(): Promise<boolean> {
  const entry = document.querySelector('script[type="module"][src]')?.getAttribute('src');
  try {
    const answer = await fetch('/', { cache: 'no-store' });
    return typeof entry === 'string' && answer.ok && !(await answer.text()).includes(entry);
  } catch {
    // The server is away.
    return false;
  }
}

/**
 * Loads the page again where a file of the program is missing since the server was brought up to date: it serves those of the
 * new build alone. What was typed and not sent yet is kept in the browser.
 * @returns false where the program is the same, so that something else is wrong; else nothing after it runs
 */
export async function reloadIfRenewed(): Promise<boolean> {
  if (!(await isRenewed())) return false;
  location.reload();
  return new Promise<never>(() => undefined);
}

/** Whether the server came back with another build of the program than the one that runs here. */
export function useIsRenewed(): boolean {
  const { awaySince } = useContact();
  const [renewed, setRenewed] = useState(false);
  useEffect(() => {
    if (awaySince === undefined) return undefined;
    return () => {
      // It is back.
      void isRenewed().then(setRenewed);
    };
  }, [awaySince]);
  return renewed;
}
