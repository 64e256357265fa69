import { parseArgs } from 'node:util';
import { serveStandIn } from './serve.ts';
import { StandIn } from './stand-in.ts';
import { STAND_INS } from './stand-ins/index.ts';

const FIRST_PORT = 5025;

const { values } = parseArgs({
  options: {
    port: { type: 'string' },
    seed: { type: 'string' },
    only: { type: 'string' },
    list: { type: 'boolean' },
  },
});
const first = Number(values.port ?? FIRST_PORT);
const seed = Number(values.seed ?? 1);
if (!Number.isInteger(first) || first < 1024 || first + STAND_INS.length > 65535 || !Number.isInteger(seed)) {
  console.error('Give --port a number from 1024 on, and --seed a whole number.');
  process.exit(2);
}

for (const [i, model] of STAND_INS.entries()) {
  if (values.only !== undefined && values.only !== model.name) continue;
  if (values.list) {
    console.log(`127.0.0.1:${String(first + i)}`);
    continue;
  }
  try {
    const { port } = await serveStandIn(new StandIn(model, seed + i), first + i);
    console.log(`${model.title} (simulated) listens at 127.0.0.1:${String(port)}`);
  } catch {
    console.error(`${model.title}: port ${String(first + i)} is taken.`);
    process.exitCode = 1;
  }
}
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => process.exit(0));
}
