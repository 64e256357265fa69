import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { help } from './help.ts';
import { commandOptions } from './options.ts';
import { recordingOptions } from './recording.ts';
import { traceOptions } from './trace.ts';

const PARSERS: Record<string, (args: string[]) => unknown> = {
  csv: (args) => commandOptions(['readings.csv', ...args]),
  trace: (args) => traceOptions(['--trace', 'flask.csv', ...args]),
  recording: (args) => recordingOptions(['--recording', 'fan.wav', ...args]),
};

const optionsIn = (text: string): string[] =>
  [...new Set(text.match(/--[a-z][a-z-]*/g))].filter((option) => option !== '--silent').sort();

const parts = help().split(/^(?=analyse )/m);
const documented = readFileSync(new URL('../docs/files.md', import.meta.url), 'utf8')
  .split('## The command `analyse`')[1]
  ?.split(/^(?=npm run --silent analyse)/m)
  .slice(1);

describe('what the command can be asked', () => {
  it.each(Object.entries(PARSERS).map(([kind, parse], i) => [kind, parse, i] as const))(
    'is listed for a file of kind %s as it is understood and documented',
    async (_, parse, i) => {
      const listed = optionsIn(parts[i] ?? '');
      expect(listed.length).toBeGreaterThan(6);
      expect(optionsIn(documented?.[i] ?? '').filter((option) => option !== '--help')).toEqual(listed);
      for (const option of listed) {
        const problem = await Promise.resolve()
          .then(() => parse([option]))
          .then(() => '', String);
        expect(problem).not.toContain('Unknown option');
      }
      await expect(Promise.resolve().then(() => parse(['--sideways']))).rejects.toThrow('Unknown option');
    },
  );
});
