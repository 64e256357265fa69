/** What is known of a connected instrument, as the server tells its pages. */
export interface InstrumentState {
  /** Its address: host and port. */
  id: string;
  host: string;
  port: number;
  state: 'connecting' | 'ready' | 'away';
  /** What it calls itself: maker and model; empty until it has answered. */
  title: string;
  unit: string;
  resolution: number | null;
  /** How it sends what it hears, where it can; null for one that shows numbers alone. */
  sound: { sampleRate: number; channels: number } | null;
  /** What it shows now, as it wrote it; null while it shows nothing. */
  shown: string | null;
  /** What is wrong with it, in a sentence. */
  problem: string | null;
}

/** A reading that an instrument sent: on demand, or because it was triggered itself. */
export interface InstrumentReading {
  id: string;
  text: string;
  unit: string;
}

/** What an instrument shows is being written down. */
export interface RunningLog {
  id: string;
  studyId: string;
  instrumentId: string;
  /** What is measured: the name of the item. */
  column: string;
  unit: string;
  startedAt: string;
  /** Seconds from row to row. */
  periodS: number;
  rows: number;
  /** What it showed last, as it wrote it; null where it showed nothing. */
  last: string | null;
  problem: string | null;
}

/** What an instrument hears is being recorded. */
export interface RunningRecording {
  id: string;
  studyId: string;
  instrumentId: string;
  startedAt: string;
  sampleRate: number;
  channels: number;
  /** How much of it there is, s. */
  seconds: number;
  /** Level of the last half second, dB re full scale, the loudest channel; null while it is silent. */
  level: number | null;
  /** Samples that were too loud. */
  clipped: number;
  /** Why it has ended by itself, or is not written any more. */
  problem: string | null;
}
