/** Compiles what is done with each sample of a recording, and writes it as bytes that all can load. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const FOLDER = fileURLToPath(new URL('../core/sound/kernel', import.meta.url));
const COMPILER = fileURLToPath(new URL('../node_modules/assemblyscript/bin/asc.js', import.meta.url));
const OPTIONS = ['--runtime', 'stub', '--enable', 'simd', '-O3', '--noAssert', '--use', 'abort='];
const A_LINE = 30;

/** The module as it is compiled now. @throws what the compiler says */
export function compiledKernel(): Uint8Array {
  const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-kernel-'));
  try {
    const made = path.join(folder, 'kernel.wasm');
    execFileSync(process.execPath, [COMPILER, 'assembly.ts', '--outFile', made, ...OPTIONS], { cwd: FOLDER });
    return readFileSync(made);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const numbers = [...compiledKernel()];
  const lines = Array.from({ length: Math.ceil(numbers.length / A_LINE) }, (_, i) =>
    numbers.slice(i * A_LINE, (i + 1) * A_LINE).join(', '),
  );
  const text = `/** Written by scripts/kernel.ts from assembly.ts. */
export const kernelBytes = (): Uint8Array =>
  new Uint8Array([
${lines.map((line) => `    ${line},`).join('\n')}
  ]);
`;
  writeFileSync(path.join(FOLDER, 'bytes.ts'), text);
}
