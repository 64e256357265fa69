import { describe, expect, it } from 'vitest';
import type { Condition } from '../model/parts.ts';
import { newCondition } from '../plan/new-parts.ts';
import { conditionKind, conditionWords, isSameWord, quantitiesOf } from './index.ts';

const stamp = { id: 'c', studyId: 's', version: 1, createdAt: '', updatedAt: '' };
const wind: Condition = {
  ...{ ...stamp, ...newCondition('Wind', 'm/s', 1) },
  ...{ tolerableDrift: 1, limits: { low: null, high: 4 } },
};
const lawn: Condition = { ...wind, ...newCondition('Lawn', '', 2), kind: 'word' };
const shut: Condition = { ...wind, ...newCondition('Windows shut', '', 3), kind: 'yes-no' };
const read = (condition: Condition, text: string) => conditionKind(condition).read(text, condition);
const number = (value: number) => ({ text: String(value), number: value });
const word = (text: string) => ({ text, number: null });

describe('a condition that is a quantity', () => {
  const warnings = (condition: Condition, value: number, start?: number) =>
    conditionKind(condition).warnings(
      number(value),
      condition,
      start === undefined ? undefined : number(start),
    );
  it('is read in its unit, and said with it', () => {
    expect(read(wind, '18 km/h')).toEqual({ text: '18 km/h', number: 5 });
    expect(read(wind, 'breezy')).toHaveProperty('problem');
    expect(conditionWords(wind, number(3.5))).toBe('Wind 3.5\u202fm/s');
  });
  it('says in the moment that a limit is passed, with both numbers', () => {
    expect(warnings(wind, 5.2)).toEqual([
      'Wind 5.2\u202fm/s, your limit is 4\u202fm/s. The plan advises to wait.',
    ]);
    expect(warnings(wind, 4)).toEqual([]);
    expect(warnings({ ...wind, limits: { low: 1, high: null } }, 0.5)[0]).toMatch(/limit is 1/);
    expect(warnings({ ...wind, limits: { low: 1, high: null } }, 1)).toEqual([]);
  });
  it('says how far it has moved since the start, where that is more than is tolerable', () => {
    expect(warnings(wind, 3.6, 2.2)).toEqual([
      'Wind has moved by 1.4\u202fm/s since the start; 1\u202fm/s is tolerable.',
    ]);
    expect(warnings(wind, 2.2, 3.6)).toHaveLength(1);
    // In numbers of the machine 3.3 − 2.3 is a hair more than 1.
    expect(warnings(wind, 3.3, 2.3)).toEqual([]);
    expect(warnings({ ...wind, tolerableDrift: null }, 3.9, 0)).toEqual([]);
  });
  it('says what was typed where it was a word when it was read', () => {
    expect(conditionWords(wind, word('breezy'))).toBe('Wind breezy');
    expect(conditionKind(wind).warnings(word('breezy'), wind, number(2))).toEqual([]);
    expect(conditionKind(wind).warnings(number(3), wind, word('breezy'))).toEqual([]);
  });
});

describe('a condition that is a word', () => {
  const chosen: Condition = { ...lawn, words: ['dry', 'damp', 'Wet'] };
  it('is whatever was typed, or one of the words of the plan as that writes it', () => {
    expect(read(lawn, 'mossy')).toEqual(word('mossy'));
    expect(read(chosen, 'DAMP')).toEqual(word('damp'));
    expect(read(chosen, 'wet')).toEqual(word('Wet'));
    expect(read(chosen, 'mossy')).toEqual({ problem: 'Lawn is dry, damp or Wet, and not “mossy”.' });
    expect(conditionKind(chosen).choices(chosen)).toEqual(['dry', 'damp', 'Wet']);
    expect(conditionWords(lawn, word('damp'))).toBe('Lawn: damp');
  });
  it('is said where it is another one than at the start', () => {
    const { warnings } = conditionKind(lawn);
    expect(warnings(word('dry'), lawn, word('damp'))).toEqual([
      'Lawn was “damp” at the start, and is “dry” now.',
    ]);
    expect(warnings(word('Damp '), lawn, word('damp'))).toEqual([]);
    expect(warnings(word('dry'), lawn)).toEqual([]);
  });
});

describe('a condition that is yes or no', () => {
  it.each([
    ['y', 'yes'],
    ['Yes', 'yes'],
    ['true', 'yes'],
    ['N', 'no'],
    ['no', 'no'],
    ['FALSE', 'no'],
  ])('is read from “%s” as %s', (text, meant) => {
    expect(read(shut, text)).toEqual(word(meant));
  });
  it('is nothing else', () => {
    for (const text of ['maybe', 'yesno', '1', 'nope'])
      expect(read(shut, text)).toEqual({ problem: `Windows shut is yes or no, and not “${text}”.` });
    expect(conditionWords(shut, word('yes'))).toBe('Windows shut: yes');
  });
});

it('tells words apart by more than large and small letters', () => {
  expect(isSameWord(' Dry', 'dry ')).toBe(true);
  expect(isSameWord('dry', 'dryer')).toBe(false);
});

it('reckons with quantities alone', () => {
  expect(quantitiesOf([wind, lawn, shut])).toEqual([wind]);
});
