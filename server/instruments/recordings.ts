import { type WriteStream, createWriteStream } from 'node:fs';
import { open, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { v7 } from 'uuid';
import { writtenAbout, writtenHead } from '../../core/formats/wav-write.ts';
import type { InstrumentState, RunningRecording } from '../../core/model/instrument.ts';
import { MOST_SOUND_BYTES } from '../../core/model/limits.ts';
import { decibels } from '../../core/sound/decibels.ts';
import { Problem, notFound } from '../problems.ts';
import type { InstrumentConnection } from './connection.ts';
import { type KeptFile, WrittenFiles, keepWritten, titleMoment } from './keep-written.ts';

/** The level is that of so long, s. */
const LEVEL_S = 0.5;
const FULL_SCALE = 32768;
const LOUDEST = 32767;

/** Length of the head of what is recorded here. */
const HEAD_BYTES = writtenHead({
  ...{ sampleRate: 48000, channels: 1, dataBytes: 0 },
  about: { description: '', reference: '', begunAt: '' },
}).length;

interface Running extends RunningRecording {
  stream: WriteStream;
  /** Size of the samples that were written, bytes. */
  bytes: number;
  /** Stops listening. */
  leave: () => void;
}

const shown = ({ stream: _stream, bytes: _bytes, leave: _leave, ...recording }: Running): RunningRecording =>
  recording;

/** A study’s id in the 32 signs that a broadcast file has for whose it is, and back. */
const referenceOf = (studyId: string) => studyId.replaceAll('-', '');
const studyOf = (reference: string) =>
  reference.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');

/** The clock of this place, without a zone. */
function localMoment(): string {
  const now = new Date();
  return new Date(now.getTime() - 60000 * now.getTimezoneOffset()).toISOString().slice(0, 19);
}

/** Level of samples of 16 bits, dB re full scale, of the loudest channel; null for silence. */
class Level {
  private readonly sums: Float64Array;
  private frames = 0;

  constructor(private readonly channels: number) {
    this.sums = new Float64Array(channels);
  }

  /** @returns the level once there are so many frames, and begins again */
  add(samples: Int16Array, most: number): number | null | undefined {
    samples.forEach((sample, i) => {
      this.sums[i % this.channels] = (this.sums[i % this.channels] as number) + (sample / FULL_SCALE) ** 2;
    });
    this.frames += samples.length / this.channels;
    if (this.frames < most) return undefined;
    const loudest = Math.max(...this.sums) / this.frames;
    this.sums.fill(0);
    this.frames = 0;
    return loudest > 0 ? decibels(loudest) : null;
  }
}

/** What instruments hear, as WAV files. */
export class InstrumentRecordings extends WrittenFiles<Running> {
  protected readonly kind = { word: 'recording', ending: '.rec' };

  list(studyId: string): RunningRecording[] {
    return this.allOf(studyId).map(shown);
  }

  /**
   * Begins to record what an instrument hears.
   * @param mostBytes room that is left in the study: the recording ends where it is full
   */
  start(studyId: string, instrumentId: string, mostBytes: number): RunningRecording {
    const connection = this.driver.connection(instrumentId);
    if (!connection) throw notFound('instrument');
    const { sound, state, title } = connection.state;
    if (!sound || state !== 'ready')
      throw new Problem(409, 'No sound', `${title || 'The instrument'} sends no sound just now.`);
    if (this.ofInstrument(instrumentId))
      throw new Problem(409, 'Already recorded', `${title} is being recorded already.`);
    const id = v7();
    const startedAt = new Date().toISOString();
    const stream = createWriteStream(this.placeOf(id), { flags: 'wx', mode: 0o600 });
    const about = {
      description: `Recording, ${titleMoment(startedAt)}`,
      reference: referenceOf(studyId),
      begunAt: localMoment(),
    };
    stream.write(writtenHead({ ...sound, dataBytes: 0, about }));
    const recording: Running = {
      ...{ id, studyId, instrumentId, startedAt, ...sound },
      ...{ seconds: 0, level: null, clipped: 0, problem: null },
      ...{ stream, bytes: 0, leave: () => undefined },
    };
    stream.on('error', () => {
      this.halt(recording, 'The recording cannot be written: is the disk full?');
    });
    this.running.set(id, recording);
    this.listen(recording, connection, Math.min(mostBytes, MOST_SOUND_BYTES));
    return shown(recording);
  }

  /** Ends a recording. @returns the file that it became; undefined where nothing was heard */
  async stop(studyId: string, id: string): Promise<KeptFile | undefined> {
    const recording = this.ofStudy(studyId, id);
    this.running.delete(id);
    this.halt(recording);
    if (!recording.stream.destroyed)
      await new Promise<void>((resolve) => {
        recording.stream.once('error', () => {
          resolve();
        });
        recording.stream.end(resolve);
      });
    return this.keep(path.basename(this.placeOf(id)), recording.problem === null ? '' : ', cut off');
  }

  private listen(recording: Running, connection: InstrumentConnection, mostBytes: number): void {
    const { sampleRate, channels } = recording;
    const frame = 2 * channels;
    const level = new Level(channels);
    const hear = (sent: Buffer) => {
      // What is no whole frame would shift all that follows.
      const whole = sent.subarray(0, sent.length - (sent.length % frame));
      if (recording.bytes + whole.length > mostBytes) {
        this.halt(recording, 'No room is left for more: stop it, and begin another.');
        return;
      }
      recording.stream.write(whole);
      recording.bytes += whole.length;
      recording.seconds = recording.bytes / frame / sampleRate;
      const samples = Int16Array.from({ length: whole.length / 2 }, (_, i) => whole.readInt16LE(2 * i));
      recording.clipped += samples.filter((sample) => Math.abs(sample) >= LOUDEST).length;
      const now = level.add(samples, LEVEL_S * sampleRate);
      if (now !== undefined) recording.level = now;
    };
    const see = ({ state }: InstrumentState) => {
      if (state !== 'ready')
        this.halt(recording, 'The recorder went away: stop it, and what it sent until then is kept.');
    };
    connection.on('heard', hear);
    connection.on('changed', see);
    recording.leave = () => {
      connection.off('heard', hear);
      connection.off('changed', see);
      connection.record(false);
    };
    connection.record(true);
  }

  /** Hears no more of it. */
  private halt(recording: Running, problem?: string): void {
    recording.leave();
    recording.leave = () => undefined;
    if (problem !== undefined) recording.problem = problem;
  }

  /** Says in the head of a recording how long it is, too. */
  protected async keep(name: string, ending: string): Promise<KeptFile | undefined> {
    const written = path.join(this.folder, name);
    const there = await stat(written).catch(() => undefined);
    // Where it could not even be begun there is no file.
    if (!there) return undefined;
    const { size } = there;
    const handle = await open(written, 'r+');
    let about: ReturnType<typeof writtenAbout>;
    try {
      const first = new Uint8Array(1024);
      await handle.read(first, 0, first.length, 0);
      about = writtenAbout(first);
      const head = about && first.subarray(0, HEAD_BYTES);
      const dataBytes = size - HEAD_BYTES;
      if (head && dataBytes > 0) {
        const view = new DataView(head.buffer);
        view.setUint32(4, size - 8, true);
        view.setUint32(HEAD_BYTES - 4, dataBytes, true);
        await handle.write(head, 0, head.length, 0);
        await handle.sync();
      }
    } finally {
      await handle.close();
    }
    if (!about) return undefined;
    if (size <= HEAD_BYTES) {
      await rm(written, { force: true });
      return undefined;
    }
    const title = `${about.description}${ending}`;
    return { studyId: studyOf(about.reference), title, ...(await keepWritten(written, 'wav')) };
  }
}
