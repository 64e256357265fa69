import { readFileSync } from 'node:fs';
import path from 'node:path';
import { defineConfig } from 'vitest/config';
import plain from '../../vitest.config.ts';
import { type Mutant, switched } from './changes.ts';
import { isMutated } from './sources.ts';

const ROOT = path.resolve(import.meta.dirname, '../..');
const chosen = JSON.parse(
  readFileSync(path.join(process.env.MUTANTS_FOLDER ?? '', 'chosen.json'), 'utf8'),
) as Mutant[];

/** The sources with the chosen changes in them, to be switched on. */
const plugin = {
  name: 'mutants',
  enforce: 'pre' as const,
  transform(code: string, id: string) {
    const file = path.relative(ROOT, id.split('?', 1)[0] ?? '');
    if (!isMutated(file)) return undefined;
    const ids = new Map(
      [...chosen.entries()].flatMap(([i, mutant]) => (mutant.file === file ? [[mutant, i]] : [])),
    );
    return { code: switched(file, code, ids), map: null };
  },
};

const { projects = [] } = plain.test ?? {};
export default defineConfig({
  ...plain,
  plugins: [plugin],
  test: {
    ...plain.test,
    runner: path.join(import.meta.dirname, 'runner.ts'),
    update: false,
    testTimeout: 60_000,
    expect: { poll: { timeout: 5000 } },
    projects: projects.flatMap((project) =>
      typeof project === 'object' && 'test' in project && project.test.name !== 'web'
        ? [{ ...project, test: { ...project.test, exclude: ['server/{kill,start}.test.ts'] } }]
        : [],
    ),
  },
});
