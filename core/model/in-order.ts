import type { Item, Measurand } from './parts.ts';
import type { StudyDocument } from './study-document.ts';

/** Which of two texts comes first, sign by sign: ids by when they were made, times by which is earlier. */
export const byText = (a: string, b: string): number => Number(a > b) - Number(a < b);

/** Parts in the order that the tester gave them. */
export const inOrder = <T extends { position: number; id: string }>(parts: readonly T[]): T[] =>
  [...parts].sort((a, b) => a.position - b.position || byText(a.id, b.id));

export const itemsInOrder = ({ items }: Pick<StudyDocument, 'items'>): Item[] => inOrder(items);

export const measurandsInOrder = ({ measurands }: Pick<StudyDocument, 'measurands'>): Measurand[] =>
  inOrder(measurands);
