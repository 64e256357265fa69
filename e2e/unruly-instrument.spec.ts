import { type Server, type Socket, createServer } from 'node:net';
import { recordOf } from '../core/record/record.ts';
import { seededRandom } from '../core/random/seeded.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { type BenchServer, type Page, expect, readyStudy, test } from './bench-server.ts';

const ITEMS = ['Almo', 'Berrin', 'Castor'];

/**
 * An instrument that answers late, whose button bounces, and that goes away. It never shows the same twice, and what it
 * shows says which item was on the bench: 2.017 for the second of them.
 */
class UnrulyInstrument {
  private readonly sockets = new Set<Socket>();
  private readonly server: Server;
  private item = 0;
  private count = 0;
  /** How long it takes to answer, ms. */
  lateMs = 0;

  constructor() {
    this.server = createServer((socket) => {
      this.sockets.add(socket);
      socket.on('error', () => socket.destroy());
      socket.on('close', () => this.sockets.delete(socket));
      socket.setEncoding('utf8');
      socket.on('data', (text: string) => {
        for (const line of text.split('\n')) this.hear(line, socket);
      });
    });
  }

  listen(): Promise<number> {
    return new Promise((resolve) => {
      this.server.listen(0, '127.0.0.1', () => {
        resolve((this.server.address() as { port: number }).port);
      });
    });
  }

  /** Presses its button, the contact of which closes twice. */
  trigger(): void {
    const line = `TRIG ${this.show()}\n`;
    for (const socket of this.sockets) socket.write(line + line);
  }

  goAway(): void {
    for (const socket of this.sockets) socket.destroy();
  }

  close(): void {
    this.goAway();
    this.server.close();
  }

  private show(): string {
    this.count += 1;
    return (this.item + 1 + this.count / 1000).toFixed(3);
  }

  private hear(line: string, socket: Socket): void {
    const name = /^BENCH:ITEM "(.*)"$/.exec(line)?.[1];
    if (name !== undefined) this.item = Math.max(0, ITEMS.indexOf(name));
    const say = (text: string) => {
      if (socket.writable) socket.write(`${text}\n`);
    };
    if (line === '*IDN?') say('Bench,Unruly balance,1,1');
    else if (line === 'CONF?') say('"g",0.001');
    else if (line === 'READ?')
      setTimeout(() => {
        say(this.show());
      }, this.lateMs);
  }
}

/** One of the things that a hand or the instrument may do. */
const happens = async (page: Page, instrument: UnrulyInstrument, below: (most: number) => number) => {
  const key = (name: string) => () => page.keyboard.press(name);
  const take = key('i');
  const trigger = async () => {
    // Nobody presses the button while an item is being put on.
    await page.waitForTimeout(200);
    instrument.trigger();
    await page.waitForTimeout(below(2) * 150);
  };
  const type = async () => {
    await page.keyboard.type(['1.5', '2.5', '3.5'][below(3)] as string);
    await page.keyboard.press('Enter');
  };
  const all: (() => unknown)[] = [
    ...[take, take, take, trigger, trigger, type],
    ...['s', 'u', 'Enter', 'Escape'].map(key),
    () => {
      instrument.lateMs = [0, 300, 1200, 2500][below(4)] as number;
    },
    () => {
      instrument.goAway();
    },
    () => page.waitForTimeout(below(4) * 400),
  ];
  await all[below(all.length)]?.();
};

const documentOf = (server: BenchServer, id: string) => server.get<StudyDocument>(`/studies/${id}/document`);

test('what an unruly instrument shows goes to the item it was shown for, and once', async ({
  page,
  server,
}) => {
  test.slow();
  const instrument = new UnrulyInstrument();
  const port = await instrument.listen();
  try {
    const { id } = await readyStudy(server, undefined, 30);
    await server.post('/instruments', { host: '127.0.0.1', port });
    await page.goto(`${server.address}/study/${id}/bench`);
    await expect(page.getByText('Unruly balance')).toBeVisible();
    const random = seededRandom(2);
    for (let step = 0; step < 100; step += 1) {
      await happens(page, instrument, (most) => random.below(most));
      // A question is answered as often as not: it is so.
      if (random.below(2) === 0 && (await page.getByRole('button', { name: /Keep it/ }).isVisible()))
        await page.keyboard.press('Enter');
    }
    instrument.lateMs = 0;
    await page.keyboard.press('Escape');
    await page.reload();
    await expect(page.getByText('Everything is saved.')).toBeVisible();

    const document = await documentOf(server, id);
    const shown = recordOf(document).readings.filter(({ reading }) => reading.source === 'instrument');
    expect(shown.length).toBeGreaterThan(10);
    // What was undone may be recorded again: it is back in the entry.
    const standing = shown.filter((entry) => entry.standing.is !== 'withdrawn');
    const texts = standing.map(({ reading }) => reading.parts[0]?.text);
    expect(texts).toEqual([...new Set(texts)]);
    expect(shown.map(({ item, value }) => `${item.name} ${String(Math.floor(value ?? 0))}`)).toEqual(
      shown.map(({ item }) => `${item.name} ${String(ITEMS.indexOf(item.name) + 1)}`),
    );
  } finally {
    instrument.close();
  }
});
