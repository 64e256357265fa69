import { spawnSync } from 'node:child_process';

/** A list of numbers as R writes it. */
export const vector = (values: readonly number[]): string =>
  `c(${values.map((value) => value.toPrecision(17)).join(', ')})`;

/**
 * What R answers to a script: the numbers that it prints by `say(…)`, one call a line.
 * @throws Error with what R complains of
 */
export function askR(script: string): number[][] {
  const say = 'say <- function(...) cat(sprintf("%.15g", c(...)), "\\n")';
  const { status, stdout, stderr } = spawnSync('Rscript', ['--vanilla', '-'], {
    input: `${say}\n${script}\n`,
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(`R: ${stderr}`);
  return stdout
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => line.trim().split(/\s+/).map(Number));
}
