import { readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import type { Mutant } from './changes.ts';

/** What says whether the compiler takes a changed source of a folder, as it is asked before any test. */
export function compilerOf(root: string, folder: string): (mutant: Mutant) => boolean {
  const { options, fileNames } = ts.getParsedCommandLineOfConfigFile(
    path.join(root, folder, 'tsconfig.json'),
    {},
    { ...ts.sys, onUnRecoverableConfigFileDiagnostic: () => undefined },
  ) as ts.ParsedCommandLine;
  const changed = new Map<string, { version: number; text?: string | undefined }>();
  const service = ts.createLanguageService({
    ...ts.sys,
    useCaseSensitiveFileNames: () => ts.sys.useCaseSensitiveFileNames,
    getCompilationSettings: () => options,
    getScriptFileNames: () => fileNames,
    getScriptVersion: (file) => String(changed.get(file)?.version ?? 0),
    getScriptSnapshot: (file) => {
      const text = changed.get(file)?.text ?? ts.sys.readFile(file);
      return text === undefined ? undefined : ts.ScriptSnapshot.fromString(text);
    },
    getCurrentDirectory: () => root,
    getDefaultLibFileName: ts.getDefaultLibFilePath,
  });
  return ({ file, start, end, text }) => {
    const place = path.join(root, file);
    // What is compiled to something else has a compiler of its own, which its test asks.
    if (!fileNames.includes(place)) return true;
    const before = readFileSync(place, 'utf8');
    const version = (changed.get(place)?.version ?? 0) + 1;
    changed.set(place, { version, text: before.slice(0, start) + text + before.slice(end) });
    const problems = service.getSemanticDiagnostics(place);
    changed.set(place, { version: version + 1 });
    return problems.length === 0;
  };
}
