import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { brotliCompressSync } from 'node:zlib';
import optimizeLocales from '@react-aria/optimize-locales-plugin';
import react from '@vitejs/plugin-react';
import { type Plugin, type Rolldown, defineConfig } from 'vite';

/** Compressed script that a page may load when it is the first that is opened, in bytes. */
const PAGE_LIMIT = 250_000;

/** Writes each script once more, compressed, and fails the build where the scripts of a page grow over the limit. */
function compressedPages(): Plugin {
  return {
    name: 'compressed-pages',
    // Behind all that changes scripts while they are bundled.
    writeBundle({ dir = '' }, bundle) {
      const chunks = Object.values(bundle).filter(
        (file): file is Rolldown.OutputChunk => file.type === 'chunk',
      );
      const byName = new Map(chunks.map((chunk) => [chunk.fileName, chunk]));
      const sizes = new Map<string, number>();
      for (const { fileName } of Object.values(bundle)) {
        if (!/\.(js|css)$/.test(fileName)) continue;
        const file = path.join(dir, fileName);
        const compressed = brotliCompressSync(readFileSync(file));
        sizes.set(fileName, compressed.length);
        writeFileSync(`${file}.br`, compressed);
      }
      const entries = chunks.filter(({ isEntry }) => isEntry).map(({ fileName }) => fileName);
      // Pages are what the entry loads; what a page loads later, such as a dialog, is not there when it opens.
      const pages = new Set(entries.flatMap((name) => byName.get(name)?.dynamicImports ?? []));
      for (const page of chunks.filter(({ fileName }) => pages.has(fileName))) {
        const loaded = new Set<string>();
        const wanted = [...entries, page.fileName];
        while (wanted.length > 0) {
          const name = wanted.pop() as string;
          if (loaded.has(name)) continue;
          loaded.add(name);
          wanted.push(...(byName.get(name)?.imports ?? []));
        }
        const size = [...loaded].reduce((sum, name) => sum + (sizes.get(name) ?? 0), 0);
        const said = `${page.name}: ${String(Math.round(size / 1000))} kB of compressed script`;
        if (size > PAGE_LIMIT) this.error(`${said}, over ${String(PAGE_LIMIT / 1000)} kB`);
        this.info(said);
      }
    },
  };
}

/**
 * Writes the service worker with the files of this build, so that a page opens without the server too. Its text is
 * another one in each build, by which a browser sees that there is a new version.
 */
function offlinePages(): Plugin {
  return {
    name: 'offline-pages',
    writeBundle({ dir = '' }, bundle) {
      const files = Object.keys(bundle)
        .filter((name) => name.startsWith('assets/'))
        .map((name) => `/${name}`);
      const version = createHash('sha256').update(files.join()).digest('hex').slice(0, 16);
      const worker = readFileSync(new URL('web/service-worker.js', import.meta.url), 'utf8')
        .replace("'VERSION'", JSON.stringify(version))
        .replace("['FILES']", JSON.stringify([...files, '/icon.svg'], null, 1));
      writeFileSync(path.join(dir, 'service-worker.js'), worker);
    },
  };
}

export default defineConfig({
  root: 'web',
  // The statistics library asks a terminal for its colours, which a page does not have.
  define: {
    'process.stdout': 'undefined',
    PROGRAM_VERSION: JSON.stringify(
      (JSON.parse(readFileSync(new URL('package.json', import.meta.url), 'utf8')) as { version: string })
        .version,
    ),
  },
  plugins: [
    react(),
    // The pages speak English alone, so that what the components say does too.
    optimizeLocales.vite({ locales: ['en-US'] }),
    compressedPages(),
    offlinePages(),
  ],
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
