import { v7 } from 'uuid';

const STORED = 'brackenridge-tab';

/** Takes the name that this page had before it was loaded again; where there is no store, none. */
function taken(): string | null {
  try {
    const stored = sessionStorage.getItem(STORED);
    sessionStorage.removeItem(STORED);
    return stored;
  } catch {
    return null;
  }
}

/**
 * This page among all that look at a study. It stays the same when the page is loaded again, so that the page is not
 * told of itself as another one; a copy of a tab that is open finds no name to take, and is another.
 */
export const TAB = taken() ?? v7();

globalThis.addEventListener('pagehide', () => {
  try {
    sessionStorage.setItem(STORED, TAB);
  } catch {
    // Loaded again, it is another page.
  }
});
// A page that the browser kept and shows again still has its name.
globalThis.addEventListener('pageshow', () => void taken());
