import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { FileProblem } from '../core/formats/file-problem.ts';
import { recordingAnswers, recordingOptions, recordingTable } from './recording.ts';

const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-recording-'));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

/** Two seconds of 1 kHz at a tenth of full scale, then two at a hundredth: 16 bits, one channel. */
const RATE = 16000;
const FILE = path.join(folder, 'fan.wav');
const samples = Int16Array.from({ length: 4 * RATE }, (_, k) =>
  Math.round((k < 2 * RATE ? 3276.8 : 327.68) * Math.sin((2 * Math.PI * 1000 * k) / RATE)),
);
const head = Buffer.alloc(44);
head.write('RIFF', 0);
head.writeUInt32LE(36 + samples.byteLength, 4);
head.write('WAVEfmt ', 8);
head.writeUInt32LE(16, 16);
head.writeUInt16LE(1, 20);
head.writeUInt16LE(1, 22);
head.writeUInt32LE(RATE, 24);
head.writeUInt32LE(2 * RATE, 28);
head.writeUInt16LE(2, 32);
head.writeUInt16LE(16, 34);
head.write('data', 36);
head.writeUInt32LE(samples.byteLength, 40);
writeFileSync(FILE, Buffer.concat([head, Buffer.from(samples.buffer)]));

const answers = async (...args: string[]) =>
  recordingAnswers(await recordingOptions(['--recording', FILE, ...args]));

describe('the command for a recording', () => {
  it('says levels relative to full scale until something says what that is', async () => {
    const plain = await answers('--weighting', 'z', '--to', '2');
    expect(plain.unit).toBe('dB relative to full scale');
    expect(plain.channels[0]?.equivalent).toBeCloseTo(-23.01, 2);
    const known = await answers('--weighting', 'Z', '--to', '2', '--full-scale', '117.01');
    expect([known.unit, known.channels[0]?.equivalent.toFixed(2)]).toEqual(['dB', '94.00']);
  });
  it('takes the tone of a calibrator in the file', async () => {
    const found = await answers(
      '--tone',
      '0.2-1.8',
      '--tone-level',
      '94',
      '--from',
      '2.5',
      '--weighting',
      'A',
    );
    expect(found.channels[0]?.equivalent).toBeCloseTo(74, 1);
    expect(found.channels[0]?.fullScale).toBeCloseTo(117.01, 2);
    expect(found.remarks.join()).toContain('Hz is in the file');
  });
  it('prints a table for people', async () => {
    const lines = recordingTable(await answers('--to', '0:00:02')).split('\n');
    expect(lines[0]).toBe('16000 samples a second, 16 bits, 0:00:04.');
    expect(lines.some((line) => /^Equivalent level +-23\.0\d$/.test(line))).toBe(true);
  });
  it('says the level in one third of an octave, or in each that the file holds', async () => {
    const band = await answers('--weighting', 'Z', '--to', '2', '--band', '1000');
    expect([band.band, band.channels[0]?.equivalent.toFixed(1)]).toEqual(['1000', '-23.0']);
    const all = await answers('--weighting', 'Z', '--to', '2', '--bands');
    expect(all.bands?.map(({ band: name }) => name).at(-1)).toBe('6300');
    const loudest = [...(all.bands ?? [])].sort((a, b) => (b.channels[0] ?? 0) - (a.channels[0] ?? 0))[0];
    expect(loudest?.band).toBe('1000');
    expect(recordingTable(all)).toMatch(/^1000 Hz +-23\.0\d$/m);
    await expect(answers('--band', '20000')).rejects.toThrow('too few for the band of 20000 Hz');
  });
  it.each([
    [['--band', '440'], 'a third of an octave'],
    [['--weighting', 'B'], 'A, C or Z'],
    [['--from', 'noon'], 'takes a time'],
    [['--tone', '3'], 'its two ends'],
    [['--tone', '0-1', '--full-scale', '94'], 'not both'],
    [['--tone', '0-1', '--tone-level', 'loud'], 'a level in dB'],
    [['--fast'], 'Unknown option'],
  ])('refuses %j in one sentence', async (args, sentence) => {
    await expect(recordingOptions(['--recording', FILE, ...args])).rejects.toThrow(FileProblem);
    await expect(recordingOptions(['--recording', FILE, ...args])).rejects.toThrow(sentence);
  });
  it('refuses a file that is not there, and a window outside it', async () => {
    await expect(answers('--from', '1', '--to', '9')).rejects.toThrow('from 0 to 4.000 s');
    const options = await recordingOptions(['--recording', path.join(folder, 'none.wav')]);
    await expect(recordingAnswers(options)).rejects.toThrow('There is no file');
  });
});
