import { FileProblem } from '../core/formats/file-problem.ts';

/** What is asked for, as text; only what it takes is loaded. */
async function printed(args: readonly string[]): Promise<string> {
  const about = (option: string) => args.some((arg) => arg === option || arg.startsWith(`${option}=`));
  if (about('--help') || about('-h')) return (await import('./help.ts')).help();
  if (about('--trace')) return (await import('./trace.ts')).printedTrace(args);
  if (about('--recording')) return (await import('./recording.ts')).printedRecording(args);
  return (await import('./printed.ts')).printedAnalysis(args);
}

try {
  process.stdout.write(`${await printed(process.argv.slice(2))}\n`);
} catch (error) {
  if (!(error instanceof FileProblem || error instanceof RangeError)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 2;
}
