import { parseQuantity } from '../quantity/parse.ts';
import type { ReadingForm } from './form.ts';

/** One number, taken as it is. */
export const value: ReadingForm = {
  name: 'value',
  label: 'Value',
  parts: [{ name: 'value', label: 'Reading' }],
  read(texts, { unit }) {
    const text = texts.value ?? '';
    const understood = parseQuantity(text, unit);
    if ('problem' in understood) return { problem: understood.problem, part: 'value' };
    return { parts: [{ name: 'value', text, number: understood.number }] };
  },
  value: (parts) => parts.find(({ name }) => name === 'value')?.number ?? null,
};
