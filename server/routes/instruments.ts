import { Hono } from 'hono';
import Type from 'typebox';
import { closed, nullable } from '../../core/model/common.ts';
import { jsonBody } from '../body.ts';
import { type InstrumentConnection, InstrumentProblem } from '../instruments/connection.ts';
import { type InstrumentDriver, NotAllowed } from '../instruments/driver.ts';
import { Problem, invalid, notFound } from '../problems.ts';

const Address = Type.Object(
  {
    host: Type.String({ minLength: 1, maxLength: 255, pattern: '^[A-Za-z0-9.:_-]+$' }),
    port: Type.Integer({ minimum: 1, maximum: 65535 }),
  },
  closed,
);
const OnBench = Type.Object(
  { item: Type.String({ maxLength: 120 }), level: nullable(Type.Number()) },
  closed,
);

/** Instruments that are connected: list, connect, take a reading, let go; and what lies on the bench. */
export function instrumentRoutes(driver: InstrumentDriver): Hono {
  const routes = new Hono();
  const connection = (id: string): InstrumentConnection => {
    const found = driver.connection(id);
    if (!found) throw notFound('instrument');
    return found;
  };

  routes.get('/', (context) => context.json(driver.list()));

  routes.post('/', async (context) => {
    const { host, port } = (await jsonBody(context, Address)) as { host: string; port: number };
    try {
      return context.json(driver.connect({ host, port }), 201);
    } catch (error) {
      if (error instanceof NotAllowed) throw invalid([{ path: '/host', message: error.message }]);
      throw error;
    }
  });

  routes.put('/bench', async (context) => {
    const { item, level } = (await jsonBody(context, OnBench)) as { item: string; level: number | null };
    driver.tellItem(item, level);
    return context.body(null, 204);
  });

  routes.post('/:id/reading', async (context) => {
    const found = connection(context.req.param('id'));
    try {
      return context.json(await found.read());
    } catch (error) {
      if (error instanceof InstrumentProblem) throw new Problem(409, 'No reading', error.message);
      throw error;
    }
  });

  routes.delete('/:id', (context) => {
    if (!driver.remove(context.req.param('id'))) throw notFound('instrument');
    return context.body(null, 204);
  });

  return routes;
}
