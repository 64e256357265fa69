import { EventEmitter } from 'node:events';
import type { InstrumentReading, InstrumentState } from '../../core/model/instrument.ts';
import { type InstrumentAddress, InstrumentConnection, instrumentId } from './connection.ts';

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '::1']);
const MOST_INSTRUMENTS = 32;

export class NotAllowed extends Error {}

interface Events {
  changed: [InstrumentState];
  triggered: [InstrumentReading];
  removed: [string];
}

/**
 * Reads "host:port, host:port"; the host may be left out for this machine.
 * @throws RangeError that names the part that is no address
 */
export function parseAddresses(text: string): InstrumentAddress[] {
  return text
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .map((part) => {
      const found = /^(?:(.+):)?(\d{1,5})$/.exec(part);
      const port = Number(found?.[2]);
      if (!found || port < 1 || port > 65535)
        throw new RangeError(`“${part}” is no address of the form host:port.`);
      return { host: (found[1] ?? '127.0.0.1').replace(/^\[(.*)\]$/, '$1'), port };
    });
}

/** All instruments that this server is connected to; only addresses that are allowed. */
export class InstrumentDriver extends EventEmitter<Events> {
  private readonly connections = new Map<string, InstrumentConnection>();
  private onBench: { item: string; level: number | null } | undefined;

  /** @param allowed addresses beyond this machine's own that may be connected to */
  constructor(private readonly allowed: readonly InstrumentAddress[] = []) {
    super();
    this.setMaxListeners(100);
  }

  list(): InstrumentState[] {
    return [...this.connections.values()].map(({ state }) => state);
  }

  /** Connects, or finds the connection that is there already. */
  connect(address: InstrumentAddress): InstrumentState {
    const id = instrumentId(address);
    const known = this.connections.get(id);
    if (known) return known.state;
    if (!LOOPBACK.has(address.host) && !this.allowed.some((permitted) => instrumentId(permitted) === id)) {
      throw new NotAllowed(
        `${id} is not on the list of allowed addresses. Whoever runs the server can put it there (BRACKENRIDGE_INSTRUMENTS).`,
      );
    }
    if (this.connections.size >= MOST_INSTRUMENTS) {
      throw new NotAllowed(`At most ${String(MOST_INSTRUMENTS)} instruments can be connected at a time.`);
    }
    const connection = new InstrumentConnection(address);
    this.connections.set(id, connection);
    let before: InstrumentState['state'] = 'connecting';
    connection.on('changed', (state) => {
      // One that has come back has forgotten what lies on the bench.
      if (state.state === 'ready' && before !== 'ready' && this.onBench) {
        connection.tellItem(this.onBench.item, this.onBench.level);
      }
      before = state.state;
      this.emit('changed', state);
    });
    connection.on('triggered', (reading) => this.emit('triggered', reading));
    return connection.state;
  }

  connection(id: string): InstrumentConnection | undefined {
    return this.connections.get(id);
  }

  remove(id: string): boolean {
    const connection = this.connections.get(id);
    if (!connection) return false;
    connection.close();
    this.connections.delete(id);
    this.emit('removed', id);
    return true;
  }

  /** Tells every stand-in what is on the bench. */
  tellItem(item: string, level: number | null): void {
    this.onBench = { item, level };
    for (const connection of this.connections.values()) connection.tellItem(item, level);
  }

  close(): void {
    for (const id of [...this.connections.keys()]) this.remove(id);
    this.removeAllListeners();
  }
}
