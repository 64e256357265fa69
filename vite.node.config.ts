import { defineConfig } from 'vite';

/** The server and the command line, each as one file for Node; packages stay where npm puts them. */
export default defineConfig({
  build: {
    ssr: true,
    outDir: 'dist/node',
    emptyOutDir: true,
    target: 'node20',
    rolldownOptions: {
      input: {
        server: 'server/main.ts',
        heavy: 'server/heavy/worker.ts',
        instruments: 'instruments/main.ts',
        analyse: 'cli/analyse.ts',
        backup: 'server/backup/main.ts',
      },
      // Each file that is loaded takes a millisecond, of which a recording is measured in some hundred.
      output: {
        codeSplitting: {
          groups: [
            {
              name: 'sound',
              test: /core\/(?:sound|summary\/quantile|quantity\/(?:clock|format)|formats\/(?:wav|recording)\.)/u,
            },
          ],
        },
      },
    },
  },
  ssr: {
    noExternal: ['styled-components', 'lib-r-math.js', 'pure-rand', 'typebox', 'papaparse', 'uuid'],
  },
});
