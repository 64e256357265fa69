import { vi } from 'vitest';

/** Waits until a check holds, also on a busy machine. */
export const eventually = (check: () => void): Promise<void> => vi.waitFor(check, { timeout: 20000 });
