import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    // They end what hangs: the studentized range and the servers started and killed take their time on a busy machine.
    testTimeout: 180000,
    hookTimeout: 180000,
    expect: { poll: { timeout: 60000 } },
    // Left to itself, one core of two would stand idle.
    maxWorkers: availableParallelism(),
    projects: [
      {
        extends: true,
        test: { name: 'core', isolate: false, include: ['{core,cli,scripts}/**/*.test.ts'] },
      },
      { extends: true, test: { name: 'web', include: ['web/**/*.test.{ts,tsx}'] } },
      {
        extends: true,
        test: {
          name: 'server',
          isolate: false,
          globalSetup: 'scripts/test-setup.mjs',
          include: ['{server,instruments,demo}/**/*.test.ts'],
        },
      },
    ],
  },
});
