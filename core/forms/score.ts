import type { FormSettings } from '../model/parts.ts';
import { quoted } from '../quantity/format.ts';
import type { ReadingForm } from './form.ts';
import { partNumber, setting } from './read-parts.ts';

const MARKS = {
  kind: 'lines',
  name: 'marks',
  label: 'Marks, the lowest first',
  fallback: ['poor', 'fair', 'good', 'very good'],
  fewest: 2,
} as const;

export const scoreMarks = (settings: FormSettings): readonly string[] => setting(MARKS, settings);

/** One of a few ordered marks. Only their order counts. */
export const score: ReadingForm = {
  name: 'score',
  label: 'Score',
  help: 'ordered marks such as poor, fair, good; only their order counts',
  entry: 'marks',
  direction: 'higher',
  unit: '',
  settings: [MARKS],
  valueUnit: () => '',
  ranksOnly: true,
  typicalS: () => 30,
  wrongSettings: (settings) => {
    const marks = scoreMarks(settings).map((mark) => mark.trim().toLowerCase());
    const twice = marks.find((mark, i) => marks.indexOf(mark) !== i);
    return twice === undefined
      ? undefined
      : { name: 'marks', message: `The mark “${twice}” is there twice.` };
  },
  parts: () => [{ name: 'mark', label: 'Mark', unit: '' }],
  read(texts, { settings }) {
    const text = (texts.mark ?? '').trim();
    const marks = scoreMarks(settings);
    const named = marks.findIndex((mark) => mark.trim().toLowerCase() === text.toLowerCase());
    const place = named !== -1 ? named + 1 : /^\d+$/.test(text) ? Number(text) : 0;
    if (place < 1 || place > marks.length) {
      return {
        problem:
          text === ''
            ? 'Choose a mark.'
            : `${quoted(text)} is no mark; the marks are ${marks.join(', ')}, or 1 to ${String(marks.length)}.`,
        part: 'mark',
      };
    }
    return { parts: [{ name: 'mark', text, number: place }] };
  },
  value: (parts) => partNumber(parts, 'mark'),
};
