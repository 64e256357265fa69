import { buildDemo } from './build.ts';

/** Five invented kitchen thermometers in a bath beside a reference, at four temperatures. */
export function kitchenThermometers() {
  const bath = [0, 30, 60, 90].map((value) => ({
    name: `${String(value)} °C`,
    value,
    baseline: value === 30,
  }));
  return buildDemo({
    title: 'Kitchen thermometers',
    question: 'Which kitchen thermometer is within one degree of the reference over the whole range?',
    start: '2026-09-19T13:00:00Z',
    tail: '00000000fa06',
    seed: 1907,
    study: {
      rounds: 3,
      timing: { setupS: 15, levelS: 900, roundWaitS: 0, sessionS: 10800, sessionsPerDay: 1 },
      procedure: {
        beforeSession: [
          'Stirrer of the bath running',
          'Reference probe at the middle of the bath',
          'Ice crushed for the 0 °C bath',
        ],
        beforeReading: ['Tip of the probe beside the reference, 5 cm deep'],
        waits: [
          { what: 'Bath steady within 0.1 °C', durationS: 120, when: 'session' },
          { what: 'Probe settles', durationS: 30, when: 'item' },
        ],
      },
      materials: ['Stirred bath', 'Reference thermometer', 'Crushed ice', 'Clamp stand'],
      confounds: [
        { what: 'Depth of the probe', handling: 'held', note: '5 cm' },
        { what: 'Response time', handling: 'recorded', note: 'a slow one is read too early' },
      ],
      hazards: ['heat', 'mains'],
    },
    items: [
      {
        name: 'Brindle P',
        code: 'BP',
        attributes: [
          { name: 'Price', value: 12, unit: 'EUR' },
          { name: 'Stated error', value: 1, unit: '°C' },
        ],
      },
      {
        name: 'Casker 3',
        code: 'C3',
        attributes: [
          { name: 'Price', value: 29, unit: 'EUR' },
          { name: 'Stated error', value: 0.5, unit: '°C' },
        ],
      },
      {
        name: 'Dorrit',
        code: 'DO',
        attributes: [
          { name: 'Price', value: 9, unit: 'EUR' },
          { name: 'Stated error', value: 2, unit: '°C' },
        ],
      },
      {
        name: 'Ellow Mini',
        code: 'EM',
        attributes: [
          { name: 'Price', value: 16, unit: 'EUR' },
          { name: 'Stated error', value: 1, unit: '°C' },
        ],
      },
      {
        name: 'Fennick',
        code: 'FN',
        attributes: [
          { name: 'Price', value: 21, unit: 'EUR' },
          { name: 'Stated error', value: 1, unit: '°C' },
        ],
      },
    ],
    measurands: [
      {
        name: 'Error against the bath',
        form: 'against-reference',
        unit: '°C',
        margin: { kind: 'absolute', value: 0.5 },
        limits: { low: -10, high: 10 },
        instrument: {
          name: 'Reference thermometer',
          resolution: 0.1,
          accuracyPercent: null,
          accuracyConstant: 0.1,
          calibratedOn: '2026-06-11',
        },
      },
      {
        name: 'Ease of reading',
        form: 'score',
        margin: { kind: 'absolute', value: 1 },
        settings: { marks: ['hard', 'fair', 'good', 'at a glance'] },
        readingS: 10,
      },
    ],
    factors: [{ name: 'Bath', kind: 'numeric', unit: '°C', levels: bath }],
    conditions: [{ quantity: 'Room temperature', unit: '°C', required: true, tolerableDrift: 2 }],
    claims: [
      {
        measurand: 'Error against the bath',
        order: ['C3', 'BP', 'EM', 'FN', 'DO'],
        source: 'By the error that the makers state',
      },
      {
        measurand: 'Error against the bath',
        item: 'C3',
        value: 0,
        unit: '°C',
        source: 'Calibration note in the box of the Casker 3',
      },
      {
        measurand: 'Error against the bath',
        factor: 'Bath',
        value: 0.3,
        unit: '°C',
        stepSize: 30,
        source: 'Rule of thumb: 0.3 °C more with each 30 °C',
      },
    ],
  });
}
