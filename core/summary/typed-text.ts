import type { Figure } from '../model/parts.ts';
import { parseQuantity } from '../quantity/parse.ts';
import { parseRange } from '../quantity/parse-range.ts';
import { isTemperature } from '../quantity/units.ts';
import { rangeWords } from './typed.ts';

/** What is typed in of a figure from elsewhere: of a summary, and of a range. */
export type FigureTexts = Record<'n' | 'mean' | 'sd' | 'ends' | 'range', string>;
type Known = Pick<Figure, 'kind' | 'n' | 'mean' | 'sd' | 'low' | 'high'>;
/** What texts say, or what is wrong with which. */
type Understood = { known: Known } | { problems: Partial<FigureTexts> };

/** A number with all its figures, since it is read again. */
const plain = (value: number | null) => (value === null ? '' : String(value));

/** The texts that say what a figure says. */
export function textsOf(figure: Known | undefined): FigureTexts {
  if (!figure) return { n: '', mean: '', sd: '', ends: '', range: '' };
  const ends = figure.low === null && figure.high === null ? '' : rangeWords(figure, '', String);
  return figure.kind === 'range'
    ? { n: '', mean: '', sd: '', ends: '', range: ends }
    : { n: plain(figure.n), mean: plain(figure.mean), sd: plain(figure.sd), ends, range: '' };
}

function summaryBy(texts: FigureTexts, unit: string): Understood {
  const problems: Partial<FigureTexts> = {};
  const number = (field: 'n' | 'mean' | 'sd', of: string): number | null => {
    if (texts[field].trim() === '') return null;
    const understood = parseQuantity(texts[field], of);
    if ('number' in understood) return understood.number;
    problems[field] = understood.problem;
    return null;
  };
  // A spread in degrees has no zero to convert by.
  const spreadUnit = isTemperature(unit) ? '' : unit;
  const [n, mean, sd] = [number('n', ''), number('mean', unit), number('sd', spreadUnit)];
  if (texts.n.trim() === '') problems.n = 'How many readings was it?';
  else if (n !== null && !(Number.isInteger(n) && n >= 1)) problems.n = 'This is a whole number, 1 or more.';
  if (texts.mean.trim() === '') problems.mean = 'What was their mean?';
  if (n !== null && n > 1 && texts.sd.trim() === '') problems.sd = 'What was their standard deviation?';
  if (sd !== null && sd < 0) problems.sd = 'This is 0 or more.';
  if (n === 1 && sd !== null) problems.sd = 'A single reading has none.';
  let ends: Pick<Figure, 'low' | 'high'> = { low: null, high: null };
  if (texts.ends.trim() !== '') {
    const understood = parseRange(texts.ends, unit);
    if ('problem' in understood) problems.ends = understood.problem;
    else ends = understood;
  }
  return Object.keys(problems).length > 0
    ? { problems }
    : { known: { kind: 'summary', n, mean, sd, ...ends } };
}

function rangeBy({ range }: FigureTexts, unit: string): Understood {
  if (range.trim() === '') return { problems: { range: 'What is known: “>8”, “1 to 1.6”, or one figure?' } };
  const understood = parseRange(range, unit);
  return 'problem' in understood
    ? { problems: { range: understood.problem } }
    : { known: { kind: 'range', n: null, mean: null, sd: null, ...understood } };
}

/**
 * Understands what was typed in of an item from elsewhere.
 * @param unit of the measurand; numbers with another unit are converted to it
 */
export const knownBy = (kind: Figure['kind'], texts: FigureTexts, unit: string): Understood =>
  kind === 'summary' ? summaryBy(texts, unit) : rangeBy(texts, unit);
