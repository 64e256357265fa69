import { describe, expect, it } from 'vitest';
import { documentProblems } from '../../core/formats/study-json.ts';
import { ANSWERED, answerText, answersOf, digest } from './answers.ts';
import recorded from './answers.json' with { type: 'json' };

const RECORDED: Readonly<Record<string, Readonly<Record<string, string>>>> = recorded;

// Where these fail and figures were to change, `npm run demo:answers` records them again; it prints what is another now.
describe('what is said of', () => {
  it.each([...ANSWERED])('%s is what was said before, figure by figure', (name, study) => {
    const [document, ...earlier] = study();
    expect(documentProblems(document)).toEqual([]);
    const answers = [...answersOf(document, ...earlier)].map(([question, answer]): [string, string] => [
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
