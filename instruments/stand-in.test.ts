import { describe, expect, it } from 'vitest';
import { FANS } from '../demo/truths.ts';
import { type Physics, display, sense } from './meter.ts';
import { NO_READING, StandIn } from './stand-in.ts';
import { STAND_INS } from './stand-ins/index.ts';
import { anemometer } from './stand-ins/anemometer.ts';
import { flowMeter } from './stand-ins/flow-meter.ts';
import { lightGate } from './stand-ins/light-gate.ts';
import { seededRandom } from '../core/random/seeded.ts';

/** A stand-in with a clock that the test turns. */
function atTime(model: (typeof STAND_INS)[number], seed = 3) {
  const clock = { s: 0 };
  return { clock, standIn: new StandIn(model, seed, () => clock.s) };
}

// IEEE 488.2-1992 (*IDN? has four fields) and SCPI-1999 volume 2, 21.8 (errors as number and text; 9.91E37 as NaN).
describe('a stand-in', () => {
  it.each(STAND_INS.map((model) => [model.name, model] as const))(
    '%s speaks the common commands',
    (_name, model) => {
      const { standIn } = atTime(model);
      expect(standIn.answer('*IDN?')[0]?.split(',')).toHaveLength(4);
      const sound = model.sound ? `,${String(model.sound.sampleRate)},1` : '';
      expect(standIn.answer('CONF?')).toEqual([
        `"${model.unit}",${String(model.physics.resolution)}${sound}`,
      ]);
      for (const question of ['MEAS?', 'READ?']) {
        expect(Number.isFinite(Number(standIn.answer(question)[0]))).toBe(true);
      }
      expect(standIn.answer('SYST:ERR?')).toEqual(['0,"No error"']);
      expect(standIn.answer('FIRE')).toEqual([]);
      expect(standIn.answer('SYST:ERR?')).toEqual(['-113,"Undefined header"']);
      expect(standIn.answer('SYST:ERR?')).toEqual(['0,"No error"']);
    },
  );
  it('measures the item of the demo that it is told of, in steps of its resolution', () => {
    const { clock, standIn } = atTime(anemometer);
    for (const { name, speed } of FANS) {
      standIn.answer(`BENCH:ITEM "${name}"`);
      clock.s += 1000;
      const shown = Array.from({ length: 200 }, () => standIn.answer('READ?')[0] as string).filter(
        (text) => text !== NO_READING,
      );
      expect(shown.every((text) => /^\d\.\d\d$/.test(text))).toBe(true);
      const mean = shown.reduce((sum, text) => sum + Number(text), 0) / shown.length;
      // Four standard errors of 200 readings of noise 0.022.
      expect(Math.abs(mean - speed)).toBeLessThan(0.0065);
    }
  });
  it('reads high until it is warm, and is slow to come to a new item', () => {
    const { clock, standIn } = atTime(anemometer, 5);
    standIn.answer('BENCH:ITEM "Calvessa 2"');
    const meanNow = () => {
      const shown = Array.from({ length: 100 }, () => Number(standIn.show())).filter((value) => value < 100);
      return shown.reduce((sum, value) => sum + value, 0) / shown.length;
    };
    expect(meanNow()).toBeLessThan(0.3);
    clock.s = 10;
    expect(meanNow()).toBeGreaterThan(3.45);
    clock.s = 1000;
    expect(meanNow()).toBeCloseTo(3.42, 1);
  });
  it('never shows more than its cap', () => {
    const { clock, standIn } = atTime(flowMeter);
    standIn.answer('BENCH:ITEM "No aerator"');
    standIn.answer('BENCH:LEV 3');
    clock.s = 100;
    // 9.4 · √3 = 16.3 L/min by the orifice, beyond what it can show.
    const shown = Array.from({ length: 50 }, () => Number(standIn.show())).filter((value) => value < 1000);
    expect(new Set(shown)).toEqual(new Set([12]));
  });
  it('sends a reading twice now and then when it streams, as a bouncing trigger does', () => {
    const { standIn } = atTime(lightGate);
    const sent = Array.from({ length: 400 }, () => standIn.stream());
    const doubles = sent.filter((lines) => lines.length === 2 && lines[0] === lines[1]).length;
    expect(doubles).toBeGreaterThan(8);
    expect(doubles).toBeLessThan(40);
  });
  it('is the same again from its seed', () => {
    const shown = (seed: number) => {
      const { standIn } = atTime(anemometer, seed);
      return Array.from({ length: 20 }, () => standIn.show());
    };
    expect(shown(3)).toEqual(shown(3));
    expect(shown(3)).not.toEqual(shown(4));
  });
  it('takes no harm from bad commands', () => {
    const { standIn } = atTime(anemometer);
    for (const command of [
      '',
      '  ',
      'BENCH:LEV warm',
      `BENCH:ITEM ${'x'.repeat(500)}`,
      'STRM maybe',
      '\u0000',
    ]) {
      expect(standIn.answer(command)).toEqual([]);
    }
    expect(standIn.answer('SYST:ERR?')).toEqual(['-104,"Data type error"']);
    expect(standIn.answer('SYST:ERR?')).toEqual(['-223,"Too much data"']);
    for (let i = 0; i < 40; i += 1) standIn.answer('NONSENSE');
    let last = '';
    for (let i = 0; i < 20; i += 1) last = standIn.answer('SYST:ERR?')[0] as string;
    expect(last).toBe('-350,"Queue overflow"');
    standIn.answer('*CLS');
    expect(standIn.answer('SYST:ERR?')).toEqual(['0,"No error"']);
  });
});

describe('the display', () => {
  it('has the decimals of its step', () => {
    expect(display(3.1, 0.01)).toBe('3.10');
    expect(display(3.14159, 0.001)).toBe('3.142');
    expect(display(480.4, 1)).toBe('480');
    expect(display(981.5, 0.5)).toBe('981.5');
  });
  it('shows noise of the stated size', () => {
    const physics: Physics = { truth: () => 10, idle: 0, noise: 0.5, resolution: 0.001 };
    const random = seededRandom(11);
    const shown = Array.from({ length: 4000 }, () =>
      sense(physics, { item: '', level: undefined, onS: 0, itemS: 0, random }),
    ) as number[];
    const mean = shown.reduce((sum, value) => sum + value, 0) / shown.length;
    const sd = Math.sqrt(shown.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (shown.length - 1));
    expect(mean).toBeCloseTo(10, 1);
    // The SD of 4,000 readings is within 3.5 % of the true one but for one case in 500.
    expect(Math.abs(sd - 0.5)).toBeLessThan(0.0175);
  });
});
