import { describe, expect, it } from 'vitest';
import { FANS } from '../demo/truths.ts';
import { seededRandom } from '../core/random/seeded.ts';
import { LiveSound, type SoundPhysics } from './live-sound.ts';
import { StandIn } from './stand-in.ts';
import { soundRecorder } from './stand-ins/sound-recorder.ts';
import { flowMeter } from './stand-ins/flow-meter.ts';

const [QUIET, LOUD] = [...FANS]
  .sort((a, b) => a.levelDb - b.levelDb)
  .flatMap(({ name }, i, all) => (i === 0 || i === all.length - 1 ? [name] : [])) as [string, string];
const levelOf = (item: string) => FANS.find(({ name }) => name === item)?.levelDb ?? 0;

/** A recorder with a clock that the test turns, which says the level of each twentieth of a second, dB. */
function recording(seed = 3) {
  const clock = { s: 0 };
  const standIn = new StandIn(soundRecorder, seed, () => clock.s);
  const lines: string[] = [];
  const until = (s: number) => {
    while (clock.s < s) {
      clock.s += 0.05;
      lines.push(...(standIn.sound?.lines() ?? []));
    }
  };
  /** Mean level of what was heard from one second to another. */
  const level = (from: number, to: number) => {
    const bytes = Buffer.concat(lines.map((line) => Buffer.from(line.slice(4), 'base64')));
    let sum = 0;
    const [first, last] = [from * 48000, to * 48000];
    for (let k = first; k < last; k += 1) sum += (bytes.readInt16LE(2 * k) / 32768) ** 2;
    return 104 + 10 * Math.log10(sum / (last - first));
  };
  return { clock, standIn, lines, until, level };
}

describe('a recorder that sends what it hears', () => {
  it('sends the calibrator’s tone, then the item that is put there, in lines that an instrument may send', () => {
    const { standIn, lines, until, level } = recording();
    standIn.answer(`BENCH:ITEM "${LOUD}"`);
    until(1);
    expect(lines).toEqual([]);
    expect(standIn.answer('PCM ON')).toEqual([]);
    until(10.1);
    expect(lines.length).toBe(Math.floor(9.1 / 0.025 + 1e-6));
    expect(Math.max(...lines.map(({ length }) => length))).toBeLessThan(4096);
    expect(level(1, 3)).toBeCloseTo(94, 1);
    expect(Number(standIn.show()) + 104).toBeCloseTo(level(8.6, 9.1), 0);
    // Its noise is that of a sound level meter with the weighting A; without a weighting it is a little more.
    const found = level(6, 8);
    expect(found).toBeGreaterThan(levelOf(LOUD) - 1);
    expect(found).toBeLessThan(levelOf(LOUD) + 6);
    expect(level(4, 5)).toBeLessThan(50);
    standIn.answer('PCM OFF');
    const before = lines.length;
    until(12);
    expect(lines.length).toBe(before);
  });
  it('switches off what was there when something else is put there, and leaves the tone', () => {
    const { standIn, until, level } = recording();
    standIn.answer('PCM ON');
    until(1);
    standIn.answer(`BENCH:ITEM "${LOUD}"`);
    until(7);
    standIn.answer(`BENCH:ITEM "${QUIET}"`);
    until(9);
    // A page that is loaded again says what is there once more.
    standIn.answer(`BENCH:ITEM "${QUIET}"`);
    until(12);
    expect(level(2, 3)).toBeCloseTo(94, 1);
    expect(level(6, 7) - level(8, 8.4)).toBeGreaterThan(10);
    expect(level(9, 11)).toBeGreaterThan(level(8, 8.4));
    expect(level(9, 11)).toBeLessThan(level(6, 7));
  });
  it('loses what is not fetched in time', () => {
    const { clock, standIn } = recording();
    standIn.answer('PCM ON');
    clock.s = 600;
    expect(standIn.sound?.lines()).toHaveLength(80);
    clock.s += 0.051;
    expect(standIn.sound?.lines()).toHaveLength(2);
  });
  it('writes silence for a moment now and then', () => {
    const clock = { s: 0 };
    const physics = { ...(soundRecorder.sound as SoundPhysics), dropoutsPerHour: 3600 };
    const sound = new LiveSound(physics, seededRandom(5), () => clock.s);
    sound.begin();
    const lines: string[] = [];
    while (clock.s < 20) {
      clock.s += 1;
      lines.push(...sound.lines());
    }
    const silent = lines.filter((line) => Buffer.from(line.slice(4), 'base64').every((byte) => byte === 0));
    // A fifth of a second, once a second on average: four standard deviations of a Poisson number around 20.
    expect(silent.length / 8).toBeGreaterThan(20 - 4 * Math.sqrt(20));
    expect(silent.length / 8).toBeLessThan(20 + 4 * Math.sqrt(20));
  });
  it('takes no harm from what it does not know', () => {
    const { standIn } = recording();
    expect(standIn.answer('PCM loud')).toEqual([]);
    expect(standIn.answer('SYST:ERR?')).toEqual(['-104,"Data type error"']);
    expect(standIn.answer('BENCH:ITEM "Nobody knows"')).toEqual([]);
    expect(standIn.sound?.lines()).toEqual([]);
    const deaf = new StandIn(flowMeter, 1);
    expect(deaf.answer('PCM ON')).toEqual([]);
    expect(deaf.answer('SYST:ERR?')).toEqual(['-113,"Undefined header"']);
  });
});
