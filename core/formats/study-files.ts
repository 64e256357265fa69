import type { StudyDocument } from '../model/study-document.ts';
import { counted } from '../quantity/format.ts';

/** A file that a whole study goes out as, and comes back from. */
export interface StudyFile {
  /** How its name ends, and its address: `export.csv`. */
  ending: 'csv' | 'json' | 'zip';
  media: string;
  /** On a button, among the others. */
  label: string;
  /** In the menu of a study. */
  inMenu: string;
  /** What is in it, and what it is for. */
  holds: (document: Pick<StudyDocument, 'readings'>) => string;
}

/** Every file that a whole study goes out as. */
export const STUDY_FILES: readonly StudyFile[] = [
  {
    ending: 'csv',
    media: 'text/csv; charset=utf-8',
    label: 'CSV',
    inMenu: 'Readings as CSV',
    holds: ({ readings }) =>
      `${counted(readings.length, 'reading')}, one a row, with round, order, whether it counts and why not.`,
  },
  {
    ending: 'json',
    media: 'application/json; charset=utf-8',
    label: 'JSON',
    inMenu: 'Study as JSON',
    holds: () =>
      'Plan, readings and every decision, in one document with a published schema. Like the CSV it can be imported again as the same study. Photos are named in both and stay here.',
  },
  {
    ending: 'zip',
    media: 'application/zip',
    label: 'Package',
    inMenu: 'Study as a package with photos and files',
    holds: () =>
      'A zip of tables with their schemas, the study and its photos: all that another place, or a statistics program, needs.',
  },
];
