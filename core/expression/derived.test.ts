import { describe, expect, it } from 'vitest';
import type { Measurand } from '../model/parts.ts';
import { testId, testStudy } from '../testing-study.ts';
import { derivedExpression } from './derived.ts';

/** A study with measurands that are worked out from one another. */
function study(expressions: Record<string, string>) {
  const { document, measurand } = testStudy(['Ama']);
  const derived = Object.entries(expressions).map(([name, expression]): Measurand => ({
    ...measurand,
    id: testId(),
    name,
    expression,
  }));
  document.measurands = [measurand, ...derived];
  return (name: string) => {
    const asked = derived.find((candidate) => candidate.name === name) as Measurand;
    const read = derivedExpression(document, asked);
    return 'problem' in read ? read.problem : read.uses.map((use) => use.name);
  };
}

describe('the expression of a derived measurand', () => {
  it('uses what it names', () => {
    const uses = study({ Twice: 'pull * 2', More: 'twice + pull' });
    expect(uses('Twice')).toEqual(['Pull']);
    expect(uses('More')).toEqual(['Twice', 'Pull']);
  });
  it('is not made of itself, whether at once or over others', () => {
    expect(study({ Twice: 'twice * 2' })('Twice')).toBe('“Twice” is made of itself.');
    const uses = study({ One: 'two + pull', Two: 'three * 2', Three: 'pull + one', Four: 'one + pull' });
    expect(uses('One')).toBe('“One” needs “Two” needs “Three” needs “One”: that goes in a circle.');
    expect(uses('Two')).toBe('“Two” needs “Three” needs “One” needs “Two”: that goes in a circle.');
    expect(uses('Four')).toBe('“One” needs “Two” needs “Three” needs “One”: that goes in a circle.');
  });
  it('may reach the same one on two ways', () => {
    const uses = study({ Left: 'pull * 2', Right: 'pull * 3', Both: 'left + right + left' });
    expect(uses('Both')).toEqual(expect.arrayContaining(['Left', 'Right']));
  });
  it('says what is wrong with itself, and nothing of what is wrong with others', () => {
    const uses = study({ Broken: 'push * 2', Leaning: 'broken + pull' });
    expect(uses('Broken')).toMatch(/push/);
    expect(uses('Leaning')).toEqual(['Broken', 'Pull']);
  });
});
