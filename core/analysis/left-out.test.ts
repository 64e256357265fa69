import { describe, expect, it } from 'vitest';
import type { Observation } from '../observations/observation.ts';
import { leftOutOf } from './left-out.ts';

type Use = Observation['use'];
const KEPT: Use = { is: 'kept' };
const out = (by: Extract<Use, { is: 'left out' }>['by']): Use => ({ is: 'left out', by, reason: 'so' });
const observation = (itemId: string, value: number | null, use: Use, id = String(value)) =>
  ({ id, itemId, value, use }) as Observation;

describe('what does not count of the readings at a setting', () => {
  it('is listed in the order recorded, with the mean that each item it was taken from would have', () => {
    const readings = [
      observation('ama', 2, KEPT),
      observation('bel', 9, out('hand')),
      observation('ama', 7, out('rule')),
      observation('ama', 3, KEPT),
      observation('cor', 5, KEPT),
    ];
    const { readings: left, meansWith } = leftOutOf(readings, undefined);
    expect(left).toEqual([readings[1], readings[2]]);
    expect([...meansWith]).toEqual([
      ['bel', 9],
      ['ama', 4],
    ]);
  });
  it('has no mean of what gave way at the bench, cannot be set right, or has no value', () => {
    const readings = [
      observation('ama', 2, KEPT),
      observation('ama', 100, out('misfire')),
      observation('bel', 4, KEPT),
      observation('bel', 100, out('again')),
      observation('bel', 8, out('source')),
      observation('bel', 100, out('correction')),
      observation('bel', null, KEPT, 'gone'),
      observation('cor', 1, out('correction')),
    ];
    const { readings: left, meansWith } = leftOutOf(readings, undefined);
    expect(left).toHaveLength(5);
    expect([...meansWith]).toEqual([['bel', 6]]);
  });
  it('averages levels by their energy: 60 dB and 70 dB make 67.4 dB (10 lg of their energies’ mean)', () => {
    const { meansWith } = leftOutOf(
      [observation('ama', 60, KEPT), observation('ama', 70, out('hand'))],
      'energy',
    );
    expect(meansWith.get('ama')).toBeCloseTo(67.4036, 4);
  });
  it('is nothing where all counts', () => {
    expect(leftOutOf([observation('ama', 2, KEPT)], undefined)).toEqual({
      readings: [],
      meansWith: new Map(),
    });
  });
});
