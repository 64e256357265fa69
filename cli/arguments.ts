import { type ParseArgsConfig, parseArgs } from 'node:util';
import { FileProblem } from '../core/formats/file-problem.ts';

/** An option that takes a text. */
export const TEXT = { type: 'string' } as const;

/** Ties a negative number to the option before it, which would else look like an option of its own. */
function withNegativeNumbers(args: readonly string[]): string[] {
  const tied: string[] = [];
  for (const arg of args) {
    const option = tied[tied.length - 1];
    if (/^-[\d.]/.test(arg) && option !== undefined && /^--[a-z-]+$/.test(option))
      tied[tied.length - 1] = `${option}=${arg}`;
    else tied.push(arg);
  }
  return tied;
}

/**
 * Takes a command line apart.
 * @throws FileProblem with one sentence for an option that there is not, or that lacks what it takes
 */
export function understood<const Config extends ParseArgsConfig>(args: readonly string[], config: Config) {
  try {
    return parseArgs<Config>({ ...config, args: withNegativeNumbers(args) });
  } catch (error) {
    const message = error instanceof Error ? (error.message.split('. ')[0] ?? error.message) : String(error);
    throw new FileProblem(`${message.replace(/\.$/, '')}.`);
  }
}
