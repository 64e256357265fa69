import { seededRandom } from '../core/random/seeded.ts';
import { LiveSound } from './live-sound.ts';
import { type Model, display, sense } from './meter.ts';

/** SCPI-1999's number for "not a number": a reading that came to nothing. */
export const NO_READING = '9.91E37';
const MOST_ERRORS = 20;
const LONGEST_ITEM = 120;

/**
 * One simulated instrument that answers text commands line by line, as IEEE 488.2 and SCPI-1999 have them (*IDN?,
 * *RST, *CLS, MEAS?, READ?, CONF?, SYST:ERR?), and a few of its own: BENCH:ITEM and BENCH:LEV tell it what is on the
 * bench, STRM ON|OFF lets it send readings by itself, TRIG presses its own button; PCM ON|OFF lets a recorder send what
 * it hears.
 */
export class StandIn {
  readonly model: Model;
  /** Where it can send sound. */
  readonly sound: LiveSound | undefined;
  streaming = false;
  private readonly random;
  private readonly now: () => number;
  private errors: string[] = [];
  private item = '';
  private level: number | undefined;
  private onAt: number;
  private itemAt: number;

  /** @param now the time in seconds, from any origin */
  constructor(model: Model, seed: number, now: () => number = () => performance.now() / 1000) {
    this.model = model;
    this.random = seededRandom(seed);
    this.now = now;
    this.sound = model.sound && new LiveSound(model.sound, this.random, now);
    this.onAt = now();
    this.itemAt = now();
  }

  /** A reading as it is shown now; NO_READING for a dropout. */
  show(): string {
    const { physics } = this.model;
    const { item, level, random, sound } = this;
    if (sound?.level !== undefined) return display(sound.level, physics.resolution);
    const now = this.now();
    const value = sense(physics, { item, level, random, onS: now - this.onAt, itemS: now - this.itemAt });
    return value === undefined ? NO_READING : display(value, physics.resolution);
  }

  /** Lines that it sends by itself in one period; a double trigger sends its reading twice. */
  stream(): string[] {
    const line = `VAL ${this.show()}`;
    return this.random.unit() < (this.model.physics.doubles ?? 0) ? [line, line] : [line];
  }

  /** @returns lines to send back; none for a command that is no question */
  answer(command: string): string[] {
    const [head = '', ...rest] = command.trim().split(/\s+/);
    if (head === '') return [];
    const argument = rest.join(' ').replace(/^"(.*)"$/, '$1');
    const { physics, unit, identity, sound } = this.model;
    switch (head.toUpperCase()) {
      case '*IDN?':
        return [identity];
      case '*OPC?':
        return ['1'];
      case '*RST':
        this.onAt = this.now();
        this.streaming = false;
        this.sound?.end();
        return [];
      case '*CLS':
        this.errors = [];
        return [];
      case 'MEAS?':
      case 'READ?':
        return [this.show()];
      case 'CONF?':
        return [`"${unit}",${String(physics.resolution)}${sound ? `,${String(sound.sampleRate)},1` : ''}`];
      case 'SYST:ERR?':
        return [this.errors.shift() ?? '0,"No error"'];
      case 'BENCH:ITEM':
        if (argument.length > LONGEST_ITEM) return this.fail('-223,"Too much data"');
        if (argument !== this.item) this.itemAt = this.now();
        this.item = argument;
        this.sound?.put(argument);
        return [];
      case 'BENCH:ITEM?':
        return [`"${this.item}"`];
      case 'BENCH:LEV':
        if (argument === '') this.level = undefined;
        else if (!Number.isFinite(Number(argument))) return this.fail('-104,"Data type error"');
        else this.level = Number(argument);
        return [];
      case 'STRM':
        if (!/^(on|off|1|0)$/i.test(argument)) return this.fail('-104,"Data type error"');
        this.streaming = /^(on|1)$/i.test(argument);
        return [];
      case 'PCM':
        if (!this.sound) return this.fail('-113,"Undefined header"');
        if (!/^(on|off|1|0)$/i.test(argument)) return this.fail('-104,"Data type error"');
        if (!/^(on|1)$/i.test(argument)) this.sound.end();
        else if (!this.sound.running) this.sound.begin();
        return [];
      case 'TRIG':
        return [`TRIG ${this.show()}`];
      default:
        return this.fail('-113,"Undefined header"');
    }
  }

  /** Remembers an error for SYST:ERR?; a full list keeps the oldest, as SCPI-1999 21.8 says. */
  private fail(error: string): string[] {
    if (this.errors.length < MOST_ERRORS) this.errors.push(error);
    else this.errors[MOST_ERRORS - 1] = '-350,"Queue overflow"';
    return [];
  }
}
