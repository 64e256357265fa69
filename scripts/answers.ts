/**
 * Records what is said of the demo studies and of studies of seeded chance, and prints which answers are others now.
 *
 *   npm run demo:answers [-- FOLDER]
 *
 * Into a folder the answers are written whole, so that those of two states of the sources can be compared.
 */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { ANSWERED, answerText, digest } from '../demo/answers/answers.ts';

const place = new URL('../demo/answers/answers.json', import.meta.url);
const [folder] = process.argv.slice(2);
const before = JSON.parse(readFileSync(place, 'utf8')) as Record<string, Record<string, string>>;
const now: typeof before = {};
for (const [name, answersOf] of ANSWERED) {
  const answers = [...answersOf()].map(([question, answer]) => [question, answerText(answer)] as const);
  now[name] = Object.fromEntries(answers.map(([question, text]) => [question, digest(text)]));
  for (const [question, known] of Object.entries(now[name])) {
    if (before[name]?.[question] !== known) console.log(`${name}: ${question}`);
  }
  if (folder === undefined) continue;
  mkdirSync(folder, { recursive: true });
  const whole = answers.map(([question, text]) => `${question}\n${text}\n`).join('\n');
  writeFileSync(path.join(folder, `${name.replaceAll(' ', '-')}.txt`), whole);
}
if (folder === undefined) writeFileSync(place, `${JSON.stringify(now, null, 2)}\n`);
