import { setTimeout } from 'node:timers/promises';
import type { StudyPreview } from '../core/analysis/preview.ts';
import type { Study } from '../core/model/study.ts';
import type { Heavy } from './heavy/heavy.ts';
import type { Store } from './store/store.ts';

/** The list waits so long for previews that are being made, in ms; it comes without them otherwise. */
const PREVIEW_WAIT_MS = 400;

/** A study as the list shows it. */
interface ListedStudy {
  study: Study;
  /** None where it was not made yet, or could not be. */
  preview: StudyPreview | null;
  /** Said where the preview is not of the present state: whether another is being made. */
  renewing?: boolean;
}

/** The list of studies with their previews, which are renewed for what has changed. */
export class Previews {
  readonly #store: Store;
  readonly #heavy: Heavy;
  /** Previews that are being made, by study. */
  readonly #making = new Map<string, Promise<unknown>>();

  constructor(store: Store, heavy: Heavy) {
    this.#store = store;
    this.#heavy = heavy;
  }

  #renewed(id: string): Promise<unknown> {
    const made =
      this.#making.get(id) ??
      this.#heavy
        .run('renewPreview', id)
        .catch((error: unknown) => {
          console.error(`No preview of the study ${id}:`, error);
        })
        .finally(() => this.#making.delete(id));
    this.#making.set(id, made);
    return made;
  }

  async #renewFor(studies: readonly Study[]): Promise<void> {
    const { database } = this.#store;
    const old = [...(await database.previews()).values()].filter(({ fresh }) => !fresh);
    const ids = new Set(studies.map(({ id }) => id));
    const renewing = old
      .filter(({ studyId }) => ids.has(studyId))
      .map(({ studyId }) => this.#renewed(studyId));
    if (renewing.length === 0) return;
    const waiting = new AbortController();
    await Promise.race([
      Promise.all(renewing),
      setTimeout(PREVIEW_WAIT_MS, undefined, { signal: waiting.signal }).catch(() => undefined),
    ]);
    waiting.abort();
  }

  /** All studies that are not deleted, with the previews that are there in a moment. */
  async list(): Promise<ListedStudy[]> {
    const studies = await this.#store.studies();
    await this.#renewFor(studies);
    const kept = await this.#store.database.previews();
    return studies.map((study) => {
      const found = kept.get(study.id);
      return {
        study,
        preview: found?.preview ? (JSON.parse(found.preview) as StudyPreview) : null,
        ...(found?.fresh ? {} : { renewing: this.#making.has(study.id) }),
      };
    });
  }
}
