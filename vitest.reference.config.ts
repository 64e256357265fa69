import { defineConfig } from 'vitest/config';

/** Checks against R and sox, which are installed for them: npm run test:reference. */
export default defineConfig({
  test: { include: ['reference/**/*.test.ts'], testTimeout: 60000 },
});
