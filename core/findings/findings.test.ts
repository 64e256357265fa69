import { describe, expect, it } from 'vitest';
import { type Finding, type Inspected } from './finding.ts';
import { findings } from './index.ts';
import { STANDS_OUT } from './odd-one.ts';

const found = (
  readings: Record<string, readonly number[]>,
  { screened = false, unit = 'm/s', step = 0.1 }: { screened?: boolean; unit?: string; step?: number } = {},
): Finding[] =>
  findings({
    items: Object.entries(readings).map(([item, values]): Inspected['items'][number] => ({
      ...{ item, values, kept: Float64Array.from(values), screened },
    })),
    ...{ unit, step },
  });
const kinds = (...asked: Parameters<typeof found>) => found(...asked).map(({ kind, item }) => [kind, item]);
const plain = (text: string | undefined) => text?.replace(/\s/g, ' ');

describe('one of a few readings that is far from the others', () => {
  const bel = [14.2, 14.5, 14.3];
  it.each([
    [[12.1, 1.22, 12.3], '1.22 m/s may have its decimal point moved.'],
    [[12.1, 21.2, 12.3], '21.2 m/s may have two digits swapped.'],
    [[12.1, 39.9, 12.3], '39.9 m/s is far from the others.'],
    [[12.1, 12.2, 12.4, 30.7], '30.7 m/s is far from the others.'],
  ])('of %j is named: %s', (ama, why) => {
    const [finding] = found({ Ama: ama, Bel: bel });
    expect(finding).toMatchObject({ kind: STANDS_OUT, item: 'Ama' });
    expect(plain(finding?.why)).toBe(`${why} No rule judges ${String(ama.length)} readings; that is yours.`);
  });
  it('stands beside the mean that it makes', () => {
    expect(plain(found({ Ama: [12.1, 21.2, 12.3], Bel: bel })[0]?.message)).toBe(
      'Ama: 15.20 m/s is the mean of 12.1, 21.2 and 12.3.',
    );
  });
  it('is the farthest one, where two are far', () => {
    const [finding] = found({ Ama: [12.1, 12.2, 40, 70], Bel: bel });
    expect(plain(finding?.why)).toContain('70 m/s is far');
  });
  it('is not looked for where a rule did, in two readings, or where five are enough for a rule', () => {
    expect(kinds({ Ama: [12.1, 39.9, 12.3], Bel: bel }, { screened: true })).toEqual([]);
    expect(kinds({ Ama: [12.1, 39.9], Bel: bel })).toEqual([]);
    expect(kinds({ Ama: [12.1, 12.2, 12.3, 12.4, 39.9], Bel: [...bel, 14.4] })).toEqual([]);
  });
  it('is measured by what other items spread, by the step, and by a hundredth of the others', () => {
    // The other two of Ama are equal: 2.5 beside them is eight times a spread of 0.3, or a step of 0.15.
    const ama = [12.1, 14.6, 12.1];
    expect(kinds({ Ama: ama, Bel: [14.2, 14.4, 14.3] })).toEqual([[STANDS_OUT, 'Ama']]);
    expect(kinds({ Ama: ama, Bel: [14, 14.7, 14.3] })).toEqual([]);
    expect(kinds({ Ama: ama, Bel: [14.2, 14.4, 14.3] }, { step: 0.15 })).toEqual([[STANDS_OUT, 'Ama']]);
    expect(kinds({ Ama: ama, Bel: [14.2, 14.4, 14.3] }, { step: 0.16 })).toEqual([]);
    const level = (far: number) => kinds({ Ama: [100, far, 100], Bel: [140, 140, 140] }, { step: 0 });
    expect(level(108)).toEqual([]);
    expect(level(108.1)).toEqual([[STANDS_OUT, 'Ama']]);
  });
});

describe('items with too few readings', () => {
  it('are named where one alone counts', () => {
    const [finding, ...more] = found({ Ama: [12.1], Bel: [14.2, 14.5] });
    expect(finding).toMatchObject({ kind: 'one reading only', item: 'Ama' });
    expect(finding?.message).toBe('Ama has one reading that counts.');
    expect(more).toEqual([]);
  });
  it.each([
    // Two fewer, and a quarter of the most.
    [[6, 4], 'Item 2: 4 readings that count, where others have 6.'],
    [[6, 5], undefined],
    [[20, 16], undefined],
    [[20, 15], 'Item 2: 15 readings that count, where others have 20.'],
    [[3, 1], 'Item 2: 1 reading that counts, where others have 3.'],
    [[8, 5, 5], 'Item 2, Item 3: 5 readings that count, where others have 8.'],
    [[8], undefined],
  ])('with %j readings: %s', (counts, message) => {
    const readings = Object.fromEntries(
      counts.map((count, i) => [
        `Item ${String(i + 1)}`,
        Array.from({ length: count }, (_, j) => 10 + (j % 3) / 10),
      ]),
    );
    const unbalanced = found(readings).find(({ kind }) => kind === 'unbalanced counts');
    expect(unbalanced?.message).toBe(message);
  });
});
