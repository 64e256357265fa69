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
    const of = study({ Twice: 'pull * 2', More: 'twice + pull' });
    expect(of('Twice')).toEqual(['Pull']);
    expect(of('More')).toEqual(['Twice', 'Pull']);
  });
  it('is not made of itself, whether at once or over others', () => {
    expect(study({ Twice: 'twice * 2' })('Twice')).toBe('“Twice” is made of itself.');
    const of = study({ One: 'two + pull', Two: 'three * 2', Three: 'pull + one', Four: 'one + pull' });
    expect(of('One')).toBe('“One” needs “Two” needs “Three” needs “One”: that goes in a circle.');
    expect(of('Two')).toBe('“Two” needs “Three” needs “One” needs “Two”: that goes in a circle.');
    expect(of('Four')).toBe('“One” needs “Two” needs “Three” needs “One”: that goes in a circle.');
  });
  it('may reach the same one on two ways', () => {
    const of = study({ Left: 'pull * 2', Right: 'pull * 3', Both: 'left + right + left' });
    expect(of('Both')).toEqual(expect.arrayContaining(['Left', 'Right']));
  });
  it('says what is wrong with itself, and nothing of what is wrong with others', () => {
    const of = study({ Broken: 'push * 2', Leaning: 'broken + pull' });
    expect(of('Broken')).toMatch(/push/);
    expect(of('Leaning')).toEqual(['Broken', 'Pull']);
  });
});
