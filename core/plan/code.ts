import { MARK_COUNT } from '../model/words.ts';

/**
 * A short code for a new item: the initials of its words and its figures, made unique by a number.
 * @example proposeCode('Larch 3', ['L']) // 'L3'
 */
export function proposeCode(name: string, taken: readonly string[]): string {
  const used = new Set(taken.map((code) => code.toUpperCase()));
  const words = name.normalize('NFC').match(/\p{L}[\p{L}\p{M}]*|\p{N}+/gu) ?? [];
  const stem =
    words
      .map((word) => (/^\p{N}/u.test(word) ? word : ([...word][0] as string)))
      .join('')
      .toUpperCase()
      .slice(0, 4) || 'X';
  const letters = [...(words[0] ?? 'X').toUpperCase()];
  const candidates = [stem, ...letters.slice(1, 3).map((_, i) => letters.slice(0, i + 2).join(''))];
  for (const candidate of candidates) if (!used.has(candidate)) return candidate;
  let number = 2;
  while (used.has(`${stem}${String(number)}`)) number += 1;
  return `${stem}${String(number)}`;
}

/** The mark that the fewest items have, the first of those. */
export function proposeMark(taken: readonly number[]): number {
  const counts = new Array<number>(MARK_COUNT).fill(0);
  for (const mark of taken) counts[mark] = (counts[mark] as number) + 1;
  return counts.indexOf(Math.min(...counts));
}

/** Names out of a pasted column or row: one per line, tab or semicolon, blank ones and repeats skipped. */
export function namesFromPaste(text: string): string[] {
  const names = text
    .split(/[\r\n\t;]+/)
    .map((name) =>
      name
        .trim()
        .replace(/^"(.*)"$/, '$1')
        .trim(),
    )
    .filter((name) => name !== '');
  const seen = new Set<string>();
  return names.filter((name) => {
    const key = name.toLowerCase();
    return !seen.has(key) && seen.add(key);
  });
}
