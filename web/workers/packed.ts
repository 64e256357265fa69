import type { MeasurandAnalysis, SettingAnalysis } from '../../core/analysis/analyse-study.ts';
import type { Observation } from '../../core/observations/observation.ts';

/** What many observations have in common, and their readings do not say. */
export interface Kind extends Pick<Observation, 'setting' | 'sharesRound'> {
  estimated: boolean | undefined;
  doubts: Observation['doubts'] | undefined;
  /** What their intervals are called; undefined where they have none. */
  intervalMethod: string | undefined;
}

/** Numbers of observations. */
export const FIGURES = ['value', 'step', 'read', 'low', 'high'] as const;
/** One for each observation, NaN where it has none; no list where none has any. */
export type Figures = Partial<Record<(typeof FIGURES)[number], Float64Array>>;

/** Of an observation that was not there before. */
export const NEW = -1;

/** Of an observation that stood at a place and is not the same object any more; and the place again. */
export const changedFrom = (place: number): number => -2 - place;

/** The observations of a setting as they go to the page, which holds the readings that they come from. */
export interface PackedReadings {
  count: number;
  /** Where each stood in what was sent before; `NEW`, or `changedFrom` a place, where it is packed here. Undefined where all are. */
  before?: Int32Array;
  /** Where the sources of each stand in the study, a list for the first ones and so on; of what is read, where it stands. */
  places: Uint32Array[];
  figures: Figures;
  kinds: Kind[];
  /** Which of the kinds each is of. */
  kindOf: Uint8Array;
  /** By their place among the packed: those that do not count, or of which more is to be said, whole. */
  others: Map<number, Observation>;
}

/** An analysis on its way from the worker to the page: a hundred thousand objects more would hold the page for seconds. */
export interface PackedAnalysis extends Omit<MeasurandAnalysis, 'settings'> {
  /** Counts what was sent. */
  edition: number;
  settings: (Omit<SettingAnalysis, 'readings'> & { readings: PackedReadings })[];
}

/** The observations of a measurand as they were sent or came last, by setting. */
export interface Edition {
  number: number;
  readings: ReadonlyMap<string, readonly Observation[]>;
}

/** Of more measurands than this the first ones are let go of. */
const MOST_EDITIONS = 40;

/** Editions by study and measurand. */
export class Editions {
  private readonly kept = new Map<string, Edition>();

  get(studyId: string, measurandId: string): Edition | undefined {
    return this.kept.get(`${studyId}/${measurandId}`);
  }

  set(studyId: string, measurandId: string, edition: Edition): void {
    const name = `${studyId}/${measurandId}`;
    this.kept.delete(name);
    this.kept.set(name, edition);
    const [first] = this.kept.keys();
    if (this.kept.size > MOST_EDITIONS && first !== undefined) this.kept.delete(first);
  }
}
