import { defineConfig } from 'vitest/config';

/** Checks against R, which is installed for them: npm run test:reference. */
export default defineConfig({
  test: { include: ['reference/**/*.test.ts'], testTimeout: 60000 },
});
