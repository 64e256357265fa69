import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { v7 } from 'uuid';
import type { Decision, NotePart, Reading, Session } from '../../../core/model/parts.ts';
import { TEXT_LIMIT } from '../../../core/model/limits.ts';
import { Refusal, ServerAway, request } from './client.ts';
import { mergeLists } from './merge-lists.ts';

export type OutgoingKind = 'readings' | 'decisions' | 'sessions' | 'notes';
export type OutgoingPart = Reading | Decision | Session | NotePart;

/** Something of the bench on its way to the server: a new part, or a change of one. */
export interface Outgoing {
  /** Place in the queue, given by the browser's store. */
  seq?: number;
  /** Tells entries apart; several may be about one part. */
  key: string;
  kind: OutgoingKind;
  part: OutgoingPart;
  /** Fields that are changed of a part that is there already, as they were before; without, the part is new. */
  before?: Readonly<Record<string, unknown>>;
  /** A picture that must be there before the note that shows it. */
  photo?: Blob;
  /** Why the server refused it for good; then it stays until the tester says what to do. */
  refused?: string;
}

export interface OutboxState {
  entries: readonly Outgoing[];
  /** sending: on its way; away: the server cannot be reached, it is tried again; broken: the browser cannot store. */
  status: 'idle' | 'sending' | 'away' | 'broken';
  /** Why the server that is there records nothing, such as a full disk. */
  why?: string | undefined;
}

/** What one tab tells the others when the server has acknowledged a part. */
interface Recorded {
  key: string;
  kind: OutgoingKind;
  part: OutgoingPart;
}

interface Schema extends DBSchema {
  entries: { key: number; value: Outgoing };
}

const DATABASE = 'brackenridge-outbox';
/** Fields in which a tester writes freely. */
const TEXTS: ReadonlySet<string> = new Set(['text', 'note']);
const LOCK = 'brackenridge-outbox-sender';

/** The part as the server takes it: without the stamps that the server sets. */
function bodyOf({ part }: Outgoing): unknown {
  const { studyId: _study, version: _version, createdAt: _created, updatedAt: _updated, ...body } = part;
  return body;
}

/**
 * Sends a change by version. What another tab changed in the meantime stays where this one did not touch it, and what
 * it put into a list stays in it.
 */
async function change({
  kind,
  part,
  before,
}: Outgoing & Required<Pick<Outgoing, 'before'>>): Promise<OutgoingPart> {
  const ours = Object.entries(part).filter(([name]) => name in before);
  const send = (version: number, fields: [string, unknown][]) =>
    request<OutgoingPart>('PATCH', `/studies/${part.studyId}/${kind}/${part.id}`, {
      version,
      ...Object.fromEntries(fields),
    });
  try {
    return await send(part.version, ours);
  } catch (error) {
    if (!(error instanceof Refusal) || error.status !== 409 || !error.current) throw error;
    const theirs = error.current as Record<string, unknown>;
    const merged = ours.map(([name, value]): [string, unknown] => {
      const [was, is] = [before[name], theirs[name]];
      if (Array.isArray(was) && Array.isArray(value) && Array.isArray(is)) {
        return [name, mergeLists(was, value, is)];
      }
      // A text that was written on two pages keeps what both wrote.
      const both =
        TEXTS.has(name) && typeof value === 'string' && typeof is === 'string' && is !== was && is !== value;
      return [name, both && is !== '' && value !== '' ? `${is}\n${value}`.slice(0, TEXT_LIMIT) : value];
    });
    return send((theirs as unknown as OutgoingPart).version, merged);
  }
}

async function deliver(entry: Outgoing): Promise<OutgoingPart> {
  const { part, kind, photo, before } = entry;
  if (before) return change({ ...entry, before });
  if (photo) {
    const { name } = await request<{ name: string }>('POST', '/photos', photo, photo.type);
    return request('POST', `/studies/${part.studyId}/${kind}`, {
      ...(bodyOf(entry) as object),
      photo: name,
    });
  }
  return request('POST', `/studies/${part.studyId}/${kind}`, bodyOf(entry));
}

/**
 * What the bench records, on its way to the server. Each is in IndexedDB before it is shown as held, is sent in
 * order by one tab at a time, and leaves the store only once the server has said that it is on disk. Ids are made
 * here, so that a repeated request records nothing twice.
 */
export class Outbox {
  private state: OutboxState = { entries: [], status: 'idle' };
  private readonly listeners = new Set<() => void>();
  private database: Promise<IDBPDatabase<Schema>> | undefined;
  private readonly channel = new BroadcastChannel(DATABASE);
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sending = false;
  private delay = 500;
  private stopped = false;
  private reloaded: Promise<void> = Promise.resolve();
  private readonly onOnline = () => void this.send();
  /** Is told of every part that the server has acknowledged, before it leaves the outbox. */
  onRecorded: (kind: OutgoingKind, part: OutgoingPart) => void = () => undefined;

  start(): void {
    void this.reload().then(() => this.send());
    this.channel.onmessage = ({ data }: MessageEvent<Recorded | 'changed'>) => {
      // Another tab has had it recorded: this one must show it as such, and not as gone.
      if (data !== 'changed') this.settle(data);
      void this.reload().then(() => this.send());
    };
    globalThis.addEventListener('online', this.onOnline);
  }

  /** Sends nothing any more; what is stored stays stored. */
  stop(): void {
    this.stopped = true;
    clearTimeout(this.timer);
    this.channel.close();
    globalThis.removeEventListener('online', this.onOnline);
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): OutboxState => this.state;

  /** Holds parts, in order; resolves when they are stored in this browser. */
  async add(added: readonly Omit<Outgoing, 'seq' | 'key'>[]): Promise<void> {
    const entries = added.map((entry): Outgoing => ({ ...entry, key: v7() }));
    // Shown at once; the store follows within a few milliseconds.
    this.set({ entries: [...this.state.entries, ...entries] });
    try {
      const database = await this.open();
      const transaction = database.transaction('entries', 'readwrite', { durability: 'strict' });
      for (const entry of entries) await transaction.store.add(entry);
      await transaction.done;
    } catch {
      this.set({ status: 'broken' });
      await this.sendUnstored(entries);
      return;
    }
    await this.reload();
    if (!this.stopped) this.channel.postMessage('changed');
    void this.send();
  }

  /** Where the browser cannot store, the server is the only chance; what it does not take stays on the screen. */
  private async sendUnstored(entries: readonly Outgoing[]): Promise<void> {
    for (const entry of entries) {
      try {
        this.settle({ key: entry.key, kind: entry.kind, part: await deliver(entry) });
      } catch {
        return;
      }
    }
  }

  /** The server has a part: it is shown as recorded and leaves what is shown as on its way. */
  private settle({ key, kind, part }: Recorded): void {
    this.onRecorded(kind, part);
    this.set({ entries: this.state.entries.filter((entry) => entry.key !== key) });
  }

  /** Tries refused entries once more. */
  async retryRefused(): Promise<void> {
    const database = await this.open();
    const transaction = database.transaction('entries', 'readwrite');
    for (const entry of await transaction.store.getAll()) {
      const { refused, ...rest } = entry;
      if (refused !== undefined) await transaction.store.put(rest);
    }
    await transaction.done;
    await this.reload();
    void this.send();
  }

  /** Forgets refused entries, on the tester's word. */
  async discardRefused(): Promise<void> {
    const database = await this.open();
    const transaction = database.transaction('entries', 'readwrite');
    for (const entry of await transaction.store.getAll()) {
      if (entry.refused !== undefined) await transaction.store.delete(entry.seq as number);
    }
    await transaction.done;
    await this.reload();
    this.channel.postMessage('changed');
  }

  private set(change: Partial<OutboxState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }

  private open(): Promise<IDBPDatabase<Schema>> {
    this.database ??= openDB<Schema>(DATABASE, 1, {
      upgrade(database) {
        database.createObjectStore('entries', { keyPath: 'seq', autoIncrement: true });
      },
    }).catch((error: unknown) => {
      // A store that could not be opened now may be opened later.
      this.database = undefined;
      throw error;
    });
    return this.database;
  }

  /** Reads the store again; one after the other, so that an older look never overwrites a newer one. */
  private reload(): Promise<void> {
    this.reloaded = this.reloaded.then(() => this.look());
    return this.reloaded;
  }

  private async look(): Promise<void> {
    try {
      const stored = await (await this.open()).getAll('entries');
      const known = new Set(stored.map(({ key }) => key));
      // What was added and is not stored yet must not vanish from the screen.
      const fresh = this.state.entries.filter(({ key, seq }) => seq === undefined && !known.has(key));
      this.set({ entries: [...stored, ...fresh] });
    } catch {
      this.set({ status: 'broken' });
    }
  }

  private async send(): Promise<void> {
    if (this.sending || this.stopped) return;
    this.sending = true;
    clearTimeout(this.timer);
    try {
      await navigator.locks.request(LOCK, async () => {
        for (;;) {
          const database = await this.open();
          const next = (await database.getAll('entries')).find(({ refused }) => refused === undefined);
          if (!next) break;
          if (this.state.status !== 'away') this.set({ status: 'sending' });
          try {
            const { key, kind } = next;
            const recorded: Recorded = { key, kind, part: await deliver(next) };
            await database.delete('entries', next.seq as number);
            this.settle(recorded);
            this.channel.postMessage(recorded);
            this.delay = 500;
          } catch (error) {
            if (!(error instanceof Refusal) || error.status >= 500) throw error;
            await database.put('entries', { ...next, refused: error.errors[0]?.message ?? error.detail });
          }
          await this.reload();
          if (this.state.status !== 'sending') this.set({ status: 'sending' });
        }
      });
      this.set({ status: 'idle', why: undefined });
      this.sending = false;
      // Something may have been added between the last look and the release of the lock.
      if (this.state.entries.some(({ refused, seq }) => refused === undefined && seq !== undefined))
        void this.send();
    } catch (error) {
      const answered = error instanceof ServerAway || error instanceof Refusal;
      this.set({
        status: answered ? 'away' : 'broken',
        why: error instanceof Refusal ? error.detail : undefined,
      });
      this.sending = false;
      this.timer = setTimeout(() => void this.send(), this.delay);
      this.delay = Math.min(this.delay * 2, 8000);
    }
  }
}

export const outbox = new Outbox();
