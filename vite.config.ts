import { gzipSync } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { type Plugin, defineConfig } from 'vite';

/** Compressed script that the first page may load, in bytes. */
const FIRST_LOAD_LIMIT = 250_000;

/** Fails the build when the scripts of the first load grow over the limit. */
function firstLoadLimit(): Plugin {
  return {
    name: 'first-load-limit',
    generateBundle(_options, bundle) {
      const chunks = Object.values(bundle).filter((file) => file.type === 'chunk');
      const byName = new Map(chunks.map((chunk) => [chunk.fileName, chunk]));
      const wanted = chunks.filter(({ isEntry }) => isEntry).map(({ fileName }) => fileName);
      // The list of studies is the page that opens first; its chunk counts too.
      wanted.push(...chunks.filter(({ name }) => name === 'studies').map(({ fileName }) => fileName));
      const loaded = new Set<string>();
      while (wanted.length > 0) {
        const name = wanted.pop() as string;
        if (loaded.has(name)) continue;
        loaded.add(name);
        wanted.push(...(byName.get(name)?.imports ?? []));
      }
      const size = [...loaded].reduce((sum, name) => sum + gzipSync(byName.get(name)?.code ?? '').length, 0);
      const kilobytes = `${String(Math.round(size / 1000))} kB`;
      if (size > FIRST_LOAD_LIMIT)
        this.error(`the first load is ${kilobytes} of compressed script, over 250 kB`);
      this.info(`first load: ${kilobytes} of compressed script`);
    },
  };
}

export default defineConfig({
  root: 'web',
  // The statistics library asks a terminal for its colours, which a page does not have.
  define: { 'process.stdout': 'undefined' },
  plugins: [react(), firstLoadLimit()],
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2022',
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
  },
  worker: { format: 'es' },
  server: {
    host: '127.0.0.1',
    proxy: {
      '/api': {
        target: 'http://127.0.0.1:4690',
        configure: (proxy) => {
          proxy.on('proxyReq', (request) => {
            request.setHeader('origin', 'http://127.0.0.1:4690');
            request.setHeader('host', '127.0.0.1:4690');
          });
        },
      },
    },
  },
});
