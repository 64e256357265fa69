import { describe, expect, it } from 'vitest';
import { documentProblems } from '../../core/formats/study-json.ts';
import { ANSWERED, STUDIES, answerText, digest } from './answers.ts';
import recorded from './answers.json' with { type: 'json' };

const RECORDED: Readonly<Record<string, Readonly<Record<string, string>>>> = recorded;

// Where these fail and figures were to change, `npm run demo:answers` records them again; it prints what is another now.
describe('what is said of', () => {
  it.each([...STUDIES])('%s is of a study that is one', (_name, study) => {
    for (const document of study()) expect(documentProblems(document)).toEqual([]);
  });
  it.each([...ANSWERED])('%s is what was said before, figure by figure', (name, answersOf) => {
    const answers = [...answersOf()].map(([question, answer]): [string, string] => [
      question,
      digest(answerText(answer)),
    ]);
    expect(new Set(answers.map(([question]) => question)).size).toBe(answers.length);
    expect(Object.fromEntries(answers)).toEqual(RECORDED[name]);
  });
  it('nothing else is recorded', () => {
    expect(Object.keys(RECORDED)).toEqual([...ANSWERED.keys()]);
  });
});
