import { createHash } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { Hono } from 'hono';
import pLimit from 'p-limit';
import {
  MOST_BYTES,
  MOST_PIXELS,
  PictureProblem,
  pictureHead,
  withoutPlace,
} from '../../core/formats/picture.ts';
import { limitedBody } from '../body.ts';
import { isThere, writeWhole } from '../kept.ts';
import { Problem, notFound } from '../problems.ts';

/** Pictures that are drawn at a time; others wait. */
const AT_A_TIME = 2;
const TYPES = { jpg: 'image/jpeg', png: 'image/png', webp: 'image/webp' } as const;
/** Width of the pictures that pages show, px. */
const SHOWN_WIDTH = 960;

const shownFile = (folder: string, hash: string): string => path.join(folder, `${hash}.shown.webp`);

/** What is kept of a photo. @throws Problem where it is none */
function photoIn(bytes: Uint8Array): { kept: Uint8Array; kind: keyof typeof TYPES } {
  try {
    const head = pictureHead(bytes);
    return { kept: withoutPlace(bytes, head), kind: head.kind };
  } catch (error) {
    if (error instanceof PictureProblem) throw new Problem(415, 'No photo', error.message);
    throw error;
  }
}

/**
 * Photos to notes, beside the database: each under the hash of what is in it, without the place where it was taken,
 * and a smaller copy for show.
 * @param folder where they are kept
 */
export function photoRoutes(folder: string): Hono {
  const routes = new Hono();
  const drawing = pLimit(AT_A_TIME);
  mkdirSync(folder, { recursive: true });

  /** A smaller copy of a picture. @throws Problem where it cannot be drawn */
  const drawn = async (bytes: Uint8Array): Promise<Buffer> => {
    try {
      // Loaded with the first photo: it would hold up the start.
      const { default: sharp } = await import('sharp');
      return await drawing(() =>
        sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' })
          .rotate()
          .resize({ width: SHOWN_WIDTH, height: SHOWN_WIDTH, fit: 'inside', withoutEnlargement: true })
          .webp({ quality: 82 })
          .toBuffer(),
      );
    } catch {
      throw new Problem(415, 'No photo', 'The picture is damaged: it cannot be drawn.');
    }
  };

  /** The copy that pages show; of a photo that came with a file or a backup it is drawn when it is first asked for. */
  const shownCopy = async (hash: string, kind: string): Promise<Buffer> => {
    const copy = shownFile(folder, hash);
    if (await isThere(copy)) return readFile(copy);
    const made = await drawn(await readFile(path.join(folder, `${hash}.${kind}`)));
    await writeWhole(copy, made);
    return made;
  };

  routes.post('/', async (context) => {
    const bytes = await limitedBody(context, MOST_BYTES + 1);
    const { kept, kind } = photoIn(bytes);
    const hash = createHash('sha256').update(kept).digest('hex');
    const name = `${hash}.${kind}`;
    const file = path.join(folder, name);
    if (!(await isThere(file))) {
      await writeWhole(shownFile(folder, hash), await drawn(kept));
      await writeWhole(file, kept);
    }
    return context.json({ name }, 201);
  });

  routes.get('/:name', async (context) => {
    const found = /^([0-9a-f]{64})\.(jpg|png|webp)$/.exec(context.req.param('name'));
    if (!found) throw notFound('photo');
    const [name, hash, kind] = found as unknown as [string, string, keyof typeof TYPES];
    const original = context.req.query('original') === 'yes';
    if (!(await isThere(path.join(folder, name)))) throw notFound('photo');
    const bytes = original ? await readFile(path.join(folder, name)) : await shownCopy(hash, kind);
    return context.body(new Uint8Array(bytes), 200, {
      'Content-Type': original ? TYPES[kind] : TYPES.webp,
      'Cache-Control': 'private, max-age=31536000, immutable',
    });
  });

  return routes;
}
