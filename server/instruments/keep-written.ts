import { createHash } from 'node:crypto';
import { createReadStream, readdirSync } from 'node:fs';
import { rename, stat } from 'node:fs/promises';
import path from 'node:path';
import { notFound } from '../problems.ts';
import type { InstrumentDriver } from './driver.ts';

/** What an instrument sent, as a file that is kept, with the study that it belongs to. */
export interface KeptFile {
  studyId: string;
  /** What it is called in the study. */
  title: string;
  file: string;
  bytes: number;
}

/** Gives what was written down the name of what is in it. */
export async function keepWritten(
  written: string,
  type: 'csv' | 'wav',
): Promise<Pick<KeptFile, 'file' | 'bytes'>> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(written)) hash.update(chunk as Buffer);
  const file = `${hash.digest('hex')}.${type}`;
  const { size } = await stat(written);
  await rename(written, path.join(path.dirname(written), file));
  return { file, bytes: size };
}

/** When something was begun, as its title says it: 2026-05-04 10:00. */
export const titleMoment = (startedAt: string): string => startedAt.slice(0, 16).replace('T', ' ');

/** What tells apart what is being written down. */
interface BeingWritten {
  id: string;
  studyId: string;
  instrumentId: string;
}

/**
 * What instruments send, written down as it comes, so that neither a page that is closed nor a server that is killed loses
 * more than the last of it.
 */
export abstract class WrittenFiles<Running extends BeingWritten> {
  protected readonly running = new Map<string, Running>();
  /** What a kind of them is called, and how the names of their files end while they are written. */
  protected abstract readonly kind: { word: string; ending: string };

  /** @param folder where files are kept that readings are worked out from */
  constructor(
    protected readonly folder: string,
    protected readonly driver: InstrumentDriver,
  ) {}

  /** What was being written when the server ended, each as the file that it became. */
  async left(): Promise<KeptFile[]> {
    const { ending } = this.kind;
    const running = new Set([...this.running.keys()].map((id) => `${id}${ending}`));
    const found: KeptFile[] = [];
    for (const name of readdirSync(this.folder)) {
      if (!name.endsWith(ending) || running.has(name)) continue;
      const kept = await this.keep(name, ', cut off');
      if (kept) found.push(kept);
    }
    return found;
  }

  protected placeOf(id: string): string {
    return path.join(this.folder, `${id}${this.kind.ending}`);
  }

  /** @throws Problem where none of a study has this id */
  protected ofStudy(studyId: string, id: string): Running {
    const found = this.running.get(id);
    if (found?.studyId !== studyId) throw notFound(this.kind.word);
    return found;
  }

  protected ofInstrument(instrumentId: string): Running | undefined {
    return [...this.running.values()].find((running) => running.instrumentId === instrumentId);
  }

  protected allOf(studyId: string): Running[] {
    return [...this.running.values()].filter((running) => running.studyId === studyId);
  }

  /**
   * Gives what was written the name of what is in it.
   * @param ending what its title ends with
   * @returns undefined where it holds nothing
   */
  protected abstract keep(name: string, ending: string): Promise<KeptFile | undefined>;
}
