import { buildDemo } from './build.ts';

/** Four invented lawn sprinklers on a 5 × 5 grid of catch cups. */
export function lawnSprinklers() {
  return buildDemo({
    title: 'Lawn sprinklers',
    question: 'Which sprinkler waters a small lawn most evenly?',
    start: '2026-06-27T06:30:00Z',
    tail: '00000000fa07',
    seed: 2525,
    study: {
      rounds: 4,
      timing: { setupS: 300, levelS: 0, roundWaitS: 0, sessionS: 14400, sessionsPerDay: 1 },
      procedure: {
        beforeSession: [
          'Catch cups level, 1 m apart, empty',
          'Pressure at the tap 2 bar',
          'Wind under 4 m/s',
        ],
        beforeReading: ['Sprinkler at the middle of the grid', 'Tap shut before the cups are read'],
        waits: [{ what: 'Sprinkler runs', durationS: 900, when: 'item' }],
      },
      materials: ['25 catch cups', 'Measuring cylinder', 'Pressure gauge', 'Hand anemometer', 'Timer'],
      confounds: [
        { what: 'Wind', handling: 'recorded', note: 'wait above 4 m/s' },
        { what: 'Pressure at the tap', handling: 'held', note: '2 bar' },
      ],
      hazards: ['stored-energy'],
    },
    items: [
      { name: 'Arvo 360', code: 'A3', attributes: [{ name: 'Price', value: 14, unit: 'EUR' }] },
      { name: 'Brookle', code: 'BK', attributes: [{ name: 'Price', value: 32, unit: 'EUR' }] },
      { name: 'Cassin', code: 'CS', attributes: [{ name: 'Price', value: 19, unit: 'EUR' }] },
      { name: 'Dewlo', code: 'DW', attributes: [{ name: 'Price', value: 24, unit: 'EUR' }] },
    ],
    measurands: [
      {
        name: 'Evenness',
        form: 'grid',
        unit: '%',
        settings: { rows: 5, columns: 5, statistic: 'christiansen', readUnit: 'mL' },
        margin: { kind: 'absolute', value: 3 },
        limits: { low: 0, high: 100 },
        instrument: {
          name: 'Measuring cylinder',
          resolution: 1,
          accuracyPercent: null,
          accuracyConstant: 1,
          calibratedOn: null,
        },
      },
      {
        name: 'Water used',
        form: 'value',
        unit: 'L/min',
        direction: { kind: 'lower', target: null },
        margin: { kind: 'percent', value: 5 },
        limits: { low: 1, high: 40 },
      },
    ],
    conditions: [
      { quantity: 'Wind', unit: 'm/s', required: true, limits: { low: null, high: 4 } },
      { quantity: 'Pressure at the tap', unit: 'bar', required: true, tolerableDrift: 0.2 },
    ],
    claims: [
      { measurand: 'Evenness', item: 'BK', value: 85, unit: '%', source: 'Leaflet of the Brookle' },
      { measurand: 'Evenness', order: ['BK', 'DW', 'CS', 'A3'], source: 'By price' },
    ],
  });
}
