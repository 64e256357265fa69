import { pcm16 } from '../core/formats/wav-write.ts';
import type { SeededRandom } from '../core/random/seeded.ts';
import { decibels } from '../core/sound/decibels.ts';
import { Hearing } from './recorder.ts';

/** What a recorder hears of the items that are put before it. */
export interface SoundPhysics {
  sampleRate: number;
  /** What a sample of 1 is, dB: the gain of the recorder. */
  fullScale: number;
  /** The level of the room, dB(A). */
  background: number;
  /** How loud an item is, dB(A); undefined for one that it does not know. */
  levelOf: (item: string) => number | undefined;
  /** How often it writes silence for a moment, times an hour. */
  dropoutsPerHour: number;
}

/** A recording begins with the tone of a calibrator, s, of this level, dB. */
export const TONE = { from: 0.5, to: 3.5, level: 94 } as const;
/** The first item is switched on then at the earliest, s. */
const FIRST_S = 5.5;
/** From when an item is put there until it is switched on, how long it runs, and runs up, s. */
const [AFTER_S, RUNS_S, RAMP_S] = [1.5, 3, 0.08];
const DROPOUT_S = 0.2;
/** Samples of a line. */
const LINE_SAMPLES = 1200;
/** Lines of which the display shows the level. */
const SHOWN_LINES = 20;
/** What is not fetched in this time is lost, s. */
const MOST_LATE_S = 2;

/** A recorder that sends what it hears while it hears it: lines of 16-bit samples, lowest byte first, in base64. */
export class LiveSound {
  private hearing: Hearing | undefined;
  private begun = 0;
  private item = '';
  private silentUntil = 0;
  /** When the item that is there is switched off, s. */
  private runsUntil = 0;
  /** Squares of the samples of each line of the last half second, summed. */
  private recent: number[] = [];

  /** @param now the time in seconds, from any origin */
  constructor(
    private readonly physics: SoundPhysics,
    private readonly random: SeededRandom,
    private readonly now: () => number,
  ) {}

  get running(): boolean {
    return this.hearing !== undefined;
  }

  /** What its display shows while it records, dB re full scale: the level of the last half second. */
  get level(): number | undefined {
    const squares = this.recent.reduce((sum, line) => sum + line, 0);
    const count = this.recent.length * LINE_SAMPLES;
    return this.running && squares > 0 ? decibels(squares / count) : undefined;
  }

  begin(): void {
    const { sampleRate, fullScale, background } = this.physics;
    this.hearing = new Hearing({ sampleRate, fullScale, background, random: this.random });
    this.begun = this.now();
    this.silentUntil = 0;
    this.runsUntil = 0;
    this.recent = [];
    this.hearing.add({ kind: 'tone', ...TONE });
    if (this.item !== '') this.run();
  }

  end(): void {
    this.hearing = undefined;
  }

  /** Something is put before it; what was there is switched off. Who says the same again while it runs is not heard. */
  put(item: string): void {
    if (item === this.item && this.hearing && this.hearing.seconds < this.runsUntil) return;
    this.item = item;
    this.hearing?.hush('rush');
    this.run();
  }

  private run(): void {
    const level = this.physics.levelOf(this.item);
    if (!this.hearing || level === undefined) return;
    const from = Math.max(FIRST_S, this.hearing.seconds + AFTER_S);
    this.runsUntil = from + RUNS_S;
    this.hearing.add({ kind: 'rush', from, to: this.runsUntil, level, rampS: RAMP_S });
  }

  /** Lines of what it heard since it was asked last. */
  lines(): string[] {
    const { hearing, random } = this;
    if (!hearing) return [];
    const { sampleRate, dropoutsPerHour } = this.physics;
    const late = this.now() - this.begun - hearing.seconds;
    if (late > MOST_LATE_S) this.begun += late - MOST_LATE_S;
    const found: string[] = [];
    while (hearing.seconds + LINE_SAMPLES / sampleRate <= this.now() - this.begun) {
      if (random.unit() < (dropoutsPerHour * LINE_SAMPLES) / sampleRate / 3600)
        this.silentUntil = hearing.seconds + DROPOUT_S;
      const samples = hearing.next(LINE_SAMPLES);
      if (hearing.seconds <= this.silentUntil) samples.fill(0);
      const squares = samples.reduce((sum, sample) => sum + sample * sample, 0);
      this.recent = [...this.recent, squares].slice(-SHOWN_LINES);
      found.push(`PCM ${Buffer.from(pcm16(samples)).toString('base64')}`);
    }
    return found;
  }
}
