import { type AddressInfo, type Server, type Socket, createServer } from 'node:net';
import type { StandIn } from './stand-in.ts';

/** Longer lines than this are no command. */
const LONGEST_LINE = 1000;

/** What a recorder hears is sent so often, ms. */
const SOUND_MS = 50;

export interface Served {
  port: number;
  /** Presses the instrument's own button: every connection is sent a triggered reading. */
  trigger: () => void;
  close: () => Promise<void>;
}

/** Lets a stand-in listen on a loopback port; 0 takes any free one. */
export async function serveStandIn(standIn: StandIn, port: number): Promise<Served> {
  const sockets = new Set<Socket>();
  const server: Server = createServer((socket) => {
    sockets.add(socket);
    socket.setEncoding('utf8');
    socket.on('error', () => socket.destroy());
    socket.on('close', () => sockets.delete(socket));
    let held = '';
    const send = (lines: readonly string[]) => {
      if (lines.length > 0 && socket.writable) socket.write(`${lines.join('\n')}\n`);
    };
    socket.on('data', (text: string) => {
      held += text;
      const lines = held.split(/\r?\n/);
      held = lines.pop() ?? '';
      for (const line of lines) send(standIn.answer(line));
      if (held.length > LONGEST_LINE) socket.destroy();
    });
  });
  const timer = setInterval(() => {
    if (!standIn.streaming) return;
    const lines = standIn.stream();
    for (const socket of sockets) if (socket.writable) socket.write(`${lines.join('\n')}\n`);
  }, standIn.model.periodS * 1000);
  const hearing = setInterval(() => {
    const lines = standIn.sound?.lines() ?? [];
    if (lines.length === 0) return;
    for (const socket of sockets) if (socket.writable) socket.write(`${lines.join('\n')}\n`);
  }, SOUND_MS);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return {
    port: (server.address() as AddressInfo).port,
    trigger: () => {
      const [line] = standIn.answer('TRIG');
      for (const socket of sockets) if (socket.writable) socket.write(`${line ?? ''}\n`);
    },
    close: () =>
      new Promise((resolve) => {
        clearInterval(timer);
        clearInterval(hearing);
        server.close(() => {
          resolve();
        });
        for (const socket of sockets) socket.destroy();
      }),
  };
}
