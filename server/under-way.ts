import type { Context } from 'hono';
import type { Progress, Way } from './heavy/heavy.ts';
import { Problem } from './problems.ts';

/** How an asker names its own work. */
const NAME = /^[\w-]{8,64}$/;
/** More than this is not watched at a time; such work is done all the same. */
const MOST_WATCHED = 100;

/** Long work that askers watch. They give it a name as the query “under-way”, by which they ask how far it has come. */
export class UnderWay {
  private readonly known = new Map<string, Progress>();

  /** Does the work of a request, which is watched under its name and stopped when the asker goes away. */
  async watch<Done>(context: Context, work: (way: Way) => Promise<Done>): Promise<Done> {
    const { signal } = context.req.raw;
    const name = context.req.query('under-way');
    if (name === undefined) return work({ signal });
    if (!NAME.test(name)) {
      throw new Problem(400, 'Not a name', '“under-way” is 8 to 64 letters, figures and dashes.');
    }
    const { known } = this;
    if (known.size >= MOST_WATCHED) return work({ signal });
    known.set(name, { doing: 'Waiting', share: null });
    try {
      return await work({
        signal,
        say: (progress) => {
          known.set(name, progress);
        },
      });
    } finally {
      known.delete(name);
    }
  }

  /** How far work has come; null for what nobody began, or is over. */
  progress(name: string): Progress | null {
    return this.known.get(name) ?? null;
  }
}
