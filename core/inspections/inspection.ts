import type { Item, Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import type { Finding } from '../findings/finding.ts';
import type { Observation } from '../observations/observation.ts';

/** A measurand as the inspections see it, over all its settings at once. */
export interface InspectedMeasurand {
  measurand: Measurand;
  /** Every observation with how it stands after screening, in the order recorded. */
  observations: readonly Observation[];
  /** What counts of each item at each setting. */
  cells: readonly { itemId: string; setting: string; kept: readonly Observation[] }[];
  /** Step of the values, in their unit; 0 where none is known. */
  step: number;
  /** Worked out from others: whatever it shows, they show. */
  derived: boolean;
  /** Values are ordered marks, or exact figures: they have no spread to test. */
  untested: boolean;
}

/** A study as the inspections see it. */
export interface InspectedStudy {
  document: StudyDocument;
  measurands: readonly InspectedMeasurand[];
  items: ReadonlyMap<string, Item>;
}

/** Something that the program noticed in the readings of a study, and that the tester should look at. */
export interface StudyFinding extends Omit<Finding, 'item'> {
  /** The same for the same thing seen again, so that an answer stays with it. */
  id: string;
  /** null where it is about the study as a whole. */
  measurandId: string | null;
  /** Where its threshold comes from. */
  source: string;
  /** What it is called among the methods, where it is there. */
  method?: string;
  /** Ids of the readings that it is about; none where it is about many. */
  readingIds: string[];
}

/** Something seen, or a test that may turn out to be something. */
export interface Seen {
  /** Of a test: its p-value before the number of tests is taken into account; null for a plain fact. */
  p: number | null;
  finding: () => StudyFinding;
}

/** One kind of thing to look for. One file each; the folder's index lists them once. */
export type Inspection = (study: InspectedStudy) => Seen[];

/** A fact needs no test. */
export const fact = (finding: StudyFinding): Seen => ({ p: null, finding: () => finding });

/** A source for what everybody does and nobody has written down. */
export const COMMON = 'common practice, no source';
