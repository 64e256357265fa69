import { type Run, runQueue } from '../core/bench/queue.ts';
import { seededRandom } from '../core/random/seeded.ts';
import { buildDemo } from './build.ts';
import { FANS } from './truths.ts';

/** Typed instead of what the meter showed. */
const MISREADS: Record<string, string> = { 'Calvessa 2/3': '2.31', 'Merrowick/6': '3.90' };

/**
 * Six invented desk fans at one metre, eight rounds, taken through the same run order and reading forms as at the
 * bench. Planted in it: two misreads (a digit slip and two digits swapped), two fans that are practically the same,
 * one clear winner, one misfire, a fan that wins per watt and not by speed, one fan whose last rounds were left for the
 * next day, which was seven degrees warmer, and a first place over all that hangs on the weight of sound.
 */
export function deskFans() {
  const demo = buildDemo({
    title: 'Desk fans',
    question: 'Which desk fan moves the most air at one metre, at full speed?',
    start: '2026-09-12T09:30:00Z',
    tail: '00000000fa05',
    seed: 4680,
    study: {
      rounds: 8,
      timing: { setupS: 25, levelS: 0, roundWaitS: 60, sessionS: 5400, sessionsPerDay: 1 },
      procedure: {
        beforeSession: [
          'Doors and windows shut',
          'Tripod at one metre from the grille, vane at hub height',
          'Anemometer on for two minutes',
        ],
        beforeReading: ['Fan at full speed', 'Nobody between fan and meter', 'Read the mean over 10 s'],
        waits: [{ what: 'Fan runs up to speed', durationS: 30, when: 'item' }],
      },
      materials: [
        'Vane anemometer',
        'Sound level meter',
        'Plug-in power meter',
        'Tripod',
        'Tape measure',
        'Thermometer for the room',
      ],
      confounds: [
        { what: 'Height of the hub', handling: 'held', note: 'vane moved to each hub' },
        { what: 'Mains voltage', handling: 'recorded', note: '' },
        { what: 'Shape of the grille', handling: 'accepted', note: 'part of the product' },
      ],
      hazards: ['mains', 'cutting'],
    },
    items: FANS.map(({ name, code, price }) => ({
      name,
      code,
      attributes: [{ name: 'Price', value: price, unit: 'EUR' }],
    })),
    measurands: [
      {
        name: 'Air speed at one metre',
        form: 'value',
        unit: 'm/s',
        margin: { kind: 'absolute', value: 0.1 },
        limits: { low: 0.5, high: 8 },
        instrument: {
          name: 'Vane anemometer',
          resolution: 0.01,
          accuracyPercent: 2,
          accuracyConstant: 0.02,
          calibratedOn: '2026-03-02',
        },
      },
      {
        name: 'Sound level',
        form: 'level',
        unit: 'dB(A)',
        margin: { kind: 'absolute', value: 1 },
        limits: { low: 25, high: 90 },
        instrument: {
          name: 'Sound level meter',
          resolution: 0.1,
          accuracyPercent: null,
          accuracyConstant: 1.4,
          calibratedOn: '2026-02-18',
        },
        readingS: 15,
      },
      {
        name: 'Power',
        form: 'value',
        unit: 'W',
        direction: { kind: 'lower', target: null },
        margin: { kind: 'absolute', value: 1 },
        limits: { low: 2, high: 120 },
        instrument: {
          name: 'Plug-in power meter',
          resolution: 0.1,
          accuracyPercent: 1,
          accuracyConstant: 0.2,
          calibratedOn: null,
        },
        readingS: 10,
      },
      {
        name: 'Air speed per watt',
        form: 'value',
        unit: 'm/s/W',
        expression: 'air_speed_at_one_metre / power',
        margin: { kind: 'percent', value: 5 },
      },
    ],
    conditions: [
      {
        quantity: 'Air temperature',
        unit: '°C',
        required: true,
        tolerableDrift: 1,
        limits: { low: 15, high: 30 },
      },
      { quantity: 'Mains voltage', unit: 'V', tolerableDrift: 4, limits: { low: 207, high: 253 } },
    ],
    claims: [
      {
        measurand: 'Air speed at one metre',
        order: ['C2', 'FE', 'BR', 'DA', 'ME', 'QS'],
        source: 'By price: the dearer the fan, the more air',
      },
      {
        measurand: 'Air speed at one metre',
        item: 'C2',
        value: 12.6,
        unit: 'km/h',
        source: 'Printed on the box of the Calvessa 2',
      },
      {
        measurand: 'Air speed at one metre',
        item: 'QS',
        value: 3.1,
        unit: 'm/s',
        source: 'Data sheet of the Quillop S',
      },
      {
        measurand: 'Air speed at one metre',
        attribute: 'Price',
        value: 0.2,
        unit: 'm/s',
        stepSize: 10,
        source: 'Rule of thumb: each 10 EUR buys 0.2 m/s',
      },
    ],
  });

  const { document, start, record } = demo;
  document.study.scoring = {
    ...document.study.scoring,
    // Air speed, sound level, power, air speed per watt.
    weights: [0.5, 0.4, 0.1, 0].map((weight, i) => ({
      measurandId: document.measurands[i]?.id as string,
      weight,
    })),
  };
  const random = seededRandom(20260912);
  const others = seededRandom(20260912, 1);
  const about = { operator: 'Bench 1', instrument: 'Vane anemometer' };
  const today = demo.startSession(start - 300000, about, {
    'Air temperature': '21.2',
    'Mains voltage': '231',
  });
  const nextDay = start + 25 * 3600000;
  const late: { run: Run; texts: Record<string, string> }[] = [];
  let clock = start;
  let aside = 0;
  for (const run of runQueue(document)) {
    const { item, measurand, round } = run;
    const fan = FANS.find(({ name }) => name === item.name) as (typeof FANS)[number];
    const leftForNextDay = item.name === 'Quillop S' && round >= 7;
    const take = (texts: Record<string, string>, moment: number) => {
      if (!leftForNextDay) return record(run, moment, texts, today);
      demo.skip(run, moment);
      late.push({ run, texts });
      return undefined;
    };
    if (measurand.form === 'level') {
      aside = clock + 9000;
      take({ level: (fan.levelDb + 0.45 * others.normal()).toFixed(1) }, aside);
      continue;
    }
    if (measurand.name === 'Power') {
      aside += 6000;
      take({ value: (fan.powerW + 0.35 * others.normal()).toFixed(1) }, aside);
      continue;
    }
    const shown = (fan.speed + fan.sd * random.normal()).toFixed(2);
    const read = (text: string) => {
      clock += 35000 + random.below(25000);
      return take({ value: text }, clock);
    };
    if (item.name === 'Dappelin' && round === 2) {
      const disturbed = read('2.48');
      if (disturbed) demo.misfire(disturbed, clock + 4000, 'Door opened during the reading');
    }
    read(MISREADS[`${item.name}/${String(round)}`] ?? shown);
  }
  demo.note('Street noise from round 5 on, windows shut', clock, { sessionId: today.id });
  demo.endSession(today, clock + 60000, { 'Air temperature': '22.0', 'Mains voltage': '229' });
  const warmer = demo.startSession(nextDay, about, { 'Air temperature': '28.4', 'Mains voltage': '230' });
  late.forEach(({ run, texts }, i) => {
    demo.unskip(run, nextDay + 60000 * (i + 1));
    record(run, nextDay + 60000 * (i + 1), texts, warmer);
  });
  demo.endSession(warmer, nextDay + 480000, { 'Air temperature': '28.9', 'Mains voltage': '231' });
  demo.inOrder();
  return document;
}
