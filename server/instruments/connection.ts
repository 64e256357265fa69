import { EventEmitter } from 'node:events';
import { Socket } from 'node:net';
import { isReadable } from '../../core/formats/wav.ts';
import type { InstrumentReading, InstrumentState } from '../../core/model/instrument.ts';
import { quoted } from '../../core/quantity/format.ts';

/** Longer answers than this are not those of an instrument; the connection is dropped. */
const LONGEST_LINE = 4096;
/** An answer must come within this time, ms. */
export const ANSWER_MS = 2000;
/** Between two looks at the display, ms. */
export const LOOK_MS = 500;
/** More lines than this in a second are no instrument's; the connection is dropped. */
const MOST_LINES = 200;
/** The same reading triggered again so soon is a contact that bounces, ms. */
const BOUNCE_MS = 250;
const FIRST_RETRY_MS = 500;
const LONGEST_RETRY_MS = 8000;
/** SCPI-1999's "not a number" and anything as large as it: the reading came to nothing. */
const NO_READING = 9.9e37;
const NUMBER = /^[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+)?$/i;

export interface InstrumentAddress {
  host: string;
  port: number;
}

interface Events {
  changed: [InstrumentState];
  triggered: [InstrumentReading];
  /** What it hears: samples of 16 bits, channel by channel, lowest byte first. */
  heard: [Buffer];
}

export class InstrumentProblem extends Error {}

interface Waiting {
  resolve: (line: string) => void;
  reject: (error: Error) => void;
}

export const instrumentId = ({ host, port }: InstrumentAddress): string => `${host}:${String(port)}`;

/** The number that an instrument wrote, as text; undefined for a dropout or for anything that is no number. */
export function readingText(line: string): string | undefined {
  const text = line.trim();
  return NUMBER.test(text) && Math.abs(Number(text)) < NO_READING ? text : undefined;
}

/**
 * One instrument that speaks SCPI over TCP: connects, identifies it, looks at its display, and connects again when
 * it is gone. Questions are asked one after the other; what comes unasked (a trigger) is told as an event.
 */
export class InstrumentConnection extends EventEmitter<Events> {
  private current: InstrumentState;
  private socket: Socket | undefined;
  private held = '';
  private waiting: Waiting | undefined;
  private asking: Promise<unknown> = Promise.resolve();
  /** One at a time: until it has to be connected, to the next look, or to the next try. */
  private timer: ReturnType<typeof setTimeout> | undefined;
  private retryMs = FIRST_RETRY_MS;
  private closed = false;
  /** When the second began in which lines are counted, and how many came in it. */
  private second = 0;
  private lines = 0;
  /** What was triggered last, and when. */
  private lastTrigger: { text: string; ms: number } | undefined;

  constructor(private readonly address: InstrumentAddress) {
    super();
    this.current = {
      id: instrumentId(address),
      ...address,
      state: 'connecting',
      title: '',
      unit: '',
      resolution: null,
      sound: null,
      shown: null,
      problem: null,
    };
    this.connect();
  }

  get state(): InstrumentState {
    return this.current;
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.timer);
    this.drop(undefined);
    this.removeAllListeners();
  }

  /** Takes one reading now. */
  async read(): Promise<InstrumentReading> {
    if (this.current.state !== 'ready') {
      throw new InstrumentProblem(this.current.problem ?? 'The instrument is not connected.');
    }
    const line = await this.ask('READ?');
    const text = readingText(line);
    if (text === undefined) throw new InstrumentProblem(this.nothingIn(line));
    this.set({ shown: text });
    return { id: this.current.id, text, unit: this.current.unit };
  }

  /** Tells a stand-in what is on the bench; an instrument that does not know the command keeps an error and no more. */
  tellItem(item: string, level: number | null): void {
    if (this.current.state !== 'ready') return;
    const quiet = item.replace(/[\r\n"]/g, ' ').slice(0, 120);
    this.socket?.write(`BENCH:ITEM "${quiet}"\nBENCH:LEV${level === null ? '' : ` ${String(level)}`}\n`);
  }

  /** Lets one that hears send what it hears, or no more. */
  record(on: boolean): void {
    if (this.current.state === 'ready') this.socket?.write(`PCM ${on ? 'ON' : 'OFF'}\n`);
  }

  private nothingIn(line: string): string {
    return Math.abs(Number(line)) >= NO_READING
      ? 'The instrument shows nothing just now.'
      : `${quoted(line)} is no reading.`;
  }

  private set(change: Partial<InstrumentState>): void {
    const next = { ...this.current, ...change };
    if (JSON.stringify(next) === JSON.stringify(this.current)) return;
    this.current = next;
    this.emit('changed', next);
  }

  private connect(): void {
    const socket = new Socket();
    this.socket = socket;
    this.held = '';
    socket.setEncoding('utf8');
    socket.setTimeout(0);
    socket.on('data', (text: string) => {
      this.take(text);
    });
    socket.on('error', () => {
      this.drop('It does not answer at this address.');
    });
    socket.on('close', () => {
      if (this.socket === socket) this.drop('It went away.');
    });
    this.timer = setTimeout(() => {
      this.drop('It does not answer at this address.');
    }, ANSWER_MS);
    socket.connect(this.address.port, this.address.host, () => {
      clearTimeout(this.timer);
      void this.identify();
    });
  }

  private async identify(): Promise<void> {
    try {
      const identity = await this.ask('*IDN?');
      const [, model = ''] = identity.split(',');
      const configured = /^"([^"]*)",([^,]*)(?:,(\d{4,6}),(\d))?$/.exec(await this.ask('CONF?'));
      const [resolution, sampleRate, channels] = [2, 3, 4].map((group) => Number(configured?.[group])) as [
        number,
        number,
        number,
      ];
      this.retryMs = FIRST_RETRY_MS;
      this.set({
        state: 'ready',
        title: (model.trim() || identity).slice(0, 120),
        unit: (configured?.[1] ?? '').slice(0, 40),
        resolution: Number.isFinite(resolution) && resolution > 0 ? resolution : null,
        // What could not be read afterwards is not recorded.
        sound: isReadable({ sampleRate, channels }) ? { sampleRate, channels } : null,
        problem: null,
      });
      this.look();
    } catch (error) {
      this.drop(error instanceof Error ? error.message : String(error));
    }
  }

  /** Looks at the display again and again, so that the page shows what the instrument shows. */
  private look(): void {
    this.timer = setTimeout(() => {
      this.ask('READ?').then(
        (line) => {
          const text = readingText(line);
          this.set({ shown: text ?? null, problem: text === undefined ? this.nothingIn(line) : null });
          this.look();
        },
        (error: unknown) => {
          this.drop(error instanceof Error ? error.message : String(error));
        },
      );
    }, LOOK_MS);
  }

  /** Asks one question and waits for one line; questions wait for one another. */
  private ask(question: string): Promise<string> {
    const next = this.asking
      .catch(() => undefined)
      .then(
        () =>
          new Promise<string>((resolve, reject) => {
            const { socket } = this;
            if (!socket?.writable) {
              reject(new InstrumentProblem('It went away.'));
              return;
            }
            // An answer that comes too late would be taken for that to the next question.
            const patience = setTimeout(() => {
              this.drop(`It did not answer ${question} within ${String(ANSWER_MS / 1000)} s.`);
            }, ANSWER_MS);
            const settled = <T>(then: (value: T) => void) => {
              return (value: T) => {
                clearTimeout(patience);
                this.waiting = undefined;
                then(value);
              };
            };
            this.waiting = { resolve: settled(resolve), reject: settled(reject) };
            socket.write(`${question}\n`);
          }),
      );
    this.asking = next.catch(() => undefined);
    return next;
  }

  private take(text: string): void {
    this.held += text;
    const lines = this.held.split(/\r?\n/);
    this.held = lines.pop() ?? '';
    if (this.held.length > LONGEST_LINE) {
      this.drop('It sends without end and without a line break.');
      return;
    }
    if (lines.length === 0) return;
    const now = Date.now();
    if (now - this.second > 1000) [this.second, this.lines] = [now, 0];
    this.lines += lines.length;
    if (this.lines > MOST_LINES) {
      this.drop(`It sends more than ${String(MOST_LINES)} lines in a second.`);
      return;
    }
    for (const line of lines) this.takeLine(line);
  }

  private takeLine(line: string): void {
    const [head = '', value = ''] = line.split(' ', 2);
    if (head === 'TRIG' || head === 'VAL') {
      const shown = readingText(value);
      if (head === 'VAL') this.set({ shown: shown ?? null });
      else if (shown !== undefined && !this.bounces(shown)) {
        this.emit('triggered', { id: this.current.id, text: shown, unit: this.current.unit });
      }
      return;
    }
    if (head === 'PCM') this.emit('heard', Buffer.from(value, 'base64'));
    else this.waiting?.resolve(line);
  }

  /** Notes a trigger. @returns whether the same was triggered just now already */
  private bounces(text: string): boolean {
    const [before, ms] = [this.lastTrigger, Date.now()];
    this.lastTrigger = { text, ms };
    return before?.text === text && ms - before.ms < BOUNCE_MS;
  }

  /** Lets go of the connection, and tries again later. */
  private drop(problem: string | undefined): void {
    const { socket } = this;
    if (!socket) return;
    this.socket = undefined;
    clearTimeout(this.timer);
    socket.removeAllListeners();
    socket.on('error', () => undefined);
    socket.destroy();
    this.waiting?.reject(new InstrumentProblem(problem ?? 'The connection was closed.'));
    // Whoever listens hears of it, be it let go of.
    this.set({ state: 'away', shown: null, problem: problem ?? null });
    if (this.closed) return;
    this.timer = setTimeout(() => {
      this.connect();
    }, this.retryMs);
    this.retryMs = Math.min(this.retryMs * 2, LONGEST_RETRY_MS);
  }
}
