import { type AddressInfo, type Server, type Socket, createServer } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { type Served, serveStandIn } from '../../instruments/serve.ts';
import { StandIn } from '../../instruments/stand-in.ts';
import { anemometer } from '../../instruments/stand-ins/anemometer.ts';
import type { InstrumentState } from '../../core/model/instrument.ts';
import { ANSWER_MS, InstrumentConnection, readingText } from './connection.ts';
import { InstrumentDriver, NotAllowed, parseAddresses } from './driver.ts';

const opened: { close: () => unknown }[] = [];
afterEach(async () => {
  for (const running of opened.splice(0)) await running.close();
});

const until = (connection: InstrumentConnection, wanted: (state: InstrumentState) => boolean) =>
  new Promise<InstrumentState>((resolve, reject) => {
    if (wanted(connection.state)) {
      resolve(connection.state);
      return;
    }
    const patience = setTimeout(() => {
      reject(new Error(JSON.stringify(connection.state)));
    }, 60_000);
    connection.on('changed', (state) => {
      if (!wanted(state)) return;
      clearTimeout(patience);
      resolve(state);
    });
  });

const connectTo = (port: number) => {
  const connection = new InstrumentConnection({ host: '127.0.0.1', port });
  opened.push(connection);
  return connection;
};

/** Something at a port that is no instrument, or a broken one. */
async function something(onConnection: (socket: Socket) => void): Promise<number> {
  const sockets = new Set<Socket>();
  const server: Server = createServer((socket) => {
    sockets.add(socket);
    socket.on('error', () => undefined);
    onConnection(socket);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  opened.push({
    close: () => {
      for (const socket of sockets) socket.destroy();
      server.close();
    },
  });
  return (server.address() as AddressInfo).port;
}

async function served(port = 0): Promise<Served & { standIn: StandIn }> {
  const standIn = new StandIn(anemometer, 7);
  const running = await serveStandIn(standIn, port);
  opened.push(running);
  return { ...running, standIn };
}

describe('the driver of the instruments', () => {
  it('connects, identifies, shows what the display shows, and reads on demand', async () => {
    const { port, standIn } = await served();
    const connection = connectTo(port);
    const ready = await until(connection, ({ state }) => state === 'ready');
    expect(ready).toMatchObject({ title: 'Vane anemometer stand-in', unit: 'm/s', resolution: 0.01 });
    expect((await until(connection, ({ shown }) => shown !== null)).shown).toMatch(/^-?\d+\.\d\d$/);
    connection.tellItem('Calvessa 2', null);
    await new Promise((resolve) => setTimeout(resolve, 100));
    const { text, unit } = await connection.read();
    expect(unit).toBe('m/s');
    expect(Number(text)).toBeGreaterThan(0.05);
    expect(standIn.answer('SYST:ERR?')).toEqual(['0,"No error"']);
  });
  it('tells a trigger that the instrument sends by itself', async () => {
    const running = await served();
    const connection = connectTo(running.port);
    await until(connection, ({ state }) => state === 'ready');
    const triggered = new Promise((resolve) => {
      connection.on('triggered', resolve);
    });
    running.trigger();
    expect(await triggered).toMatchObject({ unit: 'm/s' });
  });
  it('takes a contact that bounces for one reading', async () => {
    const sockets: Socket[] = [];
    const port = await something((socket) => {
      sockets.push(socket);
      socket.on('data', (data) => {
        socket.write(data.toString().includes('*IDN?') ? 'Maker,Gate,1,1\n' : '3.5\n');
      });
    });
    const connection = connectTo(port);
    await until(connection, ({ state }) => state === 'ready');
    const texts: string[] = [];
    connection.on('triggered', ({ text }) => texts.push(text));
    sockets[0]?.write('TRIG 1.25\nTRIG 1.25\nTRIG 1.31\n');
    await expect.poll(() => texts).toEqual(['1.25', '1.31']);
    await new Promise((resolve) => setTimeout(resolve, 300));
    sockets[0]?.write('TRIG 1.31\n');
    await expect.poll(() => texts).toEqual(['1.25', '1.31', '1.31']);
  });
  it('says that an instrument died, and takes it up again when it is back', async () => {
    const first = await served();
    const connection = connectTo(first.port);
    await until(connection, ({ state }) => state === 'ready');
    await first.close();
    const away = await until(connection, ({ state }) => state === 'away');
    expect(away.problem).toMatch(/went away|does not answer/);
    expect(away.shown).toBeNull();
    await expect(connection.read()).rejects.toThrow('It went away.');
    await served(first.port);
    expect((await until(connection, ({ state }) => state === 'ready')).problem).toBeNull();
  });
  it('stays connected to what came only after the first try', async () => {
    const early = await served();
    await early.close();
    const connection = connectTo(early.port);
    await until(connection, ({ state }) => state === 'away');
    await served(early.port);
    await until(connection, ({ state }) => state === 'ready');
    const states: string[] = [];
    connection.on('changed', ({ state }) => states.push(state));
    await new Promise((resolve) => setTimeout(resolve, ANSWER_MS));
    expect(new Set(states)).toEqual(new Set(['ready']));
  });
  it('does not come back once it is let go of', async () => {
    let calls = 0;
    const port = await something(() => {
      calls += 1;
    });
    const connection = connectTo(port);
    await expect.poll(() => calls).toBe(1);
    connection.close();
    // It would be tried again sooner.
    await new Promise((resolve) => setTimeout(resolve, 1500));
    expect(calls).toBe(1);
  });
  it('drops what sends a gigabyte without a line break, without keeping it', async () => {
    let sent = 0;
    const port = await something((socket) => {
      const chunk = 'x'.repeat(65536);
      const more = () => {
        while (socket.writable && sent < 1e9) {
          sent += chunk.length;
          if (!socket.write(chunk)) {
            socket.once('drain', more);
            return;
          }
        }
      };
      more();
    });
    const connection = connectTo(port);
    const away = await until(connection, ({ problem }) => problem !== null);
    expect(away.problem).toBe('It sends without end and without a line break.');
    expect(sent).toBeLessThan(1e8);
  });
  it('takes two hundred lines in a second, second after second, and drops what sends more', async () => {
    /** Answers what it is asked, and sends some lines more than once a second. */
    const chatty = (counts: readonly number[]) =>
      something((socket) => {
        socket.on('data', (data) => {
          socket.write(data.toString().includes('*IDN?') ? 'Maker,Chatty,1,1\n' : '3.5\n');
        });
        counts.forEach((count, i) => {
          const lines = Array.from({ length: count }, (_, line) => `TRIG ${String(line)}\n`).join('');
          const timer = setTimeout(() => socket.write(lines), 300 + 1200 * i);
          socket.once('close', () => {
            clearTimeout(timer);
          });
        });
      });
    const steady = connectTo(await chatty([80, 80, 80]));
    let heard = 0;
    steady.on('triggered', () => (heard += 1));
    await expect.poll(() => heard).toBe(240);
    expect(steady.state).toMatchObject({ state: 'ready', problem: null });
    const flood = connectTo(await chatty([250]));
    const away = await until(flood, ({ problem }) => problem !== null);
    expect(away.problem).toBe('It sends more than 200 lines in a second.');
  });
  it('shows what an instrument sends by itself, and says where it shows nothing or is not there', async () => {
    const asked: string[] = [];
    let answers = '9.91E37';
    const port = await something((socket) => {
      socket.on('data', (data) => {
        asked.push(...data.toString().trim().split('\n'));
        for (const line of data.toString().trim().split('\n')) {
          if (line === '*IDN?') socket.write('Maker, Meter 3 ,1,1\n');
          else if (line === 'CONF?') socket.write('"m/s",0.01,48000,9\n');
          else if (line === 'READ?') socket.write(`${answers}\n`);
        }
      });
    });
    const connection = connectTo(port);
    const ready = await until(connection, ({ problem }) => problem !== null);
    // Nine channels are more than what is recorded could be read of.
    expect(ready).toMatchObject({
      state: 'ready',
      title: 'Meter 3',
      unit: 'm/s',
      resolution: 0.01,
      sound: null,
    });
    expect(ready.problem).toBe('The instrument shows nothing just now.');
    await expect(connection.read()).rejects.toThrow('The instrument shows nothing just now.');
    answers = '3.25';
    expect(await connection.read()).toEqual({ id: connection.state.id, text: '3.25', unit: 'm/s' });
    connection.tellItem('Ama "one"\nBel', 2);
    connection.tellItem('x'.repeat(200), null);
    await expect.poll(() => asked.filter((line) => line.startsWith('BENCH')).length).toBe(4);
    expect(asked.filter((line) => line.startsWith('BENCH'))).toEqual([
      'BENCH:ITEM "Ama  one  Bel"',
      'BENCH:LEV 2',
      `BENCH:ITEM "${'x'.repeat(120)}"`,
      'BENCH:LEV',
    ]);
    connection.close();
    await expect(connection.read()).rejects.toThrow(/not connected|went away/);
    connection.tellItem('Cor', 1);
  });
  it('takes no late answer for that to the next question', async () => {
    let asked = 0;
    let done: Promise<unknown> = Promise.resolve();
    const port = await something((socket) => {
      /** Answers one question after the other, and is slow with the first reading. */
      const answer = async (line: string) => {
        if (line === '*IDN?') socket.write('Maker,Slow,1,1\n');
        else if (line === 'CONF?') socket.write('"g",0.1\n');
        else if (line === 'READ?') {
          asked += 1;
          const number = asked;
          if (number === 1) await new Promise((resolve) => setTimeout(resolve, ANSWER_MS + 200));
          if (socket.writable) socket.write(`${String(number)}\n`);
        }
      };
      socket.on('data', (data) => {
        for (const line of data.toString().trim().split('\n')) done = done.then(() => answer(line));
      });
    });
    const connection = connectTo(port);
    const shown: (string | null)[] = [];
    connection.on('changed', (state) => shown.push(state.shown));
    await until(connection, ({ state }) => state === 'ready');
    await expect(connection.read()).rejects.toThrow('It did not answer READ? within 2 s.');
    await until(connection, ({ shown: text }) => text !== null);
    expect(shown).not.toContain('1');
    expect((await connection.read()).text).toBe(String(asked));
  });
  it('gives up on what answers nothing, or half a line, and says so', async () => {
    for (const answer of ['', 'Brackenridge,Half a']) {
      const port = await something((socket) => {
        socket.on('data', () => {
          if (answer) socket.write(answer);
        });
      });
      const away = await until(connectTo(port), ({ problem }) => problem !== null);
      expect(away.problem).toBe('It did not answer *IDN? within 2 s.');
    }
  });
  it('shows no reading where garbage is answered, and stays connected', async () => {
    const port = await something((socket) => {
      socket.on('data', (data) => {
        if (data.toString().includes('*IDN?')) socket.write('No,Commas\u0000\n');
        else socket.write('3,02;;m/s\u0007\n');
      });
    });
    const connection = connectTo(port);
    const state = await until(connection, ({ problem }) => problem !== null);
    expect(state).toMatchObject({ state: 'ready', shown: null });
    expect(state.problem).toContain('is no reading');
    await expect(connection.read()).rejects.toThrow('is no reading');
  });
  it.each([
    ['3.02', '3.02'],
    [' -1.5E-3 ', '-1.5E-3'],
    ['9.91E37', undefined],
    ['-9.91E+37', undefined],
    ['1e999', undefined],
    ['NaN', undefined],
    ['3,02', undefined],
    ['3.02 m/s', undefined],
    ['', undefined],
  ])('takes %j for %j', (line, text) => {
    expect(readingText(line)).toBe(text);
  });
});

describe('the instruments that are connected', () => {
  it('are at most so many, each once, and are told what lies on the bench when they come', async () => {
    const driver = new InstrumentDriver();
    opened.push(driver);
    const heard: string[] = [];
    const port = await something((socket) => {
      socket.on('data', (data) => {
        heard.push(data.toString());
        if (data.toString().includes('*IDN?')) socket.write('Maker,Meter,1,1\n');
        else if (data.toString().includes('CONF?')) socket.write('"g",1\n');
      });
    });
    driver.tellItem('Ama', 3);
    const first = driver.connect({ host: '127.0.0.1', port });
    expect(driver.connect({ host: '127.0.0.1', port }).id).toBe(first.id);
    await expect.poll(() => heard.join('')).toContain('BENCH:ITEM "Ama"\nBENCH:LEV 3\n');
    // What does not answer is one of them too.
    while (driver.list().length < 32)
      driver.connect({ host: '127.0.0.1', port: await something(() => undefined) });
    expect(() => driver.connect({ host: '127.0.0.1', port: 64000 })).toThrow(
      'At most 32 instruments can be connected at a time.',
    );
    expect(() => driver.connect({ host: '192.0.2.1', port: 5025 })).toThrow(NotAllowed);
    expect(driver.remove('none')).toBe(false);
    expect(driver.remove(first.id)).toBe(true);
    expect(driver.list()).toHaveLength(31);
    expect(driver.connection(first.id)).toBeUndefined();
  });
});

describe('the list of allowed addresses', () => {
  it('lets this machine in, and others only by name', () => {
    const driver = new InstrumentDriver(parseAddresses('bench-pi:5025'));
    opened.push(driver);
    expect(() => driver.connect({ host: '192.0.2.7', port: 5025 })).toThrow(NotAllowed);
    expect(() => driver.connect({ host: 'bench-pi', port: 5026 })).toThrow(NotAllowed);
    expect(driver.connect({ host: '127.0.0.1', port: 1 }).state).toBe('connecting');
    expect(driver.connect({ host: '127.0.0.1', port: 1 }).id).toBe('127.0.0.1:1');
    expect(driver.list()).toHaveLength(1);
    expect(driver.remove('127.0.0.1:1')).toBe(true);
    expect(driver.remove('127.0.0.1:1')).toBe(false);
  });
  it('is read from text, and refuses what is no address', () => {
    expect(parseAddresses('5025, bench-pi:5026,[::1]:5027,')).toEqual([
      { host: '127.0.0.1', port: 5025 },
      { host: 'bench-pi', port: 5026 },
      { host: '::1', port: 5027 },
    ]);
    expect(parseAddresses('1, 65535').map(({ port }) => port)).toEqual([1, 65535]);
    for (const wrong of ['bench-pi', '127.0.0.1:0', 'x:65536', 'x:99999', ':5']) {
      expect(() => parseAddresses(wrong)).toThrow(wrong);
    }
  });
});
