import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { recordingAnswers, recordingOptions } from '../cli/recording.ts';

const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-sox-'));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

const sox = (...args: string[]): string => {
  const { status, stderr } = spawnSync('sox', args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(`sox: ${stderr}`);
  return stderr;
};
/** A row of what “sox stats” says: the figure of each channel. */
const row = (said: string, name: string): number[] => {
  const line = said.split('\n').find((text) => text.startsWith(name)) ?? '';
  return line.slice(name.length).trim().split(/\s+/).slice(1).map(Number);
};

describe('the levels of a recording', () => {
  it.each([
    ['8 bits', ['-r', '8000', '-b', '8'], ['synth', '3', 'sine', '440', 'sine', '1000', 'vol', '0.4']],
    ['16 bits', ['-r', '44100', '-b', '16'], ['synth', '3', 'pinknoise', 'sine', '3000', 'vol', '0.3']],
    ['24 bits', ['-r', '96000', '-b', '24'], ['synth', '2', 'whitenoise', 'sine', '50', 'vol', '0.9']],
    [
      '32 bits',
      ['-r', '48000', '-b', '32'],
      ['synth', '2', 'sine', '20:20000', 'square', '100', 'vol', '0.5'],
    ],
    [
      'float',
      ['-r', '192000', '-b', '32', '-e', 'floating-point'],
      ['synth', '1', 'sine', '1000', 'trapezium', '70'],
    ],
  ])('of %s are those of sox stats, peak and RMS', async (name, format, effects) => {
    const file = path.join(folder, `${name.replace(' ', '-')}.wav`);
    sox('-R', '-n', '-c', '2', ...format, file, ...effects);
    const said = sox(file, '-n', 'stats');
    const options = await recordingOptions(['--recording', file, '--weighting', 'Z']);
    const { channels } = await recordingAnswers(options);
    expect(channels).toHaveLength(2);
    channels.forEach(({ samplePeak, equivalent }, i) => {
      // It prints two decimals.
      expect(Math.abs(samplePeak - (row(said, 'Pk lev dB')[i] ?? Number.NaN))).toBeLessThan(0.0051);
      expect(Math.abs(equivalent - (row(said, 'RMS lev dB')[i] ?? Number.NaN))).toBeLessThan(0.0051);
    });
  });
});
