import { byText } from '../model/in-order.ts';
import type { Item } from '../model/parts.ts';
import { MARK_COUNT } from '../model/words.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { seededRandom, shuffled } from '../random/seeded.ts';

/** Letters that are not taken for one another or for a figure. */
const LETTERS = [...'ACEFHJKMNPRTVWX'];
const FIGURES = [...'3479'];
const BLIND_STREAM = 2_000_000;

/** Codes that say nothing about the items: a letter and a figure, two letters where there are many items. */
function allCodes(count: number): string[] {
  const short = LETTERS.flatMap((letter) => FIGURES.map((figure) => `${letter}${figure}`));
  return count <= short.length
    ? short
    : LETTERS.flatMap((letter) => LETTERS.flatMap((two) => short.map((code) => `${letter}${two}${code}`)));
}

/** The blind code of each item, made again from the study's seed. */
export function blindCodes({ study, items }: Pick<StudyDocument, 'study' | 'items'>): Map<string, string> {
  const codes = shuffled(allCodes(items.length), seededRandom(study.seed, BLIND_STREAM));
  const created = items.map(({ id }) => id).sort();
  return new Map(created.map((id, i) => [id, codes[i] as string]));
}

/** An item as a blind bench shows it: by its code, with a mark that its place among the codes decides. */
export function blindItems(document: Pick<StudyDocument, 'study' | 'items'>): Map<string, Item> {
  const codes = blindCodes(document);
  const order = [...codes].sort(([, a], [, b]) => byText(a, b)).map(([id]) => id);
  return new Map(
    document.items.map((item) => {
      const code = codes.get(item.id) as string;
      const place = order.indexOf(item.id);
      const role = item.role === 'control' ? 'control' : 'candidate';
      return [
        item.id,
        {
          ...item,
          name: `Sample ${code}`,
          code,
          mark: place % MARK_COUNT,
          role,
          attributes: [],
          position: place + 1,
        },
      ];
    }),
  );
}

/** A study as it may be shown while its codes are not opened: items by their codes, in the order of the codes. */
export function blindStudy(document: StudyDocument): StudyDocument {
  if (document.study.blind !== 'blind') return document;
  const shown = blindItems(document);
  return { ...document, items: document.items.map((item) => shown.get(item.id) as Item) };
}
