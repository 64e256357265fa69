import { describe, expect, it } from 'vitest';
import { NO_CORRECTIONS } from '../model/new-study.ts';
import type { Change } from '../model/parts.ts';
import { testStudy } from '../testing-study.ts';
import { changeWords, settledAt } from './change-words.ts';
import { correctionLayers } from './correction-words.ts';

const { document, measurand } = testStudy(['Ama', 'Bel']);
const [ama, bel] = document.items.map(({ id }) => id) as [string, string];
const said = (
  field: Change['field'],
  before: unknown,
  after: unknown,
  itemId: string | null = null,
): string =>
  changeWords(
    {
      ...{ field, before: JSON.stringify(before), after: JSON.stringify(after) },
      ...{ measurandId: measurand.id, itemId },
    } as Change,
    document,
  ).replaceAll('\u202f', ' ');

describe('a change of the plan in words', () => {
  const spec = { kind: 'absolute', low: 1, high: 2, below: null, share: 95 };
  const rule = { name: 'none', parameter: null, level: 'study', judges: 'distance' };
  it.each<[string, string]>([
    [
      said('margin', { kind: 'absolute', value: 0.1 }, { kind: 'percent', value: 5 }),
      'margin from 0.1 g to 5 %',
    ],
    [
      said('direction', { kind: 'higher', target: null }, { kind: 'nearest', target: 20 }),
      'direction from higher to nearest to 20 g',
    ],
    [
      said('direction', { kind: 'nearest', target: null }, { kind: 'lower', target: null }),
      'direction from nearest to 0 g to lower',
    ],
    [said('spec', null, spec), 'spec from none to between 1 g and 2 g, kept by 95 %'],
    [
      said('spec', { ...spec, low: null }, { ...spec, high: null, kind: 'percent' }),
      'spec from at most 2 g, kept by 95 % to at least 1 %, kept by 95 %',
    ],
    [said('expression', null, 'pull * 2'), 'expression from read at the bench to “pull * 2”'],
    [said('rule', rule, { ...rule, name: 'dixon' }), 'rule from None to Dixon, per study'],
    [said('blind', 'no', 'blind'), 'codes in place of names'],
    [said('blind', 'blind', 'opened'), 'codes opened'],
    [said('blind', 'blind', 'no'), 'codes given up'],
    [said('blind', 'no', 'something else'), 'codes changed'],
    [said('class', '', 'small', ama), 'Ama moved from no class to class “small”'],
    [said('class', 'small', '', bel), 'Bel moved from class “small” to no class'],
    [said('role', 'candidate', 'control', 'gone'), 'an item moved from candidate to control'],
  ])('%s', (words, wanted) => {
    expect(words).toBe(wanted);
  });
  it('a claim is added, removed or changed', () => {
    const claim = { kind: 'order', measurandId: measurand.id, order: [ama, bel] };
    const turned = { ...claim, order: [bel, ama] };
    expect(said('claim', null, claim)).toMatch(/^claim added: “.*Ama.*Bel.*”$/);
    expect(said('claim', claim, null)).toMatch(/^claim removed: “.*Ama.*Bel.*”$/);
    expect(said('claim', claim, turned)).toMatch(/^claim “.*Ama.*Bel.*” changed to “.*Bel.*Ama.*”$/);
  });
  it('corrections are those in force', () => {
    const tare = { ...NO_CORRECTIONS, tare: { on: true, value: 12 } };
    expect(said('corrections', NO_CORRECTIONS, tare)).toBe('corrections from none to tare of 12 g taken off');
    expect(said('corrections', NO_CORRECTIONS, { ...tare, tare: { on: false, value: 12 } })).toBe(
      'corrections changed that are not in force',
    );
  });
  it('is late where readings were there, and the last one of a field settled it', () => {
    const change = (id: string, field: string, changedAt: string, readingsThen: number) =>
      ({ measurandId: id, field, changedAt, readingsThen }) as Change;
    const changes = [
      change(measurand.id, 'margin', 'first', 0),
      change(measurand.id, 'margin', 'then', 3),
      change(measurand.id, 'rule', 'later', 0),
      change('another', 'margin', 'last', 0),
    ];
    const settled = (field: 'margin' | 'rule' | 'direction') =>
      settledAt({ measurands: [measurand], changes }, measurand.id, field);
    expect(settled('margin')).toEqual({ moment: 'then', late: true });
    expect(settled('rule')).toEqual({ moment: 'later', late: false });
    expect(settled('direction')).toEqual({ moment: measurand.createdAt, late: false });
  });
});

describe('corrections in words', () => {
  const condition = { id: 'air', quantity: 'Air', unit: '°C' };
  const ambient = { on: true, conditionId: 'air', reference: 20, perUnit: 1, estimates: [] as object[] };
  const calibration = {
    on: true,
    instrument: 'Meter',
    points: [{ indicated: 94.3, is: 94 }],
    mayBeOff: null,
  };
  const corrections = (change: object, unit = '°C') =>
    correctionLayers({ corrections: { ...NO_CORRECTIONS, ...change }, unit }, {
      conditions: [condition],
    } as never);
  const words = (change: object, unit?: string) =>
    corrections(change, unit).map((layer) => layer.words.replaceAll('\u202f', ' '));
  it('say what each does, as it is done', () => {
    expect(words({ unit: { on: true, from: '°F' } })).toEqual(['numbers read in °F, turned into °C']);
    expect(words({ unit: { on: true, from: '%' } }, '')).toEqual(['numbers read in %, turned into no unit']);
    expect(words({ calibrations: [calibration] }, 'dB')).toEqual([
      'calibration of Meter: 94.3 indicated is 94 dB (−0.3 dB)',
    ]);
    expect(
      words(
        { calibrations: [{ ...calibration, instrument: '', points: [{ indicated: 93.5, is: 94 }] }] },
        'dB',
      ),
    ).toEqual(['calibration: 93.5 indicated is 94 dB (+0.5 dB)']);
    const two = [...calibration.points, { indicated: 114.1, is: 114 }];
    expect(words({ calibrations: [{ ...calibration, points: two, mayBeOff: 0.2 }] }, 'dB')).toEqual([
      'calibration of Meter: 94.3 indicated is 94 dB, 114.1 indicated is 114 dB, give or take 0.2 dB',
    ]);
  });
  it('say of an ambient what it is referred to, and what of it is guessed', () => {
    expect(words({ ambient })).toEqual(['referred to Air of 20 °C']);
    expect(words({ ambient: { ...ambient, perUnit: 2 } })).toEqual([
      'referred to Air of 20 °C (2 °C for each °C)',
    ]);
    expect(words({ ambient }, 'm/s')).toEqual(['referred to Air of 20 °C (1 m/s for each °C)']);
    expect(words({ ambient: { ...ambient, conditionId: 'gone', estimates: [{}] } })).toEqual([
      'referred to a condition that is gone of 20 (1 °C for each unit); estimated, not noted, in one session',
    ]);
    expect(words({ ambient: { ...ambient, estimates: [{}, {}] } })).toEqual([
      'referred to Air of 20 °C; estimated, not noted, in 2 sessions',
    ]);
  });
  it('are switched one by one', () => {
    const everything = {
      unit: { on: true, from: '°F' },
      calibrations: [calibration, { ...calibration, instrument: 'Other' }],
      tare: { on: true, value: 1 },
      ambient,
    };
    const layers = corrections(everything);
    expect(layers.map(({ key }) => key)).toEqual([
      ...['unit', 'calibration Meter', 'calibration Other', 'tare', 'ambient'],
    ]);
    const now = { ...NO_CORRECTIONS, ...everything } as never;
    for (const [i, { switched }] of layers.entries()) {
      const after = switched(now, false);
      const inForce = [
        after.unit?.on,
        ...after.calibrations.map((each) => each.on),
        after.tare?.on,
        after.ambient?.on,
      ];
      expect(inForce).toEqual([0, 1, 2, 3, 4].map((place) => place !== i));
      // One that is not there any more stays away.
      expect(switched(NO_CORRECTIONS, true)).toEqual(NO_CORRECTIONS);
    }
  });
});
