import type { Item, Measurand } from './parts.ts';
import type { StudyDocument } from './study-document.ts';

const byPosition = (a: { position: number; id: string }, b: { position: number; id: string }): number =>
  a.position - b.position || (a.id < b.id ? -1 : 1);

/** Items in the order that the tester gave them. */
export const itemsInOrder = ({ items }: Pick<StudyDocument, 'items'>): Item[] => [...items].sort(byPosition);

export const measurandsInOrder = ({ measurands }: Pick<StudyDocument, 'measurands'>): Measurand[] =>
  [...measurands].sort(byPosition);
