import { EventEmitter } from 'node:events';
import type { PartKind } from '../core/model/part-kinds.ts';

/** What pages that look at a study are told as it happens. */
export type LiveEvent =
  | { event: 'part'; kind: PartKind; part: unknown }
  | { event: 'gone'; kind: PartKind; id: string }
  | { event: 'study'; study: unknown }
  /** So much has changed that it is better fetched anew. */
  | { event: 'refetch' }
  /** Which tab is at the bench; null where none is. */
  | { event: 'bench'; holder: string | null };

/** Tells the pages at a study what changes, and knows which of them is at its bench. */
export class LiveHub {
  private readonly events = new EventEmitter<Record<string, [LiveEvent]>>();
  /** Tabs at a study's bench; the first of them has it. */
  private readonly benches = new Map<string, string[]>();

  constructor() {
    this.events.setMaxListeners(0);
  }

  publish(studyId: string, event: LiveEvent): void {
    this.events.emit(studyId, event);
  }

  subscribe(studyId: string, listener: (event: LiveEvent) => void): () => void {
    this.events.on(studyId, listener);
    return () => this.events.off(studyId, listener);
  }

  holder(studyId: string): string | null {
    return this.benches.get(studyId)?.[0] ?? null;
  }

  /** A tab comes to the bench; it has it where no other tab does. */
  come(studyId: string, tab: string): void {
    const tabs = this.benches.get(studyId) ?? [];
    this.benches.set(studyId, [...tabs.filter((one) => one !== tab), tab]);
    this.tell(studyId);
  }

  /** A tab takes the bench over from whoever has it. */
  takeOver(studyId: string, tab: string): void {
    const tabs = this.benches.get(studyId) ?? [];
    this.benches.set(studyId, [tab, ...tabs.filter((one) => one !== tab)]);
    this.tell(studyId);
  }

  /** A tab leaves; the next one has the bench. */
  leave(studyId: string, tab: string): void {
    const left = (this.benches.get(studyId) ?? []).filter((one) => one !== tab);
    if (left.length > 0) this.benches.set(studyId, left);
    else this.benches.delete(studyId);
    this.tell(studyId);
  }

  private tell(studyId: string): void {
    this.publish(studyId, { event: 'bench', holder: this.holder(studyId) });
  }
}
