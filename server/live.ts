import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import type { PartKind } from '../core/model/part-kinds.ts';

/** What pages that look at a study are told as it happens. */
export type LiveEvent =
  | { event: 'part'; kind: PartKind; part: unknown }
  | { event: 'gone'; kind: PartKind; id: string }
  | { event: 'study'; study: unknown }
  /** So much has changed that it is better fetched again. */
  | { event: 'refetch' }
  /** Which tab is at the bench; null where none is. */
  | { event: 'bench'; holder: string | null };

interface TabAtBench {
  tab: string;
  /** Two for a moment where a page was loaded again and the old connection is not noticed to be gone. */
  connections: number;
}

/** Tells the pages at a study what changes, and knows which of them is at its bench. */
export class LiveHub {
  private readonly events = new EventEmitter<Record<string, [LiveEvent, string]>>();
  /** Tabs at a study's bench, each with the number of its connections; the first of them has it. */
  private readonly benches = new Map<string, TabAtBench[]>();
  /** How often each study has changed since the server started. */
  private readonly changes = new Map<string, number>();
  /** Tells the counts of one start of the server from those of another. */
  private readonly start = randomUUID();

  constructor() {
    this.events.setMaxListeners(0);
  }

  publish(studyId: string, event: LiveEvent): void {
    if (event.event !== 'bench') this.changes.set(studyId, (this.changes.get(studyId) ?? 0) + 1);
    this.events.emit(studyId, event, this.state(studyId));
  }

  /**
   * The state that a study is in, as "start:changes". Taken before the study is read, it is never newer than what is
   * read, so that a page sees by it whether it has missed something before it listened.
   */
  state(studyId: string): string {
    return `${this.start}:${String(this.changes.get(studyId) ?? 0)}`;
  }

  /** @param listener gets what happens, and the state that the study is in after it */
  subscribe(studyId: string, listener: (event: LiveEvent, state: string) => void): () => void {
    this.events.on(studyId, listener);
    return () => this.events.off(studyId, listener);
  }

  holder(studyId: string): string | null {
    return this.benches.get(studyId)?.[0]?.tab ?? null;
  }

  /** A tab comes to the bench; it has it where no other tab does. */
  come(studyId: string, tab: string): void {
    const tabs = this.benches.get(studyId) ?? [];
    const known = tabs.find((entry) => entry.tab === tab);
    if (known) known.connections += 1;
    else this.benches.set(studyId, [...tabs, { tab, connections: 1 }]);
    this.tell(studyId);
  }

  /**
   * A tab takes the bench over from whoever has it.
   * @returns whether it could: a tab that is not at the bench cannot
   */
  takeOver(studyId: string, tab: string): boolean {
    const tabs = this.benches.get(studyId) ?? [];
    const known = tabs.find((entry) => entry.tab === tab);
    if (!known) return false;
    this.benches.set(studyId, [known, ...tabs.filter((entry) => entry !== known)]);
    this.tell(studyId);
    return true;
  }

  /** A connection of a tab ends; with its last one the tab leaves, and the next one has the bench. */
  leave(studyId: string, tab: string): void {
    const tabs = this.benches.get(studyId) ?? [];
    const known = tabs.find((entry) => entry.tab === tab);
    if (!known) return;
    known.connections -= 1;
    const left = tabs.filter(({ connections }) => connections > 0);
    if (left.length > 0) this.benches.set(studyId, left);
    else this.benches.delete(studyId);
    this.tell(studyId);
  }

  private tell(studyId: string): void {
    this.publish(studyId, { event: 'bench', holder: this.holder(studyId) });
  }
}
