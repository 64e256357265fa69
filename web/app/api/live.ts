import { useEffect, useState } from 'react';
import type { InstrumentReading, InstrumentState } from '../../../core/model/instrument.ts';
import type { PartKind } from '../../../core/model/part-kinds.ts';
import { heardServer, missedServer } from './contact.ts';
import { API, request } from './client.ts';
import { TAB } from './tab.ts';
import { type LivePart, forgetPart, hearState, keepLivePart, keepLiveStudy } from './studies.ts';

export interface Live {
  /** Whether the server tells this page what happens. */
  connected: boolean;
  /** Which tab is at the bench; null where none is or nothing is known. */
  holder: string | null;
  instruments: readonly InstrumentState[];
}

/** An instrument was triggered by itself, as a browser event. */
export class Triggered extends Event {
  constructor(readonly reading: InstrumentReading) {
    super('triggered');
  }
}

const NOTHING: Live = { connected: false, holder: null, instruments: [] };

/** The instruments with one as it is now. */
const withInstrument = (
  instruments: readonly InstrumentState[],
  changed: InstrumentState,
): InstrumentState[] =>
  instruments.some(({ id }) => id === changed.id)
    ? instruments.map((connected) => (connected.id === changed.id ? changed : connected))
    : [...instruments, changed];

/**
 * Follows a study: what other pages record comes in as it happens, and what the instruments show.
 * @param studyId undefined to follow nothing
 * @param atBench whether this page is at the bench, where one page at a time takes readings
 * @returns what is known now, and where triggers of instruments are heard
 */
export function useLive(studyId: string | undefined, atBench: boolean): Live & { triggers: EventTarget } {
  const [triggers] = useState(() => new EventTarget());
  const [live, setLive] = useState<Live>(NOTHING);
  useEffect(() => {
    if (studyId === undefined) return undefined;
    const source = new EventSource(`${API}/studies/${studyId}/live?tab=${TAB}${atBench ? '&bench=yes' : ''}`);
    const on = <T>(event: string, then: (told: T) => void) => {
      source.addEventListener(event, ({ data }: MessageEvent<string>) => {
        then(JSON.parse(data) as T);
      });
    };
    on<Omit<Live, 'connected'> & { state: string }>('hello', ({ state, ...told }) => {
      heardServer();
      hearState(studyId, state, false);
      setLive({ connected: true, ...told });
    });
    source.addEventListener('error', () => {
      missedServer();
      setLive(NOTHING);
    });
    on<{ holder: string | null }>('bench', ({ holder }) => {
      setLive((now) => ({ ...now, holder }));
    });
    on<{ instrument: InstrumentState }>('instrument', ({ instrument }) => {
      setLive((now) => ({ ...now, instruments: withInstrument(now.instruments, instrument) }));
    });
    on<{ id: string }>('removed', ({ id }) => {
      setLive((now) => ({ ...now, instruments: now.instruments.filter((connected) => connected.id !== id) }));
    });
    on<{ reading: InstrumentReading }>('triggered', ({ reading }) => {
      triggers.dispatchEvent(new Triggered(reading));
    });
    on<{ kind: PartKind; part: LivePart; state: string }>('part', ({ kind, part, state }) => {
      keepLivePart(studyId, kind, part);
      hearState(studyId, state, true);
    });
    on<{ kind: PartKind; id: string; state: string }>('gone', ({ kind, id, state }) => {
      forgetPart(studyId, kind, id);
      hearState(studyId, state, true);
    });
    on<{ study: LivePart; state: string }>('study', ({ study, state }) => {
      keepLiveStudy(studyId, study);
      hearState(studyId, state, true);
    });
    on<{ state: string }>('refetch', ({ state }) => {
      hearState(studyId, state, false);
    });
    return () => {
      source.close();
    };
  }, [studyId, atBench, triggers]);
  return { ...live, triggers };
}

/** This tab takes the bench over from whichever has it. */
export const takeOverBench = (studyId: string): Promise<unknown> =>
  request('POST', `/studies/${studyId}/bench`, { tab: TAB });

export const connectInstrument = (host: string, port: number): Promise<InstrumentState> =>
  request('POST', '/instruments', { host, port });

export const removeInstrument = (id: string): Promise<unknown> => request('DELETE', `/instruments/${id}`);

export const readInstrument = (id: string): Promise<InstrumentReading> =>
  request('POST', `/instruments/${encodeURIComponent(id)}/reading`);

/** Tells the stand-ins what is on the bench; nothing is lost where nobody hears it. */
export function tellBench(item: string, level: number | null): void {
  void request('PUT', '/instruments/bench', { item, level }).catch(() => undefined);
}
